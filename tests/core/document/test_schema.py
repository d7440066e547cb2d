"""The shapes that the model says: what just fits and what just does not, the tables they repeat, the schema they become."""

import json
import random
from io import StringIO
from pathlib import Path

import jsonschema_rs
from django.core.management import CommandError, call_command
from django.test import SimpleTestCase

from dimgrey.core.camera.setups import FILES
from dimgrey.core.colour.chain import LIGHTS
from dimgrey.core.document import kitfile, means, model, scenefile, setupfile, tones
from dimgrey.core.document.kitfile import KIT
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.setupfile import SETUP
from dimgrey.core.errors import CoreError
from dimgrey.core.finishing.finishingplan import FINISH
from dimgrey.core.shapes.check import DocumentError
from tests.core.shapes.test_format import narrowings
from tests.reference.random_scenes import random_scene

KEYS = SCENE.schema(3)["properties"]
REFERENCE = Path(__file__).parents[2] / "reference"

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
        SCENE.check({"format": "dimgrey-scene", "version": 3, **made})
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
        SCENE.check(plain(model.Document()))

    def test_tables_that_are_written_twice_are_alike(self):
        self.assertEqual(tuple(KEYS["light"]["enum"]), LIGHTS)
        self.assertEqual(tuple(KEYS["setup"]["properties"]["file"]["enum"]), FILES)


class Published(SimpleTestCase):
    """Files are out there: what a version took when it was published it takes for good. More it may take, less it may not."""

    def test_a_version_takes_what_it_took_when_it_was_published(self):
        for found in (SCENE, KIT, SETUP, FINISH):
            for version in found.versions:
                path = REFERENCE / f"{found.name}-{version}.schema.json"
                kept = json.loads(path.read_text(encoding="utf-8"))
                self.assertEqual(list(narrowings(kept, found.schema(version))), [], f"{found.name} {version}")

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
        for found in (SCENE, KIT, SETUP, FINISH):
            for version in found.versions:
                made = found.schema(version)
                jsonschema_rs.meta.validate(made)
                out = StringIO()
                call_command("schema", found.name, version_of_file=version, stdout=out)
                self.assertEqual(json.loads(out.getvalue()), made)

    def test_a_version_that_is_not_there(self):
        with self.assertRaisesMessage(CommandError, "There is no version 9 of the kit file; known: 1, 2."):
            call_command("schema", "kit", version_of_file=9)

    def test_what_a_key_is_for_is_said_beside_its_shape(self):
        self.assertEqual(KEYS["filters"]["items"]["properties"]["factor"]["description"],
                         "As printed on it; wins over the computed one.")  # fmt: skip
        self.assertEqual(SCENE.schema(3)["required"], ["format", "version"])

    def test_the_program_takes_what_its_printed_schema_takes(self):
        """Against a validator of another hand: files that fit, and files broken at one place."""
        says = jsonschema_rs.validator_for(SCENE.schema())
        taken = refused = 0
        for seed in range(60):
            rng = random.Random(f"schema {seed}")
            good = plain(document_of(random_scene(random.Random(9100 + seed))))
            for data in (good, *(broken(good, rng) for _ in range(12))):
                fits = not list(SCENE._mistakes(data))
                self.assertEqual(fits, says.is_valid(data), data)
                taken, refused = taken + fits, refused + (not fits)
        self.assertGreater(taken, 100)
        self.assertGreater(refused, 200)


def broken(data, rng):
    """A copy of plain values with one thing in them changed."""
    made = json.loads(json.dumps(data))
    at = made
    while True:
        names = list(at) if isinstance(at, dict) else list(range(len(at)))
        if not names:
            return made
        name = rng.choice(names)
        if isinstance(at[name], dict | list) and at[name] and rng.random() < 0.8:
            at = at[name]
            continue
        at[name] = rng.choice((None, -1e9, 1e9, 3.5, "", "x" * 200, True, [], {}, ["a", "b"], [0.1, 0.2], at[name]))
        if isinstance(at, dict) and rng.random() < 0.2:
            at["soup"] = 1
        return made
