"""Glass counts everywhere: sky area, polarizer, graduated filter, a reading through the filter, guesses, the own mix."""

import json
import math
import uuid
from dataclasses import replace

import numpy as np

from dimgrey.camera.bench import bench_of
from dimgrey.camera.camera_views import camera_before
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance
from dimgrey.core.document.plainform import document_of
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.measure.surfaces import SURFACES
from dimgrey.core.picture.display import display_table
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.prints import curve_for, shown_lightness
from dimgrey.core.planning.separation import choice_through
from dimgrey.core.planning.tonewords import Words
from dimgrey.core.planning.zones import parse_zone
from dimgrey.frames.actions import log_frame
from dimgrey.frames.queries import frames_of
from dimgrey.pictures import store
from dimgrey.pictures.addresses import key_of, rendering_of
from dimgrey.scenes.dragging import live_of
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, scene_with_picture

SKY, BRICK, CLOUD, IVY = (0.30, 0.45, 1.0), (0.30, 0.08, 0.06), (1.5, 1.5, 1.5), (0.086, 0.228, 0.057)
PLACE = {
    "latitude_deg": 50.0, "longitude_deg": 0.0, "date": "2026-06-21", "zone": "UTC",
    "weather": {"cloud_percent": 0, "visibility_km": 40},
}  # fmt: skip
AT = {"sky": (0.3, 0.2), "cloud": (0.75, 0.15), "brick": (0.3, 0.75), "ivy": (0.75, 0.75)}
COLOURS = {"sky": SKY, "cloud": CLOUD, "brick": BRICK, "ivy": IVY}
ROLES = {"sky": "sky", "cloud": "highlight", "brick": "subject", "ivy": "background"}


