"""The field's door: what was carried is laid in, acts are done on it, and refusals come back as sentences."""

import base64
import json
import uuid

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour import chainterms, greys
from dimgrey.core.colour.chain import glass_chain, mixed_chain
from dimgrey.core.document.joining import named, touched
from dimgrey.core.document.plainform import document_of
from dimgrey.core.field import entry
from dimgrey.core.picture import lightmap, mapcodes, plaintables
from dimgrey.core.picture.display import FIRST, LAST, display_table
from dimgrey.core.picture.spot import read_spot
from dimgrey.core.planning.prints import curve_for
from tests.reference.planned import chains

SCENE = {
    "format": "dimgrey-scene",
    "version": 1,
    "title": "Kiln",
    "medium": {"kind": "film", "iso": 100},
    "tones": [
        {"name": "coal", "role": "shadow", "ev100": 8, "colour": [0.05, 0.05, 0.05]},
        {"name": "lime wall", "role": "highlight", "ev100": 14, "colour": [0.6, 0.58, 0.55]},
        {"name": "ivy", "role": "background", "ev100": 11, "colour": [0.06, 0.11, 0.04]},
    ],
    "placing": {"school": "shadow", "tone": "coal", "zone": 3},
}


def act(verb, number=1, **values):
    return {"verb": verb, "act": str(uuid.UUID(int=number)), "at": "2026-09-01T10:00:00+00:00", **values}


class Door(SimpleTestCase):
    def setUp(self):
        kit = {
            "labels": "zones",
            "terms": chainterms.packed(chains(SCENE)),
            "filters": [{"name": "Red, rim 8x", "values": {"glass": "red", "factor": 8}}],
            "setups": [],
            "items": {},
        }
        self.addCleanup(chainterms.drop)
        entry.lay_in(json.dumps(kit))
        entry.open_scene("1", json.dumps({"document": SCENE, "facts": None, "polarized": [], "sky": None}))

    def told(self, *acts, preview=None):
        return json.loads(entry.told("1", json.dumps({"acts": acts, "preview": preview})))

    def test_the_sheet_of_a_scene_as_it_was_carried(self):
        sheet = self.told()["sheet"]
        self.assertEqual(sheet["placed"], "coal on III")
        self.assertEqual([tone["mark"] for tone in sheet["tones"]], ["A", "B", "C"])
        self.assertEqual(sheet["choices"][0], "none")

    def test_a_stop_less_light_is_a_stop_more_time(self):
        before, after = self.told()["sheet"], self.told(act("shift", stops="-1"))["sheet"]
        self.assertEqual((before["exposure"]["shutter"], after["exposure"]["shutter"]), ("1/15", "1/8"))

    def test_acts_add_up_in_their_order_and_are_forgotten_when_they_are_not_asked_for(self):
        first, second = act("place", 1, mark="A", zone="4"), act("kit-filter", 2, filter="Red, rim 8x")
        self.assertEqual(self.told(first, second)["sheet"]["filter"], "red: 3 stops")
        self.assertEqual(self.told(first)["sheet"]["filter"], "None")
        self.assertEqual(self.told()["sheet"]["placed"], "coal on III")

    def test_a_preview_is_shown_and_not_remembered(self):
        seen = self.told(preview=act("place", mark="A", print="5"))
        self.assertTrue(seen["sheet"]["placed"].startswith("coal on V"))
        self.assertNotIn("document", seen)
        self.assertEqual(self.told()["sheet"]["placed"], "coal on III")

    def test_bad_acts_are_refused_with_a_sentence_and_change_nothing(self):
        before = self.told()["document"]
        for number, (values, sentence) in enumerate(
            (
                (act("place", mark="Z", zone="4"), "There is no tone Z"),
                (act("place", mark="A"), "Say the zone"),
                (act("place", mark="A", zone="14"), "0 to X"),
                (act("read", mark="A", reading="1/125"), "time without an aperture"),
                (act("read", mark="A", reading=""), "Type a reading"),
                (act("kit-filter", filter="pink"), "no filter “pink”"),
                (act("setup", setup="9"), "no such setup"),
                (act("fly"), "There is no act “fly”"),
                ({**act("shift", stops="-1"), "at": "yesterday"}, "yesterday"),
                (act("setting", lead="aperture", value="f/zz"), "f/zz"),
            )
        ):
            values = {**values, "act": str(uuid.UUID(int=number + 10))}
            with self.subTest(values["verb"], sentence=sentence):
                answer = self.told(values)
                self.assertIn(sentence, answer["refused"][values["act"]])
                self.assertEqual(answer["document"], before)

    def test_a_frame_changes_no_document(self):
        self.assertEqual(self.told(act("log", shutter="1/15"))["document"], self.told()["document"])

    def test_a_reading_of_one_tone_moves_the_others_when_the_light_changed(self):
        tones = self.told(act("read", mark="A", reading="7", others="on"))["sheet"]["tones"]
        self.assertEqual([tone["ev"] for tone in tones], ["7", "13", "10"])

    def test_a_chain_that_was_not_carried_is_said(self):
        glass_chain.cache_clear()
        chainterms.carry(chainterms.packed([("eye", "D55", ())]))
        entry.open_scene("1", json.dumps({"document": SCENE, "facts": None, "polarized": [], "sky": None}))
        self.assertIn("was not taken along", self.told()["sheet"]["wait"])


