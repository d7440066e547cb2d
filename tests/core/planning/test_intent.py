"""How sentences are read: two hundred as photographers write them, and laws that hold for any tone and any word of light."""

import re
from pathlib import Path
from types import SimpleNamespace

from django.test import SimpleTestCase

from dimgrey.core.planning.intent import words as intentwords
from dimgrey.core.planning.intent.reading import read_intent
from dimgrey.core.planning.intent.words import sentences_of, stem

ROWS = Path(__file__).parents[2] / "reference" / "sentences.tsv"


def tone(name, role="other", named=True):
    return SimpleNamespace(name=name, role=role, named=named)


SCENES = {
    "YARD": [
        tone("kiln", "subject"), tone("wall", "highlight"), tone("sky", "sky"), tone("leaves", "background"), tone("door"),
        tone("window", "highlight"), tone("snow", "highlight"), tone("roof"), tone("potter", "subject"),
    ],
    "FARM": [
        tone("barn", "subject"), tone("barn roof"), tone("clouds", "highlight"), tone("blue sky", "sky"), tone("wet road"),
        tone("hedge", "background"), tone("woman", "subject"), tone("her face", "skin"), tone("white dress", "highlight"),
        tone("doorway, shade", "shadow"), tone("far hills", "background"), tone("river"),
    ],
}  # fmt: skip
SPANS = {
    (6.67, 8.0): "light", (2.0, 4.0): "dark", (0.0, 1.5): "black", (7.0, 8.0): "white", (8.0, 10.0): "blank white", (3.0, 10.0): "not black",
    (4.0, 10.0): "not dark", (0.0, 7.0): "not light", (0.0, 8.0): "not white",
}  # fmt: skip


def noted(found):
    """What was read, as the table writes it: "wall = light; kiln > sky 2; a | b; a & b; door darkest; ? trees"."""
    said = []
    for name in dict.fromkeys([*found.said, *found.zones]):
        span = found.span_of(name, False)
        if span:
            span = tuple(round(end, 2) for end in span)
            said.append(f"{name} = {SPANS.get(span, f'{span[0]:g}..{span[1]:g}')}")
    for name, kind in found.textures.items():
        if kind == "needed" or f"{name} = black" not in said:
            said.append(f"{name} = {'texture' if kind == 'needed' else 'empty'}")
    signs = {"order": " > ", "part": " | ", "together": " & "}
    said += [
        f"{a}{signs[kind]}{b}{f' {round(zones, 2):g}' if kind == 'order' else ''}"
        for kind, a, b, zones in found.relations
    ]
    said += [f"{name} {'lightest' if pole > 0 else 'darkest'}" for name, pole, *_ in found.extremes]
    return "; ".join([*said, *(f"? {question.word}" for question in found.asked)])


class Sentences(SimpleTestCase):
    def test_each_is_read_as_it_was_meant(self):
        rows = [line.split("\t") for line in ROWS.read_text(encoding="utf-8").splitlines()]
        self.assertGreaterEqual(len(rows), 150)
        for scene, sentence, expected in rows:
            with self.subTest(sentence):
                self.assertEqual(noted(read_intent(sentence, SCENES[scene])), expected)

    def test_another_name_of_a_tone_is_read_alike(self):
        rows = [line.split("\t") for line in ROWS.read_text(encoding="utf-8").splitlines()]
        other = {"kiln": "lathe", "wall": "gable", "door": "hatch"}
        swap = lambda text: re.sub(r"\b([Kk]iln|[Ww]all|[Dd]oor)\b", lambda m: other[m[1].lower()], text)
        tones = [tone(other.get(each.name, each.name), each.role) for each in SCENES["YARD"]]
        for scene, sentence, expected in rows:
            if scene == "YARD":
                with self.subTest(sentence):
                    self.assertEqual(noted(read_intent(swap(sentence), tones)), swap(expected))