def light(height=120, width=180):
    """Sky with a cloud over brick and ivy, linear light."""
    linear = np.empty((height, width, 3), np.float32)
    linear[: height // 2], linear[height // 2 :, : width // 2], linear[height // 2 :, width // 2 :] = SKY, BRICK, IVY
    linear[8:30, 120:165] = CLOUD
    return linear


def tones(*names):
    stops = lambda name: round(float(np.log2(luminance(COLOURS[name]) / 0.18)), 4)
    return [
        {
            "name": name, "mark": "ABCD"[k], "role": ROLES[name], "texture": "needed", "at": list(AT[name]),
            "colour": list(COLOURS[name]), "readings": [{"kind": "picture", "stops": stops(name), "ev100": 12 + stops(name)}],
        }
        for k, name in enumerate(names or COLOURS)
    ]  # fmt: skip


def at_pin(situation, name):
    """8-bit grey of the picture under a tone's pin."""
    shown = situation.rendering
    table = display_table(shown.stops, shown.slope, curve_for(shown.kind), shown.development, tone=shown.tone)
    picture = store.grey(situation.picture.path, shown.chain, table, shown.overhead)
    height, width = picture.shape
    x, y = AT[name]
    return int(picture[int(y * height), int(x * width)])


def at_print(situation, name):
    """8-bit grey of the rail at a tone's print."""
    tone = next(t for t in situation.plan.tones if t.name == name)
    return int(grey8_of_lightness(shown_lightness(tone.printed - 5)))


class GlassTest(PageTest):
    def scene(self, **parts):
        placing = {"school": "known tone", "tone": "brick", "zone": 4}
        made = {"tones": tones(), "placing": placing, "place": PLACE} | parts
        made["view"] = {"heading_deg": 0.0, "time": "12:00", "tilt_deg": 10.0}
        return scene_with_picture(
            self.person,
            document(**{"title": "Yard", "medium": {"kind": "film", "iso": 100, "developed": 0}, **made}),
            light(),
            "yard",
        )

    def printed(self, scene):
        return {tone.name: tone.printed for tone in Situation(scene).plan.tones}


class Truth(GlassTest):
    def test_rail_and_picture_agree_under_every_glass(self):
        for filters in (
            [], [{"name": "red"}], [{"name": "polarizer"}], [{"name": "orange"}, {"name": "polarizer"}],
            [{"name": "graduated", "stops": 2, "edge": 0.5}], [{"name": "deep red"}, {"name": "graduated", "stops": 1, "edge": 0.4}],
        ):  # fmt: skip
            situation = Situation(self.scene(filters=filters))
            for name in COLOURS:
                with self.subTest(str(filters), tone=name):
                    self.assertLessEqual(abs(at_pin(situation, name) - at_print(situation, name)), 2)
            self.assertEqual(situation.pins_apart, {})

    def test_the_polarizer_darkens_the_sky_alone_and_by_the_sun(self):
        without, polarized = self.printed(self.scene()), self.printed(self.scene(filters=[{"name": "polarizer"}]))
        self.assertLess(polarized["sky"], without["sky"] - 0.5)
        self.assertAlmostEqual(polarized["cloud"], without["cloud"], places=6)
        closed = {**PLACE, "weather": {"cloud_percent": 100, "visibility_km": 20}}
        overcast = self.printed(self.scene(filters=[{"name": "polarizer"}], place=closed))
        self.assertAlmostEqual(overcast["sky"], without["sky"], places=6)
        unknown = self.printed(self.scene(filters=[{"name": "polarizer"}], place=None))
        self.assertAlmostEqual(unknown["sky"], without["sky"], places=6)

    def test_a_polarizer_that_is_turned_away_leaves_more_of_the_sky_in_rail_and_picture_alike(self):
        skies = []
        for turned in (0, 20, 45):
            situation = Situation(self.scene(filters=[{"name": "polarizer", "turned_deg": turned}]))
            self.assertLessEqual(abs(at_pin(situation, "sky") - at_print(situation, "sky")), 2)
            self.assertEqual(rendering_of(key_of(situation.rendering)).overhead, situation.overhead)
            skies.append(self.printed(situation.scene)["sky"])
        self.assertEqual(skies, sorted(skies))
        self.assertAlmostEqual(skies[2], self.printed(self.scene())["sky"], places=3)

    def test_the_tables_of_a_moving_hand_say_what_the_acts_will(self):
        turned = self.scene(filters=[{"name": "polarizer"}])
        edged = self.scene(filters=[{"name": "graduated", "stops": 2, "edge": 0.3}])
        for scene, table, acts in (
            (turned, "turn", {3: {"verb": "turn", "turned": 15}, 9: {"verb": "turn", "turned": 45}}),
            (edged, "edge", {5: {"verb": "edge", "edge": 0.1}, 30: {"verb": "edge", "edge": 0.6}}),
        ):
            told = live_of(Situation(scene))
            for k, act in acts.items():
                with self.subTest(table, k=k):
                    verb = act["verb"]
                    fresh = self.fresh(scene)
                    self.act(fresh, **act)
                    now = live_of(Situation(self.fresh(scene)))
                    gained = {mark: stops[k] for mark, stops in told[table]["tones"].items()}
                    placed = gained.get(told["placed"], 0.0)
                    for mark, fall in told["tones"].items():
                        self.assertAlmostEqual(
                            now["tones"][mark], fall - placed + gained.get(mark, 0.0), places=3, msg=verb
                        )

    def test_a_turn_stays_when_another_filter_is_chosen_and_is_refused_without_a_polarizer(self):
        scene = self.scene(filters=[{"name": "polarizer", "turned_deg": 20}])
        self.act(scene, "filter", filter="orange", polarizer="on")
        self.assertEqual(self.fresh(scene).document.filters[1].turned_deg, 20)
        self.act(scene, "filter", filter="orange")
        answer = self.act(scene, "turn", turned="10")
        self.assertContains(answer, "no polarizer filter on the lens", status_code=422)
        self.assertEqual(self.act(scene, "turn", turned="50").status_code, 422)

    def test_reflections_lose_what_was_said(self):
        wet = tones()
        wet[3]["glare_stops"] = 1.0
        plain, through = (
            self.printed(self.scene(tones=wet)),
            self.printed(self.scene(tones=wet, filters=[{"name": "polarizer"}])),
        )
        self.assertAlmostEqual(through["ivy"], plain["ivy"] - 1, places=3)
        self.assertIn("D", Situation(self.scene(tones=wet, filters=[{"name": "polarizer"}])).pins_apart)

    def test_forecast_and_card_have_the_value_that_was_read(self):
        for filters in ([], [{"name": "polarizer"}], [{"name": "graduated", "stops": 2, "edge": 0.5}, {"name": "red"}]):
            situation = Situation(self.scene(filters=filters))
            sky = next(t for t in situation.plan.tones if t.name == "sky")
            with self.subTest(str(filters)):
                self.assertIn("as read", situation.sky.zone)
                self.assertIn(situation.words.printed(sky.print), situation.sky.zone)
                self.assertIn(
                    situation.words.printed(sky.print),
                    self.client.get(f"/scenes/{situation.scene.pk}/card").content.decode(),
                )

    def test_graduated_glass_has_an_edge_wherever_it_comes_from(self):
        """So that rail and picture agree: below what was sighted as sky, where nobody has set it."""
        scene = self.scene(filters=[{"name": "graduated", "stops": 2}])
        situation = Situation(scene)
        self.assertEqual(situation.pins_apart, {})
        self.assertEqual(situation.overhead.graduated, ((2.0, round(AT["sky"][1] + 0.08, 3)),))

    def test_parting_and_bench_count_the_polarizer(self):
        scene = self.scene(filters=[{"name": "polarizer"}, {"name": "orange"}])
        situation = Situation(scene)
        choice = choice_through(situation.plan, (), "red", Glass("red"))
        self.assertLess(choice.standing["sky"], self.printed(self.scene(filters=[{"name": "red"}]))["sky"] - 0.5)
        words = bench_of(situation, self.person).on_lens
        self.assertEqual(words, "On the lens: polarizer, orange. Another choice takes the orange off; polarizer stays.")
        self.assertEqual(bench_of(Situation(self.scene()), self.person).on_lens, "Nothing is on the lens.")

    def test_the_simulated_camera_looks_through_the_glass(self):
        """What it shows of the pins is what was planned, with glass and without."""
        for filters in (
            [],
            [{"name": "nd", "stops": 6}],
            [{"name": "polarizer"}],
            [{"name": "graduated", "stops": 2, "edge": 0.5}],
        ):
            scene = self.scene(filters=filters, medium={"kind": "digital file", "iso": 100})
            situation = Situation(scene)
            answer = self.client.post(f"/scenes/{scene.pk}/shoot", {})
            shot = answer.context["shot"]["rows"]
            with self.subTest(str(filters)):
                self.assertEqual(len(shot), 4)
                for row in shot:
                    self.assertIn(row.off.strip("−+"), ("0", "⅓"), row)
        self.assertIsNone(camera_before(situation)._glass.chain)


class Areas(GlassTest):
    """A tone that is an area: all of its light is read."""

    SQUARE = "0.1 0.55,0.4 0.55,0.4 0.95,0.1 0.95"

    def test_an_area_is_read_as_a_whole(self):
        scene = self.scene()
        self.act(scene, "pin-area", outline=self.SQUARE)
        tone = self.fresh(scene).document.tones[-1]
        self.assertEqual((tone.at, len(tone.area)), ((0.25, 0.75), 4))
        self.assertAlmostEqual(tone.readings[0].stops, float(np.log2(luminance(BRICK) / 0.18)), places=3)
        half = "0.4 0.55,0.6 0.55,0.6 0.95,0.4 0.95"
        self.act(scene, "pin-area", outline=half)
        mixed = self.fresh(scene).document.tones[-1]
        mean = (luminance(BRICK) + luminance(IVY)) / 2
        self.assertAlmostEqual(mixed.readings[0].stops, float(np.log2(mean / 0.18)), delta=0.05)
        self.assertIn(f'data-area="{mixed.mark}"', self.client.get(f"/scenes/{scene.pk}/").content.decode())

    def test_an_area_moves_with_its_pin_and_stays_in_the_picture(self):
        scene = self.scene()
        self.act(scene, "pin-area", outline=self.SQUARE)
        mark = self.fresh(scene).document.tones[-1].mark
        self.act(scene, "move-pin", mark=mark, x="0.75", y="0.75")
        moved = self.fresh(scene).document.tones[-1]
        self.assertEqual(moved.area[0], (0.6, 0.55))
        self.assertAlmostEqual(moved.readings[0].stops, float(np.log2(luminance(IVY) / 0.18)), places=3)
        self.act(scene, "move-pin", mark=mark, x="0.99", y="0.99")
        self.assertEqual(max(x for x, _ in self.fresh(scene).document.tones[-1].area), 1.0)

    def test_it_travels_in_the_scene_file_and_is_read_again_in_another_picture(self):
        scene = self.scene()
        self.act(scene, "pin-area", outline=self.SQUARE)
        data = self.client.get(f"/scenes/{scene.pk}/scene.json").json()
        self.assertEqual(document_of(data).tones[-1].area, self.fresh(scene).document.tones[-1].area)

    def test_bad_areas_are_refused_and_nothing_is_kept(self):
        scene = self.scene()
        for outline, words in (("", "Draw round the tone"), ("0 0,1 1", "3 to"), ("a b,c d,e f", "not an outline"), ("0.5 0.5,0.5001 0.5,0.5 0.5001", "3 to"), ("0.502 0.502,0.503 0.502,0.503 0.503", "smaller than a pixel")):  # fmt: skip
            with self.subTest(outline):
                self.assertContains(self.act(scene, "pin-area", outline=outline), words, status_code=422)
        self.assertEqual(len(self.fresh(scene).document.tones), 4)


class SkyArea(GlassTest):
    def sky_of(self, scene):
        return self.printed(scene)["sky"], at_pin(Situation(scene), "sky")

    def test_drawn_none_and_found(self):
        scene = self.scene(filters=[{"name": "deep red"}, {"name": "polarizer"}])
        page = self.client.get(f"/scenes/{scene.pk}/")
        self.assertContains(page, "Found: 4")
        _, before = self.sky_of(scene)
        self.act(scene, "sky", area="none")
        scene = Scene.objects.get(pk=scene.pk)
        _, as_object = self.sky_of(scene)
        self.assertNotEqual(before, as_object)
        self.assertIn("sky area of the picture does not hold this tone", Situation(scene).pins_apart.get("A", ""))
        self.act(scene, "sky", area="drawn", outline="0 0,1 0,1 0.5,0 0.5")
        scene = Scene.objects.get(pk=scene.pk)
        self.assertEqual(scene.document.sky.outline[2], (1.0, 0.5))
        self.assertEqual(self.sky_of(scene)[1], before)
        drawn = self.client.get(f"/scenes/{scene.pk}/sky-over.svg")
        self.assertContains(drawn, "url(#sky)")

    def test_bad_areas_are_refused_with_a_sentence(self):
        scene = self.scene()
        for values, words in (
            ({"area": "drawn"}, "draw round the sky"),
            ({"area": "drawn", "outline": "0 0,1 1"}, "3 to 60 corners"),
            ({"area": "drawn", "outline": "a b,c"}, "not an outline"),
            ({"area": "drawn", "outline": "nan nan,0 1,1 1,1 0"}, "fractions of the picture"),
            ({"area": "everywhere"}, "everywhere"),
        ):
            with self.subTest(values):
                self.assertContains(self.act(scene, "sky", open="edit-sky", **values), words, status_code=422)
        self.act(scene, "sky", area="drawn", outline="0 0,1 0,1 1,0 1")
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "Drawn by hand: 100 %")

    def act(self, scene, verb, **values):
        return self.client.post(f"/scenes/{scene.pk}/do/{verb}", values, headers={"HX-Request": "true"})


