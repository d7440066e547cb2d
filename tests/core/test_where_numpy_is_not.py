"""The line through the core: what a plan needs runs where NumPy is not, and says there what it says here."""

import json
import math
import pathlib
import subprocess
import sys
import sysconfig
import zipfile

from django.test import SimpleTestCase

from dimgrey.core.acts.verb import verb_names
from dimgrey.core.colour import chainterms
from dimgrey.field.pythonfiles import FOLDER
from tests.reference.planned import chains, files, planned

ROOT = pathlib.Path(__file__).resolve().parents[2]
OF_LAMPS = ("lit", *(name.replace("-", "_") for name in verb_names() if name.startswith(("lamp", "light-"))))
WITH_NUMPY = {  # pictures, spectra, skies, and what reads calibration frames: these stay at the desk
    *(f"acts.{name}" for name in OF_LAMPS),
    "document.litplan",
    "finishing.applied",
    "judging.lightstudy",
    "judging.pick",
    *(f"camera.{name}" for name in ("calibration",)),
    *(f"colour.{name}" for name in ("chromaticity", "colourspaces", "curves", "encoding", "greys", "measuredcolours", "profile", "spectra", "spectral")),
    *(f"lamps.{name}" for name in ("adviser", "backwards", "bodies", "illuminance", "lampmetering", "places", "rendering")),
    *(f"practice.{name}" for name in ("answer", "colourdrills", "colours", "drills", "lighthours", "measured")),
    *(f"results.causes.{name}" for name in ("contrast", "exposure", "filter", "flare")),
    *(f"results.{name}" for name in ("corrections", "explaining", "finding", "misses", "resultkinds", "samples")),
    *(f"picture.{name}" for name in ("contours", "cube", "difference", "display", "detail", "lightmap", "match", "measures", "overhead", "painting",
                                     "parttwins", "composition", "skyarea", "spot", "tonemap", "twins")),
    *(f"sky.{name}" for name in ("cardlight", "dome", "framesky", "horizon", "moon", "skygreys", "skytone", "sun", "sunlight", "terrain")),
}  # fmt: skip
HERE_ONLY = {"sre_compile", "sre_constants", "sre_parse"}
"""What an older Python's own modules ask for."""
ELSEWHERE = """
import importlib, json, pathlib, sys
asked = json.load(sys.stdin)
for name in ("numpy", "scipy", "skimage", "contourpy", "cv2", "embreex", "django", *asked["missing"]):
    sys.modules[name] = None
for name in asked["modules"]:
    importlib.import_module(name)
for name in asked["missing"]:  # what makes the scenes up may have them
    del sys.modules[name]
from dimgrey.core.colour import chainterms
from tests.reference.planned import planned
chainterms.carry(asked["terms"])
json.dump([planned(data) for data in asked["files"]], sys.stdout)
"""


def modules():
    """Every module of the core, by its name within it."""
    core = ROOT / "dimgrey" / "core"
    return {".".join(path.relative_to(core).with_suffix("").parts) for path in core.rglob("*.py")} - {"__init__"}


def missing_there():
    """Modules of Python's own library that the field page's Python was packed without."""
    with zipfile.ZipFile(FOLDER / "python_stdlib.zip") as library:
        packed = {name.partition("/")[0].partition(".")[0] for name in library.namelist()}
    here = pathlib.Path(sysconfig.get_path("stdlib"))
    written = {path.stem for path in here.iterdir() if path.suffix == ".py" or (path / "__init__.py").exists()}
    return sorted((written & sys.stdlib_module_names) - packed - HERE_ONLY)


def apart(here, there, path=""):
    """Path of the first difference that counts, or "": words and decisions equal, numbers within 1e-9."""
    if isinstance(here, float) and isinstance(there, float | int):
        return "" if math.isclose(here, there, rel_tol=1e-9, abs_tol=1e-9) else f"{path}: {here}, there {there}"
    if isinstance(here, list) and isinstance(there, list) and len(here) == len(there):
        return next(
            (said for k, pair in enumerate(zip(here, there, strict=True)) if (said := apart(*pair, f"{path}[{k}]"))), ""
        )
    if isinstance(here, dict) and isinstance(there, dict) and set(here) == set(there):
        return next((said for key in here if (said := apart(here[key], there[key], f"{path}.{key}"))), "")
    return "" if here == there else f"{path}: {here!r:.200}, there {there!r:.200}"


class WhereNumpyIsNot(SimpleTestCase):
    def test_the_list_of_those_that_stay_at_the_desk_is_whole(self):
        self.assertEqual(WITH_NUMPY - modules(), set())

    def test_everything_else_is_imported_and_plans_every_scene_alike(self):
        given = files()
        asked = {
            "modules": sorted(f"dimgrey.core.{name}".removesuffix(".__init__") for name in modules() - WITH_NUMPY),
            "terms": chainterms.packed(through for data in given for through in chains(data)),
            "files": given,
            "missing": missing_there(),
        }
        ran = subprocess.run(
            [sys.executable, "-c", ELSEWHERE],
            input=json.dumps(asked),
            capture_output=True,
            text=True,
            cwd=ROOT,
            check=False,
        )
        self.assertEqual(ran.returncode, 0, ran.stderr[-2000:])
        there = json.loads(ran.stdout)
        self.assertEqual(sum(isinstance(each, dict) for each in there) > len(there) / 2, True)
        for k, data in enumerate(given):
            with self.subTest(k):
                self.assertEqual(apart(json.loads(json.dumps(planned(data))), there[k]), "")

    def test_a_chain_that_was_not_carried_is_refused_with_its_sentence(self):
        carried = chainterms.packed([("general panchromatic", "D55", ("orange",))])
        self.addCleanup(chainterms.drop)
        chainterms.carry(carried)
        self.assertAlmostEqual(chainterms.terms_of(("general panchromatic", "D55", ("orange",))).factor, 2.9, delta=0.4)
        with self.assertRaisesMessage(chainterms.NotCarried, "was not taken along"):
            chainterms.terms_of(("general panchromatic", "D55", ("red",)))
        chainterms.drop()
        self.assertGreater(chainterms.terms_of(("general panchromatic", "D55", ("red",))).factor, 4)
