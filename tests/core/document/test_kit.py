"""What people own: notations, contradictions, the open format, and what a scene takes from it."""

import json
import math

from django.test import SimpleTestCase

from dimgrey.core.document import kit, kitfile
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.kituse import glass_of, with_kit
from dimgrey.core.document.scenefile import kept
from dimgrey.core.shapes.plain import plain_part
from tests.documents import document


def mistakes_of(kind, **values):
    try:
        kit.check(kind, values)
    except kit.KitError as refused:
        return refused.mistakes
    return []


class Items(SimpleTestCase):
    def test_what_was_checked_once_is_the_same_when_it_is_checked_again(self):
        """As an archive does: values that came out go in as they were, 6400 as 6400 and 36.0 as 36.0."""
        for kind, fields in kit.FIELDS.items():
            usual = {
                field.name: field.default for field in fields if field.form == "number" and field.default is not None
            }
            once = kit.check(kind, usual)
            self.assertEqual(
                {name: repr(once[name]) for name in usual}, {name: repr(usual[name]) for name in usual}, kind
            )

    def test_defaults_make_a_whole_item_of_each_kind(self):
        for kind in kit.KINDS:
            values = kit.check(kind, {})
            self.assertEqual(set(values), {field.name for field in kit.FIELDS[kind]})
            self.assertEqual(kit.check(kind, values), values, "checked values are checked again to themselves")

    def test_people_write_as_they_do(self):
        film = kit.check("film", {"development": "N-2 5:30 +⅔, N-1 7 +1/3, N 9; N+1 12 -1/3", "table": "4:6, 15:30"})
        self.assertEqual(film["development"][0], {"step": -2, "minutes": 5.5, "stops": 0.6667})
        self.assertEqual([row["step"] for row in film["development"]], [-2, -1, 0, 1])
        self.assertEqual(film["table"], [[4, 6], [15, 30]])
        camera = kit.check("camera", {"shutter_min": "1/4000", "shutter_max": "30s", "headroom": "3⅓"})
        self.assertEqual((camera["shutter_min"], camera["shutter_max"]), ("1/4000", "30s"))
        self.assertAlmostEqual(camera["headroom"], 10 / 3, places=3)
        self.assertEqual(kit.check("lens", {"f_min": "f2.8"})["f_min"], "f/2.8")

    def test_contradictions_and_typos_are_named_with_their_field(self):
        for kind, values, sentence in (
            ("lens", {"focal_min_mm": 70, "focal_max_mm": 24}, "focal_max_mm: the longest focal length (24 mm) is below the shortest (70 mm)."),
            ("lens", {"f_min": "f/8", "f_max": "f/4"}, "f_max: the smallest aperture must have a larger number than f/8."),
            ("camera", {"headroom": 0}, "headroom: Headroom, middle to clipping is 0.5 to 10 stops (got 0)."),
            ("camera", {"shutter_min": "1s", "shutter_max": "1/60"}, "shutter_max: the longest time must be longer than 1s."),
            ("camera", {"increment": "quarter"}, 'increment: must be "full", "half" or "third" (got "quarter").'),
            ("film", {"table": "4:6, 2:30"}, "table: A reciprocity table must rise in both columns"),
            ("film", {"table": "four"}, "table: is written 4:6, 15:30"),
            ("film", {"development": "N-1 9, N 8"}, "development: Development times must rise from N- to N+"),
            ("film", {"development": "shorter"}, "development: “shorter” is not a development. Write N-1 8 +1/3"),
            ("film", {"dependable_low": 8, "dependable_high": 4}, "dependable_low: The dependable zones 8 to 4"),
            ("film", {"iso": "130"}, "iso: ISO 130 is not a marked value."),
            ("filter", {"glass": "nd"}, "stops: a neutral-density filter needs its stops or its factor."),
            ("filter", {"glass": "purple"}, "glass: must be \"light yellow\""),
            ("meter", {"spot_deg": "wide"}, "spot_deg: Spot is a number (got wide)."),
            ("meter", {"colour": "red"}, "colour: unknown key. Known here: measures"),
            ("boat", {}, "kind: must be one of camera, lens, film, filter, meter, surface (got boat)."),
        ):  # fmt: skip
            with self.subTest(sentence):
                found = mistakes_of(kind, **values)
                self.assertEqual(len(found), 1, found)
                self.assertIn(sentence, found[0])