class Settled(GlassTest):
    def test_a_reading_through_the_filter_governs_its_tone_while_that_filter_is_on(self):
        scene = self.scene(
            filters=[{"name": "deep red"}], medium={"kind": "film", "iso": 100, "response": "extended red"}
        )
        before = {tone.name: tone for tone in Situation(scene).plan.tones}
        self.assertFalse(before["ivy"].settled)
        hand.type_reading(scene, None, "D", {"ev100": 4.0, "through": "deep red"})
        situation = Situation(Scene.objects.get(pk=scene.pk))
        ivy = next(tone for tone in situation.plan.tones if tone.name == "ivy")
        self.assertTrue(ivy.settled)
        self.assertEqual(ivy.zone, before["ivy"].zone)
        self.assertNotAlmostEqual(ivy.fall, before["ivy"].fall, places=2)
        self.assertLess(ivy.error_stops, before["ivy"].error_stops)
        self.assertIn("as read through the filter", next(r for r in situation.tone_rows if r.mark == "D").why)
        self.assertIn("read through the filter", situation.pins_apart["D"])
        hand.use_colour_choice(scene, None, "yellow")
        other = next(t for t in Situation(Scene.objects.get(pk=scene.pk)).plan.tones if t.name == "ivy")
        self.assertFalse(other.settled)

    def test_the_reading_says_what_the_table_says_where_the_table_is_right(self):
        """A meter behind glass sees a neutral darker by its own factor; such a reading moves nothing."""
        from dimgrey.core.colour.chain import glass_chain

        grey = [
            {
                "name": "card",
                "mark": "A",
                "role": "other",
                "texture": "needed",
                "colour": [0.18, 0.18, 0.18],
                "readings": [{"ev100": 12}],
            }
        ]
        scene = self.scene(
            tones=grey, placing={"school": "known tone", "tone": "card", "zone": 5}, filters=[{"name": "orange"}]
        )
        through = 12 - glass_chain("eye", "D55", ("orange",)).stops
        hand.type_reading(scene, None, "A", {"ev100": round(through, 4), "through": "orange"})
        card = Situation(Scene.objects.get(pk=scene.pk)).plan.tones[0]
        self.assertAlmostEqual(card.fall, 5, places=3)
        self.assertAlmostEqual(card.ev100, 12, places=6)

    def test_the_sheet_offers_it_where_the_grey_is_unsure(self):
        violet = tones("brick")
        violet += [
            {**violet[0], "name": "violet cloth", "mark": "B", "role": "background", "colour": [0.11, 0.03, 0.16]}
        ]
        scene = self.scene(
            tones=violet,
            filters=[{"name": "deep red"}],
            medium={"kind": "film", "iso": 100, "response": "extended red"},
        )
        row = next(r for r in Situation(scene).tone_rows if r.mark == "B")
        self.assertIn("Read it through the deep red filter", row.unsure)
        page = self.client.get(f"/scenes/{scene.pk}/").content.decode()
        self.assertIn('class="soft"', page)
        sure = next(r for r in Situation(self.scene()).tone_rows if r.mark == "B")
        self.assertEqual(sure.unsure, "")

    def test_a_tone_read_through_the_glass_alone_has_a_place(self):
        only = [{**tones("ivy")[0], "readings": [{"ev100": 6.0, "through": "orange"}]}]
        scene = self.scene(
            tones=only,
            placing={"school": "known tone", "tone": "ivy", "zone": 4, "hold": "after filter"},
            filters=[{"name": "orange"}],
        )
        tone = Situation(scene).plan.tones[0]
        self.assertTrue(tone.settled)
        self.assertAlmostEqual(tone.fall, 4, places=6)


