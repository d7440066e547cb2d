"""The open scene format: the worked example, its mistakes in sentences, and the schema."""

import json

from django.test import SimpleTestCase
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document import scenefile
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.tonebriefing import linear_colour
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.shapes.check import DocumentError
from tests.documents import HEAD, brief

EXAMPLE = {
    "format": "dimgrey-scene", "version": 1, "title": "Bottle kiln, west side", "increment": "third", "light": "D55",
    "light_note": "sun",
    "medium": {"kind": "film", "iso": 125, "response": "general panchromatic", "dependable": [3, 7], "outer": [2, 8],
               "reciprocity": {"exponent": 1.26, "onset_s": 1}},
    "meter": {"kind": "spot", "calibration_stops": 0},
    "tones": [
        {"name": "kiln mouth", "role": "shadow", "ev100": 8.3},
        {"name": "lime wall", "role": "highlight", "readings": [{"shutter": "1/500", "aperture": "f/16", "iso": 125}]},
        {"name": "ivy", "role": "background", "ev100": 12, "colour": [0.06, 0.11, 0.04]},
    ],
    "placing": {"school": "shadow", "tone": "kiln mouth", "zone": 3, "hold": "before filter"},
    "filters": [{"name": "orange"}, {"name": "nd", "stops": 3}],
    "lens": {"focal_mm": 50, "magnification": 0},
    "camera": {"aperture": "f/16"},
}  # fmt: skip

MISTAKES = [
    # what goes in beside format and version, the sentence that comes out
    ({"tons": []}, "tons: unknown key. Known here: format, version, title, intent, wanted, view, crop, pairs, notes, increment, light, light_note, medium, meter, tones, placing, filters, lens, camera, bracket, needs, kit, setup."),
    ({"version": 4, "sky": {"area": "drawn"}}, "sky.outline: An outline has 3 to 60 corners (got 0)."),
    ({"version": 4, "sky": {"area": "drawn", "outline": [[0, 0], [1, 1]]}}, "sky.outline: An outline has 3 to 60 corners (got 2)."),
    ({"version": 4, "sky": {"area": "everywhere"}}, 'sky.area: must be "found", "none" or "drawn" (got "everywhere").'),
    ({"version": 7}, "version: this program reads versions 1, 2, 3, 4, 5 and 6 (got 7)."),
    ({"format": "other"}, 'format: must be "dimgrey-scene" (got "other").'),
    ({"tones": [{"ev100": 5}]}, "tones[0].name: missing."),
    ({"tones": [{"name": "a", "nam": 1}]}, "tones[0].nam: unknown key. Known here: name, mark, role, ev100, readings, colour, texture, at."),
    ({"tones": {}}, "tones: must be a list (got {})."),
    ({"tones": [{"name": 5}]}, "tones[0].name: must be text (got 5)."),
    ({"tones": [{"name": "a", "role": "hero"}]}, 'tones[0].role: must be "shadow", "highlight", "subject", "background", "sky", "skin" or "other" (got "hero").'),
    ({"tones": [{"name": "a", "ev100": 40}]}, "tones[0].ev100: EV 40 is outside what a meter reads in a scene (−6 to 20). Sunlit ground is about 15, a lamplit room 6."),
    ({"tones": [{"name": "a", "ev100": "bright"}]}, "tones[0].ev100: “bright” is not a number of stops. Write 12.3, 12 1/3 or 12⅓."),
    ({"tones": [{"name": "a"}, {"name": "a"}]}, "tones[1].name: “a” is used twice. Give each tone a name of its own."),
    ({"tones": [{"name": "a", "readings": [{"shutter": "1/0", "aperture": "8"}]}]}, "tones[0].readings[0]: Exposure time must be more than 0 s (got 1/0). For 1/125 s write 1/125."),
    ({"tones": [{"name": "a", "readings": [{"shutter": "1/60"}]}]}, "tones[0].readings[0]: A reading needs ev100, or shutter and aperture (aperture missing)."),
    ({"tones": [{"name": "a", "at": [0.5, 1.5]}]}, "tones[0].at[1]: must be at most 1 (got 1.5)."),
    ({"tones": [{"name": "a", "colour": [1, 2]}]}, "tones[0].colour: not one of the forms it can have (got [1, 2])."),
    ({"placing": {"zone": 12}}, "placing.zone: A tone can be placed on zones 0 to X (got 12). III keeps a shadow's texture, VII a highlight's."),
    ({"placing": {"tone": "q"}}, "placing.tone: there is no tone “q”. Known: none yet."),
    ({"filters": [{"name": "nd"}]}, "filters[0]: a neutral-density filter needs its stops or its factor."),
    ({"filters": [{"name": "oragne"}]}, "filters[0].name: There is no filter “oragne”. Did you mean orange or yellow-orange?"),
    ({"filters": [{"name": "red", "factor": 0}]}, "filters[0].factor: must be at least 1 (got 0)."),
    ({"medium": {"kind": "film", "iso": 130}}, "medium.iso: ISO 130 is not a marked value. Nearest: ISO 125 or ISO 160."),
    ({"medium": {"kind": "film", "dependable": [7, 3]}}, "medium: The dependable zones 7 to 3 must lie within the outer zones 2 to 8."),
    ({"medium": {"kind": "film", "reciprocity": {}}}, "medium.reciprocity: needs an exponent or a table."),
    ({"camera": {"aperture": "f/7.5"}}, "camera.aperture: f/7.5 is not a marked value. Nearest: f/7.1 or f/8."),
    ({"camera": {"apertures": ["f/16", "f/2"]}}, "camera.apertures: the first must be below the second."),
    ({"meter": {"through_filter": "yes"}}, 'meter.through_filter: must be true or false (got "yes").'),
]  # fmt: skip


