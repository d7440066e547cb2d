"""The light plan over HTTP: lamps set, moved, read, arranged, turned backwards; the picture, the card, two plans side by side."""

import io
import math
import uuid

from PIL import Image
from pypdf import PdfReader

from dimgrey.core.document.lightplan import lamps_of
from dimgrey.core.document.model import PlacePart, View
from dimgrey.core.lamps.illuminance import illuminance
from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.lamps.litplan import LitScene
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest

SUBJECT = {
    "subject": "sitter", "skin": "pale skin", "hair": "brown hair", "clothes": "grey wool", "ground": "grey card", "ground_wish": "part", "ground_away": 1.5,
    "camera_away": 2.0, "ambient_lux": 0, "aperture": "f/4", "shutter": "1/60", "unit_of_length": "m",
}  # fmt: skip


class Studio(PageTest):
    def setUp(self):
        super().setUp()
        written = document(title="Potter", medium={"kind": "digital raw", "iso": 200, "response": "monochrome sensor"})
        self.scene = lifecycle.create_scene(self.person, written)
        self.do("light-begin")

    def do(self, verb, **values):
        """The answer to one act of the page."""
        return self.act_of_page(self.scene, "light-plan", verb, **values)

    @property
    def lighting(self):
        return self.fresh(self.scene).document.lighting

    @property
    def lit(self):
        return LitScene(Situation(self.fresh(self.scene)))

    def page(self):
        return self.client.get(f"/scenes/{self.scene.pk}/light-plan")

    def lamp(self, **more):
        return {
            "index": 0, "name": "key", "kind": "lasting", "angle_deg": 45, "away": 1.5, "height": 1.8, "width": 0.6, "face": 0.6,
            "strength": 800, "stops": 0, "grid_deg": 0, "is_on": "on", **more,
        }  # fmt: skip


