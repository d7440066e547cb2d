"""The shapes that the model says: what just fits and what just does not, the tables they repeat, the schema they become."""

import json
from io import StringIO
from pathlib import Path

from django.core.management import CommandError, call_command
from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from dimgrey.core.camera.setups import FILES
from dimgrey.core.colour.chain import CHANNEL_MIXES, LIGHTS
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.document import kitfile, lighting, means, model, scenefile, setupfile, tones
from dimgrey.core.document.plainform import plain
from dimgrey.core.document.schema import READABLE, DocumentError, check_shape, schema
from dimgrey.core.document.upgrade import VERSION
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps import adviser
from dimgrey.core.picture.measures import SCALES
from dimgrey.core.planning.brief import ROLES
from dimgrey.core.planning.media import KINDS
from dimgrey.core.sky.light import WANTS

SCENE = schema("scene", 3)["properties"]

# path of a key, what just fits, what just does not
LIMITS = [
    ("title", "x" * 120, "x" * 121),
    ("intent", "x" * 600, "x" * 601),
    ("notes", "x" * 4000, "x" * 4001),
    ("wanted.mood", "x" * 200, "x" * 201),
    ("wanted.lights", ["low"] * 12, ["low"] * 13),
    ("view.heading_deg", 360, 360.1),
    ("view.heading_deg", 0, -0.1),
    ("view.tilt_deg", -90, -90.1),
    ("view.time", "23:59", "24:00"),
    ("pairs", [["a", "b"]] * 8, [["a", "b"]] * 9),
    ("pairs", [["a", "b"]], [["a", "b", "c"]]),
    ("medium", {"kind": "film", "dependable": [0, 10]}, {"kind": "film", "dependable": [0, 10.1]}),
    ("medium", {"kind": "film", "headroom": 0.1}, {"kind": "film", "headroom": 0.09}),
    ("medium", {"kind": "film", "footroom": 15}, {"kind": "film", "footroom": 15.1}),
    ("medium", {"kind": "film", "limits_per_iso": [[100, 3, 5]]}, {"kind": "film", "limits_per_iso": []}),
    ("medium", {"kind": "film", "channel_mix": [-5, 1, 5]}, {"kind": "film", "channel_mix": [-5.1, 1, 5]}),
    ("medium", {"kind": "film", "development": [{"step": -4}]}, {"kind": "film", "development": [{"step": -5}]}),
    ("medium", {"kind": "film", "development": [{"step": 4}]}, {"kind": "film", "development": [{"step": 0.5}]}),
    ("medium", {"kind": "film", "development": [{"step": 0}] * 9}, {"kind": "film", "development": [{"step": 0}] * 10}),
    ("medium", {"kind": "film", "reciprocity": {"exponent": 2}}, {"kind": "film", "reciprocity": {"exponent": 2.1}}),
    ("medium", {"kind": "film", "reciprocity": {"onset_s": 0.001}}, {"kind": "film", "reciprocity": {"onset_s": 0}}),
    ("medium", {"kind": "film"}, {}),
    ("medium", {"kind": "film", "developed": -4}, {"kind": "film", "developed": -5}),
    ("medium", {"kind": "film", "developed": 4}, {"kind": "film", "developed": 0.5}),
    ("placing.hold", "in the print", "on the print"),
    ("meter.calibration_stops", -3, -3.1),
    ("meter.spot_deg", 0.1, 0.09),
    ("meter.spot_deg", 30, 30.1),
    ("tones", [{"name": "a", "mark": "AZ"}], [{"name": "a", "mark": "AZA"}]),
    ("tones", [{"name": "x" * 60, "mark": "A"}], [{"name": "x" * 61, "mark": "A"}]),
    ("tones", [{"name": "a", "mark": "A"}] * 40, [{"name": "a", "mark": "A"}] * 41),
    ("tones", [{"name": "a", "mark": "A"}], [{"name": "a"}]),
    ("tones", [{"name": "a", "mark": "A"}], [{"name": "", "mark": "A"}]),
    ("tones", [{"name": "a", "mark": "A", "colour": "#0a0B0c"}], [{"name": "a", "mark": "A", "colour": "#0a0B0"}]),
    ("tones", [{"name": "a", "mark": "A", "colour": [-16, 0, 0]}], [{"name": "a", "mark": "A", "colour": [-17, 0, 0]}]),
    ("placing.under_stops", 3, 3.1),
    ("placing.zone", "x" * 16, "x" * 17),
    ("filters", [{"name": "a"}] * 6, [{"name": "a"}] * 7),
    ("filters", [{"name": "a", "factor": 1}], [{"name": "a", "factor": 0.9}]),
    ("filters", [{"name": "a", "stops": 20}], [{"name": "a", "stops": 20.1}]),
    ("filters", [{"name": "a", "points": [[1, 1]] * 3}], [{"name": "a", "points": [[1, 1]] * 2}]),
    ("lens.focal_mm", 1, 0.9),
    ("lens.focal_35mm", 5000, 5001),
    ("lens.magnification", 20, 21),
    ("camera.frame_mm", [3, 300], [2.9, 300]),
    ("camera.iso_max", 25, 24),
    ("camera.hand_factor", 0.5, 0.4),
    ("camera.stabiliser_stops", 9, 9.1),
    ("camera.apertures", ["f/2", "f/16"], ["f/2"]),
    ("camera.shutter", "x" * 24, "x" * 25),
    ("bracket", {"count": 7, "step": 2}, {"count": 7, "step": 2.1}),
    ("bracket", {"count": 3, "step": 0.3}, {"count": 4, "step": 0.3}),
    ("bracket", {"count": 3, "step": 1}, {"count": 3}),
    ("needs.near_m", 0.01, 0.009),
    ("needs.speed_m_s", 1000, 1001),
    ("kit.lens", "x" * 60, "x" * 61),
    ("setup", {"name": "a", "effects": {"contrast": -1}}, {"name": "a", "effects": {"contrast": -1.1}}),
    ("setup", {"name": "a", "revision": 1}, {"name": "a", "revision": 0}),
    ("setup", {"name": "a", "protection_stops": 3}, {"name": "a", "protection_stops": 3.1}),
    ("crop", {"box": [0, 0, 1, 1]}, {"box": [0, 0, 1, 1.1]}),
    ("crop", {"box": [0, 0, 1, 1]}, {"box": [0, 0, 1]}),
    ("place", {"latitude_deg": 90, "longitude_deg": -180}, {"latitude_deg": 90.1, "longitude_deg": -180}),
    ("place", {"latitude_deg": 0, "longitude_deg": 0}, {"latitude_deg": 0}),
]  # fmt: skip
READING_LIMITS = [
    ("note", "x" * 120, "x" * 121),
    ("taken_at", "x" * 40, "x" * 41),
    ("calibration_stops", 3, 3.1),
    ("low_ev100", -40, -41),
    ("stops", 40, 41),
    ("clipped", 1, 1.1),
    ("shift", -20, -21),
]


