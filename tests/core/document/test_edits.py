"""Pure edits of a document, and what its tones say of themselves."""

from types import SimpleNamespace

from django.test import SimpleTestCase

from dimgrey.core.document import edits
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.model import Document, MediumPart, PlacingPart
from dimgrey.core.document.tones import Reading, ToneEntry
from dimgrey.core.planning.plan import plan


def spot(stops, colour=(0.2, 0.2, 0.2)):
    return SimpleNamespace(mean_stops=stops, colour=colour)


class Pins(SimpleTestCase):
    def test_what_is_far_from_middle_grey_and_unnamed_need_not_keep_texture(self):
        dark = lambda stops: edits.pinned(Document(light="A"), 0.5, 0.7, spot(stops), Reading()).tones[-1].texture
        self.assertEqual(dark(-5.1), "free", "a black opening")
        self.assertEqual(dark(3.6), "free", "a bare light")
        self.assertEqual(dark(-4.9), "needed", "a shadow")
        middle = lambda stops: edits.pinned(Document(), 0.5, 0.7, spot(stops, turned(280)), Reading()).tones[-1].texture
        self.assertEqual((middle(3.4), middle(3.6), middle(-4.9), middle(-5.1)), ("needed", "free", "needed", "free"))
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


class Placed(SimpleTestCase):
    """What a drag, a pressed zone or a chosen school makes of the way to place."""

    def scene(self, **placing):
        tones = (("mouth", "shadow", 8.0), ("wall", "highlight", 14.0), ("gate", "subject", 10.0))
        entries = tuple(ToneEntry(name=n, mark=m, role=r, ev100=ev) for m, (n, r, ev) in zip("ABC", tones, strict=True))
        return Document(tones=entries, placing=PlacingPart(**placing), medium=MediumPart(kind="film"))

    def test_the_schools_own_tone_keeps_it_on_another_zone(self):
        for first in ({"school": "shadow"}, {}):
            moved = edits.placed(self.scene(**first), "A", zone=4)
            self.assertEqual((moved.placing.school, moved.placing.zone), ("shadow", 4))
            self.assertAlmostEqual(plan(brief_of(moved)).placed.zone, 4)

    def test_another_tone_is_a_known_one_and_keeps_the_hold_that_it_was_placed_in(self):
        document = self.scene(school="shadow")
        before = plan(brief_of(document))
        self.assertEqual((before.development_step, before.placement.hold), (-2, "before filter"))
        wall = next(tone for tone in before.tones if tone.name == "wall")
        moved = edits.placed(document, "B", zone=before.kept_zone(wall))
        self.assertEqual((moved.placing.school, moved.placing.hold), ("known tone", "before filter"))
        self.assertAlmostEqual(plan(brief_of(moved)).setting_ev100, before.setting_ev100, msg="nothing moves")

    def test_a_dragged_tone_is_held_in_the_print_where_development_would_move_it(self):
        moved = edits.placed(self.scene(school="shadow"), "B", printed=7)
        after = plan(brief_of(moved))
        self.assertEqual(
            (moved.placing.school, moved.placing.hold, after.placement.hold), ("known tone", None, "in the print")
        )
        self.assertAlmostEqual(after.placed.printed, 7)

    def test_a_hold_that_was_chosen_stays(self):
        moved = edits.placed(self.scene(school="shadow", hold="after filter"), "B", zone=7)
        self.assertEqual(moved.placing.hold, "after filter")

    def test_one_tone_alone_is_a_known_one(self):
        alone = edits.without_tone(edits.without_tone(self.scene(), "B"), "C")
        self.assertEqual(edits.placed(alone, "A", zone=3).placing.school, "known tone")

    def test_choosing_a_school_again_after_another_tone_was_placed_finds_its_own(self):
        moved = self.scene(school="shadow", tone="wall", zone=7.0)
        self.assertEqual(plan(brief_of(moved)).placement.school, "known tone")
        again = edits.with_school(moved, "shadow")
        self.assertEqual(plan(brief_of(again)).placement.tone, "mouth")
        aimed = edits.with_school(moved, "known tone", {"under_stops": 1.0})
        self.assertEqual((aimed.placing.tone, aimed.placing.zone, aimed.placing.under_stops), ("wall", 7.0, 1.0))

    def test_a_default_that_is_chosen_is_said(self):
        self.assertEqual(edits.with_school(self.scene(), "shadow").placing.school, "shadow")