class Guesses(GlassTest):
    def test_a_pinned_tone_is_called_by_its_letter_and_names_nothing(self):
        scene = self.scene(tones=[], placing={}, intent="The sky shall be dark, the brick light.")
        for name in ("sky", "brick"):
            hand.pin_tone(scene, None, *AT[name])
        scene = Scene.objects.get(pk=scene.pk)
        self.assertEqual(
            [(t.name, t.role, t.guessed) for t in scene.document.tones],
            [("tone A", None, ("name",)), ("tone B", None, ("name",))],
        )
        situation = Situation(scene)
        self.assertFalse([wish for wish in situation.wishes if wish.span])
        self.assertEqual([question.word for question in situation.wanted.asked], ["sky"])
        hand.describe_tone(scene, None, "B", name="brick")
        named = Situation(Scene.objects.get(pk=scene.pk))
        self.assertEqual([wish.tones for wish in named.wishes if wish.span], [("brick",)])

    def test_what_it_may_be_is_offered_in_its_editor_and_taken_with_one_act(self):
        scene = self.scene(tones=[], placing={})
        hand.pin_tone(scene, None, *AT["sky"])
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/tone-A"), "Is it blue sky?")
        self.act(Scene.objects.get(pk=scene.pk), "tone", mark="A", name="blue sky", role="sky")
        tone = Scene.objects.get(pk=scene.pk).document.tones[0]
        self.assertEqual((tone.name, tone.role, tone.guessed), ("blue sky", "sky", ()))

    def test_a_pin_in_the_sky_area_is_looked_at_as_sky_whatever_it_is_called(self):
        scene = self.scene(tones=[], placing={}, filters=[{"name": "red"}])
        for name in ("sky", "brick"):
            hand.pin_tone(scene, None, *AT[name])
        situation = Situation(Scene.objects.get(pk=scene.pk))
        self.assertEqual([tone.is_sky for tone in situation.brief.tones], [True, False])
        self.assertEqual(situation.pins_apart, {})
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/tone-A"), "lies in the picture's sky")


