"""The field page in a real browser: the core in a worker, a network that comes and goes, a plain address."""

import json
from datetime import timedelta
from fractions import Fraction
from unittest import mock

from django.test import override_settings
from django.utils import timezone

from dimgrey.core.colour import chainterms
from dimgrey.field import views
from dimgrey.frames.models import Frame
from dimgrey.kit.actions import import_items
from dimgrey.outings.actions import create_outing
from dimgrey.outings.models import Outing
from dimgrey.people.actions import set_look
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Revision, Scene
from dimgrey.site.config import ROOT
from tests import hand, picturefiles
from tests.browser.driver import driver
from tests.browser.patience import patience
from tests.browser.story import PHONE, Story, be_patient
from tests.core.test_where_numpy_is_not import apart
from tests.documents import document
from tests.helpers import scene_with_light
from tests.reference.planned import chains, files, planned
from tests.share import count_of, many

TONES = [
    {"name": "coal", "role": "shadow", "ev100": 8, "colour": [0.05, 0.05, 0.05]},
    {"name": "lime wall", "role": "highlight", "ev100": 14, "colour": [0.6, 0.58, 0.55]},
]
LOST = ("net::ERR_INTERNET_DISCONNECTED", "Failed to fetch", "ERR_FAILED")


class FieldStory(Story):
    """An outing of two scenes, one with a picture, opened at phone size with the field page."""

    def setUp(self):
        super().setUp()
        import_items(self.person, (ROOT / "demo/kit.json").read_text(encoding="utf-8"))
        self.outing = create_outing(self.person, "Tannet Yard")
        self.steps = scene_with_light(self.person)
        Scene.objects.filter(pk=self.steps.pk).update(outing=self.outing)
        self.steps = hand.pin_tone(Scene.objects.get(pk=self.steps.pk), None, 3.5 / 11, 0.5)
        written = document(title="Kiln", medium={"kind": "film", "iso": 100}, tones=TONES)
        self.kiln = lifecycle.create_scene(self.person, written, self.outing)

    def take_along(self):
        self.open(f"/field/?take={self.outing.pk}", PHONE)
        self.wait(".outing .taken", "Taken along")
        self.until("document.body?.dataset.serviceWorker === '1' || !isSecureContext")

    def visit(self, title):
        self.do(lambda page: page.locator(".scene-line", has_text=title).click())
        self.until("document.body?.dataset.reckoned !== undefined", 30)

    def cut(self, off=True):
        self.do(lambda page: page.context.set_offline(off))

    def back(self):
        """The network is there again."""
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))

    def both_choose(self):
        """Without a network the phone puts orange on the kiln's lens; the desk puts green."""
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#choices button:text-is('orange')"))
        self.reckoned(1)
        hand.use_colour_choice(Scene.objects.get(pk=self.kiln.pk), None, "green")

    def on_the_lens(self):
        return [glass.name for glass in Scene.objects.get(pk=self.kiln.pk).document.filters]

    def reckoned(self, count):
        """Wait until the core has done so many acts that wait."""
        self.until(f"document.body?.dataset.reckoned === '{count}'")

    def read(self, *digits):
        self.do(lambda page: page.click("#read"))
        for key in digits:
            self.do(lambda page, key=key: page.click(f".pad [data-key='{key}']"))
        self.do(lambda page: page.click(".pad .main-act"))


