"""The commands, the demo, the configuration, and the server killed while saving."""

import json
import signal
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from io import BytesIO, StringIO, TextIOWrapper
from pathlib import Path
from unittest import mock

from django.core.exceptions import ImproperlyConfigured
from django.core.management import call_command
from django.test import SimpleTestCase

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.planning.plan import plan
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.outings.models import Outing
from dimgrey.scenes.models import Scene
from dimgrey.site.config import HELP, read_config
from tests import hand
from tests.core.document.test_scenefile import EXAMPLE
from tests.helpers import PageTest
from tests.house import House

ROOT = Path(__file__).resolve().parents[2]


def command(name, *args, text=""):
    """(exit code, standard output, standard error) of a command, run here."""
    out, err, code = StringIO(), StringIO(), 0
    standard_in = TextIOWrapper(BytesIO(text.encode()))
    with redirect_stdout(out), redirect_stderr(err), mock.patch("sys.stdin", standard_in):
        try:
            call_command(name, *args, stdout=out, stderr=err)
        except SystemExit as ended:
            code = ended.code
    return code, out.getvalue(), err.getvalue()


class Commands(SimpleTestCase):
    def test_plan_from_standard_input_in_a_process_of_its_own(self):
        with tempfile.TemporaryDirectory() as folder:
            done = House(folder).manage("plan", "-", text=json.dumps(EXAMPLE), check=False)
            self.assertEqual((done.returncode, done.stderr), (0, ""))
            self.assertEqual(json.loads(done.stdout)["shutter"], "4 s")
            refused = House(folder).manage("plan", "-", text="[]", check=False)
            self.assertEqual((refused.returncode, refused.stdout), (2, ""))

    def test_a_refused_plan_is_one_line_per_mistake_and_exit_code_two(self):
        code, out, err = command("plan", "-", text='{"format": "dimgrey-scene", "version": 1, "a": 1, "b": 2}')
        self.assertEqual((code, out), (2, ""))
        self.assertEqual([line.split(":")[0] for line in err.splitlines()], ["a", "b"])
        code, _, err = command("plan", "-", text='{"format": "dimgrey-scene", "version": 1}')
        self.assertEqual(code, 2)
        self.assertTrue(err.startswith("placing: No tone is placed."))
        self.assertEqual(command("plan", "/nowhere.json")[0], 2)

    def test_picture_and_meter_on_the_demo(self):
        code, out, _ = command("picture", "demo/snapshots/a_kiln_and_sky.jpg")
        self.assertEqual(code, 0)
        self.assertAlmostEqual(json.loads(out)["middle_grey_ev100"], 14.3, places=2)
        code, out, _ = command("meter", "demo/linear/b_drying_yard.exr", "--at", "0.55,0.6", "--spot", "0.8")
        self.assertEqual(code, 0)
        self.assertAlmostEqual(json.loads(out)["ev100"], 16.31, delta=0.05)

    def test_meter_refuses_a_place_outside(self):
        for args, sentence in (
            (("--at", "2,0"), "--at X must lie between 0 and 1 (got 2)."),
            (("--at", "here"), "--at takes two fractions such as 0.5,0.25 (got here)."),
            (("--at", "0,0", "--spot", "0"), "--spot must lie between 0.01 and 90 (got 0)."),
        ):
            with self.subTest(args=args):
                code, _, err = command("meter", "demo/snapshots/a_kiln_and_sky.jpg", *args)
                self.assertEqual((code, err.strip()), (2, sentence))


class Demo(PageTest):
    def test_each_scene_arrives_with_intent_tones_and_a_believable_plan_but_one(self):
        call_command("load_demo", stdout=StringIO())
        scenes = list(Scene.objects.owned_by(self.person))
        self.assertEqual(len(scenes), 6)
        planned = [scene for scene in scenes if scene.document.tones]
        self.assertEqual(len(planned), 5)
        self.assertGreaterEqual(len({s.document.placing.school for s in planned}), 4)
        self.assertEqual({s.document.medium.kind for s in planned}, {"film", "slide", "digital raw", "digital file"})
        for scene in planned:
            result = plan(brief_of(scene.document))
            with self.subTest(scene=scene.title):
                self.assertTrue(scene.document.intent)
                self.assertFalse({"highlight-lost", "shadow-lost"} & {c.code for c in cautions_of(result)})
                self.assertLess(2**-13, result.shutter_seconds)
                self.assertLess(result.shutter_seconds, 60)
        call_command("load_demo", stdout=StringIO())
        self.assertEqual(Scene.objects.count(), 6)

    def test_it_is_put_back_and_nothing_that_was_made_of_it_goes(self):
        call_command("load_demo", stdout=StringIO())
        mine = Scene.objects.first()
        hand.do(mine, None, "intent", title="Mine", intent="Changed.")
        items, setups = Item.objects.count(), KeptSetup.objects.count()
        call_command("load_demo", "--again", stdout=StringIO())
        self.assertEqual((Item.objects.count(), KeptSetup.objects.count()), (items, setups))
        titles = list(Outing.objects.order_by("pk").values_list("title", flat=True))
        self.assertEqual(titles[-1], "Tannet Yard")
        self.assertRegex(titles[0], r"^Tannet Yard, until \d+ \w+ \d{4}$")
        self.assertEqual(Scene.objects.get(pk=mine.pk).title, "Mine")
        self.assertEqual(Scene.objects.filter(outing__title="Tannet Yard").count(), 6)

    def test_an_empty_home_says_what_to_do_first(self):
        self.assertContains(self.client.get("/"), "Drop a picture")
        self.assertContains(self.client.get("/frames/"), "No frame logged yet")