class Mixes(GlassTest):
    def raw(self, **parts):
        return self.scene(medium={"kind": "digital raw", "iso": 100}, **parts)

    def test_bending_moves_the_tone_and_the_picture_together(self):
        scene = self.raw()
        before = self.printed(scene)
        hand.bend_mix(scene, None, "sky", -1.0)
        situation = Situation(Scene.objects.get(pk=scene.pk))
        after = {tone.name: tone.printed for tone in situation.plan.tones}
        self.assertLess(after["sky"], before["sky"] - 0.6)
        self.assertAlmostEqual(after["ivy"], before["ivy"], delta=0.1)
        for name in COLOURS:
            self.assertLessEqual(abs(at_pin(situation, name) - at_print(situation, name)), 2)
        self.assertIn("own mix", situation.brief.colour_choice)
        card = self.client.get(f"/scenes/{scene.pk}/card").content.decode()
        self.assertIn("own mix over the plain mix", card)
        exported = json.loads(self.client.get(f"/scenes/{scene.pk}/scene.json").content)
        self.assertEqual(document_of(exported), situation.document)
        hand.level_mix(scene, None)
        self.assertEqual(self.printed(Scene.objects.get(pk=scene.pk)), before)

    def test_what_a_curve_cannot_do_is_said_in_the_editor(self):
        scene = self.raw()
        answer = self.client.post(
            f"/scenes/{scene.pk}/do/bend",
            {"tone": "cloud", "stops": "1", "open": "edit-filter"},
            headers={"HX-Request": "true"},
        )
        self.assertContains(answer, "hardly a colour", status_code=422)
        film = self.scene()
        refused = self.client.post(
            f"/scenes/{film.pk}/do/bend", {"tone": "sky", "stops": "1"}, headers={"HX-Request": "true"}
        )
        self.assertContains(refused, "Only a raw file", status_code=422)
        for stops in ("", "x", "9", "1e9"):
            with self.subTest(stops):
                bad = self.client.post(
                    f"/scenes/{scene.pk}/do/bend", {"tone": "sky", "stops": stops}, headers={"HX-Request": "true"}
                )
                self.assertEqual(bad.status_code, 422)

    def test_the_editor_draws_the_curve_with_the_tones_on_it(self):
        scene = self.raw()
        hand.bend_mix(scene, None, "sky", 1.0)
        page = self.client.get(f"/scenes/{scene.pk}/edit/filter")
        self.assertContains(page, "mix-curve")
        self.assertContains(page, "Noise ×")
        self.assertNotContains(self.client.get(f"/scenes/{self.scene().pk}/edit/filter"), "mix-curve")
        self.assertTrue(math.isfinite(Situation(Scene.objects.get(pk=scene.pk)).plan.tones[0].printed))


