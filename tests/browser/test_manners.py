"""What every page does: the menu, what closes, files on their way, dropped and pasted pictures, what a reload finds again."""

import base64

from django.test import tag
from django.utils import timezone

from dimgrey.frames.models import Frame
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests import picturefiles as pictures
from tests.browser.story import DESK, PHONE, Story
from tests.documents import document

DROP = """([name, type, data, where]) => {
  const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0)), held = new DataTransfer();
  held.items.add(new File([bytes], name, { type }));
  const event = where === "paste" ? new ClipboardEvent("paste", { clipboardData: held, bubbles: true, cancelable: true })
    : new DragEvent("drop", { dataTransfer: held, bubbles: true, cancelable: true });
  document.body.dispatchEvent(event);
}"""


def made_up_jpeg():
    return base64.b64encode(pictures.jpeg(600, 400, exif=pictures.exif())).decode()


@tag("browser")
class Menu(Story):
    def test_one_menu_leads_everywhere_on_a_phone_and_closes(self):
        self.open("/", PHONE)
        self.assertFalse(self.do(lambda page: page.is_visible("#menu")))
        self.click(".menu-button")
        names = self.do(lambda page: page.locator("#menu > a").all_inner_texts())
        self.assertEqual(
            names,
            [
                "New scene",
                "Outings",
                "Frames",
                "Kit",
                "Setups",
                "Second look",
                "Practice",
                "In the field",
                "Phone",
                "Account",
            ],
        )
        self.assert_accessible("menu")
        small = self.do(
            lambda page: page.evaluate(
                "Math.min(...[...document.querySelectorAll('#menu > a')].map(a => a.offsetHeight))"
            )
        )
        self.assertGreaterEqual(small, 44)
        self.do(lambda page: page.keyboard.press("Escape"))
        self.until("!document.getElementById('menu').matches(':popover-open')")
        self.click(".menu-button")
        self.click("#menu .look summary")
        self.click("text=in the dark")
        self.until("document.documentElement.dataset.mode === 'night'")
        self.assert_silent()

    def test_on_the_desk_it_lies_in_the_head_and_look_closes_beside_it_without_a_pin(self):
        scene = lifecycle.create_scene(self.person, document(title="Wall"))
        self.open("/", DESK)
        self.assertFalse(self.do(lambda page: page.is_visible(".menu-button")))
        self.click(".look summary")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.until("!document.querySelector('.look').open && document.activeElement.tagName === 'SUMMARY'")
        self.open(f"/scenes/{scene.pk}/")
        self.click(".look summary")
        self.do(lambda page: page.mouse.click(300, 300))
        self.until("!document.querySelector('.look').open")


