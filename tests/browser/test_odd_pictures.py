"""First use with odd pictures: each ends in an exposure, or in a sentence that says what to do next. Odd drops, too."""

import numpy as np
from PIL import Image, ImageDraw

from dimgrey.scenes.models import Scene
from tests import picturefiles
from tests.browser.story import DESK
from tests.browser.test_first_touch import DROP, Touching
from tests.browser.test_manners import DROP as HANDED
from tests.browser.test_manners import made_up_jpeg

GREY, WHITE, BLACK = (120, 120, 120), (255, 255, 255), (0, 0, 0)


def plain(colour, size=(600, 400)):
    return Image.new("RGB", size, colour)


def with_border():
    """A scan with a white border."""
    scan = plain(WHITE, (700, 500))
    scan.paste(Image.effect_noise((560, 380), 20).convert("RGB"), (70, 60))
    return scan


def drawing():
    paper = plain(WHITE)
    draw = ImageDraw.Draw(paper)
    for k in range(12):
        draw.line([(30 + 40 * k, 40), (560 - 30 * k, 360)], fill=BLACK, width=2)
    return paper


def wide():
    return Image.fromarray(np.tile(np.linspace(20, 230, 3000, dtype=np.uint8), (300, 1))).convert("RGB")


ODD = {
    "all black": plain(BLACK),
    "all white": plain(WHITE),
    "all of one grey": plain(GREY),
    "four points": plain(GREY, (2, 2)),
    "one row": plain(GREY, (300, 1)),
    "a scan with a white border": with_border(),
    "a drawing": drawing(),
    "a panorama, ten to one": wide(),
    "upright, one to ten": wide().rotate(90, expand=True),
    "without colour": Image.effect_noise((400, 300), 20),
}
"""Name -> Image."""
SAID = ("meter", "touch", "read", "place", "cut")
"""One of these stands in a sentence that says what to do."""


NOTHING_TO_PLACE = ("all black", "all white", "a drawing", "one row")
"""What ends in a sentence."""
PROBLEM = ".problem:visible, #notice:visible"


class OddPictures(Touching):
    def test_each_ends_in_an_exposure_or_in_what_to_do(self):
        """With exposure data and without, in turns."""
        for k, (name, image) in enumerate(ODD.items()):
            with self.subTest(name):
                Scene.objects.all().delete()
                self.open("/", DESK)
                more = {"exif": picturefiles.exif()} if k % 2 else {}
                told = self.what_comes_of(name, picturefiles.saved(image, "JPEG", **more))
                is_exposure = "f/" in told
                self.assertTrue(is_exposure or any(word in told.lower() for word in SAID), told)
                self.assertEqual(is_exposure, name not in NOTHING_TO_PLACE, told)
                self.noise = [each for each in self.noise if is_exposure or "status of 422" not in each]
                self.assert_silent()

    def what_comes_of(self, name, data):
        """The exposure that a touch in the middle leads to, or the sentence that stands there."""
        sent = [{"name": f"{name}.jpg", "mimeType": "image/jpeg", "buffer": data}]
        self.do(lambda page: page.set_input_files(DROP, sent))
        self.do(lambda page: page.locator(f"#view, {PROBLEM}").first.wait_for())
        if not self.do(lambda page: page.locator("#view").count()):
            return self.do(lambda page: page.locator(PROBLEM).first.inner_text())
        self.do(lambda page: page.wait_for_load_state("networkidle"))
        if self.do(lambda page: page.locator(".ask-light").count()):
            self.click(".ask-light button:text-is('cloud')")
            self.until(f"!document.querySelector('.ask-light') || {self.said()}")
            if told := self.do(lambda page: page.evaluate(self.said())):
                return told
        at = self.point(0.5, 0.5)
        self.do(lambda page: page.mouse.click(*at))
        self.do(lambda page: page.locator("#strip").wait_for())
        if self.do(lambda page: page.is_visible("#strip-blind")):
            return self.text("#strip-blind")
        self.grey(5)
        return self.text("#part-exposure .big-exposure")

    def said(self):
        return "[...document.querySelectorAll('#sheet .problem')].map((each) => each.innerText).join(' ')"


class OddDrops(Touching):
    def test_twenty_files_make_twenty_scenes(self):
        self.open("/")
        self.drop(*((f"{k}.jpg", picturefiles.jpeg(60 + k, 40)) for k in range(20)))
        self.until_kept(Scene.objects.count, 20, seconds=30)

    def test_words_that_are_pasted_are_no_picture_and_change_nothing(self):
        self.open("/")
        self.do(
            lambda page: page.evaluate(
                "(() => { const held = new DataTransfer(); held.setData('text/plain', 'the kiln at noon');"
                "document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: held, bubbles: true, cancelable: true })); })()"
            )
        )
        self.pause(0.3)
        self.assertEqual(Scene.objects.count(), 0)
        self.assertTrue(self.do(lambda page: page.is_visible("form[data-drop]")))
        self.assert_silent()

    def test_two_drops_at_once_are_two_scenes(self):
        self.open("/")
        data = made_up_jpeg()
        self.do(lambda page: page.evaluate(HANDED, ["a.jpg", "image/jpeg", data, "drop"]))
        self.do(lambda page: page.evaluate(HANDED, ["b.jpg", "image/jpeg", data, "drop"]))
        self.until_kept(lambda: Scene.objects.exclude(picture=None).count(), 2)
        self.assert_silent()
