"""The README's recipe for the local network, as it stands: script/demo phone, and Debian's web server with its authority."""

import contextlib
import json
import os
import re
import shutil
import signal
import socket
import subprocess
import tempfile
import time
import urllib.request
from pathlib import Path

from dimgrey.site.config import ROOT
from tests.browser.driver import driver
from tests.browser.story import PHONE, Story

STARTS_S = 120


def own_address():
    """An address of this computer that is not the loopback one."""
    found = subprocess.run(["hostname", "-I"], capture_output=True, text=True, check=True).stdout.split()
    return next(each for each in found if re.fullmatch(r"[\d.]+", each) and not each.startswith("127."))


def free_port(address):
    with socket.socket() as asked:
        asked.bind((address, 0))
        return str(asked.getsockname()[1])


class SecureAddress(Story):
    def setUp(self):
        super().setUp()
        self.folder = Path(tempfile.mkdtemp(prefix="dimgrey-secure-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.lan = own_address()
        self.port, self.tls = free_port(self.lan), free_port(self.lan)
        self.env = {
            **{key: value for key, value in os.environ.items() if not key.startswith(("DIMGREY_", "DJANGO_"))},
            "DIMGREY_DATA": str(self.folder / "data"),
            "DIMGREY_LAN": self.lan,
            "DIMGREY_PORT": self.port,
            "DIMGREY_TLS_PORT": self.tls,
            "XDG_DATA_HOME": str(self.folder / "caddy"),
            "XDG_CONFIG_HOME": str(self.folder / "caddy"),
        }
        self.log = self.folder / "log"
        self.start(["script/demo", "phone"])
        self.answers(f"http://127.0.0.1:{self.port}/")
        self.start(["caddy", "run", "--config", "docs/local.Caddyfile", "--adapter", "caddyfile"])
        # A phone that has the authority's certificate trusts it; this browser is told to.
        self.trusting = driver().run(lambda: driver().launch(["--ignore-certificate-errors"]))
        self.addCleanup(lambda: driver().run(self.trusting.close))

    def start(self, command):
        out = self.log.open("a")
        running = subprocess.Popen(command, cwd=ROOT, env=self.env, stdout=out, stderr=out, start_new_session=True)

        def stop():
            with contextlib.suppress(ProcessLookupError):
                os.killpg(running.pid, signal.SIGTERM)
            running.wait(timeout=20)
            out.close()

        self.addCleanup(stop)

    def answers(self, address):
        end = time.monotonic() + STARTS_S
        while time.monotonic() < end:
            with contextlib.suppress(OSError):
                return urllib.request.urlopen(address, timeout=5).status
            time.sleep(0.3)
        return self.fail(f"{address} does not answer: {self.log.read_text()[-2000:]}")

    def test_a_phone_is_paired_over_tls_and_its_page_is_kept(self):
        code = re.search(r"type ([A-Z0-9]{4}-[A-Z0-9]{4}) at", self.log.read_text())[1]
        secure = f"https://{self.lan}:{self.tls}"

        def begin():
            context = self.trusting.new_context(
                viewport={"width": PHONE[0], "height": PHONE[1]}, ignore_https_errors=True
            )
            page = context.new_page()
            page.set_default_timeout(20000)
            page.goto(f"{secure}/field/")
            return context, page

        self.context, self.page = driver().run(begin)
        self.assertIn("/sign-in", self.do(lambda page: page.url))
        self.do(lambda page: page.goto(f"{secure}/pair/{code}"))
        self.do(lambda page: page.fill("[name=name]", "Pocket phone"))
        self.do(lambda page: page.click("text=Pair >> nth=-1"))
        self.wait("#reach", "opens without a network")
        self.assertTrue(self.do(lambda page: page.evaluate("isSecureContext")))
        self.until("document.body.dataset.keeper === '1'", 20)
        self.until("navigator.serviceWorker.controller !== null", 20)
        self.do(lambda page: page.context.set_offline(True))
        self.do(lambda page: page.reload())
        self.wait("#line", "No network")
        self.do(lambda page: page.context.set_offline(False))
        self.do(lambda page: page.goto(f"{secure}/phone"))
        self.wait(".devices", "Pocket phone")
        self.dropped_while_it_holds_acts(secure)

    def dropped_while_it_holds_acts(self, secure):
        """What a dropped phone holds stays on it, is said, and leaves as a file."""
        self.do(lambda page: page.goto(f"{secure}/field/?take=1"))
        self.wait(".outing .taken", "Taken along")
        self.do(lambda page: page.context.set_offline(True))
        self.do(lambda page: page.locator(".scene-line").first.click())
        self.until("document.body.dataset.reckoned === '0'", 30)
        self.do(lambda page: page.click("#darker"))
        self.wait("#waiting", "1 waiting")

        def drop():
            desk = self.trusting.new_context().new_page()
            desk.goto(f"http://127.0.0.1:{self.port}/phone")
            desk.click(".devices button")
            desk.locator(".devices", has_text="No phone is paired").wait_for()
            desk.context.close()

        driver().run(drop)
        self.do(lambda page: page.context.set_offline(False))
        self.do(lambda page: page.evaluate("dispatchEvent(new Event('online'))"))
        self.wait("#line", "no longer paired")
        self.assertEqual(self.text("#waiting"), "1 waiting")

        def saved(page):
            with page.expect_download() as waited:
                page.click("#save")
            return Path(waited.value.path()).read_text()

        acts = json.loads(self.do(saved))["acts"]
        self.assertEqual([act["verb"] for act in acts], ["shift"])
