"""The sheet as one person sees it: each part with its line, and the editors that stand open."""

from dataclasses import dataclass, field
from functools import cached_property, lru_cache

from django.template.loader import render_to_string

from dimgrey.scenes.acts import form_of
from dimgrey.scenes.sheet.registry import parts


@dataclass(frozen=True)
class Problem:
    """A refused act: the sentence, the part that it belongs to, the form with what was typed, so that nothing is lost.

    notice: it belongs to no part and stands on top. verb: of the act. mark: of the tone it was about.
    """

    message: str
    part: str = ""
    mark: str = ""
    verb: str = ""
    form: object = field(default=None, compare=False)
    notice: bool = False

    @property
    def stands_at_fields(self):
        """Whether the form, where it is shown, says the sentence at a field of its own."""
        hidden = {bound.name for bound in self.form.hidden_fields()} if self.form is not None else set()
        return bool(
            self.form is not None and self.form.errors and set(self.form.errors).isdisjoint({*hidden, "__all__"})
        )


class Forms:
    """The form of each act of a part by its verb: the refused one as it was typed, all others as the document says."""

    def __init__(self, part, situation, problem=None):
        self.part, self.situation, self.problem = part, situation, problem
        self.asked = set()

    def of(self, verb):
        """The form of a verb."""
        self.asked.add(verb)
        if self.problem and self.problem.verb == verb and self.problem.form is not None:
            return self.problem.form
        return form_of(verb)(situation=self.situation, look=self.part.acts[verb])


def _is_words(value):
    return isinstance(value, str) or (isinstance(value, tuple) and all(map(_is_words, value)))


@lru_cache(maxsize=512)
def _closed(frame, template, key, title, opens, holds, line):
    """Markup of a closed part. Most parts of a sheet say after an act what they said before it."""
    part = {"template": template, "key": key, "title": title, "opens": opens, "holds": holds, "is_open": False}
    return render_to_string(frame, {"part": part, "line": dict(line)})


class ShownPart:
    """A part with what its template needs. opened: ids of the editors that stand open."""

    def __init__(self, part, situation, problem=None, opened=frozenset()):
        self.part, self.situation, self.opened = part, situation, opened
        self.problem = problem if problem and problem.part == part.key else None

    @property
    def key(self):
        return self.part.key

    @property
    def title(self):
        return self.part.title

    @property
    def template(self):
        return self.part.template

    @property
    def at_rest(self):
        return self.part.at_rest

    @property
    def frame(self):
        """The template that it stands in."""
        return "scenes/_part_at_rest.html" if self.at_rest else "scenes/_part.html"

    @cached_property
    def holds(self):
        return self.part.holds(self.situation)

    @property
    def opens(self):
        """The words that open its editor, "" for a part without one."""
        opens = self.part.opens
        return opens(self.situation) if callable(opens) else opens

    @property
    def is_open(self):
        refused = self.problem is not None and not self.problem.mark
        return refused or f"edit-{self.key}" in self.opened

    @cached_property
    def line(self):
        return self.part.line(self.situation)

    @property
    def closed(self):
        """Its markup while it is closed and its line is words alone: the same for the same words. "" for any other."""
        if self.is_open or not all(map(_is_words, self.line.values())):
            return ""
        return _closed(
            self.frame, self.template, self.key, self.title, self.opens, self.holds, tuple(self.line.items())
        )

    def edited(self, mark=""):
        """What the editor shows. mark: of a sub-editor."""
        problem = self.problem if self.problem and self.problem.mark == mark else None
        forms = Forms(self.part, self.situation, problem)
        shown = self.part.editor(self.situation, forms, mark)
        said = problem is not None and problem.verb in forms.asked and problem.stands_at_fields
        return {**shown, "problem": None if said else problem}

    @property
    def editor(self):
        return self.edited()

    @property
    def open_tones(self):
        """Letters of the tones whose editors stand open."""
        refused = {self.problem.mark} if self.problem and self.problem.mark else set()
        return refused | {each.removeprefix("tone-") for each in self.opened if each.startswith("tone-")}

    @property
    def editors(self):
        """letter -> what the open editor of a tone shows."""
        known = {tone.mark for tone in self.situation.document.tones}
        return {mark: self.edited(mark) for mark in self.open_tones & known}


def shown_parts(situation, problem=None, opened=()):
    """ShownPart of every part that is there."""
    opened = frozenset(opened)
    return tuple(ShownPart(part, situation, problem, opened) for part in parts() if part.shown(situation))