def fits(path, value):
    """Whether a scene that says only this fits its schema."""
    *above, last = path.split(".")
    made = {last: value}
    for name in reversed(above):
        made = {name: made}
    try:
        check_shape({"format": "dimgrey-scene", "version": 3, **made}, "scene")
    except DocumentError:
        return False
    return True


class Shapes(SimpleTestCase):
    def test_limits(self):
        for path, fitting, beyond in LIMITS:
            with self.subTest(path=path, fitting=str(fitting)[:60]):
                self.assertTrue(fits(path, fitting))
                self.assertFalse(fits(path, beyond), str(beyond)[:60])

    def test_limits_of_a_reading(self):
        for name, fitting, beyond in READING_LIMITS:
            with self.subTest(name=name):
                self.assertTrue(fits("tones", [{"name": "a", "mark": "A", "readings": [{name: fitting}]}]))
                self.assertFalse(fits("tones", [{"name": "a", "mark": "A", "readings": [{name: beyond}]}]))
        self.assertTrue(fits("tones", [{"name": "a", "mark": "A", "readings": [{}] * 40}]))
        self.assertFalse(fits("tones", [{"name": "a", "mark": "A", "readings": [{}] * 41}]))

    def test_a_document_that_says_nothing_fits(self):
        check_shape(plain(model.Document()), "scene")

    def test_tables_that_are_written_twice_are_alike(self):
        self.assertEqual(means.MEDIA, tuple(KINDS))
        self.assertEqual((*means.RESPONSES, "eye"), RESPONSES)  # what the meter sees is no medium
        self.assertEqual(means.MIXES, tuple(CHANNEL_MIXES))
        self.assertEqual(model.SCALES, SCALES)
        self.assertEqual(model.LIGHTS_WANTED, tuple(WANTS))
        self.assertEqual(tones.ROLES, ROLES)
        self.assertEqual(lighting.GROUND_WISHES, adviser.WISHES)
        self.assertEqual(tuple(SCENE["light"]["enum"]), LIGHTS)
        self.assertEqual(tuple(SCENE["setup"]["properties"]["file"]["enum"]), FILES)


