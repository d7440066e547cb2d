"""The recipe of docs/hosting.md, as far as it goes without a service manager: script/serve, and Debian's web server before it."""

import contextlib
import http.client
import json
import re
import shutil
import socket
import ssl
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path

from django.test import SimpleTestCase, tag

from dimgrey.site.config import ROOT
from tests.browser.patience import patience
from tests.browser.served import Served, free_port, own_environment

IDLE, TOO_LARGE = 105, 426_000_000


class NotFollowed(urllib.request.HTTPRedirectHandler):
    def redirect_request(self, *args):
        return None


@tag("browser")
class Hosted(Served, SimpleTestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp(prefix="dimgrey-hosted-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.port, self.plain, self.tls = free_port(), free_port(), free_port()
        self.log, self.told = self.folder / "out", self.folder / "dimgrey.log"
        self.env = own_environment(
            DIMGREY_MODE="hosted", DIMGREY_HOSTS="localhost", DIMGREY_SECRET_KEY="k9" * 40, DIMGREY_LOG=str(self.told),
            DIMGREY_DATA=str(self.folder / "data"), DIMGREY_PORT=self.port, DIMGREY_SITE=f"https://localhost:{self.tls}",
            DIMGREY_HTTP_PORT=self.plain, DIMGREY_HTTPS_PORT=self.tls,
            XDG_DATA_HOME=str(self.folder / "caddy"), XDG_CONFIG_HOME=str(self.folder / "caddy"),
        )  # fmt: skip
        subprocess.run(["script/serve", "prepare"], cwd=ROOT, env=self.env, check=True, capture_output=True)
        self.start(["script/serve"])
        self.start(["script/serve", "read"])
        self.answers(f"http://127.0.0.1:{self.port}/health", Host="localhost")
        self.start(["caddy", "run", "--config", "deploy/Caddyfile", "--adapter", "caddyfile"])
        self.trusting = ssl._create_unverified_context()
        self.opener = urllib.request.build_opener(NotFollowed, urllib.request.HTTPSHandler(context=self.trusting))

    def get(self, address, **headers):
        """(status, headers, body) of an address, whatever it is."""
        for _ in range(60):
            try:
                answer = self.opener.open(
                    urllib.request.Request(address, headers=headers), timeout=patience.seconds(20)
                )
                return answer.status, answer.headers, answer.read()
            except urllib.error.HTTPError as refused:
                return refused.code, refused.headers, refused.read()
            except urllib.error.URLError:  # the web server is just starting
                time.sleep(0.3)
        return self.fail(f"{address} does not answer: {self.log.read_text()[-1500:]}")

    def test_the_recipe(self):
        site = f"https://localhost:{self.tls}"
        self.over_tls(site)
        self.the_first_person(site)
        self.idle_connections_shut_nobody_out()
        self.too_large_is_answered()
        self.the_log()

    def over_tls(self, site):
        status, headers, _ = self.get(f"http://localhost:{self.plain}/frames/")
        self.assertIn(status, (301, 308))
        self.assertRegex(headers["Location"], r"^https://localhost(:\d+)?/frames/$")
        status, headers, _ = self.get(f"{site}/frames/")
        self.assertEqual((status, headers["Location"]), (302, "/sign-in?next=/frames/"))
        status, headers, body = self.get(f"{site}/sign-in")
        self.assertEqual(status, 200)
        self.assertIn("max-age=31536000", headers["Strict-Transport-Security"])
        self.assertIn("Secure", headers["Set-Cookie"])
        self.assertEqual(headers["Cache-Control"], "max-age=0, no-cache, no-store, must-revalidate, private")
        # Whoever reaches the service itself, without the web server, is sent to https as well.
        self.assertEqual(self.get(f"http://127.0.0.1:{self.port}/", Host="localhost")[0], 301)
        for _ in range(100):  # until the second process has started too
            if (told := self.get(f"{site}/health")[2]) == b"ok":
                break
            time.sleep(patience.seconds(0.2))
        self.assertEqual(told, b"ok")
        self.assertEqual(self.get(f"http://127.0.0.1:{self.port}/health", Host="elsewhere.example")[0], 400)

    def the_first_person(self, site):
        command = [".venv/bin/python", "manage.py", "person", "add", "olga", "--owner"]
        told = subprocess.run(command, cwd=ROOT, env=self.env, check=True, capture_output=True, text=True).stdout
        link = re.search(r"https://localhost(/password/new/\S+)", told)[1]
        status, headers, _ = self.get(f"{site}{link}")
        self.assertEqual((status, headers["Location"].endswith("set-password/")), (302, True))

    def idle_connections_shut_nobody_out(self):
        held = [socket.create_connection(("127.0.0.1", int(self.port))) for _ in range(IDLE)]
        try:
            began = time.monotonic()
            self.assertEqual(self.get(f"http://127.0.0.1:{self.port}/health", Host="localhost")[2], b"ok")
            self.assertLess(time.monotonic() - began, patience.seconds(2))
        finally:
            for each in held:
                each.close()

    def too_large_is_answered(self):
        """By the house, in a sentence, for whoever brings a sign-in; by the web server, before it took it, for whoever does not."""
        status, said = self.sent(TOO_LARGE, Cookie="sessionid=of-somebody")
        self.assertEqual((status, b"nothing was changed" in said), (413, True))
        status, said = self.sent(5_000_000)
        self.assertEqual((status, b"Sign in first" in said), (413, True))

    def sent(self, size, **headers):
        """(status, body) of so many bytes that are sent, with what else stands at the head."""
        asked = http.client.HTTPSConnection(
            "localhost", int(self.tls), context=self.trusting, timeout=patience.seconds(90)
        )
        asked.putrequest("POST", "/scenes/new")
        for name, value in {"Content-Length": str(size), **headers}.items():
            asked.putheader(name, value)
        asked.endheaders()
        piece = b"x" * 1_000_000
        with contextlib.suppress(OSError):  # it is answered while it is still sent
            for _ in range(size // len(piece)):
                asked.send(piece)
        answer = asked.getresponse()
        try:
            return answer.status, answer.read()
        finally:
            asked.close()

    def the_log(self):
        lines = [json.loads(line) for line in self.told.read_text().splitlines()]
        self.assertTrue(all({"time", "level", "what", "request", "person"} <= set(line) for line in lines))
        self.assertIn("GET /sign-in 200", [line["what"] for line in lines])
        self.assertNotIn("next=", self.told.read_text())