@tag("browser")
class Files(Story):
    def test_pages_are_dark_where_the_device_is_until_something_else_is_chosen(self):
        self.open("/", DESK)
        mode = "document.documentElement.dataset.mode"
        colours = lambda: self.do(
            lambda page: page.evaluate("getComputedStyle(document.querySelector('.top')).backgroundColor")
        )
        light = colours()
        self.do(lambda page: page.emulate_media(color_scheme="dark"))
        self.until(f"{mode} === 'dark'")
        self.assertNotEqual(colours(), light)
        self.do(lambda page: page.reload())
        self.until(f"{mode} === 'dark'")
        self.assert_accessible("a dark home")
        self.click(".look summary")
        self.click(".look button:has-text('indoors')")
        self.until(f"{mode} === 'plain'")
        self.assertEqual(colours(), light)

    def drop(self, name="yard_wall.jpg", where="drop"):
        self.do(lambda page: page.evaluate(DROP, [name, "image/jpeg", made_up_jpeg(), where]))

    def test_a_picture_dropped_on_home_becomes_a_scene(self):
        self.open("/")
        self.drop()
        today = timezone.localdate()
        self.wait("#where-title", f"{today.day} {today:%B}")
        self.assertIsNotNone(Scene.objects.get().picture)
        self.assert_silent()

    def test_a_picture_pasted_on_a_desk_waits_in_its_field(self):
        scene = lifecycle.create_scene(self.person, document(title="Wall"))
        self.open(f"/scenes/{scene.pk}/")
        self.drop(where="paste")
        self.until("document.querySelector('#edit-picture input[type=file]')?.files.length === 1")
        self.assertIsNone(Scene.objects.get().picture, "nothing is replaced before it is said")
        self.click("#edit-picture button.act")
        self.do(lambda page: page.locator("#frame").wait_for())
        self.assertIsNotNone(Scene.objects.get().picture)
        self.assert_silent()

    def test_a_file_on_its_way_says_so_and_its_button_waits(self):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Yard"))
        held = []
        self.do(lambda page: page.route("**/scenes/new", lambda route: held.append(route)))
        upload = {"name": "yard.jpg", "mimeType": "image/jpeg", "buffer": pictures.jpeg(600, 400)}
        self.do(lambda page: page.set_input_files("[name=picture]", upload))
        self.do(lambda page: page.click("text=Open the desk"))
        self.until("document.querySelector('.on-its-way progress') !== null")
        self.assertTrue(self.do(lambda page: page.is_disabled("text=Open the desk")))
        self.until(f"{len(held)} >= 0")
        self.pause(0.1)
        self.do(lambda page: held.pop().continue_())
        self.wait("#where-title", "Yard")

    def test_a_file_that_is_refused_is_told_on_the_page(self):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Yard"))
        broken = {"name": "broken.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
        self.do(lambda page: page.set_input_files("[name=picture]", broken))
        self.do(lambda page: page.click("text=Open the desk"))
        self.do(lambda page: page.locator(".problem").first.wait_for())
        self.assertEqual(self.do(lambda page: page.input_value("[name=title]")), "Yard")
        self.assertFalse(self.do(lambda page: page.is_disabled("text=Open the desk")))
        self.assertEqual(Scene.objects.count(), 0)


@tag("browser")
class Reload(Story):
    def test_view_and_open_parts_are_found_again(self):
        scene = lifecycle.new_scene(
            self.person, "Yard", None, "film", data=pictures.jpeg(600, 400, exif=pictures.exif()), filename="yard.jpg"
        )
        self.open(f"/scenes/{scene.pk}/")
        self.click("[data-view=contours]")
        self.click("#edit-filter > summary")
        self.do(lambda page: page.locator("#filter").wait_for())
        self.until("location.search === '?view=contours&open=edit-filter'")
        self.do(lambda page: page.reload())
        self.do(lambda page: page.locator("#filter").wait_for())
        self.until("document.querySelector('[data-view=contours]').getAttribute('aria-pressed') === 'true'")
        self.click("#edit-filter > summary")
        self.until("location.search === '?view=contours'")
        self.assert_silent()

    def test_printing_the_desk_prints_the_card(self):
        scene = lifecycle.create_scene(self.person, document(title="Wall"))
        self.open(f"/scenes/{scene.pk}/")
        self.do(
            lambda page: page.evaluate(
                "setTimeout(() => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'p', ctrlKey: true, bubbles: true })))"
            )
        )
        self.do(lambda page: page.wait_for_url("**/card?print=on"))


@tag("browser")
class Timer(Story):
    def test_it_waits_counts_and_says_when(self):
        tone = {"name": "night", "role": "shadow", "ev100": 0}
        placing = {"school": "known tone", "tone": "night", "zone": 5}
        scene = lifecycle.create_scene(
            self.person, document(title="Night", tones=[tone], placing=placing, camera={"aperture": "f/2"})
        )
        self.open(f"/scenes/{scene.pk}/", PHONE)
        self.do(lambda page: page.select_option("#timer-delay", "2"))
        self.do(lambda page: page.check("#timer-sound"))
        self.click("#start-timer")
        self.wait(".timer", "Stand back")
        self.assert_accessible("timer")
        self.do(lambda page: page.reload())
        self.wait(".timer", "Shutter open.")
        self.until("document.getElementById('timer-delay').value === '2'")
        self.wait(".timer", "Close the shutter.")
        self.click(".timer button")
        self.until("localStorage.getItem('dimgrey-timer') === null")
        self.assertEqual(Frame.objects.count(), 0)
