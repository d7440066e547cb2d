"""A scene on a roll takes the roll's speed and development; one that is not stays as it is."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.meansline import film_of
from dimgrey.core.document.onroll import DEVELOPMENTS, RollInUse, on_roll, roll_line, roll_of
from dimgrey.core.measure.notation import parse_speed
from dimgrey.core.planning.plan import plan
from tests.documents import document

SPEEDS = st.sampled_from(["25", "50", "64", "100", "125", "200", "400", "1600"])
STEPS = st.sampled_from([*DEVELOPMENTS, ""])


def of_film(iso=100, **medium):
    return document(
        title="Kiln",
        medium={"kind": "film", "name": "Slow", "iso": iso, **medium},
        placing={"tone": "coal", "zone": 3},
        tones=[{"name": "coal", "role": "shadow", "ev100": 8}, {"name": "wall", "role": "highlight", "ev100": 12}],
    )


class OnARoll(SimpleTestCase):
    @given(SPEEDS, STEPS)
    def test_the_plan_has_the_rolls_speed_and_development(self, rated, development):
        kept = of_film()
        shot = on_roll(kept, (RollInUse(1, "Slow", rated, development),))
        result = plan(brief_of(shot))
        self.assertEqual(result.speed.name, rated)
        if development:
            self.assertEqual(result.development_step, DEVELOPMENTS[development])
        else:
            self.assertEqual(result.development_step, plan(brief_of(shot.with_(medium=shot.medium))).development_step)
        own = parse_speed("100")
        self.assertAlmostEqual(brief_of(shot).medium.push_stops, parse_speed(rated).stops - own.stops, places=9)

    @given(SPEEDS, STEPS)
    def test_what_was_said_twice_is_said_once(self, rated, development):
        roll = RollInUse(1, "Slow", rated, development)
        once = on_roll(of_film(), (roll,))
        self.assertEqual(on_roll(once, (roll,)), once)

    @given(SPEEDS, STEPS, st.sampled_from(["film", "slide", "digital raw", "digital file"]))
    def test_a_scene_on_no_roll_is_the_very_same(self, rated, development, kind):
        kept = of_film() if kind == "film" else document(medium={"kind": kind, "name": "Slow"})
        rolls = (RollInUse(1, "Quick", rated, development),)
        self.assertIs(on_roll(kept, rolls), kept)
        self.assertIs(on_roll(kept, ()), kept)

    def test_film_of_its_own_speed_keeps_it(self):
        kept = of_film(200, own_iso=100)
        self.assertEqual(on_roll(kept, (RollInUse(1, "Slow", "100"),)).medium.own_iso, None)
        self.assertEqual(on_roll(kept, (RollInUse(1, "Slow", "400"),)).medium.own_iso, 100)

    def test_words_that_nobody_can_read_change_nothing(self):
        kept = of_film()
        self.assertIs(on_roll(kept, (RollInUse(1, "Slow", "as the box", "some"),)), kept)

    def test_it_is_found_by_the_film_of_the_kit_first(self):
        kept = of_film()
        kept = replace(kept, kit=replace(kept.kit, film="Mine"))
        self.assertEqual(film_of(kept), "Mine")
        rolls = (RollInUse(1, "Slow", "50"), RollInUse(2, "Mine", "200", "N-1"))
        self.assertEqual(roll_of(kept, rolls).number, 2)
        self.assertEqual(roll_line(rolls[1]), "roll 2, rated ISO 200, developed N-1")
        self.assertEqual(roll_line(None), "")
