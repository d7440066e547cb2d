"""The first touch: from an empty home to an exposure on one's own picture in three acts, with a pointer and with a thumb."""

from PIL import Image

from dimgrey.scenes.models import Scene
from tests import picturefiles
from tests.browser.story import DESK, PHONE, Story

DROP = "form[data-drop] input[type=file]"


class Touching(Story):
    """Hands of the first touch."""

    def drop(self, *files):
        """Let files go on the page, as the browser hands them over."""
        sent = [{"name": name, "mimeType": "image/jpeg", "buffer": data} for name, data in files]
        self.clicks += 1
        self.do(lambda page: page.set_input_files(DROP, sent))
        if len(files) == 1:
            self.do(lambda page: page.locator("#view").wait_for())
            self.do(lambda page: page.wait_for_load_state("networkidle"))

    def touch(self, x, y, size):
        at = self.point(x, y)
        if size == DESK:
            self.do(lambda page: page.mouse.click(*at))
        else:
            self.do(lambda page: page.touchscreen.tap(*at))
            self.click("#pin-here")
        self.clicks += 1
        self.do(lambda page: page.locator("#strip").wait_for())

    def grey(self, print_):
        self.click(f"#strip-greys [data-print='{print_}']")
        self.do(lambda page: page.locator(".big-exposure:not(.none)").wait_for())


class FirstTouch(Touching):
    def test_three_acts_and_no_typing_lead_to_an_exposure(self):
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                Scene.objects.all().delete()
                self.open("/", size)
                self.assert_accessible("an empty home")
                self.assert_fits()
                self.clicks = 0
                self.drop(("yard.jpg", picturefiles.jpeg(600, 400, exif=picturefiles.exif())))
                self.touch(0.6, 0.5, size)
                self.grey(5)
                self.assertLessEqual(self.clicks, 3 if size == DESK else 4)
                self.assertRegex(self.text("#part-exposure .big-exposure"), r"^1/\d+\s+f/8")
                self.assertAlmostEqual(float(self.printed("A")), 5, delta=0.01)
                self.assert_fits()
                self.assert_silent()

    def test_without_exposure_data_one_question_more(self):
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                Scene.objects.all().delete()
                self.open("/", size)
                self.drop(("yard.jpg", picturefiles.jpeg(600, 400)))
                self.assert_accessible("a picture that asks")
                self.click(".ask-light button:text-is('cloud')")
                self.do(lambda page: page.locator(".ask-light").wait_for(state="detached"))
                self.touch(0.6, 0.5, size)
                self.grey(5)
                self.assertIn("a guess from “cloud”", self.text("#part-cautions"))
                self.assert_silent()

    def printed(self, mark):
        return self.do(lambda page: page.get_attribute(f"#flag-{mark}", "data-print"))

    def test_a_hand_that_slides_along_the_greys_moves_the_exposure_with_it(self):
        self.open("/")
        self.drop(("yard.jpg", picturefiles.jpeg(600, 400, exif=picturefiles.exif())))
        self.touch(0.6, 0.5, DESK)
        self.grey(5)
        before = self.text("#part-exposure .big-exposure")
        box = self.do(lambda page: page.locator("#strip-greys").bounding_box())
        y = lambda print_: box["y"] + (10.5 - print_) / 11 * box["height"]

        def slide(page):
            page.mouse.move(box["x"] + 40, y(5))
            page.mouse.down()
            page.mouse.move(box["x"] + 40, y(6.4), steps=6)

        self.do(slide)
        self.until(f"document.querySelector('.big-exposure').innerText !== {before!r}")
        self.assertAlmostEqual(float(self.printed("A")), 5, delta=0.01, msg="nothing is kept while it moves")
        self.do(lambda page: page.mouse.up())
        self.until("Math.abs(document.getElementById('flag-A').dataset.print - 6.333) < 0.01")
        # By keys: a step of the camera, a whole zone said by its figure, and Escape leaves all as it is.
        self.do(lambda page: page.keyboard.press("ArrowDown"))
        self.until("Math.abs(document.getElementById('flag-A').dataset.print - 6) < 0.01")
        self.do(lambda page: page.keyboard.press("3"))
        self.until("Math.abs(document.getElementById('flag-A').dataset.print - 3) < 0.01")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.assertFalse(self.do(lambda page: page.is_visible("#strip")))
        self.assertEqual(self.do(lambda page: page.evaluate("document.activeElement.dataset.mark")), "A")
        self.assert_silent()

    def test_what_the_picture_does_not_show_is_not_placed(self):
        black = Image.new("RGB", (600, 400), (0, 0, 0))
        black.paste((200, 200, 200), (300, 0, 600, 400))
        self.open("/")
        self.drop(("half.jpg", picturefiles.saved(black, "JPEG", exif=picturefiles.exif())))
        self.touch(0.2, 0.5, DESK)
        self.wait("#strip-blind", "The picture is black here. Read it with a meter")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.assertIsNone(Scene.objects.get().document.placing.tone)
        self.assert_silent()

    def test_several_make_a_scene_each_and_what_is_none_is_named(self):
        self.open("/")
        self.drop(
            ("a.jpg", picturefiles.jpeg()), ("notes.jpg", b""), ("b.jpg", picturefiles.jpeg(exif=picturefiles.exif()))
        )
        self.wait(".on-its-way", "Not taken: notes.jpg.")
        self.assertEqual(Scene.objects.count(), 2)

    def test_the_kiln_is_there_for_who_has_no_picture(self):
        self.open("/")
        self.click("text=Take the kiln")
        self.do(lambda page: page.locator("#view").wait_for())
        self.assertRegex(Scene.objects.get().title, r"^\d{1,2} [A-Z][a-z]+$")
        self.touch(0.55, 0.6, DESK)
        self.grey(6)
        self.assert_silent()
