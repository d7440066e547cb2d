"""Wishes: how they are read, measured and scored, and scenes where the right filter is known, and where none is to be proposed."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.document import wishing
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused
from dimgrey.core.errors import CoreError
from dimgrey.core.planning import spans, wishes
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.intent.findings import DARK, LIGHT
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.scoring import Score, score
from dimgrey.core.planning.separation import colour_choices
from dimgrey.core.planning.wishes import Order, Wish
from tests.documents import document

BRICK, BLUE, IVY, GREY = (0.30, 0.12, 0.07), (0.10, 0.20, 0.48), (0.06, 0.11, 0.04), (0.3, 0.3, 0.3)
KILN_WORDS = (
    "The kiln stands bright against a deep sky; the clouds must ring. Brick and ivy may not melt into one grey."
)


def kiln(**parts):
    """A sunlit brick kiln against a blue sky, with ivy and a cloud, on film."""
    tones = (
        Tone("brick in shadow", "shadow", (11.0,), (0.03, 0.013, 0.008)),
        Tone("kiln brick", "subject", (14.2,), BRICK),
        Tone("ivy", "background", (13.4,), IVY),
        Tone("blue sky", "sky", (14.4,), BLUE),
        Tone("cloud", "highlight", (16.0,), (0.9, 0.9, 0.9)),
    )
    values = {"tones": tones, "medium": medium("film"), "choice": PlacingChoice("shadow"), "intent": KILN_WORDS}
    return Brief(**{**values, **parts})


def of(*names, brief):
    """The wish about these tones, or None."""
    return next((wish for wish in wishes.wishes_of(brief) if wish.tones == names), None)


class Reading(SimpleTestCase):
    def test_spans_as_people_write_them(self):
        for text, span in (("II-III", (2, 3)), ("VI½ to VII", (6.5, 7)), ("at most I", (0, 1)), ("≥ VII", (7, 10)),
                           ("<II", (0, 2)), ("V", (14 / 3, 16 / 3)), ("0", (0, 1 / 3))):  # fmt: skip
            found = spans.parse_wish(text)
            self.assertAlmostEqual(found[0], span[0])
            self.assertAlmostEqual(found[1], span[1])
        for text in ("III-II", "dark", "", "II-III-IV", "XI"):
            with self.subTest(text), self.assertRaises(CoreError):
                spans.parse_wish(text)
        self.assertEqual(
            [spans.format_span(s) for s in ((2, 3), (0, 1), (7, 10), (0, 10))],
            ["II–III", "at most I", "at least VII", "0–X"],
        )

    def test_the_words_of_an_intent(self):
        brief = kiln()
        self.assertEqual(of("kiln brick", brief=brief).span, LIGHT)
        self.assertEqual(of("blue sky", brief=brief).span, DARK)
        self.assertEqual(of("cloud", brief=brief).span, LIGHT)
        over = of("kiln brick", "blue sky", brief=brief)
        self.assertEqual((over.zones, over.kind, over.weight, over.source), (2.0, "order", 2.0, "words"))
        apart = of("kiln brick", "ivy", brief=brief)
        self.assertEqual((apart.zones, apart.kind), (1.0, "part"))
        self.assertIsNone(of("ivy", brief=brief))

    def test_words_that_say_nothing_of_a_tone_wish_nothing(self):
        for words in ("", "A quiet morning.", "Dark, with nothing to see.", "bright and dark kiln"):
            self.assertEqual([w for w in wishes.wishes_of(kiln(intent=words)) if w.span], [], words)

    def test_must_be_dark_and_must_be_light(self):
        brief = kiln(intent="", said_lists=(("dark", "the ivy"), ("light", "clouds")))
        self.assertEqual((of("ivy", brief=brief).span, of("cloud", brief=brief).span), (DARK, LIGHT))

    def test_a_silhouette_is_at_most_i(self):
        man = Tone("man", "subject", (9.0,), needs_texture=False)
        brief = Brief(tones=(man, Tone("sky", "sky", (14.0,))), choice=PlacingChoice("silhouette"))
        self.assertEqual(of("man", brief=brief).span, (0.0, 1.0))
        self.assertIsNone(of("man", brief=replace(brief, choice=PlacingChoice("shadow"))))

    def test_what_was_set_wins_over_what_words_suggest(self):
        tones = tuple(replace(t, wish=(4.0, 5.0)) if t.name == "blue sky" else t for t in kiln().tones)
        brief = kiln(tones=tones, orders=(Order("blue sky", "kiln brick", 1.0),))
        self.assertEqual((of("blue sky", brief=brief).span, of("blue sky", brief=brief).guessed), ((4.0, 5.0), False))
        self.assertIsNone(of("kiln brick", "blue sky", brief=brief), "the pair was said the other way round")


class Measuring(SimpleTestCase):
    def test_distances(self):
        span, signed, apart = (
            Wish(("a",), (2.0, 3.0)),
            Wish(("a", "b"), None, 2.0, "order"),
            Wish(("a", "b"), None, 1.0, "part"),
        )
        self.assertEqual([span.missed_by({"a": z}) for z in (1.0, 2.0, 2.5, 4.5)], [1.0, 0.0, 0.0, 1.5])
        self.assertEqual([signed.missed_by({"a": a, "b": 4.0}) for a in (7.0, 6.0, 5.0, 3.0)], [0.0, 0.0, 1.0, 3.0])
        self.assertEqual([apart.missed_by({"a": a, "b": 4.0}) for a in (5.0, 3.0, 4.25)], [0.0, 0.0, 0.75])
        self.assertIsNone(signed.missed_by({"a": 1.0}))

    def test_the_score_is_the_weighted_sum_of_squares_and_costs(self):
        made = Score(((Wish(("a",), (0, 1), weight=2.0), 0.5), (Wish(("b",), (0, 1)), 1.0)), {"light": 0.04})
        self.assertAlmostEqual(made.value, 2 * 0.25 + 1 + 0.04)
        result = plan(kiln(intent="", filters=(Glass("orange"),)))
        self.assertAlmostEqual(score(result).costs["light"], 0.02 * result.filter_cost.stops)
        lost = plan(kiln(choice=PlacingChoice("known tone", "brick in shadow", 5), medium=medium("slide")))
        over = [t.held - 7.0 for t in lost.tones if t.texture == "lost"]
        self.assertAlmostEqual(score(lost).costs["lost texture"], sum(1 + by**2 for by in over))
        mixed = plan(kiln(intent="", medium=medium("digital raw", channel_mix=(2.0, -0.6, -0.4))))
        self.assertIn("halos", score(mixed).costs)
        self.assertNotIn("noise", score(plan(kiln(medium=medium("digital raw")))).costs)

    def test_two_blacks_are_not_parted_however_far_they_fell(self):
        tones = (
            Tone("man", "subject", (3.0,), needs_texture=False),
            Tone("wall", "background", (6.0,), needs_texture=False),
            Tone("sky", "highlight", (14.0,)),
        )
        result = plan(Brief(tones=tones, choice=PlacingChoice("highlight"), medium=medium("slide")))
        self.assertAlmostEqual(result.tones[1].fall - result.tones[0].fall, 3.0)
        self.assertAlmostEqual({w.tones: by for w, by in score(result).missed}["man", "wall"], 2 / 3)

    def test_a_proposal_gains_enough_and_takes_no_wish_far_away(self):
        a, b = Wish(("a",), (0.0, 1.0)), Wish(("b",), (0.0, 1.0))
        now = Score(((a, 2.0), (b, 0.0)))
        self.assertTrue(Score(((a, 1.0), (b, 0.3))).is_better_than(now))
        self.assertFalse(Score(((a, 1.0), (b, 0.4))).is_better_than(now), "b would go too far away")
        self.assertFalse(Score(((a, 1.98), (b, 0.0))).is_better_than(now), "less than a tenth is gained")
        self.assertEqual(Score(((a, 1.0), (b, 0.3))).serves(now), (a,))

    def test_wishes_that_contradict_are_named(self):
        tones = (Tone("a", "subject", (9.0,), wish=(2.0, 3.0)), Tone("b", "sky", (10.0,), wish=(5.0, 6.0)))
        (sentence,) = wishes.contradictions(Brief(tones=tones, orders=(Order("a", "b", 2.0),)))
        self.assertIn("a cannot print 2 zones over b while both keep their spans; at most 0.", sentence)
        self.assertEqual(wishes.contradictions(Brief(tones=tones, orders=(Order("b", "a", 2.0),))), ())


class Known(SimpleTestCase):
    """Scenes where a photographer knows the answer."""

    def best(self, brief):
        return colour_choices(plan(brief))[0].name

    def test_a_bright_kiln_against_a_deep_sky_wants_red_light_and_never_blue(self):
        self.assertIn(self.best(kiln()), ("orange", "red", "deep red"))
        scores = {choice.name: choice.score.value for choice in colour_choices(plan(kiln()))}
        self.assertEqual(max(scores, key=scores.get), "blue")
        self.assertGreater(scores["yellow-green"], scores["red"], "the word ivy does not bring yellow-green")

    def test_the_other_way_round_wants_the_other_end(self):
        dark = kiln(intent="A dark kiln against a bright sky.")
        self.assertIn(self.best(dark), ("blue", "green"))


class Edits(SimpleTestCase):
    def scene(self):
        tones = [
            {"name": "kiln", "mark": "A", "role": "subject", "ev100": 14},
            {"name": "sky", "mark": "B", "role": "sky", "ev100": 13},
            {"name": "ivy", "mark": "C", "role": "background", "ev100": 12},
        ]
        return document(tones=tones, intent="A bright kiln against a deep sky.", placing={"school": "shadow"})

    def test_wishes_are_taken_with_one_act_and_dropped_again(self):
        taken = wishing.with_wishes_taken(self.scene())
        self.assertEqual([tone.wish for tone in taken.tones], [LIGHT, DARK, None])
        self.assertEqual([(o.lighter, o.darker, o.zones) for o in taken.orders], [("kiln", "sky", 2.0)])
        self.assertIn(("kiln", "ivy"), taken.pairs)
        self.assertFalse([w for w in wishes.wishes_of(brief_of(taken)) if w.guessed])
        dropped = wishing.without_wishes(taken)
        self.assertEqual(([tone.wish for tone in dropped.tones], dropped.orders), ([None] * 3, ()))
        with self.assertRaises(Refused):
            wishing.with_wishes_taken(document(tones=[{"name": "a", "mark": "A", "ev100": 9}]))

    def test_they_follow_a_name_and_go_with_their_tone(self):
        from dimgrey.core.document import edits

        taken = wishing.with_wishes_taken(self.scene())
        renamed = edits.described(taken, "B", name="evening sky")
        self.assertEqual(renamed.orders[0].darker, "evening sky")
        self.assertEqual(edits.without_tone(taken, "B").orders, ())
        self.assertEqual(wishing.with_wish(taken, "C", (1.0, 2.0)).tone("C").wish, (1.0, 2.0))