def mistakes_of(document):
    try:
        scenefile.load(json.dumps(document))
    except DocumentError as refused:
        return refused.mistakes
    return []


def planned(document):
    result = plan(brief_of(document))
    return plan_as_json(result, cautions_of(result))


class Example(SimpleTestCase):
    def test_the_plan_of_the_documented_example(self):
        # By hand: 8.3 + 5 - 3 = 10.3; orange 1.52 and 3 stops; f/16, ISO 126: 256 / (1.26 * 2**5.78) = 3.70 s.
        result = planned(scenefile.load(json.dumps(EXAMPLE)))
        self.assertAlmostEqual(result["setting_ev100"], 10.3, delta=0.01)
        self.assertAlmostEqual(result["exposure_ev100"], 5.78, delta=0.01)
        self.assertAlmostEqual(result["filter_stops"], 4.52, delta=0.01)
        self.assertEqual((result["aperture"], result["shutter"]), ("f/16", "4 s"))
        self.assertAlmostEqual(result["shutter_seconds"], 3.70, delta=0.01)
        self.assertAlmostEqual(result["corrected_seconds"], 5.2, delta=0.05)
        self.assertAlmostEqual(result["range_stops"], 8.37, delta=0.01)
        self.assertIsNone(result["development"])
        self.assertEqual(
            result["tones"][0],
            {
                "name": "kiln mouth",
                "role": "shadow",
                "ev100": 8.3,
                "zone": 3.0,
                "zone_after_filter": 3.0,
                "fall": 3.0,
                "print": 3.0,
                "beyond_paper": 0,
                "wish": None,
                "texture": "full",
                "needs_texture": True,
                "held": 3.0,
                "shift_error_stops": 0.0,
            },
        )
        self.assertIn(("range-exceeds-medium", "lime wall"), [(c["code"], c["tone"]) for c in result["cautions"]])

    def test_calibration_is_added_to_readings_and_not_to_corrected_values(self):
        document = {
            **HEAD,
            "meter": {"calibration_stops": 0.5},
            "tones": [{"name": "a", "ev100": 9}, {"name": "b", "readings": [{"ev100": 9}]}],
        }
        scene = brief(document)
        self.assertEqual([tone.evs for tone in scene.tones], [(9,), (9.5,)])

    def test_what_a_meter_said_wins_over_the_picture(self):
        readings = [{"kind": "picture", "ev100": 12.0}, {"ev100": 13.0}, {"ev100": 14.0}]
        scene = brief({**HEAD, "tones": [{"name": "a", "readings": readings}]})
        self.assertEqual(scene.tones[0].evs, (13.0, 14.0))

    def test_hex_colours_are_decoded_to_linear_light(self):
        self.assertAlmostEqual(linear_colour("#bcbcbc")[0], 0.5029, places=3)

    def test_a_polarizer_has_its_usual_cost_unless_said(self):
        scene = brief({**HEAD, "filters": [{"name": "polarizer"}, {"name": "polarizer", "stops": 2}]})
        self.assertEqual([round(g.stops, 3) for g in scene.filters], [1.333, 2])


class Mistakes(SimpleTestCase):
    def test_each_mistake_has_one_line_with_its_path(self):
        for parts, sentence in MISTAKES:
            with self.subTest(parts=parts):
                self.assertEqual(mistakes_of({**HEAD, **parts}), [sentence])

    def test_all_mistakes_are_named_at_once(self):
        self.assertEqual(len(mistakes_of({**HEAD, "x": 1, "y": 2, "tones": [{"nme": "a"}]})), 4)

    def test_what_is_not_json_or_too_large_is_refused(self):
        cases = [
            "",
            "{",
            "[]",
            "NaN",
            '{"version": NaN}',
            "[" * 100000,
            '{"format": "dimgrey-scene", "title": "' + "x" * 1_100_000 + '"}',
        ]
        for text in cases:
            with self.subTest(text=text[:20]), self.assertRaises(DocumentError):
                scenefile.load(text)
        with self.assertRaises(DocumentError) as refused:
            scenefile.load(json.dumps({**HEAD, "notes": "x" * 10_000_000}))
        self.assertEqual(
            refused.exception.mistakes, ["The file has 10.0 MB; a scene file holds at most 1 MB. Split it."]
        )

    @settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow], deadline=None)
    @given(st.recursive(st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False, allow_infinity=False) | st.text(max_size=8),
                        lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(["name", "ev100", "tones", "kind", "zone", "x"]), inner, max_size=3),
                        max_leaves=8),
           st.sampled_from(["tones", "medium", "placing", "filters", "camera", "lens", "meter", "title"]))  # fmt: skip
    def test_no_value_breaks_the_reader(self, value, key):
        for line in mistakes_of({**HEAD, key: value}):
            self.assertTrue(line.startswith((key, "The file cannot be read. ")), line)
