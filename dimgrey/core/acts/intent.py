"""Why this picture, in a sentence, and by parts that later steps check the plan against."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import OneOf, Text, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.model import SCALES

WANTED = ("mood", "subject", "dark", "light", "textured", "empty", "scale")


@dataclass(frozen=True, kw_only=True)
class Keys:
    title: str = needed(Text(120), "Title", missing="Give the scene a title.")
    intent: str = given(Text(600, lines=3), "", "Intent")
    mood: str = given(Text(200), "", "Mood")
    subject: str = given(Text(200), "", "Subject")
    dark: str = given(Text(200), "", "Must be dark")
    light: str = given(Text(200), "", "Must be light")
    textured: str = given(Text(200), "", "Keeps texture")
    empty: str = given(Text(200), "", "May be empty")
    scale: str = given(OneOf(SCALES, unsaid="not decided"), "", "Tone scale")


def _edit(document, said, case):
    wanted = replace(document.wanted, **{name: getattr(said, name) for name in WANTED})
    return document.with_(title=said.title, intent=said.intent, wanted=wanted)


VERB = Verb("intent", "Write down what the picture shall be", _edit, Keys)
