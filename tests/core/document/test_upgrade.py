"""What was kept in older versions opens, and sets the camera as it did, but for rules that were mended since."""

import json
from pathlib import Path

from django.test import SimpleTestCase

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document import kitfile, scenefile, setupfile
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.upgrade import VERSION, upgraded
from dimgrey.core.errors import NotPlaced
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.shapes.check import DocumentError

KEPT = Path(__file__).resolve().parents[2] / "reference" / "version1"
STAYS = (
    "iso",
    "setting_ev100",
    "exposure_ev100",
    "filter_stops",
    "bellows_stops",
    "aperture",
    "shutter",
)
TONE_STAYS = ("name", "ev100", "zone")


def planned(document):
    result = plan(brief_of(document))
    return json.loads(json.dumps(plan_as_json(result, cautions_of(result))))


def is_mended(scene):
    """Whether a rule that was mended since says something else of a scene: incident readings were averaged with spot readings,
    and a graduated filter did not move the sky before it was placed, and what a picture says was taken for what an eye's meter sees
    in that light (docs/decisions/019); what film sees of a colour is told by measured objects (021)."""
    kinds = [{reading.get("kind", "spot") for reading in tone.get("readings", ())} for tone in scene.get("tones", ())]
    mixed = any("incident" in found and len(found) > 1 for found in kinds)
    seen = any(
        tone.get("colour") and "picture" in found for tone, found in zip(scene.get("tones", ()), kinds, strict=True)
    )
    placed_by_colour = scene.get("placing", {}).get("hold") == "after filter" and any(
        tone.get("colour") for tone in scene.get("tones", ())
    )
    return mixed or seen or placed_by_colour or any(glass["name"] == "graduated" for glass in scene.get("filters", ()))


class Version1(SimpleTestCase):
    def test_every_kept_scene_file_gives_the_plan_it_gave(self):
        scenes = json.loads((KEPT / "plans.json").read_text(encoding="utf-8"))
        self.assertEqual(len(scenes), 60)
        unmoved = 0
        for k, kept in enumerate(scenes):
            with self.subTest(k):
                loaded = scenefile.load(json.dumps(kept["scene"]))
                one_alone = sum(bool(t.get("readings") or "ev100" in t) for t in kept["scene"].get("tones", ())) == 1
                if one_alone and "placing" not in kept["scene"]:
                    with self.assertRaises(NotPlaced):  # nobody said how to place it, and one tone is no exposure
                        planned(loaded)
                    continue
                now, then = planned(loaded), kept["plan"]
                if not is_mended(kept["scene"]):
                    unmoved += 1
                    self.assertEqual([now[key] for key in STAYS], [then[key] for key in STAYS])
                    told = lambda plan: [[tone[key] for key in TONE_STAYS] for tone in plan["tones"]]
                    self.assertEqual(told(now), told(then))
                    colours = [
                        tone.get("colour") for tone in kept["scene"]["tones"] if tone.get("readings") or "ev100" in tone
                    ]
                    for tone, before, colour in zip(now["tones"], then["tones"], colours, strict=True):
                        # What a medium sees of a colour is told by measured objects since, decision 021.
                        self.assertAlmostEqual(
                            tone["zone_after_filter"], before["zone_after_filter"], delta=0.5 if colour else 1e-9
                        )
                again = scenefile.load(scenefile.text_of(loaded))
                self.assertEqual(again, loaded)
        self.assertGreater(unmoved, 25)

    def test_kit_and_setup_files_open(self):
        items = kitfile.load((KEPT / "kit.json").read_text(encoding="utf-8"))
        self.assertEqual(len(items), 18)
        kept = json.loads((KEPT / "kit.json").read_text(encoding="utf-8"))
        self.assertEqual(json.loads(kitfile.text_of(items)), {**kept, "version": kitfile.KIT.version})
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
        for version in (0, 7, "2", None, True):
            with self.subTest(version), self.assertRaises(DocumentError) as refused:
                scenefile.load(json.dumps({"format": "dimgrey-scene", "version": version}))
            self.assertIn("this program reads versions 1, 2, 3, 4, 5 and 6", refused.exception.mistakes[0])