class Lamps(Studio):
    def test_a_scene_without_one_says_how_to_begin(self):
        other = lifecycle.create_scene(self.person, document(title="Bare"))
        self.assertContains(self.client.get(f"/scenes/{other.pk}/light-plan"), "Begin with one lamp")
        self.assertEqual(self.client.get(f"/scenes/{other.pk}/light-plan.pdf").status_code, 404)
        self.assertEqual(self.client.get(f"/scenes/{other.pk}/light-plan/compare").status_code, 302)
        self.assertEqual(self.client.post(f"/scenes/{other.pk}/light-plan/picture").status_code, 422)
        answer = self.act_of_page(other, "light-plan", "lamp-add")
        self.assertContains(answer, "no light plan yet", status_code=422)

    def test_it_begins_exposed_for_its_light(self):
        ev, _ = self.lit.together
        self.assertAlmostEqual(self.lit.camera.setting_ev100, ev, delta=1 / 6)
        self.assertContains(self.page(), "1 key")

    def test_light_from_the_side_is_not_given_too_much(self):
        """A dome counts it half: skin stays below white, where a disc that looks at the camera would ask for four stops more."""
        for pattern in ("side", "three-quarter", "flat"):
            self.do("light-pattern", pattern=pattern)
            self.do("light-expose")
            brightest = max(each.zone for each in self.lit.places if each.place.part == "skin")
            self.assertTrue(5.0 < brightest < 7.5, (pattern, brightest))
        self.do("light-pattern", pattern="both-edges")
        self.assertContains(self.do("light-expose"), "Every lamp stands behind", status_code=422)
        self.assertContains(self.page(), "no light")

    def test_a_lamp_is_set_moved_added_and_removed_and_undone(self):
        self.do("lamp-set", **self.lamp(name="window lamp", away=2.0, width=1.0, face=1.2, is_round="on"))
        lamp = self.lighting.lamps[0]
        self.assertEqual((lamp.name, lamp.away_m, lamp.width_m, lamp.is_round), ("window lamp", 2.0, 1.0, True))
        self.do("lamp-move", index=0, angle_deg=-60.0, away_m=1.2, height_m=2.1)
        self.assertEqual((self.lighting.lamps[0].angle_deg, self.lighting.lamps[0].height_m), (-60.0, 2.1))
        self.do("lamp-add")
        self.assertEqual(len(self.lighting.lamps), 2)
        self.do("lamp-drop", index=0)
        self.assertEqual([lamp.name for lamp in self.lighting.lamps], ["lamp 1"])
        self.do("undo")
        self.assertEqual(len(self.lighting.lamps), 2)

    def test_bad_lamps_change_nothing_and_say_what_to_do(self):
        before = self.lighting
        for values, words in (
            (self.lamp(away=0, height=1.25), "stands in the subject"), (self.lamp(strength=0), "more than 0"),
            (self.lamp(stops=3), "goes from -7 to +0"), (self.lamp(kind="candle"), "candle"), (self.lamp(away="far"), "number"),
            (self.lamp(index=9), "That lamp is gone"), (self.lamp(reading="bright"), "is no reading"),
            (self.lamp(kind="reflector", strength=0.8, reading="EV 9"), "not read by itself"),
        ):  # fmt: skip
            with self.subTest(words=words):
                self.assertContains(self.do("lamp-set", **values), words, status_code=422)
        self.assertContains(self.do("light-pattern", pattern="butterfly"), "butterfly", status_code=422)
        self.assertContains(self.do("light-wish", place="nose", zone="VI"), "not in this picture", status_code=422)
        self.assertContains(self.do("light-wish", place="hair", zone="XII"), "zone", status_code=422)
        self.assertContains(self.do("light-solve"), "Wish a zone", status_code=422)
        self.assertContains(self.do("lamps-keep", name=""), "Give these lamps a name", status_code=422)
        self.assertContains(self.do("lamps-again", name="gone"), "not kept any more", status_code=422)
        self.assertEqual(self.lighting, before)

    def test_a_reading_sets_the_strength(self):
        for kind, reading, lux in (
            ("lasting", "500 lx", 500.0),
            ("lasting", "EV 8", 2.5 * 2**8),
            ("window", "300 lux", 300.0),
        ):
            self.do("lamp-set", **self.lamp(kind=kind, reading=reading))
            lit = self.lit
            middle = lit.view.middle
            towards = [a - m for a, m in zip(lit.lamps[0].at, middle, strict=True)]
            length = math.hypot(*towards)
            got = float(illuminance(lit.lamps[0], middle, [middle], [[t / length for t in towards]])[0])
            self.assertAlmostEqual(got, lux, delta=lux * 0.001, msg=reading)
        self.do("lamp-set", **self.lamp(kind="flash", reading="f/8", angle_deg=0, height=1.25))
        self.assertAlmostEqual(self.lit.measured[0].f_number, 8.0, delta=0.01)

    def test_a_window_follows_the_outings_sky(self):
        self.do("lamp-set", **self.lamp(kind="window", strength=700, width=1.0, face=1.5, follows_sky="on"))
        self.assertEqual(self.lit.lamps[0].strength, 700.0, "without place and time it stays as it was set")
        place = {"latitude_deg": 38.7, "longitude_deg": -9.1, "date": "2027-06-21", "zone": "UTC"}
        seen = []
        for time in ("06:00", "13:00"):
            scene = self.fresh(self.scene)
            made = scene.document.with_(place=PlacePart(**place), view=View(time=time))
            hand.change(scene, None, "time", lambda document, made=made: made)
            seen.append(self.lit.lamps[0].strength)
        self.assertLess(seen[0] * 4, seen[1])
        self.assertTrue(3000 < seen[1] < 40000, "a pane that sees the open sky at noon")
        scene = self.fresh(self.scene)
        hand.change(scene, None, "time", lambda document: document.with_(view=View(time="01:00")))
        self.assertEqual(self.lit.lamps[0].strength, 700.0, "at night there is no sky to follow")

    def test_feet_are_feet(self):
        self.do("light-subject", **{**SUBJECT, "unit_of_length": "ft"})
        self.do("lamp-set", **self.lamp(away=5.0, height=6.0))
        self.assertAlmostEqual(self.lighting.lamps[0].away_m, 1.524, places=3)
        self.assertContains(self.page(), "6 ft high")
        self.assertContains(self.page(), 'value="4.92"')

    def test_advice_follows_the_wish_for_the_ground(self):
        self.do("light-pattern", pattern="three-quarter")
        self.do("light-expose")
        for wish in ("part", "blend", "bright edge"):
            self.do("light-subject", **{**SUBJECT, "ground_wish": wish})
            self.assertContains(self.page(), f"Grounds against hair and shoulder: {wish}")
            for choice in self.lit.advice[0]:
                if wish == "blend":
                    self.assertEqual(choice.fits, "merges" in choice.why, choice)
                elif wish == "bright edge":
                    self.assertEqual(choice.fits, choice.from_hair <= -1, choice)

    def test_a_pattern_is_one_act_and_the_sides_follow(self):
        self.do("light-pattern", pattern="side")
        self.assertEqual(self.lit.sides[0], "right")
        self.assertContains(self.page(), "from the right")
        self.do("light-pattern", pattern="flat")
        self.assertEqual(self.lit.sides[0], "")

    def test_nobody_else_sees_or_changes_it(self):
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            for path in ("light-plan", "light-plan.pdf", "light-plan/preview-1.jpg", "light-plan/compare"):
                self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/{path}").status_code, 404, path)
            self.assertEqual(self.client.post(f"/scenes/{self.scene.pk}/light-plan/picture").status_code, 404)


