"""What the phone keeps is enough: without a network, without the browser's cache, before a server that is broken, silent or newer."""

import time
from datetime import date
from unittest import mock

from dimgrey.field import views
from dimgrey.frames.models import Frame
from dimgrey.outings.models import Outing
from dimgrey.scenes.models import Scene
from tests import hand
from tests.browser.story import PHONE
from tests.browser.test_field_page import LOST, FieldStory

BROKEN = (*LOST, "500", "502", "ERR_", "Failed to load")


class Kept(FieldStory):
    def ready(self):
        self.take_along()
        self.wait("#reach", "Ready: works without a network, 2 scenes")

    def forget_cache(self):
        self.do(lambda page: page.context.new_cdp_session(page).send("Network.clearBrowserCache"))

    def again(self):
        """The page opened anew, as after a phone was put away."""
        self.do(lambda page: page.goto("about:blank"))
        self.do(lambda page: page.goto(f"{self.live_server_url}/field/", wait_until="commit"))

    def test_the_rules_start_from_what_is_kept_alone(self):
        self.ready()
        self.forget_cache()
        self.cut()
        self.again()
        self.visit("Kiln")
        self.do(lambda page: page.click("#darker"))
        self.reckoned(1)
        self.assert_silent(LOST)

    def test_what_is_not_whole_is_not_called_ready(self):
        self.ready()
        gone = """async () => {
            const [name] = (await caches.keys()).filter((each) => each.startsWith("field-")),
              cache = await caches.open(name),
              [wasm] = (await cache.keys()).filter(({ url }) => url.endsWith(".wasm"));
            return cache.delete(wasm);
        }"""
        self.assertTrue(self.do(lambda page: page.evaluate(gone)))
        self.again()
        self.wait("#reach", "Not ready: 1 of its files")

    def test_a_server_that_is_broken_or_silent_leaves_the_kept_page(self):
        self.ready()
        for name, fault in (("broken", OSError("the house burns")), ("silent", lambda *a, **k: time.sleep(8))):
            with self.subTest(name), mock.patch.object(views, "render", side_effect=fault):
                begun = time.monotonic()
                self.again()
                self.do(lambda page: page.locator(".scene-line").first.wait_for())
                self.assertLess(time.monotonic() - begun, 7)
                self.visit("Kiln")
        self.assert_silent(BROKEN)

    def test_a_newer_page_is_fetched_whole_or_the_kept_one_opens(self):
        self.ready()
        newer = mock.patch.object(views, "page_version", return_value="newer")
        broken = mock.patch.object(views, "SERVICE_WORKER", "throw new Error('cut half way');")
        with newer, broken:
            self.again()
            self.do(lambda page: page.locator(".scene-line").first.wait_for())
            self.wait("#line", "newer page")
            self.cut()
            self.again()
            self.visit("Kiln")


class HomeFirst(FieldStory):
    def test_what_waits_goes_home_before_anything_is_fetched(self):
        Outing.objects.filter(pk=self.outing.pk).update(date=date.today())
        self.both_choose()
        self.do(lambda page: page.goto("about:blank"))
        self.cut(False)
        self.go("/field/")
        self.wait("#waiting", "1 to settle")
        self.assertEqual(self.on_the_lens(), ["green"])
        self.assert_silent(LOST)


class Gestures(FieldStory):
    """Gestures that must not change an exposure without a word."""

    def test_undo_after_a_frame_takes_nothing_else_back(self):
        self.take_along()
        self.visit("Kiln")
        before = self.text("#shutter")
        self.do(lambda page: page.click("#darker"))
        self.until(f"document.getElementById('shutter').textContent !== '{before}'")
        self.wait("#waiting", "all kept")
        shutter = self.text("#shutter")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", "Frame kept")
        self.wait("#waiting", "all kept")
        for _ in range(2):  # at once, and on the page opened anew
            self.do(lambda page: page.click("#undo"))
            self.wait("#ribbon .asks", "Strike out frame")
            self.do(lambda page: page.click("#ribbon button:text-is('Keep')"))
            self.assertEqual(self.text("#shutter"), shutter)
            self.do(lambda page: page.reload())
            self.visit("Kiln") if self.do(lambda page: page.locator(".scene-line").count()) else self.reckoned(0)
        self.assertEqual(Frame.objects.count(), 1)
        self.assert_silent()

    def test_a_filter_that_the_desk_took_off_is_not_seen_through(self):
        self.take_along()
        self.visit("Kiln")
        self.do(lambda page: page.click("#choices button:text-is('blue')"))
        self.until_kept(self.on_the_lens, ["blue"])
        self.wait("#waiting", "all kept")
        hand.use_colour_choice(Scene.objects.get(pk=self.kiln.pk), None, "none")
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.do(lambda page: page.click("#darker"))
        self.wait("#waiting", "all kept")
        self.until("document.querySelector('#choices [aria-pressed=true]').textContent === 'no filter'")
        time.sleep(1)  # a row that is still moving would now be seen through
        self.assertEqual(self.text("#seen"), "")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", "Frame kept")
        self.assert_silent()


