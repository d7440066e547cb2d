"""The README's recipe for the local network, as it stands: script/demo phone, and Debian's web server with its authority."""

import json
import re
import shutil
import subprocess
import tempfile
from pathlib import Path

from tests.browser.driver import driver
from tests.browser.served import Served, free_port, own_environment
from tests.browser.story import PHONE, Story, be_patient


def own_address():
    """An address of this computer that is not the loopback one."""
    found = subprocess.run(["hostname", "-I"], capture_output=True, text=True, check=True).stdout.split()
    return next(each for each in found if re.fullmatch(r"[\d.]+", each) and not each.startswith("127."))


class SecureAddress(Served, Story):
    def setUp(self):
        super().setUp()
        self.folder = Path(tempfile.mkdtemp(prefix="dimgrey-secure-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.lan = own_address()
        self.port, self.tls = free_port(self.lan), free_port(self.lan)
        self.env = own_environment(
            DIMGREY_DATA=str(self.folder / "data"),
            DIMGREY_LAN=self.lan,
            DIMGREY_PORT=self.port,
            DIMGREY_TLS_PORT=self.tls,
            XDG_DATA_HOME=str(self.folder / "caddy"),
            XDG_CONFIG_HOME=str(self.folder / "caddy"),
        )
        self.log = self.folder / "log"
        self.start(["script/demo", "phone"])
        self.answers(f"http://127.0.0.1:{self.port}/")
        self.start(["caddy", "run", "--config", "docs/local.Caddyfile", "--adapter", "caddyfile"])
        # A phone that has the authority's certificate trusts it; this browser is told to.
        self.trusting = driver().run(lambda: driver().launch(["--ignore-certificate-errors"]))
        self.addCleanup(lambda: driver().run(self.trusting.close))

    def test_a_phone_is_paired_over_tls_and_its_page_is_kept(self):
        code = re.search(r"type ([A-Z0-9]{4}-[A-Z0-9]{4}) at", self.log.read_text())[1]
        secure = f"https://{self.lan}:{self.tls}"

        def begin():
            context = self.trusting.new_context(
                viewport={"width": PHONE[0], "height": PHONE[1]}, ignore_https_errors=True
            )
            page = context.new_page()
            be_patient(page, 20)
            page.goto(f"{secure}/field/")
            return context, page

        self.context, self.page = driver().run(begin)
        self.assertIn("/sign-in", self.do(lambda page: page.url))
        self.do(lambda page: page.goto(f"{secure}/pair/{code}"))
        self.do(lambda page: page.fill("[name=name]", "Pocket phone"))
        self.do(lambda page: page.click("text=Pair >> nth=-1"))
        self.wait("#reach", "Ready: works without a network")
        self.assertTrue(self.do(lambda page: page.evaluate("isSecureContext")))
        self.until("document.body?.dataset.serviceWorker === '1'", 20)
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
        self.until("document.body?.dataset.reckoned === '0'", 30)
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

        self.do(lambda page: page.reload())  # what it holds is reached without a sign-in
        self.wait("#line", "no longer paired")
        self.assertIn("/sign-in", self.do(lambda page: page.get_attribute("#sign-in", "href")))
        acts = json.loads(self.do(saved))["acts"]
        self.assertEqual([act["verb"] for act in acts], ["shift"])
