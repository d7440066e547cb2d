"""The whole job in the browser: on the demo and on an uploaded picture, at the desk and on the phone."""

import json
import time

from dimgrey.frames.models import Frame
from dimgrey.outings.models import Outing
from dimgrey.people.actions import set_look
from dimgrey.scenes.models import Scene
from tests import hand
from tests import picturefiles as pictures
from tests.browser.story import DESK, PHONE, Story
from tests.helpers import band, scene_with_light


class OnTheDemo(Story):
    def setUp(self):
        super().setUp()
        self.with_demo()

    def scene(self, title):
        return Scene.objects.get(title=title)

    def test_from_the_outing_to_a_logged_frame_at_the_desk(self):
        self.open("/")
        self.assert_accessible("home")
        self.click(".scene:has-text('Mist in the clay pit')")
        self.assertIn("Sight a tone", self.text("#rail"))
        self.assert_accessible("unplanned desk")

        # Sight the near post and the sky, each with one click.
        for marks, (x, y) in enumerate(((0.732, 0.86), (0.5, 0.09)), 1):
            at = self.point(x, y)
            self.do(lambda page, at=at: page.mouse.move(*at))
            self.do(lambda page: page.locator("#sighted").wait_for())
            self.assertRegex(self.text("#sighted"), r"EV \d")
            self.do(lambda page, at=at: page.mouse.click(*at))
            self.until(f"document.querySelectorAll('#pins .pin').length === {marks}")
            self.do(lambda page: page.locator("#strip").wait_for())
            self.do(lambda page: page.keyboard.press("Escape"))
        self.click("#tone-A summary")
        scene = self.scene("Mist in the clay pit")
        self.assertEqual([t["mark"] for t in scene.kept["tones"]], ["A", "B"])
        self.assertAlmostEqual(scene.kept["tones"][0]["readings"][0]["ev100"], 9.91, delta=1.0)

        # Name the first, place it on IV.
        self.do(lambda page: page.fill("#name-A", "post, near"))
        self.do(lambda page: page.press("#name-A", "Tab"))
        self.wait("#flag-A .name", "post, near")
        self.click("#tone-A .zones button:has-text('IV') >> nth=0")
        self.told("placing", "post, near on IV")
        scene = self.scene("Mist in the clay pit")
        self.assertEqual(scene.kept["placing"]["zone"], 4)
        shown = self.text("#part-exposure .big-exposure")
        self.assertRegex(shown, r"f/8")

        # Why this? opens the sum; undo takes the placing back, redo brings it again.
        self.click("#why-exposure summary")
        self.assertIn("Setting EV", self.text("#why-exposure"))
        self.click("#undo")
        self.until("!document.querySelector('#part-placing').textContent.includes('post, near on IV')")
        self.click("#redo")
        self.told("placing", "post, near on IV")
        self.assert_accessible("planned desk")

        # The card, then the frame.
        self.click(".sheet-foot a:has-text('Card')")
        self.assertIn("post, near on IV", self.text(".field-card"))
        self.assert_accessible("card")
        self.shot("card")
        self.do(lambda page: page.go_back())
        self.click("#log-more summary")
        self.do(lambda page: page.fill("[name=note]", "the heron moved"))
        self.click("text=Log it")
        frame = Frame.objects.get()
        self.assertEqual(frame.note, "the heron moved")
        self.assertLess(abs(frame.difference_stops), 1 / 6, "marked values round to the nearest third")
        self.assertIn("as planned", self.text("main"))
        self.assert_accessible("frame")
        self.go("/frames/")
        self.assertIn("the heron moved", self.text("table"))
        self.assert_accessible("frames")
        self.assert_silent()

    def test_dragging_and_nudging_on_the_rail_moves_all_tones_and_the_exposure(self):
        scene = self.scene("Drying yard, noon")
        self.open(f"/scenes/{scene.pk}/")
        before = self.text("#part-exposure .big-exposure")
        x, y = self.point(0.5, 0.5, "#flag-B .long .box")
        width = self.do(lambda page: page.locator("svg.rail").bounding_box())["width"]

        def drag(page):
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + width / 22, y)
            page.mouse.move(x + width / 11, y)
            page.mouse.up()

        self.do(drag)
        self.until("/shade on V$/.test(document.querySelector('#part-placing strong').textContent)")
        self.assertNotEqual(self.text("#part-exposure .big-exposure"), before)
        document = self.scene("Drying yard, noon").kept
        self.assertEqual((document["placing"]["tone"], round(document["placing"]["zone"], 2)), ("lime wall, shade", 5))
        self.do(lambda page: page.focus("#flag-B"))
        for key in ("ArrowRight", "ArrowRight", "ArrowLeft"):
            self.do(lambda page, key=key: page.keyboard.press(key))
        self.until("/shade on V⅓$/.test(document.querySelector('#part-placing strong').textContent)")
        self.assertEqual(self.do(lambda page: page.evaluate("document.activeElement.id")), "flag-B")
        self.assert_silent()

    def test_each_change_of_placing_comes_back_with_one_answer(self):
        """How long it takes is measured by script/bench."""
        scene = self.scene("Drying yard, noon")
        self.open(f"/scenes/{scene.pk}/")
        self.do(lambda page: page.focus("#flag-A"))
        before = Scene.objects.get(pk=scene.pk)
        press = """key => new Promise(done => {
                document.addEventListener('desk:changed', () => done(document.activeElement.id), { once: true });
                document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
            })"""
        for key in ("ArrowLeft", "ArrowRight") * 10:
            self.do(lambda page, key=key: page.evaluate(press, key))
            self.until("document.activeElement.id === 'flag-A'")
        after = Scene.objects.get(pk=scene.pk)
        self.assertEqual(after.stamp, before.stamp + 20)
        self.assertEqual(after.document.placing.zone, before.document.placing.zone)
        self.assert_silent()

    def test_views_filter_and_camera_answer_on_the_picture(self):
        scene = self.scene("Bottle kiln and sky")
        self.open(f"/scenes/{scene.pk}/", PHONE)
        self.shot("phone")
        self.open(f"/scenes/{scene.pk}/")
        self.shot("desk")
        self.do(lambda page: page.click(".pin[data-mark=D] text"))
        self.do(lambda page: page.locator("#strip").wait_for())
        self.assert_accessible("the greys at a pin")
        self.shot("at-the-pin")
        self.do(lambda page: page.keyboard.press("Escape"))
        source = lambda: self.do(lambda page: page.get_attribute("#frame", "data-shown"))
        self.until("document.getElementById('frame').dataset.shown?.includes('grey-')")
        grey = source()
        self.do(lambda page: page.keyboard.press("c"))
        self.until("document.getElementById('view').src.includes('colour.jpg')")
        self.assertIn("seen in colour", self.do(lambda page: page.get_attribute("#view", "alt")))
        self.do(lambda page: page.keyboard.press("g"))
        self.until("document.getElementById('frame').dataset.shown.includes('grey-')")
        self.click("#edit-filter summary")
        self.do(lambda page: page.select_option("#filter", "red"))
        self.told("filter", "Red: 2⅔ stops")
        self.until(f"document.getElementById('frame').dataset.shown !== {json.dumps(grey)}")
        self.assertTrue(self.do(lambda page: page.is_visible("#filter")))
        self.assert_accessible("filter open")
        self.click("#edit-camera summary")
        self.do(lambda page: page.fill("#iso", "130"))
        self.click("#edit-camera button.act")
        self.wait("#edit-camera .problem", "ISO 130 is not a marked value. Nearest: ISO 125 or ISO 160.")
        self.assertEqual(self.do(lambda page: page.input_value("#iso")), "130")
        self.assert_accessible("camera refused")
        self.assert_silent(allowed=("422",))

    def test_two_windows_the_second_is_told(self):
        scene = self.scene("White ware")
        self.open(f"/scenes/{scene.pk}/")
        hand.place_tone(Scene.objects.select_related("picture").get(pk=scene.pk), None, "B", 7)
        self.do(lambda page: page.focus("#flag-A"))
        self.do(lambda page: page.keyboard.press("ArrowLeft"))
        self.wait("#sheet .problem", "changed in another window")
        self.assertEqual(self.scene("White ware").kept["placing"]["tone"], "jug, lit side")
        self.assertIn("jug, lit side on VII", self.says("placing"))
        self.assert_silent(allowed=("409",))

    def test_by_keyboard_alone_a_tone_is_pinned_and_placed(self):
        scene = self.scene("Mist in the clay pit")
        self.open(f"/scenes/{scene.pk}/")
        self.do(lambda page: page.focus("#frame"))
        for key in ("Shift+ArrowDown", "ArrowLeft", "Enter"):
            self.do(lambda page, key=key: page.keyboard.press(key))
        self.do(lambda page: page.locator("#strip").wait_for())
        self.wait("#part-exposure", "One tone is read so far")
        self.do(lambda page: page.keyboard.press("5"))
        self.do(lambda page: page.locator("#flag-A").wait_for(state="attached"))
        self.do(lambda page: page.keyboard.press("Escape"))
        self.do(lambda page: page.keyboard.press("?"))
        self.assertTrue(self.do(lambda page: page.is_visible("#keys")))
        self.assert_accessible("keys")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.do(lambda page: page.focus("#frame"))
        self.do(lambda page: page.keyboard.press("u"))
        self.until("document.querySelectorAll('.flag').length === 0")
        self.do(lambda page: page.keyboard.press("u"))
        self.until("document.querySelectorAll('.pin').length === 0")
        self.assertEqual(self.scene("Mist in the clay pit").document.tones, ())
        self.assert_silent()

    def test_on_the_phone_from_picture_to_exposure_with_the_reading_pad(self):
        scene = self.scene("Mist in the clay pit")
        self.open(f"/scenes/{scene.pk}/", PHONE)
        self.assert_fits()
        for x, y in ((0.732, 0.86), (0.5, 0.12)):
            self.do(lambda page: page.evaluate("window.scrollTo(0, 0)"))
            at = self.point(x, y)
            self.do(lambda page, at=at: page.touchscreen.tap(*at))
            self.do(lambda page: page.locator("#pin-here").wait_for())
            self.click("#pin-here")
            self.click("#strip-close")
        self.until("document.querySelectorAll('#pins .pin').length === 2")
        self.click("#open-pad")
        self.assertIn("1 of 2", self.text(".pad-head"))
        for key in ("1", "0"):
            self.click(f".pad [data-key='{key}']")
        self.click(".pad [data-third='1']")
        self.assertEqual(self.text(".pad-value"), "EV 10⅓")
        self.assert_accessible("pad")
        self.click(".pad .main-act")
        self.wait(".pad-head", "2 of 2")
        self.click(".pad button:has-text('skip')")
        self.do(lambda page: page.locator(".pad").wait_for(state="hidden"))
        readings = self.scene("Mist in the clay pit").kept["tones"][0]["readings"]
        self.assertAlmostEqual(readings[-1]["ev100"], 10.3333, places=3)
        self.click("#tone-A summary")
        self.do(lambda page: page.locator("#tone-A .zones").wait_for())
        self.click("#tone-A .zones button:has-text('III') >> nth=0")
        self.wait("#part-exposure", "f/8")
        self.assert_fits()
        self.assert_accessible("phone desk")
        self.click("#log-more summary")
        self.click("text=Log it")
        self.until_kept(Frame.objects.count, 1)
        self.assertLessEqual(self.clicks, 20)
        self.assert_silent()

    def test_a_touch_drag_places_a_tone(self):
        scene = self.scene("Drying yard, noon")
        self.open(f"/scenes/{scene.pk}/", PHONE)
        x, y = self.point(0.5, 0.5, "#flag-A .short .box")
        width = self.do(lambda page: page.locator("svg.rail").bounding_box())["width"]

        def drag(page):
            session = self.context.new_cdp_session(page)
            touch = lambda kind, dx: session.send(
                "Input.dispatchTouchEvent",
                {"type": kind, "touchPoints": [] if kind == "touchEnd" else [{"x": x + dx, "y": y}]},
            )
            touch("touchStart", 0)
            for k in range(1, 6):
                touch("touchMove", -k * width / 55)
            touch("touchEnd", 0)

        self.do(drag)
        # It printed on VII⅔; a zone less is VI⅔ in the print, which falls a third lower on this sensor.
        self.until("/prints on VI⅔$/.test(document.querySelector('#part-placing strong').textContent)")
        self.assertAlmostEqual(self.scene("Drying yard, noon").kept["placing"]["zone"], 6.32, delta=0.03)

    def test_every_look_is_legible(self):
        scene = self.scene("Drying yard, noon")
        looks = (("dark", "plain"), ("light", "plain"), ("light", "dark"), ("middle", "sun"), ("middle", "night"))
        for surround, mode in looks:
            set_look(self.person, surround=surround, mode=mode)
            for size, smaller in ((DESK, (320, 640)), (PHONE, (844, 390))):
                self.open(f"/scenes/{scene.pk}/", size)
                for width, height in (size, smaller):
                    with self.subTest(surround=surround, mode=mode, width=width):
                        self.do(lambda page, now={"width": width, "height": height}: page.set_viewport_size(now))
                        self.assert_accessible(f"{surround} {mode}")
                        self.assert_fits()
        self.assert_silent()