class Configuration(SimpleTestCase):
    def test_local_makes_its_own_key_and_hosted_must_be_told(self):
        with tempfile.TemporaryDirectory() as folder:
            first, second = (read_config({"DIMGREY_DATA": folder}) for _ in range(2))
            self.assertTrue(first.local)
            self.assertEqual(first.secret_key, second.secret_key)
            self.assertEqual(oct((Path(folder) / "secret-key").stat().st_mode & 0o777), "0o600")

    def test_failures_name_key_value_and_what_is_expected(self):
        cases = [
            ({"DIMGREY_MODE": "cloud"}, "DIMGREY_MODE must be local or hosted (got cloud)."),
            ({"DIMGREY_MODE": "hosted"}, "DIMGREY_SECRET_KEY must have at least 40 characters when hosted (got 0)."),
            (
                {"DIMGREY_MODE": "hosted", "DIMGREY_SECRET_KEY": "k" * 50, "DIMGREY_HOSTS": "*"},
                "DIMGREY_HOSTS must name the host names of the site when hosted, without *.",
            ),
        ]
        for environ, sentence in cases:
            with self.subTest(environ=environ), self.assertRaises(ImproperlyConfigured) as refused:
                read_config(environ)
            with self.subTest(environ=environ):
                self.assertEqual(str(refused.exception), sentence)

    def test_every_variable_is_in_the_settings_page(self):
        page = (ROOT / "docs" / "settings.md").read_text()
        for key in HELP:
            self.assertIn(f"| `{key}` |", page)


CRASHING = """
import os, sys, django
django.setup()
from dimgrey.people.actions import local_person
from dimgrey.scenes import lifecycle
from tests import hand
scene = lifecycle.new_scene(local_person(), "Crash")
hand.add_tone(scene, None, "wall")
print("ready", flush=True)
for k in range(100000):
    hand.type_reading(scene, None, "A", {"ev100": 5 + (k % 900) / 100}, replace=True)
    print(k, flush=True)
"""

CHECKING = """
import django
django.setup()
from dimgrey.scenes.models import Scene
scene = Scene.objects.get()
print(scene.document.tones[0].readings[0].ev100, scene.head.kept == scene.kept)
"""


KEPT_BEFORE_THE_KILL = 100


class Crash(SimpleTestCase):
    def test_killed_while_saving_the_last_confirmed_reading_is_there(self):
        with tempfile.TemporaryDirectory() as folder:
            house = House.furnished(folder)
            writer = house.start("-c", CRASHING)
            self.assertEqual(writer.stdout.readline().strip(), "ready")
            for _ in range(KEPT_BEFORE_THE_KILL):
                confirmed = int(writer.stdout.readline())
            writer.send_signal(signal.SIGKILL)
            confirmed = int(([confirmed] + [line for line in writer.stdout.read().splitlines() if line.isdigit()])[-1])
            writer.wait()
            writer.stdout.close()
            out = house.run("-c", CHECKING).stdout
            value, whole = out.split()
            later = {
                5 + (k % 900) / 100 for k in (confirmed, confirmed + 1)
            }  # the next may have been written, not told
            self.assertIn(float(value), later)
            self.assertEqual(whole, "True")


class Units(SimpleTestCase):
    def test_one_of_many_houses_is_run_as_the_only_one_is(self):
        """The templates are the plain units with the name of the house where its files, folders and log are."""
        for name in ("dimgrey.service", "dimgrey-reader.service", "dimgrey-daily.service", "dimgrey-daily.timer"):
            stem, kind = name.rsplit(".", 1)
            only, many = ((ROOT / "deploy" / each).read_text(encoding="utf-8") for each in (name, f"{stem}@.{kind}"))
            for each in (
                ": the house %i",
                ", the house %i",
                "/%i",
                "@%i",
            ):  # "/etc/dimgrey/%i.env" is "/etc/dimgrey.env"
                many = many.replace(each, "")
            self.assertEqual(many, only)