class OneTruth(Studio):
    def test_lamp_row_place_and_picture_say_the_same(self):
        self.do("light-pattern", pattern="three-quarter")
        self.do("light-expose")
        lit = self.lit
        picture = lit.luminance()
        for each in lit.places:
            if each.place.part != "hair":
                x, y = (
                    int(f * n) for f, n in zip(each.place.in_picture, (lit.view.width, lit.view.height), strict=True)
                )
                ev = math.log2(float(picture[y, x] @ (0.2126, 0.7152, 0.0722)) * 100 / 12.5)
                self.assertAlmostEqual(ev, each.ev100, delta=0.1, msg=each.place.name)

    def test_a_tone_that_is_bound_follows_the_lamps_of_its_place(self):
        self.scene = hand.add_tone(self.fresh(self.scene), None, "cheek", {"kind": "spot", "ev100": 8.0})
        self.scene = hand.add_tone(self.fresh(self.scene), None, "door", {"kind": "spot", "ev100": 5.0})
        self.do("light-bind", tone="cheek", place="cheek right")
        read = lambda name: next(t for t in Situation(self.fresh(self.scene)).brief.tones if t.name == name).ev100
        self.assertEqual(read("cheek"), 8.0)
        self.do("lamp-set", **self.lamp(angle_deg=self.lighting.lamps[0].angle_deg, stops=-2))
        self.assertAlmostEqual(read("cheek"), 6.0, delta=0.03)
        self.assertEqual(read("door"), 5.0)
        self.do("light-bind", tone="cheek", place="")
        self.do("lamp-set", **self.lamp(stops=0))
        self.assertAlmostEqual(read("cheek"), 6.0, delta=0.03)
        self.assertContains(self.do("light-bind", tone="nobody", place="hair"), "no such tone", status_code=422)

    def test_the_usual_wishes_go_by_complexion_and_edge(self):
        self.do("light-pattern", pattern="edge")
        self.do("light-usual")
        wishes = {wish.place: (wish.zone, wish.over) for wish in self.lighting.wishes}
        self.assertEqual(
            wishes["hair right"], (-1.4, "cheek right"), "a stop more light on hair that gives back a fifth"
        )
        self.assertAlmostEqual(wishes["cheek right"][0], 6.0, delta=0.4)
        self.do("light-subject", **{**SUBJECT, "skin": "dark brown skin"})
        self.do("light-pattern", pattern="three-quarter")
        self.do("light-usual")
        wishes = {wish.place: wish.zone for wish in self.lighting.wishes}
        self.assertAlmostEqual(wishes["cheek right"], 4.5, delta=0.4)
        self.do("light-subject", **{**SUBJECT, "subject": "table"})
        self.assertContains(self.do("light-usual"), "are those of a face", status_code=422)

    def test_wishes_are_met_when_the_lamps_are_set_for_them(self):
        self.do("light-pattern", pattern="three-quarter")
        self.do("light-expose")
        self.do("light-wish", place="cheek right", zone="VI")
        self.do("light-wish", place="cheek left", zone="-1", over="cheek right")
        self.assertContains(self.page(), "cheek right on VI")
        self.do("light-solve")
        zones = {each.place.name: each.zone for each in self.lit.places}
        self.assertAlmostEqual(zones["cheek right"], 6.0, delta=0.2)
        self.assertAlmostEqual(zones["cheek left"] - zones["cheek right"], -1.0, delta=0.2)
        self.assertContains(self.page(), ">met<", count=2)
        self.do("light-wish-drop", place="cheek right")
        self.assertEqual([wish.place for wish in self.lighting.wishes], ["cheek left"])


