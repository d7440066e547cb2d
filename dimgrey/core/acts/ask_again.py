"""What was struck or refused counts again."""

from dataclasses import replace

from dimgrey.core.acts.verb import Verb


def _edit(document, said, case):
    return document.with_(wanted=replace(document.wanted, struck=(), refused=()))


VERB = Verb("ask-again", "Let struck wishes and refused proposals count again", _edit, words="count again")
