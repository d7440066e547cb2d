"""A picture comes in while its desk stands: the place of the picture tells how far it is, and it is painted when it comes."""

from django.core.management import call_command
from django.test import override_settings

from dimgrey.pictures import arrivals
from dimgrey.scenes.models import Scene
from tests import picturefiles
from tests.browser.story import Story
from tests.pictures.test_arrivals import QUEUED


@override_settings(TASKS=QUEUED)
class Arriving(Story):
    def send(self, data, name="kiln.jpg"):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Kiln"))
        self.do(
            lambda page: page.set_input_files(
                "[name=picture]", {"name": name, "mimeType": "image/jpeg", "buffer": data}
            )
        )
        self.do(lambda page: page.click("text=Open the desk"))
        self.wait("#arriving", name)

    def test_a_picture_is_told_of_and_painted_when_it_is_read(self):
        self.send(picturefiles.jpeg(300, 200))
        self.wait("#arriving", "waits its turn")
        self.assert_accessible("a desk whose picture comes")
        # Meanwhile the desk works: a tone is typed, and is there when the picture is.
        self.do(lambda page: page.evaluate("document.getElementById('edit-tones').open = true"))
        self.do(lambda page: page.locator("#add-name").wait_for())
        self.do(lambda page: page.fill("#add-name", "coal"))
        self.do(lambda page: page.fill("#add-reading", "4"))
        self.do(lambda page: page.press("#add-reading", "Enter"))
        self.wait("#sheet .tones", "coal")
        call_command("read_arrivals", until_done=True)
        self.do(lambda page: page.locator("#view").wait_for())  # the page shows itself anew
        self.wait("#sheet .tones", "coal")
        self.assertEqual(self.do(lambda page: page.locator("#arriving").count()), 0)
        self.assertEqual(Scene.objects.get().picture.original_name, "kiln.jpg")
        self.assert_silent()

    @override_settings(DIMGREY_QUOTA_MB=1)
    def test_what_has_no_room_is_not_sent(self):
        self.open("/scenes/new")
        sent = []
        self.do(lambda page: page.on("request", lambda asked: sent.append(asked.method)))
        self.do(lambda page: page.fill("[name=title]", "Kiln"))
        large = {"name": "large.jpg", "mimeType": "image/jpeg", "buffer": picturefiles.jpeg() + b"0" * 1_100_000}
        self.do(lambda page: page.set_input_files("[name=picture]", large))
        self.do(lambda page: page.click("text=Open the desk"))
        self.wait(".on-its-way", "you have room for 1.0 MB")
        self.assertNotIn("POST", sent)
        self.assert_silent()

    def test_what_cannot_be_read_says_why_and_is_put_away(self):
        self.send(picturefiles.jpeg(300, 200)[:400], "torn.jpg")
        call_command("read_arrivals", until_done=True)
        self.do(lambda page: page.locator("#arriving [role=alert]").wait_for())
        self.click("#arriving button:text-is('Put away')")
        self.do(lambda page: page.locator("#arriving").wait_for(state="detached"))
        self.assertEqual(arrivals.waiting(self.person).count(), 0)
        self.assert_silent()
