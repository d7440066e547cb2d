"""What was kept in version 1 opens as version 2, and its plan stays the same to the last digit."""

import json
from pathlib import Path

from django.test import SimpleTestCase

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document import kitfile, scenefile, setupfile
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.read import brief_of
from dimgrey.core.document.schema import DocumentError
from dimgrey.core.document.upgrade import VERSION, upgraded
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json

KEPT = Path(__file__).resolve().parents[2] / "reference" / "version1"
NOW_GIVEN = {"filters-stacked"}
"""Cautions that were documented in version 1 and never given; they are a fault that was mended."""


def planned(document):
    result = plan(brief_of(document))
    return json.loads(json.dumps(plan_as_json(result, cautions_of(result))))


def as_before(told):
    """A plan with its cautions in an order of their own, and without those that are given only now."""
    cautions = [each for each in told["cautions"] if each["code"] not in NOW_GIVEN]
    return {**told, "cautions": sorted(cautions, key=lambda c: (c["code"], c["tone"] or "", c["text"]))}


class Version1(SimpleTestCase):
    def test_every_kept_scene_file_gives_the_plan_it_gave(self):
        scenes = json.loads((KEPT / "plans.json").read_text(encoding="utf-8"))
        self.assertEqual(len(scenes), 60)
        for k, kept in enumerate(scenes):
            with self.subTest(k):
                loaded = scenefile.load(json.dumps(kept["scene"]))
                self.assertEqual(as_before(planned(loaded)), as_before(kept["plan"]))
                again = scenefile.load(scenefile.text_of(loaded))
                self.assertEqual(again, loaded)

    def test_kit_and_setup_files_open(self):
        items = kitfile.load((KEPT / "kit.json").read_text(encoding="utf-8"))
        self.assertEqual(len(items), 18)
        self.assertEqual(
            json.loads(kitfile.text_of(items)), json.loads((KEPT / "kit.json").read_text(encoding="utf-8"))
        )
        data = json.loads((KEPT / "setup.json").read_text(encoding="utf-8"))
        self.assertEqual(setupfile.plain(setupfile.setup_from(data), data.get("revision", 1)), data)

    def test_what_version_2_adds(self):
        kept = {
            "format": "dimgrey-scene", "version": 1, "meter": {"calibration_stops": 0.3},
            "tones": [
                {"name": "a", "readings": [{"ev100": 9}, {"kind": "picture", "ev100": 8}]},
                {"name": "b", "mark": "A", "ev100": 11},
            ],
        }  # fmt: skip
        before = json.dumps(kept)
        tones = upgraded(kept)["tones"]
        self.assertEqual([tone["mark"] for tone in tones], ["B", "A"])
        self.assertEqual([r.get("calibration_stops") for r in tones[0]["readings"]], [0.3, None])
        self.assertEqual(json.dumps(kept), before, "what was kept is not touched")
        self.assertEqual(plain(document_of(kept))["version"], VERSION)

    def test_a_meter_that_is_recalibrated_leaves_old_readings_alone(self):
        kept = {
            "format": "dimgrey-scene", "version": 1, "meter": {"calibration_stops": 1.0},
            "tones": [{"name": "a", "readings": [{"ev100": 9}]}], "placing": {"school": "shadow"},
        }  # fmt: skip
        document = document_of(kept)
        later = document.with_(meter=type(document.meter)(calibration_stops=0.0))
        self.assertEqual(planned(later)["tones"][0]["ev100"], planned(document)["tones"][0]["ev100"])

    def test_versions_that_are_not_known_are_named(self):
        for version in (0, 3, "2", None, True):
            with self.subTest(version), self.assertRaises(DocumentError) as refused:
                scenefile.load(json.dumps({"format": "dimgrey-scene", "version": version}))
            self.assertIn("this program reads versions 1 and 2", refused.exception.mistakes[0])
