"""What a verb is: one file of this package each, found by its name."""

from collections.abc import Callable
from dataclasses import asdict, dataclass
from functools import cache
from importlib import import_module
from pathlib import Path
from typing import Any

from dimgrey.core import acts
from dimgrey.core.acts.keys import NO_KEYS, said_of
from dimgrey.core.errors import CoreError

FRAME = ("__init__", "case", "keys", "lit", "verb")
"""Modules of this package that are no verbs."""


@dataclass(frozen=True)
class Verb:
    """One thing that a hand does to a scene.

    name: as acts say it. does: one line for those who look it up. edit: (document, what was said, Case) -> document, or
    Refused. keys: what it says. words: of it in the history and beside undo, with the keys in braces, or a function of
    (document after it, what was said). needs: what of the Case it asks for. appends: never stale. about: part of the sheet that shows
    its refusals, "" for that which brings it.
    """

    name: str
    does: str
    edit: Callable
    keys: type = NO_KEYS
    words: Any = ""
    needs: tuple = ()
    appends: bool = False
    about: str = ""

    def said(self, values, document):
        """What values say to it. Raises CoreError with the key as its parameter."""
        return said_of(self.keys, values, document)

    def told(self, document, said):
        """Its words in the history."""
        words = self.words or self.name
        return words(document, said) if callable(words) else words.format(**asdict(said))


def _module_of(name):
    return name.replace("-", "_")


@cache
def verb_named(name):
    """The Verb of a name, None for one that there is not. Only its own module is imported."""
    if name not in verb_names():
        return None
    return import_module(f"{acts.__name__}.{_module_of(name)}").VERB


@cache
def verb_names():
    """Names of all verbs, without importing them: the modules of this package."""
    found = {path.stem for path in Path(__file__).parent.glob("*.py")} - {*FRAME}
    return tuple(sorted(name.replace("_", "-") for name in found))


def require_verb(name):
    """The Verb of a name. Raises Refused for one that there is not."""
    found = verb_named(name) if isinstance(name, str) else None
    if found is None:
        raise CoreError(f"There is no act “{name}”.", parameter="verb", code="no-act")
    return found


def done(document, verb, values, case):
    """The Document after an act. verb: its name. values: what it says. case: Case. Raises CoreError; then nothing changed."""
    found = require_verb(verb)
    return found.edit(document, found.said(values, document), case)