class Settling(FieldStory):
    """What both changed is shown with its scene, and either stands by one key."""

    def test_the_phones_own_is_done_again_where_it_is_wanted(self):
        self.both_choose()
        self.back()
        self.wait("#waiting", "1 to settle")
        self.wait("#unsettled", "Kiln")
        self.do(lambda page: page.click("#unsettled button:text-is('Do mine')"))
        self.wait("#waiting", "all kept")
        self.assertEqual(self.on_the_lens(), ["orange"])
        self.assert_silent(LOST)

    def test_a_server_that_falls_over_one_scene_takes_the_others(self):
        self.take_along()
        self.cut()
        self.visit("Kiln")
        self.do(lambda page: page.click("#darker"))
        self.reckoned(1)
        self.do(lambda page: page.click("#previous"))
        self.until("document.getElementById('scene-title').textContent === 'Steps'")
        self.do(lambda page: page.click("#darker"))
        self.reckoned(1)
        real = views.take_in_acts
        fault = lambda person, pk, *rest: real(person, pk, *rest) if pk != self.kiln.pk else 1 / 0
        with mock.patch.object(views, "take_in_acts", side_effect=fault):
            self.cut(False)
            self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
            self.wait("#waiting", "1 waiting")
            self.wait("#line", "The server could not take everything (server 500)")
        self.wait("#waiting", "all kept")
        self.assert_silent(BROKEN)


class Held(FieldStory):
    """How the phone is held, in every orientation, against the specification's frame."""

    def test_a_level_view_is_level_however_the_phone_is_held(self):
        self.open("/field/", PHONE)
        ask = """async (angles) => {
            const { looksAlong } = await import("/static/field/orientation.js");
            return angles.map(([alpha, beta, gamma]) => looksAlong({ alpha, beta, gamma, absolute: true }));
        }"""
        held = {
            "upright, north": ((0, 90, 0), (0, 0)),
            "upright, east": ((270, 90, 0), (90, 0)),
            "on its left side": ((0, 0, -90), (90, 0)),
            "on its right side": ((0, 0, 90), (270, 0)),
            "upright, 30° up": ((0, 120, 0), (0, 30)),
            "upright, 20° down": ((180, 70, 0), (180, -20)),
            "flat on the table": ((0, 0, 0), (None, -90)),
        }
        found = self.do(lambda page: page.evaluate(ask, [angles for angles, _ in held.values()]))
        for (name, (_, (heading, tilt))), seen in zip(held.items(), found, strict=True):
            with self.subTest(name):
                self.assertEqual((seen.get("heading_deg"), seen["tilt_deg"]), (heading, tilt))

    def test_without_a_compass_there_is_no_heading_and_without_angles_nothing(self):
        self.open("/field/", PHONE)
        ask = """async () => {
            const { looksAlong } = await import("/static/field/orientation.js");
            const beside = { alpha: 10, beta: 90, gamma: 0, absolute: false };
            return [looksAlong(beside), looksAlong({ alpha: null, beta: null, gamma: null }), looksAlong()];
        }"""
        self.assertEqual(self.do(lambda page: page.evaluate(ask)), [{"tilt_deg": 0}, {}, {}])