class Picture(Studio):
    def take(self):
        return self.client.post(f"/scenes/{self.scene.pk}/light-plan/picture", follow=True)

    def test_the_picture_goes_to_the_desk_with_its_places_as_tones(self):
        self.do("light-pattern", pattern="side")
        answer = self.take()
        self.assertContains(answer, "skin, lit")
        scene = Scene.objects.select_related("picture").get(pk=self.scene.pk)
        self.assertTrue(scene.picture.simulated_light and scene.picture.absolute and scene.picture.scene_linear)
        situation = Situation(scene)
        by_place = {each.place.name: each.ev100 for each in self.lit.places}
        tones = {tone.name: tone for tone in situation.brief.tones}
        for tone, place in (
            ("skin, lit", "cheek right"),
            ("skin, unlit", "cheek left"),
            ("clothes", "shoulder right"),
            ("ground", "ground right"),
        ):
            if by_place[place] > -3:
                self.assertAlmostEqual(tones[tone].ev100, by_place[place], delta=0.2, msg=tone)
        self.assertEqual({tone.lit for tone in scene.document.tones if tone.name.startswith("skin")}, {"lit", "unlit"})

    def test_taken_again_pins_are_read_anew_and_undo_brings_the_old_one_back(self):
        self.take()
        first = self.fresh(self.scene)
        read = lambda scene: {t.name: t.ev100 for t in Situation(scene).brief.tones}
        before = read(first)
        self.do("lamp-set", **self.lamp(angle_deg=first.document.lighting.lamps[0].angle_deg, stops=-1))
        self.take()
        after = read(self.fresh(self.scene))
        self.assertEqual(set(before), set(after))
        self.assertAlmostEqual(after["clothes"] - before["clothes"], -1.0, delta=0.05)
        self.do("undo")
        self.assertEqual(self.fresh(self.scene).picture_id, first.picture_id)

    def test_the_pictures_address_is_that_of_what_it_shows(self):
        first = self.lit.version
        self.assertContains(self.page(), f"preview-{first}.jpg")
        self.do("lamp-set", **self.lamp(stops=-1))
        self.assertNotEqual(self.lit.version, first)
        self.do("light-wish", place="hair", zone="V")
        second = self.lit.version
        self.do("undo")
        self.do("undo")
        self.assertEqual(self.lit.version, first)
        self.assertNotEqual(second, first)

    def test_the_preview_is_a_picture_in_the_greys_of_the_medium(self):
        answer = self.client.get(f"/scenes/{self.scene.pk}/light-plan/preview-1.jpg")
        picture = Image.open(io.BytesIO(answer.content))
        self.assertEqual((picture.mode, picture.size), ("L", (360, 450)))
        low, high = picture.getextrema()
        self.assertTrue(low < 80 and high > 120)

    def test_a_table_is_lit_as_well(self):
        self.do("light-subject", **{**SUBJECT, "subject": "table", "ground": "white paper", "ambient_lux": 20})
        self.do("light-pattern", pattern="above")
        page = self.page()
        self.assertContains(page, "shell")
        self.assertNotContains(page, "What parts in this light")
        self.assertContains(self.take(), "cup")


class Paper(Studio):
    def test_the_card_is_one_page_with_lamps_places_wishes_and_cautions(self):
        self.do("light-pattern", pattern="edge")
        self.do("lamp-set", **self.lamp(name="edge", angle_deg=148, height=1.9))
        self.do("light-wish", place="hair right", zone="VI")
        reader = PdfReader(io.BytesIO(self.client.get(f"/scenes/{self.scene.pk}/light-plan.pdf").content))
        self.assertEqual(len(reader.pages), 1)
        text = reader.pages[0].extract_text()
        for words in ("light plan", "1 edge", "148° right", "hair right", "Wished", "Hot lamps", "sandbag"):
            self.assertIn(words, text)

    def test_lamps_are_kept_compared_and_used_again(self):
        self.do("light-pattern", pattern="side")
        self.do("lamps-keep", name="hard side")
        self.do("light-pattern", pattern="flat")
        page = self.client.get(f"/scenes/{self.scene.pk}/light-plan/compare")
        self.assertContains(page, "hard side")
        self.assertContains(page, "cheek left")
        kept = self.client.get(f"/scenes/{self.scene.pk}/light-plan/kept-1-x.jpg")
        self.assertEqual(kept["Content-Type"], "image/jpeg")
        self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/light-plan/kept-2-x.jpg").status_code, 404)
        self.do("lamps-again", name="hard side")
        self.assertEqual([lamp.angle_deg for lamp in self.lighting.lamps if lamp.is_on], [88.0])

    def test_a_frame_keeps_the_lamps_it_was_made_with(self):
        self.client.post(f"/scenes/{self.scene.pk}/light-plan/picture")
        self.scene = hand.place_tone(self.fresh(self.scene), None, "A", 6.0)
        frame = log_frame(self.person, self.fresh(self.scene), uuid.uuid4())
        self.assertIn("lamps: key 45°", frame.means)
        self.do("lamp-drop", index=0)
        self.assertIn("lamps: key 45°", Frame.objects.get(pk=frame.pk).means)

    def test_cautions_are_shown_here_and_on_the_desk_alike(self):
        self.do("lamp-set", **self.lamp(kind="flash", strength=30))
        self.assertContains(self.page(), "Flash before eyes")
        self.assertIn("flash-eyes", [each.code for each in Situation(self.fresh(self.scene)).cautions])
        self.do("lamp-set", **self.lamp(kind="window", strength=90000, width=2.0, face=2.0))
        self.assertContains(self.page(), "as bright as the sun")
        self.assertNotContains(self.page(), "Flash before eyes")
        self.assertEqual(len(lamps_of(self.lighting)), 1)
