"""Cautions of the light of a place, on both sides of their limits."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.cautions.registry import raised
from dimgrey.core.cautions.sky import SkyCase
from dimgrey.core.planning.brief import Tone
from dimgrey.core.planning.prints import Print, Printing
from dimgrey.core.sky.conditions import Conditions
from dimgrey.core.sky.skyview import FrameSky, SkyPoint, SkyTone
from tests.core.cautions.test_exposure import MAN, SHADOW, planned, with_tone

EPSILON = 1e-6
SKY = FrameSky(2461000.0, "", 40.0, 180.0, "front", 1.0, Conditions(), 50.0)


SETTING = planned(SHADOW).setting_ev100


def air(*zones, spread=0.0):
    """A sky whose points fall on zones when the darkest shadow is placed; a polarizer takes `spread` more from the second."""
    names = ("upper", "left", "right")
    points = {
        name: SkyPoint(90.0, 0.0, zone - 5, 0.0, -spread if k == 1 else 0.0)
        for k, (name, zone) in enumerate(zip(names, zones, strict=False))
    }
    return SkyTone({"upper": None, "top": None, **points}, "clear", SETTING)


def found(result=None, **facts):
    return {each.code: each for each in raised("sky", SkyCase(replace(SKY, **facts), result))}


class Sun(SimpleTestCase):
    def test_in_the_frame(self):
        self.assertEqual(list(found(sun_gap_deg=0.0)), ["sun-in-frame"])
        self.assertEqual(list(found(sun_gap_deg=-1.0)), ["sun-in-frame"])
        self.assertTrue(found(sun_gap_deg=0.0)["sun-in-frame"].grave)
        self.assertEqual(found(sun_gap_deg=EPSILON), {})
        self.assertEqual(found(sun_gap_deg=None), {})

    def test_beside_the_frame_of_a_long_lens(self):
        for gap, focal, expected in (
            (15 - EPSILON, 100.0, True), (15.0, 100.0, False), (5.0, 100 - EPSILON, False), (0.0, 200.0, False)
        ):  # fmt: skip
            with self.subTest(gap=gap, focal=focal):
                self.assertEqual("sun-near-long-lens" in found(sun_gap_deg=gap, focal_35mm=focal), expected)
        self.assertTrue(found(sun_gap_deg=5.0, focal_35mm=200.0)["sun-near-long-lens"].grave)

    def test_flare_needs_a_filter(self):
        for glass in ({"coloured": ("red",)}, {"polarizer": True}):
            self.assertEqual(list(found(sun_gap_deg=5.0, **glass)), ["flare"])
            self.assertEqual(found(sun_gap_deg=15.0, **glass), {})
            self.assertNotIn("flare", found(sun_gap_deg=5.0, focal_35mm=100.0, **glass))
        self.assertEqual(found(sun_gap_deg=5.0), {})
        self.assertFalse(found(sun_gap_deg=5.0, polarizer=True)["flare"].grave)


class Sky(SimpleTestCase):
    def test_an_uneven_polarizer(self):
        uneven = lambda spread, **more: found(tone=air(3.0, 4.0, spread=spread), polarizer=True, **more)
        self.assertIn("polarizer-uneven", uneven(1.0 + EPSILON))
        self.assertNotIn("polarizer-uneven", uneven(1.0))
        self.assertNotIn("polarizer-uneven", found(tone=air(3.0, spread=2.0)))
        self.assertNotIn("polarizer-uneven", found(tone=air(spread=2.0), polarizer=True))

    def test_a_dark_subject_before_a_dark_sky(self):
        result = replace(planned(SHADOW, MAN), printing=Printing())
        dark = lambda zone, *sky, glass=True, **more: found(
            with_tone(result, "man", fall=zone, print=Print(zone), **more),
            tone=air(*sky),
            coloured=("red",) if glass else (),
        )
        code = "subject-merges-with-sky"
        for sky in (2.0 + EPSILON, 4.0 - EPSILON):
            self.assertEqual(dark(3.0, sky)[code].about, "man")
        for sky in (2.0, 4.0):
            self.assertNotIn(code, dark(3.0, sky))
        self.assertIn(code, dark(4.5 - EPSILON, 4.5))
        self.assertNotIn(code, dark(4.5, 4.5))
        self.assertIn(code, dark(3.0, 3.0, 6.0), "the darkest part of the sky counts")
        self.assertNotIn(code, dark(3.0, 3.0, glass=False))
        self.assertNotIn(code, dark(3.0, 3.0, role="background"))
        self.assertNotIn(code, dark(3.0))
        self.assertNotIn(code, found(None, tone=air(3.0), coloured=("red",)))

    def test_a_sky_that_was_read_beats_the_forecast(self):
        read = planned(SHADOW, Tone("sky", "sky", (13.0,)))
        case = SkyCase(replace(SKY, tone=air(3.0, 5.0)), read)
        self.assertTrue(case.observed)
        self.assertAlmostEqual(case.main_print, read.tones[1].printed)
        self.assertAlmostEqual(max(case.prints) - min(case.prints), 2.0)
        unread = SkyCase(replace(SKY, tone=air(3.0, 5.0)), planned(SHADOW))
        self.assertEqual((unread.observed, unread.prints), (False, (3.0, 5.0)))
        self.assertEqual(SkyCase(SKY, read).prints, ())

    def test_at_another_moment_the_forecast_keeps_what_the_reading_showed_it_to_be_off(self):
        read = planned(SHADOW, Tone("sky", "sky", (13.0,)))
        then = SkyCase(replace(SKY, tone=air(3.0)), read)
        later = SkyCase(replace(SKY, tone=air(4.0)), read, then.print)
        self.assertFalse(later.observed)
        self.assertAlmostEqual(later.main_print, then.main_print + 1.0)

    def test_wind_on_a_long_lens(self):
        result = planned()
        shakes = lambda wind=9.0, focal=200.0, seconds=0.5: (
            "wind-shakes-tripod"
            in found(replace(result, shutter_seconds=seconds), conditions=Conditions(wind_m_s=wind), focal_35mm=focal)
        )
        self.assertTrue(shakes())
        self.assertTrue(shakes(wind=5 + EPSILON))
        self.assertFalse(shakes(wind=5.0))
        self.assertTrue(shakes(focal=100.0))
        self.assertFalse(shakes(focal=100 - EPSILON))
        self.assertTrue(shakes(seconds=0.9 / 60))
        self.assertFalse(shakes(seconds=0.9 / 60 - EPSILON))
        self.assertTrue(shakes(seconds=2.2))
        self.assertFalse(shakes(seconds=2.2 + EPSILON))
        self.assertEqual(found(None, conditions=Conditions(wind_m_s=9.0), focal_35mm=200.0), {})