class FromCold(FieldStory):
    """Opened on the way, before the rules run: what was prepared is there, and every key answers."""

    def again(self):
        self.do(lambda page: page.goto("about:blank"))
        self.do(lambda page: page.goto(f"{self.live_server_url}/field/", wait_until="commit"))

    def test_an_outing_of_today_opens_on_its_next_scene_and_a_frame_is_kept_at_once(self):
        Outing.objects.filter(pk=self.outing.pk).update(date=date.today())
        hand.place_tone(Scene.objects.get(pk=self.kiln.pk), None, "A", 3)
        self.take_along()
        self.until("document.body?.dataset.ready === '1'", 30)
        self.cut()
        self.again()
        self.do(lambda page: page.locator("#shutter:not(:empty)").wait_for())
        self.assertEqual(self.text("#scene-title"), "Kiln")
        self.assertIsNone(self.do(lambda page: page.get_attribute("body", "data-rules")), "the rules are not there yet")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#said", "Frame kept: ")
        self.assertIsNone(self.do(lambda page: page.get_attribute("body", "data-rules")))
        self.reckoned(1)
        self.assert_silent(LOST)

    def test_the_rules_start_from_their_memory_and_from_the_files_where_it_is_broken(self):
        self.take_along()
        self.until("document.body?.dataset.ready === '1'", 60)
        self.cut()
        broken = """() => new Promise((done, refuse) => {
            const opening = indexedDB.open("dimgrey-rules", 1);
            opening.onsuccess = () => {
              const store = opening.result.transaction("memory", "readwrite").objectStore("memory"), keys = store.getAllKeys();
              keys.onsuccess = () => (store.put(new Uint8Array(100), keys.result[0]).onsuccess = () => done(keys.result.length));
            };
            opening.onerror = refuse; })"""
        for come_from in ("memory", "files"):
            self.again()
            self.visit("Kiln")
            self.assertEqual(self.do(lambda page: page.get_attribute("body", "data-rules-from")), come_from)
            self.do(lambda page: page.click("#darker"))
            self.reckoned(1 if come_from == "memory" else 2)
            if come_from == "memory":
                self.assertEqual(self.do(lambda page: page.evaluate(broken)), 1)
        self.assert_silent(LOST)

    def test_no_setting_is_shown_that_leaves_out_what_was_done(self):
        hand.place_tone(Scene.objects.get(pk=self.kiln.pk), None, "A", 3)
        self.take_along()
        self.until("document.body?.dataset.ready === '1'", 30)
        self.cut()
        self.visit("Kiln")
        plain = self.text("#shutter")
        self.do(lambda page: page.click("#choices button:text-is('red')"))
        self.reckoned(1)
        through = self.text("#shutter")
        self.assertNotEqual(through, plain)
        seen = """() => { window.seen = []; setInterval(() => {
            const each = document.getElementById('shutter')?.textContent; if (each) window.seen.push(each); }, 5); }"""
        for forget in (False, True):
            if forget:  # as when the phone was closed before the core had said anything
                self.do(lambda page: page.evaluate("""async () => {
                    const { keepMeta } = await import('/static/field/store.js');
                    await keepMeta(`sheet:${location.hash.split('/')[1]}`, null); }"""))  # fmt: skip
            self.do(lambda page: page.add_init_script(f"({seen})()"))
            self.do(lambda page: page.reload(wait_until="commit"))
            self.until("document.body?.dataset.reckoned === '1'", 30)
            shown = set(self.do(lambda page: page.evaluate("window.seen")))
            self.assertEqual(shown, {through}, f"forgotten: {forget}")
        self.assert_silent(LOST)

    def test_a_new_scene_is_read_placed_and_set_in_twelve_taps(self):
        """Without a network, by thumb: each click is a tap, a drag is one, and nothing is typed."""
        self.take_along()
        self.cut()
        taps = []

        def tap(selector):
            taps.append(selector)
            self.do(lambda page: page.click(selector))

        tap(".outing button:text-is('Read at once')")
        self.do(lambda page: page.locator(".pad .pad-keys").wait_for())
        for reading in ("12", "14", "11"):
            for digit in reading:
                tap(f".pad [data-key='{digit}']")
            tap(".pad .main-act")
            self.until("document.querySelector('.pad-value').textContent.includes('–')")
        self.reckoned(3)
        tap(".pad button:text-is('close')")
        taps.append("drag")
        self.do(lambda page: page.locator(".hang[data-mark='A']").wait_for())
        box = self.do(lambda page: page.locator(".hang[data-mark='A'] .grip").bounding_box())
        x, y, middle = box["x"] + box["width"] / 2, box["y"] + box["height"] - 12, PHONE[0] / 2
        self.do(lambda page: (page.mouse.move(x, y), page.mouse.down(), page.mouse.move(middle, y, steps=3), page.mouse.up()))  # fmt: skip
        self.wait("#placed", "tone A on V")
        self.assertLessEqual(len(taps), 12, taps)
        # A reads EV 12 and prints on V: EV 12, which at ISO 100 and f/8 is 1/64.
        self.assertEqual(self.text("#shutter") + " " + self.text("#aperture"), "1/60 f/8")
        self.assert_silent(LOST)

    def test_the_setting_stands_in_the_pad_and_follows_its_readings(self):
        hand.place_tone(Scene.objects.get(pk=self.kiln.pk), None, "A", 3)
        self.open(f"/field/?take={self.outing.pk}", (320, 640))
        self.wait(".outing .taken", "Taken along")
        self.visit("Kiln")
        before = self.text("#shutter")
        self.do(lambda page: page.click("#read"))
        self.assertEqual(self.text(".pad-setting"), f"{before} {self.text('#aperture')}")
        for key in "9":
            self.do(lambda page, key=key: page.click(f".pad [data-key='{key}']"))
        self.do(lambda page: page.click(".pad .main-act"))
        self.until(f"!document.querySelector('.pad-setting').textContent.startsWith('{before} ')")
        self.assertEqual(self.text(".pad-setting"), f"{self.text('#shutter')} {self.text('#aperture')}")
        wide = self.do(lambda page: page.evaluate("document.documentElement.scrollWidth"))
        self.assertLessEqual(wide, 320)


