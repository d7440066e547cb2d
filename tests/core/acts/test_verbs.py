"""Laws over all verbs: each is found by its file, asks for no more than it names, changes nothing that it was given, and says so."""

from dataclasses import replace
from datetime import UTC, datetime

from django.test import SimpleTestCase

from dimgrey.core.acts.case import Case
from dimgrey.core.acts.keys import MARK, As, Number, OneOf, Sent, Several, Text, Whole, YesNo, given, needed, said_of
from dimgrey.core.acts.verb import Verb, done, require_verb, verb_named, verb_names
from dimgrey.core.document.model import Document
from dimgrey.core.errors import CoreError
from tests.core.acts.madeup import seeded, values_for
from tests.documents import document

NOW = datetime(2026, 9, 1, 12, tzinfo=UTC)
ASKED = ("meter", "item", "mixes", "setup", "sun_altitude", "place", "before", "after", "around")
TONES = [
    {"name": "coal", "mark": "A", "role": "shadow", "ev100": 8, "colour": [0.05, 0.05, 0.05]},
    {"name": "sky", "mark": "B", "role": "sky", "ev100": 13, "colour": [0.1, 0.2, 0.5]},
    {"name": "lime wall", "mark": "C", "role": "highlight", "ev100": 14, "colour": [0.6, 0.58, 0.55]},
]


class Asked(AssertionError):
    """A verb asked its Case for what it does not name."""


def narrow(verb):
    """A Case that answers nothing but what a Verb names, and that with nothing."""

    def refuse(name):
        def ask(self, *args):
            raise Asked(f"{verb.name} asks for {name} and does not name it in its needs")

        return ask

    nothing = {"sun_altitude": 40.0, "before": Document(), "after": Document(), "around": (Document(), Document())}
    made = {
        name: (lambda self, *args, name=name: nothing.get(name)) if name in verb.needs else refuse(name)
        for name in ASKED
    }
    if "read_as" not in verb.needs and not any(name in verb.needs for name in ("meter",)):
        made["read_as"] = refuse("read_as")
    return type("Narrow", (Case,), made)(at=NOW)


class Verbs(SimpleTestCase):
    def test_every_file_is_a_verb_of_its_name(self):
        for name in verb_names():
            self.assertEqual(verb_named(name).name, name)
            self.assertTrue(verb_named(name).does, name)
        self.assertIsNone(verb_named("keys"))
        self.assertIsNone(verb_named("../secrets"))
        with self.assertRaisesMessage(CoreError, "There is no act “fly”."):
            require_verb("fly")

    def test_a_verb_asks_for_no_more_than_it_names(self):
        for name in verb_names():
            verb, rng = verb_named(name), seeded("needs", name)
            for kind in ("film", "digital raw"):
                start = document(medium={"kind": kind, "iso": 100}, tones=TONES)
                for _ in range(12):
                    try:
                        done(start, name, values_for(verb, start, rng), narrow(verb))
                    except CoreError:
                        continue  # refused, for whatever reason
                    except AttributeError as nobody:
                        # What it names was answered with nothing: a meter, an item.
                        self.assertTrue(verb.needs, f"{name}: {nobody}")

    def test_a_refused_act_is_a_sentence(self):
        for name in verb_names():
            verb, rng = verb_named(name), seeded("sentences", name)
            start = document(medium={"kind": "film", "iso": 100}, tones=TONES)
            for _ in range(12):
                values = values_for(verb, start, rng)
                try:
                    verb.said(values, start)
                except CoreError as refused:
                    self.assertRegex(str(refused), r"^.{9,}[.?]$", f"{name} {values}")
                    self.assertIn(refused.parameter, verb.keys.__dataclass_fields__, f"{name} {values}")

    def test_its_words_stand_in_the_history(self):
        wall = document(tones=TONES)
        told = lambda name, **said: verb_named(name).told(wall, verb_named(name).said(said, wall))
        self.assertEqual(told("shift", stops="-1/3"), "light −⅓")
        self.assertEqual(told("take-guess"), "take all guesses")
        self.assertEqual(told("kit", film="Sheet", lens="Zoom"), "kit: Zoom, Sheet")
        self.assertEqual(told("unplace"), "no placing")

    def test_a_new_verb_is_one_object(self):
        """What docs/how-to-add.md says of a verb, done."""
        from dataclasses import dataclass

        @dataclass(frozen=True, kw_only=True)
        class Keys:
            mark: str = needed(MARK)
            note: str = given(Text(20), "")

        verb = Verb(
            "hum", "Hum", lambda d, said, case: replace(d, notes=f"{said.mark} {said.note}"), Keys, "hum {mark}"
        )
        said = verb.said({"mark": "A", "note": " softly "}, Document())
        self.assertEqual(verb.edit(Document(), said, Case()).notes, "A softly")
        self.assertEqual(verb.told(Document(), said), "hum A")


