"""Pure edits of a document, and what its tones say of themselves."""

from types import SimpleNamespace

from django.test import SimpleTestCase

from dimgrey.core.document import edits
from dimgrey.core.document.model import Document
from dimgrey.core.document.tones import Reading, ToneEntry


def spot(stops, colour=(0.2, 0.2, 0.2)):
    return SimpleNamespace(mean_stops=stops, colour=colour)


class Pins(SimpleTestCase):
    def test_what_is_far_from_middle_grey_and_unnamed_need_not_keep_texture(self):
        dark = lambda stops: edits.pinned(Document(light="A"), 0.5, 0.7, spot(stops), Reading()).tones[-1].texture
        self.assertEqual(dark(-5.1), "free", "a black opening")
        self.assertEqual(dark(3.6), "free", "a bare light")
        self.assertEqual(dark(-4.9), "needed", "a shadow")
        middle = lambda stops: edits.pinned(Document(), 0.5, 0.7, spot(stops, turned(280)), Reading()).tones[-1].texture
        self.assertEqual((middle(2.9), middle(3.1)), ("needed", "free"))
        self.assertEqual((middle(-2.4), middle(1.0)), ("needed", "needed"))


def turned(hue):
    import colorsys

    return colorsys.hsv_to_rgb(hue / 360, 0.8, 0.5)


class Tones(SimpleTestCase):
    def test_a_spread_is_known_when_both_ends_were_seen(self):
        self.assertEqual(Reading(low_ev100=9.0, high_ev100=11.5).spread_stops, 2.5)
        self.assertEqual(Reading(low_ev100=9.0).spread_stops, 0.0)
        self.assertEqual(Reading(high_ev100=9.0).spread_stops, 0.0)

    def test_what_a_meter_said_wins_over_the_picture(self):
        picture, typed = Reading(kind="picture", stops=1.0), Reading(ev100=12.0)
        self.assertEqual(ToneEntry(name="a", readings=(picture, typed)).deciding_readings, (typed,))
        self.assertEqual(ToneEntry(name="a", readings=(picture,)).deciding_readings, (picture,))
        self.assertTrue(ToneEntry(name="a", ev100=3.0).is_read)
        self.assertTrue(ToneEntry(name="a", readings=(picture,)).is_read)
        self.assertFalse(ToneEntry(name="a").is_read)
        self.assertTrue(Reading(ev100=0.0).is_scaled and Reading(shutter="1/60").is_scaled)
        self.assertFalse(picture.is_scaled)
