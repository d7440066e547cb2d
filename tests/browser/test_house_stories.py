"""Stories of a hosted house: invited, signed in, at work; the sign-in ends in the middle of a reading; everything out and in again."""

import os
import tempfile
from pathlib import Path

from django.contrib.sessions.models import Session
from django.test import override_settings, tag

from dimgrey.people import accounts
from dimgrey.people.models import Person
from dimgrey.scenes.models import Scene
from tests import picturefiles as pictures
from tests.browser.story import DESK, PHONE, Story

PASSWORD, HERS = "nine grey kilns stand", "seven more kilns stand"


@tag("browser")
@override_settings(DIMGREY_LOCAL=False)
class House(Story):
    def setUp(self):
        super().setUp()
        accounts.make("olga", PASSWORD, Person.Role.OWNER)

    def fill(self, selector, text):
        self.do(lambda page: page.fill(selector, text))

    def sign_in(self, name="olga", password=PASSWORD, within="main"):
        self.fill(f"{within} [name=username]", name)
        self.fill(f"{within} [name=password]", password)
        self.click(f"{within} button.main-act")

    def joined(self):
        """Vera, who came by a link, in a browser of her own."""
        self.open("/house/", DESK)
        self.assert_accessible("sign in")
        self.sign_in()
        self.fill("[name=note]", "for Vera")
        self.click("text=Make a link")
        link = self.text(".once code")
        self.assert_accessible("house")
        self.assert_fits()
        self.look("house")
        self.open(link.removeprefix(self.live_server_url), PHONE)
        self.fill("[name=name]", "vera")
        self.fill("[name=password]", HERS)
        self.fill("[name=again]", HERS)
        self.assert_accessible("join")
        self.look("join")
        self.click("text=Join >> nth=-1")
        self.assertEqual(self.text("h1"), "A first picture")
        return Person.objects.get(username="vera")

    def look(self, name):
        if folder := os.environ.get("DIMGREY_LOOK"):
            self.do(lambda page: page.screenshot(path=f"{folder}/{name}.png"))

    def test_invite_work_ended_in_the_middle_of_a_reading_and_kept(self):
        vera = self.joined()
        self.open("/sign-in", DESK)
        self.sign_in("vera", HERS)
        self.go("/scenes/new")
        self.fill("[name=title] >> nth=0", "Cellar")
        self.click("text=Open the desk")
        self.do(lambda page: page.evaluate("document.getElementById('edit-tones').open = true"))
        self.do(lambda page: page.locator("#add-name").wait_for())
        self.fill("#add-name", "coal")
        self.fill("#add-reading", "4")
        self.do(lambda page: page.press("#add-reading", "Enter"))
        self.wait("#part-tones", "coal")
        scene = lambda: Scene.objects.owned_by(vera).get()
        self.until_kept(lambda: scene().document.names, ("coal",))

        # The sign-in ends: at the desk nobody notices, until something is sent.
        Session.objects.all().delete()
        self.fill("#add-name", "lamp-lit wall")
        self.fill("#add-reading", "1/15 f/4")
        self.do(lambda page: page.press("#add-reading", "Enter"))
        self.do(lambda page: page.locator("#sign-in-again[open]").wait_for())
        self.assert_accessible("sign in again")
        self.look("again")
        self.assertEqual(scene().document.names, ("coal",))
        self.fill("#sign-in-again [name=password]", "wrong")
        self.click("#sign-in-again button.main-act")
        self.wait("#sign-in-again .problem", "belong together")
        self.fill("#sign-in-again [name=password]", HERS)
        self.click("#sign-in-again button.main-act")
        self.wait("#part-tones", "lamp-lit wall")
        self.until_kept(lambda: scene().document.names, ("coal", "lamp-lit wall"))
        readings = [len(tone.readings) for tone in scene().document.tones]
        self.assertEqual(readings, [1, 1], "done once")

        # An act of the page's own hands: the same.
        self.do(lambda page: page.focus("#flag-A"))
        Session.objects.all().delete()
        self.do(lambda page: page.keyboard.press("ArrowRight"))
        self.do(lambda page: page.locator("#sign-in-again[open]").wait_for())
        self.fill("#sign-in-again [name=password]", HERS)
        self.click("#sign-in-again button.main-act")
        self.until_kept(lambda: scene().document.placing.tone, "coal")

        # A form of a plain page is carried through the sign-in.
        self.go("/")
        Session.objects.all().delete()
        self.fill("#outing-title", "Clay pit")
        self.click("text=Make it")
        self.wait("main", "what you sent is kept")
        self.look("ended")
        self.sign_in("vera", HERS)
        self.wait("h1", "Clay pit")
        self.assert_silent(allowed=("status of 401", "status of 422", "Error Code 401"))

    def test_everything_out_and_in_again(self):
        vera = self.joined()
        self.open("/sign-in", DESK)
        self.sign_in("vera", HERS)
        with tempfile.TemporaryDirectory() as folder:
            picture, archive = Path(folder) / "kiln.jpg", Path(folder) / "mine.zip"
            picture.write_bytes(pictures.jpeg(300, 200))
            self.go("/scenes/new")
            self.fill("[name=title] >> nth=0", "Kiln")
            self.do(lambda page: page.set_input_files("[name=picture] >> nth=0", str(picture)))
            self.click("text=Open the desk")
            self.do(lambda page: page.wait_for_url("**/scenes/*/"))
            self.until("location.pathname.startsWith('/scenes/') && !location.pathname.endsWith('new')")
            self.click("a:has-text('Account')")
            self.assert_accessible("account")
            self.look("account")

            def save(page):
                with page.expect_download() as waiting:
                    page.click("text=Save the archive")
                waiting.value.save_as(str(archive))

            self.do(save)
            Scene.objects.owned_by(vera).delete()
            self.go("/account/archive")
            self.assert_accessible("archive")
            self.do(lambda page: page.set_input_files("main [name=file]", str(archive)))
            self.click("text=Bring it in")
            self.wait("main", "1 scenes")
            self.look("archive")
        self.assertEqual(Scene.objects.owned_by(vera).get().title, "Kiln")
        self.assert_silent()