class OwnPicture(Story):
    def test_an_uploaded_snapshot_from_picture_to_card(self):
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                Scene.objects.all().delete()
                self.open("/", size)
                self.assert_accessible("empty home")
                self.click("text=Without a picture")
                self.do(lambda page: page.fill("[name=title]", "Back yard"))
                data = pictures.jpeg(600, 400, exif=pictures.exif())
                upload = {"name": "yard.jpg", "mimeType": "image/jpeg", "buffer": data}
                self.do(lambda page, upload=upload: page.set_input_files("[name=picture]", upload))
                self.assert_accessible("new scene")
                self.click("text=Open the desk")
                self.told("picture", "Estimate from the picture's own exposure data")
                self.do(lambda page: page.wait_for_load_state("networkidle"))
                at = self.point(0.25, 0.4)
                if size == DESK:
                    self.do(lambda page, at=at: page.mouse.click(*at))
                else:
                    self.do(lambda page, at=at: page.touchscreen.tap(*at))
                    self.click("#pin-here")
                self.do(lambda page: page.locator("#strip").wait_for())
                self.assert_accessible("at the pin")
                self.do(lambda page: page.fill("#strip [name=reading]", "1/60 f/8"))
                self.do(lambda page: page.press("#strip [name=reading]", "Enter"))
                self.told("picture", "Scale set by one typed reading.")
                self.do(lambda page: page.fill("#strip [name=reading]", "f/7.5 1/60"))
                self.do(lambda page: page.press("#strip [name=reading]", "Enter"))
                # What is refused is settled on the sheet, where what was typed stands.
                self.wait("#tone-A .problem", "f/7.5 is not a marked value. Nearest: f/7.1 or f/8.")
                self.assertEqual(self.do(lambda page: page.input_value("#read-A")), "f/7.5 1/60")
                self.do(lambda page: page.locator(".pin[data-mark=A]").focus())
                self.do(lambda page: page.keyboard.press("Enter"))
                self.do(lambda page: page.locator("#strip").wait_for())
                self.do(lambda page: page.keyboard.press("4"))
                self.told("placing", "on IV")
                self.do(lambda page: page.keyboard.press("Escape"))
                self.do(lambda page: page.locator("#strip").wait_for(state="hidden"))
                # Metered EV 12 on IV sets EV 13: 64 / 8192 = 1/128 s.
                self.assertRegex(self.text("#part-exposure .big-exposure"), r"1/125\s+f/8")
                self.click(".sheet-foot a:has-text('Card')")
                self.assertIn("1/125", self.text(".field-card"))
                self.assert_fits()
                self.assert_silent(allowed=("422",))

    def test_without_a_picture_typed_tones_make_a_plan(self):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Cellar"))
        self.click("text=Open the desk")
        for name, reading in (("coal", "4"), ("lamp-lit wall", "1/15 f/4")):
            self.do(lambda page: page.evaluate("document.getElementById('edit-tones').open = true"))
            self.do(lambda page: page.locator("#add-name").wait_for())
            self.do(lambda page, name=name: page.fill("#add-name", name))
            self.do(lambda page, reading=reading: page.fill("#add-reading", reading))
            self.do(lambda page: page.press("#add-reading", "Enter"))
            self.wait("#sheet .tones", name)
        self.told("placing", "coal on III")
        self.assertRegex(self.text("#part-exposure .big-exposure"), r"1 s\s+f/8")
        self.assert_accessible("desk without picture")
        self.assert_silent()

    def test_a_refused_upload_keeps_the_title(self):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Broken"))
        upload = {"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"not a picture"}
        self.do(lambda page: page.set_input_files("[name=picture]", upload))
        self.click("text=Open the desk")
        self.assertIn("not a picture that can be read", self.text(".problem"))
        self.assertEqual(self.do(lambda page: page.input_value("[name=title]")), "Broken")
        self.assert_silent(allowed=("422",))

    def test_a_double_click_on_log_makes_one_frame(self):
        scene = scene_with_light(self.person)
        hand.pin_tone(scene, None, band(3), 0.5)
        hand.place_tone(scene, None, "A", 3)
        self.open(f"/scenes/{scene.pk}/")
        self.click("#log-more summary")
        self.do(lambda page: page.dblclick("text=Log it"))
        time.sleep(0.2)
        self.until_kept(Frame.objects.count, 1)

    def test_what_is_done_while_an_act_is_on_its_way_waits_for_it(self):
        """A name typed and a zone touched at once: both are kept, in their order, and nobody is told of a conflict."""
        scene = scene_with_light(self.person)
        hand.pin_tone(scene, None, band(3), 0.5)
        self.open(f"/scenes/{scene.pk}/?open=tone-A")
        self.do(lambda page: page.locator("#name-A").wait_for())
        sent = []

        def late(route):
            sent.append(route.request.url.rsplit("/", 1)[1])
            if len(sent) == 1:
                self.page.wait_for_timeout(400)
            route.continue_()

        self.do(lambda page: page.route("**/do/*", late))
        self.do(lambda page: page.fill("#name-A", "grey wall"))
        self.do(lambda page: page.click("#tone-A .zones button:text-is('V') >> nth=0"))
        self.until("document.querySelector('#flag-A')?.classList.contains('placed')")
        self.assertEqual(sent, ["tone", "place"])
        written = Scene.objects.get(pk=scene.pk).document
        self.assertEqual((written.tones[0].name, written.placing.tone), ("grey wall", "grey wall"))
        self.assert_silent()

    def test_what_is_being_typed_when_an_answer_comes_is_still_there(self):
        """The answer to one act brings the sheet anew; a name half typed by then stays, with its caret, and is sent once."""
        scene = scene_with_light(self.person)
        hand.pin_tone(scene, None, band(3), 0.5)
        self.open(f"/scenes/{scene.pk}/?open=edit-tones,tone-A")
        self.do(lambda page: page.locator("#add-name").wait_for())
        held = []
        self.do(lambda page: page.route("**/do/place", lambda route: held.append(route)))
        self.do(lambda page: page.click("#tone-A .zones button:text-is('V') >> nth=0"))
        self.do(lambda page: page.wait_for_timeout(50))
        self.do(lambda page: page.fill("#add-name", "roof light"))
        self.do(lambda page: page.evaluate("document.getElementById('add-name').setSelectionRange(2, 4)"))
        self.do(lambda page: held[0].continue_())
        self.until("document.querySelector('#flag-A')?.classList.contains('placed')")
        field = "document.getElementById('add-name')"
        self.assertEqual(
            self.do(
                lambda page: page.evaluate(
                    f"[{field}.value, document.activeElement === {field}, {field}.selectionStart, {field}.selectionEnd]"
                )
            ),
            ["roof light", True, 2, 4],
        )
        self.do(lambda page: page.fill("#add-reading", "11"))
        self.do(lambda page: page.press("#add-reading", "Enter"))
        self.wait("#sheet .tones", "roof light")
        self.assertEqual(self.do(lambda page: page.input_value("#add-name")), "")
        self.assertEqual([tone.name for tone in Scene.objects.get(pk=scene.pk).document.tones[1:]], ["roof light"])
        # A field that is sent when it is left: what was half typed is sent then, though a script wrote it.
        stamp = "JSON.parse(document.getElementById('desk-data').textContent).stamp"
        before = self.do(lambda page: page.evaluate(stamp))
        self.do(lambda page: page.click("#tone-A .zones button:text-is('IV') >> nth=0"))
        self.do(lambda page: page.fill("#name-A", "grey wall"))
        self.do(lambda page: held[1].continue_())
        self.until(f"{stamp} !== {before!r}")
        self.do(lambda page: page.locator("#name-A").blur())
        self.until_kept(lambda: Scene.objects.get(pk=scene.pk).document.tones[0].name, "grey wall")
        self.assert_silent()

    def test_a_removed_scene_can_be_brought_back(self):
        scene = scene_with_light(self.person)
        self.open(f"/scenes/{scene.pk}/")
        self.click("#edit-intent summary")
        self.click("text=Remove this scene")
        self.assertIn("Removed", self.text("main"))
        self.click("text=Bring it back")
        self.wait("h1", "Steps")
        self.assertEqual(Outing.objects.count(), 0)
        self.assert_silent()