class OwnSurfaces(GlassTest):
    def test_a_surface_of_the_kit_is_told_in_the_editor_and_on_the_pad(self):
        scene = self.scene()
        hand.describe_tone(scene, None, "C", name="glaze brick")
        editor = f"/scenes/{scene.pk}/edit/tone-C"
        self.assertNotContains(self.client.get(editor), "usually goes on")
        answer = self.client.post("/kit/new/surface", {"name": "Glaze brick", "zone": "3.5"})
        self.assertIn(answer.status_code, (200, 302))
        self.assertContains(self.client.get(editor), "Glaze brick usually goes on III")
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "usually III")


class Orders(GlassTest):
    def test_an_order_of_two_tones_is_set_with_one_act_and_shown(self):
        scene = self.scene()
        sent = {"lighter": "brick", "darker": "sky", "zones": "2", "open": "edit-intent"}
        answer = self.client.post(f"/scenes/{scene.pk}/do/order", sent, headers={"HX-Request": "true"})
        self.assertContains(answer, "brick over sky by 2")
        for zones in ("0", "11", "x", ""):
            with self.subTest(zones):
                bad = self.client.post(
                    f"/scenes/{scene.pk}/do/order", {**sent, "zones": zones}, headers={"HX-Request": "true"}
                )
                self.assertEqual(bad.status_code, 422)
        twice = self.client.post(
            f"/scenes/{scene.pk}/do/order", {**sent, "darker": "brick"}, headers={"HX-Request": "true"}
        )
        self.assertEqual(twice.status_code, 422)

    def test_zone_and_compensation_agree(self):
        for divisions in (2, 3):
            for surface in SURFACES:
                zone, compensation = Words("zones", divisions).surface(surface)
                self.assertAlmostEqual(
                    parse_zone(zone) - 5, parse_stops(compensation, "stops"), places=3, msg=surface.name
                )