class IntoTheScene(SimpleTestCase):
    def document(self, before=None, **items):
        items = {kind: kit.item_of(kind, f"my {kind}", kit.check(kind, values)) for kind, values in items.items()}
        made = with_kit(document(**{"medium": {"kind": "film", "iso": 100}, **(before or {})}), **items)
        kept(made)
        return made

    def test_film_camera_lens_and_meter_make_a_whole_scene(self):
        document = self.document(
            camera={
                "frame_width_mm": 121,
                "frame_height_mm": 97,
                "increment": "half",
                "shutter_max": "1s",
                "shutter_min": "1/500",
            },
            lens={"focal_min_mm": 150, "focal_max_mm": 150, "f_min": "f/5.6", "f_max": "f/45"},
            film={"iso": 80, "exponent": 1.26, "development": "N-1 7 +1/3, N 9"},
            meter={"spot_deg": 1, "constant": 14, "calibration_stops": 0.2},
        )
        scene = brief_of(document)
        self.assertEqual(scene.increment, "half")
        self.assertAlmostEqual(scene.medium.iso, 100 * 2 ** (-1 / 3), places=6)
        self.assertEqual([row.step for row in scene.medium.developments], [-1, 0])
        self.assertAlmostEqual(scene.limits.f_max, 45.25, delta=0.1)
        self.assertAlmostEqual(document.lens.focal_35mm, 41.8, delta=0.3)
        self.assertAlmostEqual(document.meter.calibration_stops, 0.2 + math.log2(14 / 12.5), places=3)
        self.assertEqual(
            plain_part(document.kit), {"camera": "my camera", "lens": "my lens", "film": "my film", "meter": "my meter"}
        )

    def test_a_sensor_brings_its_own_headroom_protection_and_spot(self):
        document = self.document(
            camera={"senses": "colour sensor", "headroom": 3.0, "protection_stops": 1, "spot_percent": 2.5},
            lens={"focal_min_mm": 50, "focal_max_mm": 50},
        )
        self.assertEqual((document.medium.kind, document.medium.headroom), ("digital raw", 4.0))
        # 2.5 % of 864 mm2 is a disc of 2.62 mm radius; behind 50 mm it spans 6 degrees.
        self.assertAlmostEqual(document.meter.spot_deg, 6.0, delta=0.05)

    def test_limits_per_speed_follow_the_speed_in_use(self):
        camera = {"senses": "colour sensor", "limits_per_iso": "100: 3/4, 400: 3/3"}
        for iso, low in ((50, 1), (100, 1), (200, 1.5), (3200, 2)):
            document = self.document({"medium": {"kind": "digital raw", "iso": iso}}, camera=camera)
            outer = brief_of(document).medium.outer
            self.assertAlmostEqual(outer[0], low, delta=0.01, msg=f"ISO {iso}")
            self.assertAlmostEqual(outer[1], 8, msg=f"ISO {iso}")

    def test_limits_per_speed_are_checked(self):
        for given, said in (
            ("400: 3/4, 100: 3/4", "Speeds must rise"),
            ("100: 0/4", "Headroom is 0.5 to 10 stops"),
            ("100: 3", "is written 100: 3.3/4"),
            ("much", "is written 100: 3.3/4"),
            (["x"], "is written 100: 3.3/4"),
        ):
            with self.subTest(given), self.assertRaisesMessage(kit.KitError, said):
                kit.check("camera", {"limits_per_iso": given})

    def test_film_is_left_out_of_a_sensor_and_the_rest_of_a_scene_stays(self):
        document = self.document(
            before={"camera": {"aperture": "f/11"}}, camera={"senses": "monochrome sensor"}, film={}
        )
        self.assertEqual(document.medium.response, "monochrome sensor")
        self.assertEqual(document.camera.aperture, "f/11")

    def test_filters_keep_what_is_printed_on_them(self):
        for values, expected in (
            ({"glass": "orange", "factor": 4}, {"name": "orange", "factor": 4.0}),
            ({"glass": "yellow"}, {"name": "yellow"}),
            ({"glass": "nd", "stops": 10}, {"name": "nd", "stops": 10.0}),
            ({"glass": "nd", "factor": 8}, {"name": "nd", "factor": 8.0}),
            ({"glass": "polarizer"}, {"name": "polarizer", "stops": 1.3333}),
        ):
            item = kit.item_of("filter", "x", kit.check("filter", values))
            self.assertEqual(plain_part(glass_of(item)), expected)


class OpenFormat(SimpleTestCase):
    def test_it_goes_out_and_comes_in_the_same(self):
        items = [(kind, f"my {kind}", kit.check(kind, {}), kind == "film") for kind in kit.KINDS]
        self.assertEqual(kitfile.load(kitfile.text_of(items)), items)

    def test_mistakes_are_named_by_path(self):
        text = lambda items: json.dumps({"format": "dimgrey-kit", "version": 1, "items": items})
        for written, sentence in (
            (text([{"kind": "lens", "name": "a", "f_min": "f/7.5"}]), "items[0].f_min: f/7.5 is not a marked value."),
            (text([{"kind": "lens"}]), "items[0].name: missing."),
            (text([{"kind": "lens", "name": "a", "colour": 1}]), "items[0].colour: unknown key."),
            (text([{"kind": "lens", "name": "a"}] * 10_000), "items: must have at most 2000 items (got 10000)."),
            (text("many"), 'items: must be a list (got "many").'),
            ("{", "It is not JSON"),
            ('{"format": "dimgrey-kit", "version": 3}', "version: this program reads versions 1 and 2 (got 3)."),
            ("[" * 100_000, "It holds lists within lists"),
        ):
            with self.subTest(sentence), self.assertRaises(kit.KitError) as caught:
                kitfile.load(written)
            self.assertIn(sentence, caught.exception.mistakes[0])