class Keys(SimpleTestCase):
    def read(self, rule, value):
        return rule.read(value, "Figure", None)

    def test_what_rules_take(self):
        rows = (
            (Number(0, 2), "1.5", 1.5), (Number(0, 2), 2, 2.0), (Whole(0, 5), "3", 3), (YesNo(), "on", True), (YesNo(), "", False),
            (YesNo(), True, True), (OneOf((3, 5)), "5", 5), (OneOf({"a": "first"}), "a", "a"), (Several(OneOf(("a", "b"))), "a,b", ("a", "b")),
            (Several(OneOf(("a", "b"))), ["b"], ("b",)), (Text(3), " ab ", "ab"), (As(float), 7.25, 7.25), (MARK, "AB", "AB"),
        )  # fmt: skip
        for rule, value, expected in rows:
            with self.subTest(rule=rule, value=value):
                self.assertEqual(self.read(rule, value), expected)

    def test_what_rules_refuse(self):
        rows = (
            (Number(0, 2), "2.01", "Figure: must be 0 to 2 (got 2.01)."), (Number(0, 2), "nan", "Figure: must be 0 to 2 (got nan)."),
            (Number(0, 2), "wide", "Figure: must be a number (got wide)."), (Whole(0, 5), "1.5", "Figure: must be a whole number (got 1.5)."),
            (OneOf((3, 5)), "4", "Figure: must be 3 or 5 (got 4)."), (OneOf(("a",)), "b", "Figure: must be a (got b)."),
            (Text(3), "abcd", "Figure: at most 3 characters (got 4)."), (Text(3), "a\0", "Figure: holds a character that is none."),
            (MARK, "a", "A tone has a letter, A to Z (got a)."), (As(float, most=3), "12345", "Figure: at most 3 characters (got 5)."),
        )  # fmt: skip
        for rule, value, sentence in rows:
            with self.subTest(rule=rule, value=value), self.assertRaisesMessage(CoreError, sentence):
                self.read(rule, value)

    def test_what_is_sent_with_every_act(self):
        said = said_of(Sent, {"act": "00000000-0000-4000-8000-000000000001", "at": "2026-09-01T10:00:00", "stamp": "7"})
        self.assertEqual((said.stamp, said.at.tzinfo, str(said.act)[-1]), (7, UTC, "1"))
        for values, words in (
            ({"act": "x"}, "not the id of an act"),
            ({"at": "yesterday"}, "not a moment"),
            ({"stamp": "-1"}, "Stamp: must be"),
        ):
            with self.assertRaisesMessage(CoreError, words):
                said_of(Sent, values)

    def test_a_key_that_is_left_out_and_one_that_is_empty(self):
        tone = verb_named("tone")
        wall = document(tones=TONES)
        said = lambda **more: tone.said({"mark": "A", "name": "coal", **more}, wall)
        self.assertEqual((said().lit, said(lit="").lit, said(lit="lit").lit), (None, "", "lit"))
        self.assertEqual((said().glare, said(glare="").glare), (None, 0.0))
