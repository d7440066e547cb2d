"""Wishes: how they are read, measured and scored, and scenes where the right filter is known, and where none is to be proposed."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.document import wishing
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused
from dimgrey.core.errors import CoreError
from dimgrey.core.planning import wishes
from dimgrey.core.planning.advice import advice
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.remedies import remedies
from dimgrey.core.planning.separation import colour_choices
from dimgrey.core.planning.wishes import Order, Score, Wish
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
            found = wishes.parse_wish(text)
            self.assertAlmostEqual(found[0], span[0])
            self.assertAlmostEqual(found[1], span[1])
        for text in ("III-II", "dark", "", "II-III-IV", "XI"):
            with self.subTest(text), self.assertRaises(CoreError):
                wishes.parse_wish(text)
        self.assertEqual(
            [wishes.format_span(s) for s in ((2, 3), (0, 1), (7, 10), (0, 10))],
            ["II–III", "at most I", "at least VII", "0–X"],
        )

    def test_the_words_of_an_intent(self):
        brief = kiln()
        self.assertEqual(of("kiln brick", brief=brief).span, wishes.LIGHT)
        self.assertEqual(of("blue sky", brief=brief).span, wishes.DARK)
        self.assertEqual(of("cloud", brief=brief).span, wishes.LIGHT)
        over = of("kiln brick", "blue sky", brief=brief)
        self.assertEqual((over.zones, over.signed, over.weight, over.guessed), (2.0, True, 2.0, True))
        apart = of("kiln brick", "ivy", brief=brief)
        self.assertEqual((apart.zones, apart.signed), (1.0, False))
        self.assertIsNone(of("ivy", brief=brief))

    def test_words_that_say_nothing_of_a_tone_wish_nothing(self):
        for words in ("", "A quiet morning.", "Dark, with nothing to see.", "bright and dark kiln"):
            self.assertEqual([w for w in wishes.wishes_of(kiln(intent=words)) if w.span], [], words)

    def test_must_be_dark_and_must_be_light(self):
        brief = kiln(intent="", must_dark="the ivy", must_light="clouds")
        self.assertEqual((of("ivy", brief=brief).span, of("cloud", brief=brief).span), (wishes.DARK, wishes.LIGHT))

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
            Wish(("a", "b"), None, 2.0),
            Wish(("a", "b"), None, 1.0, signed=False),
        )
        self.assertEqual([span.missed_by({"a": z}) for z in (1.0, 2.0, 2.5, 4.5)], [1.0, 0.0, 0.0, 1.5])
        self.assertEqual([signed.missed_by({"a": a, "b": 4.0}) for a in (7.0, 6.0, 5.0, 3.0)], [0.0, 0.0, 1.0, 3.0])
        self.assertEqual([apart.missed_by({"a": a, "b": 4.0}) for a in (5.0, 3.0, 4.25)], [0.0, 0.0, 0.75])
        self.assertIsNone(signed.missed_by({"a": 1.0}))

    def test_the_score_is_the_weighted_sum_of_squares_and_costs(self):
        made = Score(((Wish(("a",), (0, 1), weight=2.0), 0.5), (Wish(("b",), (0, 1)), 1.0)), {"light": 0.04})
        self.assertAlmostEqual(made.value, 2 * 0.25 + 1 + 0.04)
        result = plan(kiln(intent="", filters=(Glass("orange"),)))
        self.assertAlmostEqual(wishes.score(result).costs["light"], 0.02 * result.filter_cost.stops)
        lost = plan(kiln(choice=PlacingChoice("known tone", "brick in shadow", 5), medium=medium("slide")))
        over = [t.held - 7.0 for t in lost.tones if t.texture == "lost"]
        self.assertAlmostEqual(wishes.score(lost).costs["lost texture"], sum(1 + by**2 for by in over))
        mixed = plan(kiln(intent="", medium=medium("digital raw", channel_mix=(2.0, -0.6, -0.4))))
        self.assertIn("halos", wishes.score(mixed).costs)
        self.assertNotIn("noise", wishes.score(plan(kiln(medium=medium("digital raw")))).costs)

    def test_two_blacks_are_not_parted_however_far_they_fell(self):
        tones = (
            Tone("man", "subject", (3.0,), needs_texture=False),
            Tone("wall", "background", (6.0,), needs_texture=False),
            Tone("sky", "highlight", (14.0,)),
        )
        result = plan(Brief(tones=tones, choice=PlacingChoice("highlight"), medium=medium("slide")))
        self.assertAlmostEqual(result.tones[1].fall - result.tones[0].fall, 3.0)
        self.assertEqual({w.tones: by for w, by in wishes.score(result).missed}["man", "wall"], 1.0)

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
        found = [proposal for proposal in advice(plan(kiln())) if proposal.choice]
        self.assertIn(found[0].choice, ("orange", "red", "deep red"))
        self.assertIn("kiln brick over blue sky by 2", found[0].reason)

    def test_the_other_way_round_wants_the_other_end(self):
        dark = kiln(intent="A dark kiln against a bright sky.")
        self.assertIn(self.best(dark), ("blue", "green"))

    def test_nothing_is_proposed_where_the_wishes_are_met(self):
        grey = tuple(replace(tone, colour=None) for tone in kiln().tones)
        self.assertEqual([p for p in advice(plan(kiln(tones=grey))) if p.choice], [], "no filter moves greys")
        done = kiln(filters=(Glass(self.best(kiln())),))
        self.assertEqual([p for p in advice(plan(done)) if p.choice], [])

    def test_a_silhouette_is_not_made_brighter(self):
        man = Tone("man", "subject", (9.5,), (0.2, 0.1, 0.05), needs_texture=False)
        result = plan(
            Brief(
                tones=(man, Tone("sky", "sky", (14.0,), BLUE)),
                choice=PlacingChoice("silhouette"),
                medium=medium("film"),
            )
        )
        before = next(t for t in result.tones if t.name == "man").printed
        for proposal in advice(result):
            if proposal.choice:
                after = next(c for c in colour_choices(result) if c.name == proposal.choice).standing["man"]
                self.assertLessEqual(after, before + 1 / 3)

    def test_every_proposal_keeps_its_word_on_many_scenes(self):
        from random import Random

        rng = Random(4)
        for k in range(60):
            tones = tuple(
                Tone(
                    f"{name} {k}",
                    role,
                    (round(rng.uniform(8, 15), 2),),
                    tuple(round(2 ** rng.uniform(-5, 0), 4) for _ in range(3)),
                )
                for name, role in (("wall", "subject"), ("ivy", "background"), ("sky", "sky"), ("pot", "highlight"))
            )
            kind = rng.choice(("film", "slide", "digital raw", "digital file"))
            result = plan(
                Brief(
                    tones=tones,
                    medium=medium(kind),
                    choice=PlacingChoice("midpoint"),
                    intent="Bright wall against dark sky.",
                )
            )
            now = wishes.score(result)
            for proposal in advice(result):
                if proposal.choice:
                    then = next(c for c in colour_choices(result) if c.name == proposal.choice).score
                    self.assertLess(then.value, now.value - wishes.LEAST_GAIN + 1e-9)
                    before = {w.words: by for w, by in now.missed}
                    self.assertTrue(all(by <= before[w.words] + 1 / 3 + 1e-9 for w, by in then.missed))


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
        self.assertEqual([tone.wish for tone in taken.tones], [wishes.LIGHT, wishes.DARK, None])
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


class WaysOut(SimpleTestCase):
    """A way out is judged by the same score, and silent where it costs a wish."""

    def codes(self, **parts):
        return [way.code for way in remedies(plan(kiln(**parts)))]

    def test_a_graduated_filter_is_named_for_a_bright_sky_and_not_against_a_wish_for_a_light_one(self):
        bright = lambda **more: (
            Tone("kiln", "subject", (11.0,), BRICK),
            Tone("ground", "shadow", (9.0,), GREY),
            Tone("north sky", "sky", (16.0,), (0.4, 0.45, 0.6), **more),
        )
        roll = medium("film", developed=0)
        self.assertIn("graduated", self.codes(tones=bright(), intent="", medium=roll))
        light = self.codes(tones=bright(wish=(8.5, 10)), intent="", medium=roll)
        self.assertNotIn("graduated", light)
        dark = self.codes(tones=bright(wish=(5, 7)), intent="", medium=roll)
        self.assertIn("graduated", dark)

    def test_softening_is_not_named_where_it_takes_an_order_away(self):
        tones = (
            Tone("jug", "subject", (13.2,), GREY),
            Tone("wall", "background", (8.0,), GREY),
            Tone("lamp", "highlight", (16.2,), GREY),
        )
        file = medium("digital file")
        choice = PlacingChoice("known tone", "jug", 6)
        self.assertIn("contrast", self.codes(tones=tones, intent="", medium=file, choice=choice))
        wished = (Order("jug", "wall", 5.5),)
        self.assertNotIn("contrast", self.codes(tones=tones, intent="", medium=file, choice=choice, orders=wished))

    def test_neither_the_subject_nor_what_is_wished_with_texture_is_given_up(self):
        tones = lambda role, **more: (
            Tone("ground", "shadow", (8.0,), GREY),
            Tone("cup", "other", (11.0,), GREY),
            Tone("cloth", role, (16.5,), GREY, **more),
        )
        held = medium("film", developed=0)
        self.assertIn("let-go", self.codes(tones=tones("highlight"), intent="", medium=held))
        self.assertNotIn("let-go", self.codes(tones=tones("subject"), intent="", medium=held))
        self.assertNotIn("let-go", self.codes(tones=tones("highlight", wish=(6, 8)), intent="", medium=held))
        self.assertIn("let-go", self.codes(tones=tones("highlight", wish=(8, 10)), intent="", medium=held))


class SingleOrders(SimpleTestCase):
    def test_one_order_is_set_in_front_and_replaces_the_other_way_round(self):
        written = document(tones=[{"name": "kiln"}, {"name": "sky"}, {"name": "ivy"}])
        made = wishing.with_order(wishing.with_order(written, "sky", "kiln", 1), "kiln", "sky", 2)
        self.assertEqual([(o.lighter, o.darker, o.zones) for o in made.orders], [("kiln", "sky", 2)])
        more = wishing.with_order(made, "ivy", "sky", 0.5)
        self.assertEqual(len(more.orders), 2)
        for pair in (("kiln", "kiln"), ("kiln", "door")):
            with self.subTest(pair), self.assertRaises(CoreError):
                wishing.with_order(written, *pair, 1)