class TheRibbon(FieldStory):
    """What was done stands in lines over the bar; each can be struck out and put back, with and without a network."""

    def strike(self, words):
        self.do(lambda page: page.click(f"#ribbon button[aria-label='Strike out: {words}']"))

    def put_back(self, words):
        self.do(lambda page: page.click(f"#ribbon button[aria-label='Put back: {words}']"))

    def on_the_ribbon(self):
        return self.do(lambda page: page.locator("#ribbon li > :first-child").all_inner_texts())

    def test_an_earlier_act_is_struck_and_later_ones_stay(self):
        self.take_along()
        self.visit("Kiln")
        started = self.text("#shutter")
        self.cut()
        self.do(lambda page: page.click("#choices button:text-is('orange')"))
        self.reckoned(1)
        self.do(lambda page: page.click("#brighter"))
        self.reckoned(2)
        self.assertEqual(self.on_the_ribbon()[:2], ["light +⅓", "filter: orange"])
        both = self.text("#shutter")
        self.strike("filter: orange")
        self.reckoned(3)
        self.assertEqual(self.do(lambda page: page.locator("#ribbon s").all_inner_texts()), ["filter: orange"])
        brighter = self.text("#shutter")
        self.assertEqual(len({started, both, brighter}), 3)
        self.back()
        self.wait("#waiting", "all kept")
        self.assertEqual(self.on_the_lens(), [])
        self.assertEqual(self.text("#shutter"), brighter)
        self.put_back("filter: orange")
        self.until_kept(self.on_the_lens, ["orange"])
        self.until(f"document.getElementById('shutter').textContent === '{both}'")
        self.assert_silent(LOST)

    def test_a_frame_is_struck_after_a_question_and_put_back(self):
        self.take_along()
        self.visit("Kiln")
        self.do(lambda page: page.click("#exposed"))
        self.wait("#waiting", "all kept")
        self.wait("#ribbon", "frame 1")
        self.do(lambda page: page.click("#undo"))
        self.do(lambda page: page.click("#ribbon .asks button:text-is('Strike out')"))
        self.until_kept(Frame.objects.count, 0)
        self.wait("#waiting", "all kept")
        self.do(lambda page: page.click("#ribbon button[aria-label^='Put back: frame 1']"))
        self.until_kept(Frame.objects.count, 1)
        self.assert_silent()

    def test_what_was_struck_needs_no_settling(self):
        self.both_choose()
        self.strike("filter: orange")
        self.reckoned(2)
        self.back()
        self.wait("#waiting", "all kept")
        self.assertEqual(self.on_the_lens(), ["green"])
        self.assert_silent(LOST)

    def test_both_settings_stand_beside_what_both_changed(self):
        self.both_choose()
        mine = self.text("#shutter")
        self.back()
        self.do(lambda page: page.locator(".weighed p").nth(1).wait_for())
        said = self.do(lambda page: page.locator(".weighed p b").all_inner_texts())
        self.assertEqual(said[0].split()[0], mine)
        self.assertNotEqual(said[0], said[1])
        self.do(lambda page: page.click("#unsettled button:text-is('Do mine')"))
        self.until_kept(self.on_the_lens, ["orange"])
        self.until(f"document.getElementById('shutter').textContent === '{mine}'")