class Laws(SimpleTestCase):
    tones = (tone("gate", "subject"), tone("barn wall", "background"), tone("evening sky", "sky"))

    def read(self, sentence, tones=None):
        return read_intent(sentence, tones or self.tones)

    def test_every_word_of_dark_and_of_light_is_read_and_turned_round_by_not(self):
        ways = ("The gate is {}.", "A {} gate.", "Keep the gate {}.", "The gate should be {} against it.")
        doing = intentwords.DOING | intentwords.words("sink sinks glow glows shine shines gleam gleams ring rings blaze blazes beam beams sparkle sparkles "
                                                     "glisten glistens glint glints glimmer glimmers glitter glitters shimmer shimmers ink jet pitch")  # fmt: skip
        for pole, group in ((-1, intentwords.DARK | intentwords.BLACK), (1, intentwords.LIGHT | intentwords.WHITE)):
            for word in group - doing - set(intentwords.COMPARED) - set(intentwords.EXTREME):
                for way in ways:
                    with self.subTest(way.format(word)):
                        found = self.read(way.format(word))
                        self.assertEqual([(t.pole, t.negated) for t in found.said["gate"]], [(pole, False)])
                with self.subTest(word, negated=True):
                    found = self.read(f"The gate must not be {word}.")
                    self.assertEqual([(t.pole, t.negated) for t in found.said["gate"]], [(pole, True)])
                    low, high = found.span_of("gate", False)
                    self.assertTrue(low >= 3 if pole < 0 else high <= 8)

    def test_a_comparison_read_from_either_side_is_one_order(self):
        for word, pole in intentwords.COMPARED.items():
            (kind, lighter, darker, zones), = self.read(f"The gate two zones {word} than the wall.").relations  # fmt: skip
            self.assertEqual(
                (kind, lighter, darker, zones),
                ("order", *(("gate", "barn wall") if pole > 0 else ("barn wall", "gate")), 2.0),
            )

    def test_a_guessed_name_names_nothing_and_a_thing_that_is_no_tone_is_asked_about(self):
        found = self.read("The gate black.", (tone("gate", named=False),))
        self.assertEqual((found.said, [q.word for q in found.asked]), ({}, ["gate"]))
        for thing in ("trees", "chimney", "old harbour"):
            found = self.read(f"The {thing} dark.")
            self.assertEqual(found.said, {})
            self.assertEqual(found.asked[0].word, thing.split()[-1])

    def test_a_word_that_fits_two_tones_is_asked_about_unless_one_is_the_subject(self):
        two = (tone("wall, sun", "highlight"), tone("wall, shade", "shadow"))
        self.assertEqual(self.read("The wall dark.", two).said, {})
        self.assertIn("which one, wall, sun or wall, shade?", self.read("The wall dark.", two).asked[0].text)
        self.assertEqual(list(self.read("The sunlit wall bright.", two).said), ["wall, sun"])
        subject = (tone("kiln brick", "subject"), tone("kiln mouth"))
        self.assertEqual(list(self.read("The kiln bright.", subject).said), ["kiln brick"])

    def test_what_says_nothing_of_a_tone_wishes_nothing(self):
        for sentence in (
            "",
            "A quiet morning.",
            "Dark, with nothing to see.",
            "The light is soft.",
            "I waited an hour.",
            "Black and white, of course.",
        ):
            with self.subTest(sentence):
                self.assertEqual(noted(self.read(sentence)), "")

    def test_no_text_breaks_the_reader(self):
        for text in (
            "....",
            "not not not",
            "than than",
            "@1 #2",
            "the the the",
            "VII VII",
            "of all",
            "except",
            "I I I",
            "—",
            "a" * 600,
            "merge",
            "on III",
        ):
            with self.subTest(text):
                self.read(text)

    def test_zones_are_read_and_the_writer_is_not(self):
        self.assertEqual([s.zones for s in sentences_of("I want the gate on I, the wall on VII½.")], [("I", "VII½")])
        self.assertEqual(sentences_of("I see it dark.")[0].zones, ())

    def test_stems(self):
        self.assertEqual(
            [stem(word) for word in ("leaves", "skies", "boxes", "dress", "kilns", "women")],
            ["leaf", "sky", "box", "dress", "kiln", "woman"],
        )