class BadInput(GlassTest):
    def test_readings_of_all_kinds_mixed_are_kept_apart(self):
        mixed = tones("brick")
        mixed[0]["readings"] += [
            {"kind": "spot", "ev100": 10.0}, {"kind": "grey card", "ev100": 10.4}, {"kind": "incident", "ev100": 12.0},
            {"kind": "whole frame", "ev100": 10.2}, {"kind": "spot", "ev100": 7.5, "through": "red"},
            {"kind": "spot", "ev100": 3.0, "through": "blue"},
        ]  # fmt: skip
        scene = self.scene(tones=mixed, filters=[{"name": "red"}])
        tone = Situation(scene).brief.tones[0]
        self.assertEqual(tone.evs, (10.0, 10.4, 10.2))
        self.assertEqual((tone.incident, tone.through_evs), ((12.0,), (7.5,)))
        self.assertFalse(tone.of_picture)
        page = self.client.get(f"/scenes/{scene.pk}/edit/tone-A")
        self.assertContains(page, "spot through blue")

    def test_a_roll_whose_development_changes_leaves_its_frames_as_they_were(self):
        scene = self.scene()
        log_frame(self.person, scene, uuid.uuid4())
        before = frames_of(self.person)[0]
        kept = (before.plan["development"], [tone["print"] for tone in before.plan["tones"]])
        medium = replace(scene.document.medium, developed=-2)
        scene = hand.set_parts(scene, None, "medium", medium=medium)
        log_frame(self.person, scene, uuid.uuid4())
        first, second = sorted(frames_of(self.person), key=lambda frame: frame.pk)
        self.assertEqual((first.plan["development"], [tone["print"] for tone in first.plan["tones"]]), kept)
        self.assertEqual((first.plan["development"], second.plan["development"]), ("N", "N-2"))


class Addresses(GlassTest):
    """Whatever is typed as the address of a view is a view or is not there."""

    TAIL = "_0_10000_0_0_0_0_0_0_sf"

    def test_addresses_that_say_no_view_are_not_there(self):
        folder = self.scene().picture.folder
        for chain in (
            "t2.general-panchromatic.D55.gold", "t2.mix.1.1.1", "t2.nothing.D55.none", "t2.general-panchromatic.D55.~AAAA",
            "t2.mix.2100.7200.700.hue.1.2.3", "t2.mix.2100.7200.700.hue.99999.9999", "t9.general-panchromatic.D55.none",
            "t2.general-panchromatic.D55." + "+".join(["yellow"] * 40), "t2.general-panchromatic.D50.none",
        ):  # fmt: skip
            for path in (f"/pictures/{folder}/grey-{chain}{self.TAIL}.jpg", f"/pictures/paint-{chain}{self.TAIL}.json"):
                with self.subTest(path[-70:]):
                    self.assertEqual(self.client.get(path).status_code, 404)
        good = "t2.general-panchromatic.D55.none"
        for path in (
            f"/pictures/{folder}/light-77.bin", f"/pictures/{folder}/sky-1600-so000.bin",
            f"/pictures/{folder}/sky-1600-so{'000' * 6}.bin", f"/pictures/{folder}/sky-77-sf.bin",
            f"/pictures/paint-{good}_0_10000_0_0_0_0_0_0_sfp1.1.1.0.0.99.json",
            f"/pictures/paint-{good}_0_10000_0_0_0_0_0_0_sfp1.1.1.100.0.100.json",
        ):  # fmt: skip
            with self.subTest(path[-60:]):
                self.assertEqual(self.client.get(path).status_code, 404)
        for path in (
            f"/pictures/{folder}/light-1000.bin",
            f"/pictures/{folder}/sky-1600-sf.bin",
            f"/pictures/paint-{good}{self.TAIL}.json",
        ):
            self.assertEqual(self.client.get(path).status_code, 200)

    def test_maps_of_another_are_not_there(self):
        folder = self.scene().picture.folder
        stranger = self.other()
        self.client.force_login(stranger)
        with self.settings(DIMGREY_LOCAL=False):
            for path in (f"/pictures/{folder}/light-1000.bin", f"/pictures/{folder}/sky-1000-sf.bin"):
                self.assertEqual(self.client.get(path).status_code, 404)