class InTheBrowser(FieldStory):
    def test_the_core_says_of_every_scene_what_it_says_here(self):
        """The plan's whole test set, in the worker that the field page starts, from the memory that it keeps for that."""
        given = files()
        # The page's own program stays out: it keeps a memory of its own, and only one is kept.
        self.open("/")
        self.do(lambda page: page.route("**/field/field*.js", lambda route: route.fulfill(
            body="", content_type="text/javascript")))  # fmt: skip
        self.go("/field/")
        laid = json.dumps(
            {
                "labels": "zones",
                "terms": chainterms.packed(t for data in given for t in chains(data)),
                "filters": [],
                "items": {},
                "setups": [],
            }
        )
        source = (
            (ROOT / "tests/reference/planned.py")
            .read_text(encoding="utf-8")
            .replace("from tests.reference.random_scenes import random_scene\n", "")
        )
        ask = """async ({ laid, source, given }) => {
          const { Rules } = await import("/static/field/rules.js");
          const addresses = JSON.parse(document.getElementById("field-addresses").textContent);
          const here = { ...addresses, worker: "/field/for-tests.js", version: "for tests" };
          await new Rules({ ...here, make: true }).ready;
          const rules = new Rules(here);
          await rules.call("lay_in", laid);
          return { from: rules.from, told: await rules.call("run_for_tests", source, given) };
        }"""
        # The worker has no door for a program of the test's own: it is put beside the entry for this one page.
        door = (
            "import json\nfrom dimgrey.core.field import entry\n"
            "def run_for_tests(source, given):\n"
            "    space = {}\n    exec(source, space)\n"
            "    return json.dumps([space['planned'](data) for data in json.loads(given)])\n"
            "entry.run_for_tests = run_for_tests\n"
        )
        self.do(lambda page: page.route("**/field/for-tests.js", lambda route: route.fulfill(
            body=(ROOT / "dimgrey/field/static/field/worker.js").read_text(encoding="utf-8").replace(
                "entry = python.pyimport(ENTRY);", f"python.runPython({json.dumps(door)}); entry = python.pyimport(ENTRY);"
            ), content_type="text/javascript")))  # fmt: skip
        answer = self.do(lambda page: page.evaluate(ask, {"laid": laid, "source": source, "given": json.dumps(given)}))
        self.assertEqual(answer["from"], "memory")
        there = json.loads(answer["told"])
        self.assertEqual(len(there), len(given))
        for k, data in enumerate(given):
            with self.subTest(k):
                self.assertEqual(apart(json.loads(json.dumps(planned(data))), there[k]), "")


