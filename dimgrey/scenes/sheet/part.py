"""What a part of the plan sheet is. Each stands in one file beside this one, with one template; `registry` finds it."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any


def _always(situation):
    return True


def _nothing(situation):
    return {}


def _no_words(situation):
    return ""


@dataclass(frozen=True)
class Part:
    """One part of the sheet.

    key: in addresses and ids; its template is scenes/sheet/KEY.html, which shows the line, or with `editing` the editor.
    order: its place on the sheet. line: from Situation to what the line shows. editor: from (Situation, forms, mark) to
    what the editor shows; forms gives the form of each act by its verb. opens: what opens the editor, "" when nothing
    does; or a function of the Situation. at_rest: it is a word at the end of the sheet until it is opened. holds: in a word or two what
    stands beside that word, "" for nothing of its own. shown: whether the part is there at all. acts: verb -> Look of its form here; a
    refusal of such an act is shown here.
    """

    key: str
    title: str
    order: int
    line: Callable = _nothing
    editor: Callable | None = None
    opens: Any = "Change"
    at_rest: bool = False
    holds: Callable = _no_words
    shown: Callable = _always
    acts: dict = field(default_factory=dict)

    @property
    def template(self):
        return f"scenes/sheet/{self.key}.html"
