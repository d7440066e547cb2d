"""A browser story: what a person does, in real Chromium, at desk or phone size, with a silent console and axe."""

import atexit
import contextlib
import os
import shutil
import sqlite3
import tempfile
import time
from io import StringIO
from pathlib import Path

from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management import call_command
from django.db import connection
from django.test import tag

from dimgrey.people.actions import local_person
from tests.browser.driver import driver
from tests.browser.patience import patience

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text()
TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
DESK, PHONE = (1280, 800), (390, 844)
SHOTS = Path(__file__).resolve().parents[2] / "docs" / "screenshots"


_furnished = {}
"""name -> (database in memory, folder of pictures), as they were made once by this process."""


def furnished(name, make):
    """Database and pictures as `make()` leaves them on an empty house; made once, brought back as often as asked."""
    pictures = Path(settings.DIMGREY_DATA) / "pictures"
    connection.ensure_connection()
    if name not in _furnished:
        make()
        kept, folder = sqlite3.connect(":memory:", check_same_thread=False), tempfile.mkdtemp(prefix="dimgrey-kept-")
        connection.connection.backup(kept)
        shutil.copytree(pictures, folder, dirs_exist_ok=True)
        atexit.register(shutil.rmtree, folder, ignore_errors=True)
        _furnished[name] = kept, folder
    else:
        kept, folder = _furnished[name]
        kept.backup(connection.connection)
        shutil.copytree(folder, pictures, dirs_exist_ok=True)


def be_patient(page, quiet_s=10):
    """Let a page's own waits take as long as the machine needs. To be called over there."""
    page.set_default_timeout(1000 * patience.seconds(quiet_s))


@tag("browser")
class Story(StaticLiveServerTestCase):
    """`self.do(lambda page: ...)` acts on the page; the database may be read and written in between."""

    host = "127.0.0.1"
    glass = bool(os.environ.get("DIMGREY_GLASS"))
    """Whether the browser has WebGL; without it the plain canvas paints."""

    def setUp(self):
        patience.measure()
        self.person = local_person()
        self.noise, self.clicks = [], 0
        self.context = None

    def __getstate__(self):
        """What of a story goes from one test process to another with its results: not the browser's page."""
        return {name: value for name, value in self.__dict__.items() if name not in ("page", "context")}

    def with_demo(self):
        """The demo as its command loads it."""
        furnished("demo", lambda: call_command("load_demo", stdout=StringIO()))
        self.person = local_person()

    def tearDown(self):
        if self.context:
            with contextlib.suppress(TimeoutError):  # a browser that hangs on closing is replaced, the story was told
                driver().run(self.context.close)
        shutil.rmtree(Path(settings.DIMGREY_DATA) / "pictures", ignore_errors=True)

    def open(self, path, size=DESK):
        """Open a page in a new context of a size."""

        def start():
            browser = driver().painting() if self.glass else driver().browser
            context = browser.new_context(
                viewport={"width": size[0], "height": size[1]}, has_touch=size == PHONE, accept_downloads=True
            )
            page = context.new_page()
            be_patient(page)
            page.on(
                "console", lambda message: self.noise.append(f"{message.type}: {message.text} at {message.location}")
            )
            page.on("pageerror", lambda error: self.noise.append(f"error: {error}"))
            return context, page

        if self.context:
            driver().run(self.context.close)
        self.context, self.page = driver().run(start)
        self.go(path)

    def go(self, path):
        def load():
            self.page.goto(self.live_server_url + path)
            self.page.wait_for_load_state("networkidle")

        driver().run(load)

    def go_without_waiting(self, path):
        """Go to a page that will not come to rest, because something of it is held back."""
        self.do(lambda page: page.goto(self.live_server_url + path, wait_until="commit"))

    def do(self, act):
        """Run `act(page)` over there and hand back what it returns."""
        return driver().run(lambda: act(self.page))

    def click(self, selector):
        """Click, and wait until the page is quiet again."""
        self.clicks += 1

        def run(page):
            page.click(selector)
            page.wait_for_load_state("networkidle")

        self.do(run)

    def text(self, selector):
        return self.do(lambda page: page.inner_text(selector))

    def until(self, question, seconds=10):
        """Wait until `question`, a JavaScript expression, is true. The page's policy forbids waiting over there."""
        end = time.monotonic() + patience.seconds(seconds)
        while not self.do(lambda page: page.evaluate(question)):
            if time.monotonic() > end:
                self.fail(f"never true: {question}; the console says {self.noise}")
            time.sleep(0.02)

    def pause(self, seconds):
        """Let the page settle where nothing says that it has: so long on a quiet machine."""
        time.sleep(patience.seconds(seconds))

    def until_kept(self, read, expected, seconds=5):
        """Wait until the database holds what the page was told to keep."""
        end = time.monotonic() + patience.seconds(seconds)
        while read() != expected and time.monotonic() < end:
            time.sleep(0.02)
        self.assertEqual(read(), expected)

    def wait(self, selector, text, state="visible"):
        """Wait until an element holds a text. state: "attached" for what is told by a part that is a word until it is opened."""
        self.do(lambda page: page.locator(selector, has_text=text).first.wait_for(state=state))

    def told(self, key, text):
        """Wait until a part of the sheet says something, open or not."""
        self.wait(f"#part-{key}", text, "attached")

    def says(self, key):
        """What a part of the sheet says, open or not."""
        return self.do(lambda page: page.locator(f"#part-{key}").text_content())

    def point(self, x, y, selector="#frame"):
        """Window coordinates of fractions of an element."""
        box = self.do(lambda page: page.locator(selector).bounding_box())
        return box["x"] + box["width"] * x, box["y"] + box["height"] * y

    def assert_accessible(self, where=""):
        """No violation of WCAG 2.2 AA that axe can find. What axe itself says on the console does not count."""
        noise = list(self.noise)
        driver().run(lambda: self.page.evaluate(AXE))
        found = driver().run(
            lambda: self.page.evaluate(
                "tags => axe.run(document, {runOnly: {type: 'tag', values: tags}})"
                ".then(r => r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target.join(' ') + ' ' + (n.any[0]?.message || '')).join('; ')))",
                TAGS,
            )
        )
        self.noise[:] = noise
        self.assertEqual(found, [], where)

    def assert_silent(self, allowed=()):
        """Nothing on the console but messages that hold one of `allowed`, and what a browser without a graphics processor
        says about its own speed."""
        allowed = (*allowed, "GL Driver Message")
        noise = [line for line in self.noise if not any(part in line for part in allowed)]
        self.assertEqual(noise, [], "\n".join(noise))

    def assert_fits(self):
        """The page does not scroll sideways."""
        wide = self.do(lambda page: page.evaluate("document.documentElement.scrollWidth - window.innerWidth"))
        self.assertLessEqual(wide, 0)

    def shot(self, name):
        """Refresh a picture of the docs when DIMGREY_SHOTS is set."""
        if os.environ.get("DIMGREY_SHOTS"):
            SHOTS.mkdir(parents=True, exist_ok=True)
            self.do(lambda page: page.screenshot(path=str(SHOTS / f"{name}.png")))