class WithoutNetwork(FieldStory):
    def test_a_planned_outing_to_logged_frames_with_the_network_cut(self):
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.assertEqual(self.text("#shutter"), "1/15")
        self.do(lambda page: page.click("#choices button:text-is('orange')"))
        self.reckoned(1)
        self.do(lambda page: page.click("#darker"))
        self.reckoned(2)
        shutter = self.text("#shutter")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", f"Frame kept: {shutter}")
        self.wait("#waiting", "3 waiting")
        self.assertEqual((Frame.objects.count(), Revision.objects.filter(act__isnull=False).count()), (0, 0))
        self.assert_fits()
        self.assert_accessible("field page")
        # Opened anew without a network: the page, the core and the acts are all there.
        self.do(lambda page: page.reload())
        self.until("document.body?.dataset.reckoned === '3'", 30)
        self.assertEqual(self.text("#shutter"), shutter)
        self.cut(False)
        self.wait("#waiting", "all kept")
        self.until_kept(Frame.objects.count, 1)
        self.assertEqual(Frame.objects.get().shutter, shutter)
        self.assertEqual([glass.name for glass in Scene.objects.get(pk=self.kiln.pk).document.filters], ["orange"])
        self.assertEqual(Revision.objects.filter(act__isnull=False).count(), 2)
        self.assert_silent(LOST)

    def test_what_is_on_the_lens_is_shown_whatever_moves_the_row_but_a_hand(self):
        """A row of filters that the page scrolls itself, or that a turned phone moves, takes no filter off and puts none on."""
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#choices button:text-is('orange')"))
        self.reckoned(1)
        shutter = self.text("#shutter")
        self.assertNotEqual(shutter, "1/15")
        self.do(lambda page: page.reload())
        self.reckoned(1)
        for width in (390, 844, 390):
            self.do(lambda page, width=width: page.set_viewport_size({"width": width, "height": 844}))
            self.do(lambda page: page.evaluate("document.getElementById('choices').dispatchEvent(new Event('scroll'))"))
            self.pause(0.3)
            self.assertEqual((self.text("#seen"), self.text("#shutter")), ("", shutter), width)
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", f"Frame kept: {shutter}")

    @many
    def test_a_day_with_many_breaks_and_three_reloads(self):
        self.take_along()
        self.visit("Kiln")
        breaks = count_of(30, least=12)
        for k in range(breaks):
            self.cut(k % 2 == 0)
            self.do(lambda page, k=k: page.click("#darker" if k % 3 else "#exposed"))
            if k in (breaks // 4, breaks // 2, 3 * breaks // 4):
                self.do(lambda page: page.reload())
                self.until("document.body?.dataset.reckoned !== undefined", 30)
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#waiting", "all kept")
        self.until_kept(Frame.objects.count, breaks // 3)
        self.assertEqual(Revision.objects.filter(act__isnull=False).count(), breaks - breaks // 3)
        shifted = Scene.objects.get(pk=self.kiln.pk).document.tone("A").ev100
        self.assertAlmostEqual(float(shifted), 8 - (breaks - breaks // 3) / 3, places=2)

    def test_a_tone_is_sighted_pinned_dragged_and_read_on_the_phones_own_light(self):
        self.take_along()
        self.cut()
        self.visit("Steps")
        self.until("!document.getElementById('painted').hidden")
        x, y = self.point(7.5 / 11, 0.5)
        self.do(lambda page: page.touchscreen.tap(x, y))
        self.wait("#sighted-ev", "EV 14")
        self.do(lambda page: page.click("#pin-here"))
        self.reckoned(1)
        self.wait("#tones", "EV 14")
        x, y = self.point(0.5, 0.9, ".hang[data-mark='B']")
        unit = self.do(lambda page: page.locator("#ground").bounding_box())["width"] / 11
        before = self.text("#shutter")
        self.do(lambda page: page.mouse.move(x, y))
        self.do(lambda page: page.mouse.down())
        self.do(lambda page: page.mouse.move(x + unit, y, steps=4))
        self.until(f"document.getElementById('shutter').textContent !== '{before}'")
        self.do(lambda page: page.mouse.up())
        self.reckoned(2)
        self.read("1", "0")
        self.reckoned(3)
        self.cut(False)
        self.wait("#waiting", "all kept")
        self.until_kept(lambda: len(Scene.objects.get(pk=self.steps.pk).document.tones), 2)
        kept = Scene.objects.get(pk=self.steps.pk).document
        self.assertAlmostEqual(kept.tone("B").readings[0].ev100, 14, delta=0.02)
        self.assertEqual(kept.placing.tone, kept.tone("B").name)
        self.assert_silent(LOST)

    def test_a_pin_is_dragged_and_read_where_it_is_let_go(self):
        self.take_along()
        self.cut()
        self.visit("Steps")
        self.until("!document.getElementById('painted').hidden")
        before = Scene.objects.get(pk=self.steps.pk).document.tone("A").readings[0].ev100
        (x, y), (to, _) = self.point(3.5 / 11, 0.5), self.point(6.5 / 11, 0.5)
        self.do(
            lambda page: (page.mouse.move(x, y), page.mouse.down(), page.mouse.move(to, y, steps=6), page.mouse.up())
        )
        self.reckoned(1)
        self.wait("#tones", f"EV {before + 3:g}")
        self.cut(False)
        self.wait("#waiting", "all kept")
        moved = Scene.objects.get(pk=self.steps.pk).document.tone("A")
        self.assertAlmostEqual(moved.at[0], 6.5 / 11, delta=0.01)
        self.assertAlmostEqual(moved.readings[0].ev100, before + 3, delta=0.02)

    def test_a_frame_with_a_note_a_place_and_its_time(self):
        self.take_along()
        self.visit("Kiln")
        self.do(lambda page: page.context.grant_permissions(["geolocation"]))
        self.do(lambda page: page.context.set_geolocation({"latitude": 51.4, "longitude": -5.2}))
        self.do(lambda page: page.click("#log summary"))
        self.do(lambda page: page.fill("#log-note", "wind in the ivy"))
        self.do(lambda page: page.click("#log-place"))
        self.until("document.getElementById('log-note').value.includes('51.40000')")
        self.do(lambda page: page.fill("#log-ago", "30"))
        self.do(lambda page: page.fill("#log-shutter", "1/8"))
        self.do(lambda page: page.click("#keep"))
        self.until_kept(Frame.objects.count, 1, 10)
        frame = Frame.objects.get()
        self.assertEqual((frame.shutter, frame.note), ("1/8", "wind in the ivy at 51.40000, -5.20000"))
        self.assertLess(abs(timezone.now() - timedelta(minutes=30) - frame.exposed_at), timedelta(minutes=1))

    def test_a_filter_is_seen_through_before_it_is_taken(self):
        self.take_along()
        self.cut()
        self.visit("Steps")
        self.until("!document.getElementById('painted').hidden")
        self.do(lambda page: page.locator(".hang").first.focus())
        self.do(lambda page: page.keyboard.press("ArrowLeft"))
        self.reckoned(1)
        shutter, middle = (
            self.text("#shutter"),
            "() => { const row = document.getElementById('choices'), it = [...row.children].find(b => b.textContent === 'NAME'); row.scrollLeft = it.offsetLeft - (row.clientWidth - it.offsetWidth) / 2; }",
        )
        self.do(lambda page: page.evaluate(middle.replace("NAME", "red")))
        self.wait("#seen", "Seen through red")
        self.until(f"document.getElementById('shutter').textContent !== '{shutter}'")
        self.until("document.getElementById('painted').dataset.tables.startsWith('red')")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", "not on the lens yet")
        self.do(lambda page: page.evaluate(middle.replace("NAME", "no filter")))
        self.until(f"document.getElementById('shutter').textContent === '{shutter}'")
        self.assertEqual((self.text("#seen"), self.text("#waiting")), ("", "1 waiting"))
        self.do(lambda page: page.evaluate(middle.replace("NAME", "red")))
        self.wait("#seen", "Seen through red")
        self.do(lambda page: page.click("#choices button:text-is('red')"))
        self.reckoned(2)
        self.assertEqual(self.text("#seen"), "")

    def test_what_the_core_refuses_is_said_at_once_and_never_sent(self):
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#log summary"))
        self.do(lambda page: page.fill("#log-shutter", "soon"))
        self.do(lambda page: page.click("#keep"))
        self.wait("#said", "soon")
        self.wait("#waiting", "all kept")

    def test_what_was_done_is_taken_back_without_a_network_before_and_after_it_came_home(self):
        hand.do(Scene.objects.get(pk=self.kiln.pk), None, "shift", stops="1")
        self.take_along()
        self.visit("Kiln")
        shutters = [self.text("#shutter")]
        self.do(lambda page: page.click("#darker"))
        self.until(f"document.getElementById('shutter').textContent !== '{shutters[0]}'")
        self.wait("#waiting", "all kept")
        shutters.append(self.text("#shutter"))
        self.cut()
        self.do(lambda page: page.click("#darker"))
        self.reckoned(1)
        self.do(lambda page: page.click("#undo"))  # it never left
        self.reckoned(2)
        self.assertEqual(self.text("#shutter"), shutters[1])
        self.do(lambda page: page.click("#undo"))  # it came home
        self.reckoned(3)
        self.assertEqual(self.text("#shutter"), shutters[0])
        self.do(lambda page: page.click("#undo"))  # what the desk did is no phone's to undo
        self.wait("#said", "Nothing of this phone's")
        self.do(lambda page: page.click("#ribbon button[aria-label='Strike out: light +1']"))  # but by its own key
        self.reckoned(4)
        self.assertEqual(self.text("#shutter"), "1/15")
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#waiting", "all kept")
        self.until_kept(lambda: float(Scene.objects.get(pk=self.kiln.pk).document.tone("A").ev100), 8.0)
        self.assert_silent(LOST)

    def test_two_devices_meet_and_both_are_seen(self):
        self.both_choose()
        self.back()
        self.wait("#waiting", "1 to settle")
        self.wait("#unsettled", "The desk changed filters too")
        self.assertEqual(self.on_the_lens(), ["green"])
        self.do(lambda page: page.click("#unsettled .act"))
        self.wait("#waiting", "all kept")


class BadDays(FieldStory):
    """Storage that is full, a clock that is wrong, a server that has moved on."""

    def test_a_full_phone_says_so_and_changes_nothing(self):
        self.take_along()
        self.visit("Kiln")
        full = (
            "() => { IDBObjectStore.prototype.add = () => { throw new DOMException('full', 'QuotaExceededError'); }; }"
        )
        self.do(lambda page: page.evaluate(full))
        shutter = self.text("#shutter")
        self.do(lambda page: page.click("#darker"))
        self.wait("#said", "could not keep that (QuotaExceededError)")
        self.assertEqual((self.text("#shutter"), self.text("#waiting")), (shutter, "all kept"))

    def test_a_clock_that_is_hours_off_is_put_right_by_the_servers(self):
        self.take_along()
        ahead = """(() => { const Real = Date, off = 3 * 3600e3;
          window.Date = class extends Real {
            constructor(...given) { given.length ? super(...given) : super(Real.now() + off); }
            static now() { return Real.now() + off; }
          }; })()"""
        self.do(lambda page: page.add_init_script(ahead))
        self.do(lambda page: page.reload())
        self.visit("Kiln")
        self.do(lambda page: page.click("#exposed"))
        self.until_kept(Frame.objects.count, 1, 10)
        self.wait("#line", "180 min off")
        self.assertLess(abs(Frame.objects.get().exposed_at - timezone.now()), timedelta(minutes=2))

    def test_a_server_that_has_moved_on_is_said_and_takes_what_it_gets(self):
        self.take_along()
        with mock.patch.object(views, "page_version", return_value="another"):
            self.visit("Kiln")
            self.do(lambda page: page.click("#exposed"))
            self.until_kept(Frame.objects.count, 1, 10)
            self.wait("#line", "newer page")

    def test_a_scene_that_is_gone_holds_up_no_other(self):
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#waiting", "1 waiting")
        self.do(lambda page: page.click("#list"))
        self.do(lambda page: page.locator(".scene-line", has_text="Steps").click())
        self.do(lambda page: page.click("#add .act"))
        self.wait("#waiting", "2 waiting")
        Scene.objects.filter(pk=self.kiln.pk).update(removed=True)
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#unsettled", "no longer on the server")
        self.until_kept(lambda: len(Scene.objects.get(pk=self.steps.pk).document.tones), 2)

    def test_an_act_that_the_server_refuses_is_shown_with_its_reason_and_kept(self):
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#add [name=name]"))
        self.do(lambda page: page.fill("#add [name=name]", "cloud"))
        self.do(lambda page: page.click("#add .act"))
        self.reckoned(1)
        hand.add_tone(Scene.objects.get(pk=self.kiln.pk), None, "cloud")
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#unsettled", "“cloud” is already a tone")
        self.do(lambda page: page.reload())
        self.wait("#waiting", "1 to settle")


class PlainAddress(FieldStory):
    """A phone on the local network without a secure address: another host name, plain HTTP."""

    NAME = "darkroom.test"

    def setUp(self):
        super().setUp()
        self.plain = driver().run(lambda: driver().launch([f"--host-resolver-rules=MAP {self.NAME} 127.0.0.1"]))
        self.addCleanup(lambda: driver().run(self.plain.close))

    def test_an_open_page_works_on_without_a_network_and_loses_nothing(self):
        port = self.live_server_url.rsplit(":", 1)[1]

        def start():
            context = self.plain.new_context(viewport={"width": PHONE[0], "height": PHONE[1]}, has_touch=True)
            page = context.new_page()
            be_patient(page, 15)
            return context, page

        with override_settings(ALLOWED_HOSTS=[self.NAME, "127.0.0.1"]):
            self.context, self.page = driver().run(start)
            self.do(lambda page: page.goto(f"http://{self.NAME}:{port}/field/?take={self.outing.pk}"))
            self.wait(".outing .taken", "Taken along")
            self.assertFalse(self.do(lambda page: page.evaluate("isSecureContext")))
            self.assertIn("keep this page open", self.text("#reach"))
            self.cut()
            self.visit("Kiln")
            self.do(lambda page: page.click("#darker"))
            self.reckoned(1)
            self.do(lambda page: page.click("#exposed"))
            self.wait("#waiting", "2 waiting")
            self.cut(False)
            self.wait("#waiting", "all kept")
            self.until_kept(Frame.objects.count, 1)
            self.assertEqual(Revision.objects.filter(act__isnull=False).count(), 1)


class NewScene(FieldStory):
    MOST_TAPS = 25

    def begin(self, title, **more):
        """Ask for a new scene with the network cut; each tap is counted."""
        self.take_along()
        self.cut()
        self.tap(".outing >> text=New scene")
        self.do(lambda page: page.fill("#new [name=title]", title))
        for name, value in more.items():
            self.taps += 2
            self.do(lambda page, name=name, value=value: page.select_option(f"#new [name={name}]", value))

    def tap(self, selector):
        self.taps += 1
        self.do(lambda page: page.click(selector))

    def setUp(self):
        super().setUp()
        self.taps = 0

    def home(self):
        self.cut(False)
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#waiting", "all kept")
        self.until_kept(Frame.objects.count, 1)
        return Scene.objects.select_related("picture").get(title="Lime wall")

    def test_from_a_picture_of_the_phones_own_to_a_logged_frame(self):
        """Its exposure data is read and its light mapped by the core in the worker; the desk reads the original again."""
        self.begin("Lime wall", film="Sheet film 125")
        data = picturefiles.jpeg(600, 400, exif=picturefiles.exif(Fraction(1, 128), 8, 100))
        self.taps += 3  # the camera, its shutter, its use
        self.do(
            lambda page: page.set_input_files(
                "#new [name=picture]", {"name": "wall.jpg", "mimeType": "image/jpeg", "buffer": data}
            )
        )
        self.tap("#new .main-act")
        self.until("!document.getElementById('painted').hidden", 20)
        x, y = self.point(0.5, 0.5)
        self.taps += 1
        self.do(lambda page: page.touchscreen.tap(x, y))
        self.wait("#sighted-ev", "EV 1")
        seen = self.text("#sighted-ev")
        self.tap("#pin-here")
        self.reckoned(1)
        self.do(lambda page: page.locator(".hang[data-mark=A]").focus())
        self.taps += 1
        self.do(lambda page: page.keyboard.press("ArrowRight"))
        self.reckoned(2)
        shutter = self.text("#shutter")
        self.tap("#exposed")
        self.wait("#waiting", "3 waiting")
        self.assertLessEqual(self.taps, self.MOST_TAPS)
        scene = self.home()
        self.assertEqual((scene.outing, scene.picture.original_name), (self.outing, "wall.jpg"))
        self.assertEqual((scene.picture.path / "original.jpg").read_bytes(), data)
        tone = scene.document.tone("A")
        self.assertAlmostEqual(tone.readings[0].ev100, float(seen.replace("EV ", "").translate(THIRDS)), delta=0.25)
        self.assertEqual(Frame.objects.get().shutter, shutter)
        self.until(f"location.hash.endsWith('/{scene.pk}')")
        self.assert_silent(LOST)

    def test_without_a_picture_by_names_and_readings(self):
        self.begin("Lime wall")
        self.tap("#new .main-act")
        self.reckoned(0)
        for name, reading in (("coal", "8"), ("lime wall", "13⅓")):
            self.do(lambda page, name=name: page.fill("#add [name=name]", name))
            self.do(lambda page, reading=reading: page.fill("#add [name=reading]", reading))
            self.tap("#add .act")
            self.wait("#tones", name)
        self.do(lambda page: page.reload())
        self.until("document.body?.dataset.reckoned === '2'", 30)
        self.tap("#exposed")
        self.wait("#waiting", "3 waiting")
        scene = self.home()
        self.assertEqual(scene.document.names, ("coal", "lime wall"))
        self.assertIsNone(scene.picture)
        self.assertEqual(Scene.objects.filter(title="Lime wall").count(), 1)

    def test_what_is_no_picture_is_said(self):
        self.begin("Lime wall")
        self.do(
            lambda page: page.set_input_files(
                "#new [name=picture]", {"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
            )
        )
        self.tap("#new .main-act")
        self.wait("#said", "cannot be used here")
        self.assertTrue(self.do(lambda page: page.locator("#new").is_visible()))


THIRDS = str.maketrans({"⅓": ".333", "⅔": ".667"})


class LiveFinder(FieldStory):
    """The phone's own camera in grey, played by the browser's simulated one."""

    FAKE = ("--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream")

    def setUp(self):
        super().setUp()
        self.seeing = driver().run(lambda: driver().launch(["--disable-3d-apis", *self.FAKE]))
        self.addCleanup(lambda: driver().run(self.seeing.close))

    def test_a_frozen_frame_is_the_picture_of_a_scene_through_the_filter_it_was_seen_with(self):
        def start():
            context = self.seeing.new_context(viewport={"width": PHONE[0], "height": PHONE[1]}, has_touch=True)
            page = context.new_page()
            be_patient(page, 20)
            page.goto(f"{self.live_server_url}/field/?take={self.outing.pk}")
            return context, page

        self.context, self.page = driver().run(start)
        self.wait(".outing .taken", "Taken along")
        self.do(lambda page: page.click(".outing >> text=New scene"))
        self.do(lambda page: page.fill("#new [name=title]", "Through the finder"))
        self.do(lambda page: page.click("#look-through"))
        self.until("Number(document.getElementById('finder-view').dataset.frames) > 5", 30)
        mean = """() => { const c = document.getElementById("finder-view"), d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data;
          let sum = 0, off = 0; for (let k = 0; k < d.length; k += 4) { sum += d[k]; off += d[k] !== d[k + 1]; } return [sum / d.length * 4, off]; }"""
        plain, coloured = self.do(lambda page: page.evaluate(mean))
        self.assertEqual(coloured, 0)
        self.assertTrue(40 < plain < 220)
        self.do(lambda page: page.click("#finder-close"))
        before = self.do(lambda page: page.get_attribute("#finder-view", "data-frames"))
        self.do(lambda page: page.click("#look-through"))  # it opens as often as one likes
        self.until(f"Number(document.getElementById('finder-view').dataset.frames) > {before} + 5", 30)
        self.do(lambda page: page.click("#finder-choices button:text-is('blue')"))
        self.until("document.querySelector('#finder-choices [aria-pressed=true]').textContent === 'blue'")
        self.until("document.getElementById('finder-hard').getAttribute('aria-pressed') === 'false'")
        self.assert_accessible("finder")
        self.do(lambda page: page.click("#finder-freeze"))
        self.do(lambda page: page.click("#new >> text=Begin"))
        self.until_kept(lambda: Scene.objects.filter(title="Through the finder", picture__isnull=False).count(), 1, 20)
        scene = Scene.objects.select_related("picture").get(title="Through the finder")
        self.assertEqual([glass.name for glass in scene.document.filters], ["blue"])
        self.assertEqual(scene.picture.original_name, "finder.jpg")


class InSunAndDark(Story):
    """The demo outing in the field: legible in sun and in the dark, upright and on its side, down to 320 px."""

    def test_every_look_and_size_fits_and_is_accessible(self):
        self.with_demo()
        outing = Outing.objects.get()
        self.open(f"/field/?take={outing.pk}", PHONE)
        self.do(lambda page: page.locator(".outing .taken").wait_for(timeout=1000 * patience.seconds(40)))
        for mode, title, name in (
            ("sun", "Drying yard, noon", "field-sun"),
            ("night", "Firing at night", "field-night"),
        ):
            set_look(self.person, mode=mode)
            self.go("/field/")
            self.do(lambda page, title=title: page.locator(".scene-line", has_text=title).click())
            self.until("document.body?.dataset.reckoned !== undefined", 30)
            self.until("!document.getElementById('painted').hidden", 30)
            self.assertEqual(self.do(lambda page: page.get_attribute("html", "data-mode")), mode)
            self.assert_accessible(f"field page, {mode}")
            self.pause(0.3)
            self.shot(name)
            for width, height in ((320, 640), (844, 390), (430, 932)):
                self.do(lambda page, size={"width": width, "height": height}: page.set_viewport_size(size))
                self.assert_fits()
                small = self.do(lambda page: page.evaluate(SMALLEST))
                self.assertGreaterEqual(small, 48, (width, height))
                seen = self.do(lambda page: page.locator("#shutter").bounding_box())
                self.assertLessEqual(seen["y"] + seen["height"], height)
            self.do(lambda page: page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]}))
        self.assert_silent()


SMALLEST = """Math.min(...[...document.querySelectorAll(".field-head button, .acts button, #choices button, .tone")]
  .map((each) => each.getBoundingClientRect().height))"""