class Beginning(Door):
    """A scene that begins in the field, and the finder before it."""

    def test_a_fresh_scene_has_what_was_chosen(self):
        asked = {
            "title": "  Lime wall ",
            "kit": {"film": "none such"},
            "size": [60, 40],
            "shot": {"ev100": 13.0, "focal_35mm": 28},
        }
        more = {"choice": "orange", "view": {"heading_deg": 200, "tilt_deg": 5}}
        made = json.loads(entry.fresh(json.dumps({**asked, **more})))
        document = document_of(made["document"])
        self.assertEqual((document.title, document.view.heading_deg, document.view.tilt_deg), ("Lime wall", 200, 5))
        self.assertEqual([glass.name for glass in document.filters], ["orange"])
        self.assertEqual((made["facts"]["middle_grey_ev100"], made["facts"]["focal_35mm"]), (13.0, 28))
        self.assertEqual(made["sheet"]["exposure"], {})

    def test_without_a_title_it_is_called_new_scene(self):
        self.assertEqual(json.loads(entry.fresh(json.dumps({"title": " ", "kit": {}})))["title"], "New scene")

    def test_the_finder_has_the_tables_of_its_choice(self):
        ask = lambda **more: json.loads(entry.finder(json.dumps({"kit": {}, "choice": "none", "hard": False, **more})))
        plain, orange, hard = ask(), ask(choice="orange"), ask(hard=True)
        self.assertEqual(plain["choices"][0], "none")
        self.assertNotEqual(plain["nodes"], orange["nodes"])
        self.assertEqual((plain["grey"], plain["nodes"]), (orange["grey"], hard["nodes"]))
        self.assertNotEqual(plain["grey"], hard["grey"])


class Tables(SimpleTestCase):
    def test_greys_are_those_of_the_desk(self):
        for kind, step, tone, slope, look in (
            ("film", 0, (0, 0, 0), 1.0, "grey"),
            ("film", -2, (0, 0, 0), 1.3, "grey"),
            ("slide", 0, (0, 0, 0), 0.8, "hard"),
            ("digital file", 0, (0.5, -0.4, 0.2), 1.0, "grey"),
            ("digital raw", 0, (0, 0, 0), 1.0, "hard"),
        ):
            made = plaintables.grey_table(kind, step, tone, slope, look == "hard")
            here = np.frombuffer(made, np.uint8).astype(int)
            there = display_table(0.0, slope, curve_for(kind), step, look, tone)[FIRST:LAST].astype(int)
            with self.subTest(kind, step=step, tone=tone):
                self.assertEqual(np.abs(here - there).max(), 0)

    def test_stops_of_a_chain_are_those_of_the_desk(self):
        for chain in (
            glass_chain("general panchromatic", "D55", ("orange",)),
            mixed_chain("red"),
            mixed_chain("none", ((20.0, 1.0), (200.0, -1.0))),
        ):
            here = np.array(plaintables.node_stops(chain)).reshape(33, 33)
            np.testing.assert_allclose(here, greys.chain_nodes(chain), atol=1e-9)


class Spots(SimpleTestCase):
    def test_a_spot_of_the_map_is_that_of_the_picture_within_its_steps(self):
        y, x = np.mgrid[0:40, 0:60]
        light = 0.18 * 2.0 ** (3 * np.sin(x / 9) + np.cos(y / 7))
        linear = np.stack([light * 1.4, light, light * 0.7], axis=-1).astype(np.float32)
        planes = lightmap.unpacked(lightmap.packed(np.moveaxis(linear, -1, 0)))
        codes = np.moveaxis(planes, 0, -1)
        for column, row, radius in ((30, 20, 6.0), (2, 3, 4.0), (59, 39, 0.0)):
            seen = read_spot(linear, column, row, radius)
            here = mapcodes.spot_of_codes(codes.tobytes(), 60, column, row, radius)
            with self.subTest(column, row=row):
                self.assertAlmostEqual(here.mean_stops, seen.mean_stops, delta=0.01)
                self.assertAlmostEqual(here.spread_stops, seen.spread_stops, delta=0.02)
                np.testing.assert_allclose(here.colour, seen.colour, rtol=0.03)
                self.assertAlmostEqual(sum(here.shares), 1, places=3)

    def test_outside_is_refused(self):
        with self.assertRaisesMessage(ValueError, "outside the picture"):
            mapcodes.spot_of_codes(bytes(16), 2, 2, 0, 1.0)

    def test_what_is_sighted_on_the_phone_has_the_words_of_the_desk(self):
        chainterms.carry(chainterms.packed(chains(SCENE)))
        self.addCleanup(chainterms.drop)
        facts = {"width": 60, "height": 40, "focal_35mm": 50, "middle_grey_ev100": 12.0, "absolute": True}
        entry.open_scene("2", json.dumps({"document": SCENE, "facts": facts, "polarized": [], "sky": None}))
        grey = lightmap.unpacked(lightmap.packed(np.full((3, 4, 4), 0.18, np.float32)))
        codes = base64.b64encode(np.moveaxis(grey, 0, -1).tobytes()).decode()
        spot = {"codes": codes, "width": 4, "column": 1, "row": 1, "radius": 1}
        seen = json.loads(entry.sighted("2", json.dumps({"acts": [], "spot": spot, "y": 0.5, "sky": False})))
        self.assertEqual((seen["ev"], seen["pair"], seen["spread"]), ("EV 12", "1/60 f/8", "0.0"))


class Touched(SimpleTestCase):
    def test_tones_are_told_apart_by_their_letters_and_parts_by_their_names(self):
        before = document_of(SCENE)
        other = {**SCENE, "title": "Bottle kiln", "tones": [{**SCENE["tones"][0], "ev100": 9}, *SCENE["tones"][1:]]}
        keys = touched(before, document_of(other))
        self.assertEqual(keys, {"title", "tone A"})
        self.assertEqual(named(keys, before), "title, A coal")
        self.assertEqual(touched(before, before), frozenset())
