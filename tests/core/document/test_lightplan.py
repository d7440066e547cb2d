"""The light plan in a document: what it means, what changes it, and what is refused."""

from django.test import SimpleTestCase

from dimgrey.core.document import lightplan
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lighting import LampPart
from dimgrey.core.document.model import Document
from dimgrey.core.document.scenefile import load, text_of
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.lampexposure import Light, zone
from dimgrey.core.lamps.lightpatterns import PATTERNS, arranged
from dimgrey.core.planning.plan import plan
from tests.documents import document


def begun():
    return lightplan.begun(Document(title="Potter"))


class LightPlan(SimpleTestCase):
    def test_it_begins_with_one_lamp_and_once(self):
        made = begun()
        self.assertEqual([lamp.name for lamp in made.lighting.lamps], ["key"])
        self.assertIs(lightplan.begun(made), made)

    def test_it_comes_back_from_a_file_as_it_was(self):
        made = lightplan.with_lamp(begun(), 1, name="edge", angle_deg=150.0, is_flagged=True)
        made = lightplan.with_wish(made, "hair right", 1.0, "cheek right")
        made = lightplan.with_kept(lightplan.bound(made, "face", "cheek right"), "before")
        self.assertEqual(load(text_of(made)), made)

    def test_lamps_change_come_and_go(self):
        made = lightplan.with_lamp(begun(), 0, away_m=2.5, stops=-1.0)
        self.assertEqual((made.lighting.lamps[0].away_m, made.lighting.lamps[0].stops), (2.5, -1.0))
        made = lightplan.with_lamp(lightplan.with_lamp(made, 1), 2)
        self.assertEqual([lamp.name for lamp in made.lighting.lamps], ["key", "lamp 1", "lamp 2"])
        self.assertEqual([lamp.name for lamp in lightplan.without_lamp(made, 1).lighting.lamps], ["key", "lamp 2"])
        for wrong in (lambda: lightplan.without_lamp(made, 5), lambda: lightplan.with_lamp(made, 7)):
            with self.assertRaisesMessage(Refused, "That lamp is gone."):
                wrong()
        with self.assertRaisesMessage(CoreError, "stands in the subject"):
            lightplan.with_lamp(made, 0, away_m=0.0, height_m=1.25)

    def test_more_than_twelve_lamps_are_refused(self):
        made = begun()
        for k in range(11):
            made = lightplan.with_lamp(made, k + 1)
        with self.assertRaisesMessage(CoreError, "At most 12 lamps"):
            lightplan.with_lamp(made, 12)

    def test_a_pattern_is_one_change(self):
        made = begun()
        for key in PATTERNS:
            lamps = arranged(key, lightplan.lamps_of(made.lighting), "sitter")
            self.assertEqual(len(lightplan.with_lamps(made, lamps).lighting.lamps), len(lamps), key)

    def test_surfaces_are_those_of_the_subject_and_unknown_ones_are_refused(self):
        made = lightplan.with_subject(begun(), clothes="blue shirt", ground="white paper")
        self.assertEqual({part: each.name for part, each in lightplan.surfaces_of(made.lighting).items()},
                         {"skin": "pale skin", "hair": "brown hair", "clothes": "blue shirt", "ground": "white paper"})  # fmt: skip
        table = lightplan.with_subject(made, subject="table")
        self.assertEqual(set(lightplan.surfaces_of(table.lighting)), {"cup", "shell", "cloth", "top", "ground"})
        with self.assertRaisesMessage(CoreError, "no surface “velour”"):
            lightplan.with_subject(made, clothes="velour")
        with self.assertRaisesMessage(CoreError, "is not an aperture"):
            lightplan.with_subject(made, aperture="wide")

    def test_the_exposure_gives_way_by_time_and_with_flash_by_aperture(self):
        made = lightplan.exposed_longer(begun(), 2)
        self.assertEqual((made.lighting.aperture, made.lighting.shutter), ("f/8", "1/30"))
        flash = lightplan.with_lamp(begun(), 0, kind="flash", strength=16.0)
        made = lightplan.exposed_longer(flash, 2)
        self.assertEqual((made.lighting.aperture, made.lighting.shutter), ("f/4", "1/125"))

    def test_exposed_for_a_light_is_what_an_incident_meter_says(self):
        made = lightplan.exposed_for(begun(), Light(2.5 * 2**9))
        self.assertEqual((made.lighting.aperture, made.lighting.shutter), ("f/8", "1/8"))
        made = lightplan.exposed_for(lightplan.with_lamp(begun(), 0, kind="flash"), Light(0.0, 250 * 121 / 100))
        self.assertEqual((made.lighting.aperture, made.lighting.shutter), ("f/11", "1/125"))

    def test_a_wish_is_one_for_each_place(self):
        made = lightplan.with_wish(lightplan.with_wish(begun(), "cheek right", 6.0), "cheek right", 5.5)
        self.assertEqual([wish.zone for wish in made.lighting.wishes], [5.5])
        self.assertEqual(lightplan.without_wish(made, "cheek right").lighting.wishes, ())

    def test_kept_lamps_come_back_and_only_three_are_kept(self):
        made = lightplan.with_kept(begun(), "first")
        changed = lightplan.with_lamp(made, 0, away_m=3.0)
        self.assertEqual(lightplan.kept_again(changed, "first").lighting.lamps, made.lighting.lamps)
        for name in ("b", "c", "d"):
            changed = lightplan.with_kept(changed, name)
        self.assertEqual([each.name for each in changed.lighting.kept], ["d", "c", "b"])
        with self.assertRaisesMessage(Refused, "not kept any more"):
            lightplan.kept_again(changed, "first")

    def test_a_place_falls_where_the_desk_has_it(self):
        written = document(
            title="Face", medium={"kind": "digital raw", "iso": 200}, filters=[{"name": "yellow"}], camera={"aperture": "f/5.6"},
            tones=[{"name": "cheek", "ev100": 8.4}], placing={"school": "known tone", "tone": "cheek", "zone": 6},
        )  # fmt: skip
        made = lightplan.begun(written)
        planned = plan(brief_of(made))
        camera = lightplan.camera_of(made, planned)
        # A light under which a grey card reads what the cheek did.
        lux = 2.0**8.4 * 12.5 / 100 * 3.141592653589793 / 0.18
        self.assertAlmostEqual(zone(Light(lux), 0.18, camera), 6.0, places=6)

    def test_a_lamp_keeps_every_figure_of_its_part(self):
        part = LampPart("x", "flash", -20.0, 1.2, 1.0, 0.3, 0.4, True, 32.0, -1.5, -6.0, 0.0, 30.0, True, False, False)
        made = begun().with_(lighting=begun().lighting.__class__(lamps=(part,)))
        self.assertEqual(lightplan.part_of(lightplan.lamps_of(made.lighting)[0]), part)