class Published(SimpleTestCase):
    def test_a_version_asks_tomorrow_what_it_asked_when_it_was_published(self):
        """Files are out there: a key, a limit or a default of a version stays; what must change is a version more."""
        kept = json.loads((Path(__file__).parents[2] / "reference" / "scene-6.schema.json").read_text(encoding="utf-8"))
        self.assertEqual(schema("scene", VERSION), kept)

    def test_what_is_not_said_means_tomorrow_what_it_meant(self):
        told = model.Document()
        self.assertEqual((told.increment, told.light, told.medium.kind, told.medium.iso), ("third", "D55", "film", 100))
        self.assertEqual((told.meter.kind, told.meter.spot_deg, told.meter.calibration_stops), ("spot", 1.0, 0.0))
        self.assertEqual((told.placing.hold, told.placing.white, told.placing.shadows), (None, "textured", "full"))
        camera = told.camera
        self.assertEqual(
            (camera.frame_mm, camera.iso_max, camera.hand_factor, camera.stabiliser_stops),
            ((36.0, 24.0), 6400.0, 1.0, 0.0),
        )
        self.assertEqual((means.DEFAULT_FOCAL_35MM, means.ReciprocityPart().onset_s), (50.0, 1.0))
        self.assertEqual((tones.Reading().kind, tones.Reading().iso, tones.Reading().shift), ("spot", 100, 0.0))

    def test_the_largest_file_of_each_kind(self):
        for read, most in ((scenefile.load, 1_000_000), (kitfile.load, 4_000_000), (setupfile.load, 200_000)):
            with self.assertRaises(CoreError) as small:
                read(" " * most)
            self.assertIn("not JSON", str(small.exception))
            with self.assertRaises(CoreError) as large:
                read(" " * (most + 1))
            self.assertIn(f"at most {most / 1e6:g} MB", str(large.exception))


class Printed(SimpleTestCase):
    def test_every_schema_is_one_and_is_printed(self):
        for name, versions in READABLE.items():
            for version in versions:
                made = schema(name, version)
                Draft202012Validator.check_schema(made)
                out = StringIO()
                call_command("schema", name, version_of_file=version, stdout=out)
                self.assertEqual(json.loads(out.getvalue()), made)

    def test_a_version_that_is_not_there(self):
        with self.assertRaisesMessage(CommandError, "There is no version 9 of the kit file; known: 1, 2."):
            call_command("schema", "kit", version_of_file=9)

    def test_what_a_key_is_for_is_said_beside_its_shape(self):
        self.assertEqual(SCENE["filters"]["items"]["properties"]["factor"]["description"],
                         "As printed on it; wins over the computed one.")  # fmt: skip
        self.assertEqual(schema("scene", 3)["required"], ["format", "version"])
