"""When the machine fails: a sentence says what is kept. And what every answer carries."""

import errno
import json
import logging
import os
import subprocess
import sys
import tempfile
from unittest.mock import patch

from django.db import DatabaseError, OperationalError
from django.test import override_settings

from dimgrey.site import troubles
from dimgrey.site.config import ROOT
from dimgrey.web.requestlog import AboutRequest, Lines
from tests.helpers import PageTest, scene_with_light


class Machine(PageTest):
    CASES = (
        (OperationalError("database or disk is full"), troubles.FULL),
        (OperationalError("attempt to write a readonly database"), troubles.READ_ONLY),
        (OperationalError("database is locked"), troubles.BUSY),
        (OperationalError("database disk image is malformed"), troubles.UNREADABLE),
        (OSError(errno.ENOSPC, "No space left on device"), troubles.FULL),
        (OSError(errno.EROFS, "Read-only file system"), troubles.READ_ONLY),
    )

    def test_each_failure_says_what_is_kept_and_changes_nothing(self):
        self.client.raise_request_exception = False
        scene = scene_with_light(self.person)
        before = self.fresh(scene).kept
        for failed, sentence in self.CASES:
            with self.subTest(str(failed)), patch("dimgrey.scenes.actions.Revision.objects.create", side_effect=failed):
                plain = self.client.post(f"/scenes/{scene.pk}/do/add-tone", {"name": "wall"})
                self.assertContains(plain, sentence, status_code=503)
                asked = self.act(scene, "add-tone", name="wall")
                self.assertEqual((asked.status_code, asked.content.decode()), (503, sentence))
            self.assertEqual(self.fresh(scene).kept, before)

    def test_an_upload_when_the_folder_for_it_is_full(self):
        self.client.raise_request_exception = False
        from django.core.files.uploadedfile import SimpleUploadedFile

        with patch(
            "django.core.files.temp.NamedTemporaryFile", side_effect=OSError(errno.ENOSPC, "No space left on device")
        ):
            sent = {
                "title": "Yard",
                "kind": "film",
                "picture": SimpleUploadedFile("a.jpg", b"\xff\xd8\xff" + b"x" * 3_000_000),
            }
            answer = self.client.post("/scenes/new", sent)
        self.assertContains(answer, troubles.FULL, status_code=503)

    def test_a_fault_of_ours_is_said_as_one(self):
        self.client.raise_request_exception = False
        with (
            patch("dimgrey.outings.day.views.home_of", side_effect=KeyError("x")),
            self.assertLogs("django.request", "ERROR"),
        ):
            self.assertContains(self.client.get("/"), "on our side", status_code=500)

    def test_health(self):
        self.client.defaults["REMOTE_ADDR"] = "10.0.0.9"
        self.assertEqual(self.client.get("/health").content, b"ok, but nothing reads the pictures that come in")
        with patch("dimgrey.safekeeping.views.is_alive", return_value=True):
            self.assertEqual(self.client.get("/health").content, b"ok")
        with patch("dimgrey.safekeeping.views.connection.cursor", side_effect=DatabaseError("gone")):
            self.assertEqual(self.client.get("/health").status_code, 503)


class Answers(PageTest):
    def test_private_pages_files_and_refusals_are_not_kept_and_stay_on_this_site(self):
        scene = scene_with_light(self.person, tones=[{"name": "wall", "readings": [{"ev100": 12}]}])
        for page in (
            "/",
            f"/scenes/{scene.pk}/",
            f"/scenes/{scene.pk}/scene.json",
            "/frames.csv",
            "/nowhere",
            "/phone",
        ):
            answer = self.client.get(page)
            self.assertEqual(answer["Cache-Control"], "no-store", page)
            self.assertEqual(answer["Cross-Origin-Resource-Policy"], "same-origin", page)
            self.assertIn("camera=(self)", answer["Permissions-Policy"], page)
        colour = self.client.get(f"/pictures/{scene.picture.folder}/colour.jpg")
        self.assertIn("private", colour["Cache-Control"])

    def test_cookies_that_come_over_tls_go_nowhere_without_it(self):
        over = lambda **how: self.client.get("/sign-in", **how).cookies["csrftoken"]["secure"]
        self.assertTrue(over(HTTP_X_FORWARDED_PROTO="https"))
        self.assertFalse(over())

    def test_head_has_no_body_and_says_its_length(self):
        for page in ("/", "/frames.csv", "/nowhere"):
            got, asked = self.client.get(page), self.client.head(page)
            self.assertEqual(asked.status_code, got.status_code)
            self.assertEqual(b"".join(asked) if asked.streaming else asked.content, b"")

    def test_whoever_is_not_signed_in_sends_no_more_than_a_form(self):
        with override_settings(DIMGREY_LOCAL=False):
            answer = self.client.post("/scenes/new", {"title": "x" * 1_100_000}, REMOTE_ADDR="192.0.2.7")
            self.assertEqual((answer.status_code, answer.content[:14]), (413, b"At most 1 MB a"))
            self.client.force_login(self.person)
            self.assertNotEqual(self.client.post("/scenes/new", {"title": "x" * 1_100_000}).status_code, 413)

    def test_more_than_any_file_is_answered_before_it_is_read(self):
        with override_settings(DIMGREY_MOST_UPLOADED=100):
            answer = self.client.post("/scenes/new", {"title": "x" * 400})
        self.assertEqual(answer.status_code, 413)
        self.assertIn("nothing was changed", answer.content.decode())

    def test_every_request_has_an_id_and_a_line(self):
        with self.assertLogs("dimgrey.request", "INFO") as told:
            answer = self.client.get("/frames/?secret=1")
        record = told.records[0]
        self.assertEqual((record.status, record.path), (200, "/frames/"))
        self.assertNotIn("secret", record.getMessage())
        self.assertEqual(len(answer["X-Request-ID"]), 12)

    def test_lines_are_json_with_time_person_and_request(self):
        record = logging.LogRecord("dimgrey", logging.ERROR, "", 0, "kiln", (), None)
        AboutRequest().filter(record)
        line = json.loads(Lines().format(record))
        self.assertLessEqual({"time", "level", "where", "what", "request", "person"}, set(line))


class Hosted(PageTest):
    def run_hosted(self, *args, **more):
        with tempfile.TemporaryDirectory() as folder:
            environment = {
                **os.environ, "DIMGREY_MODE": "hosted", "DIMGREY_HOSTS": "tannet.example", "DIMGREY_SECRET_KEY": "k9" * 40 + "xyzABC!",
                "DIMGREY_DATA": folder, "DJANGO_SETTINGS_MODULE": "dimgrey.site.settings", **more,
            }  # fmt: skip
            command = [sys.executable, *args]
            return subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True)

    def test_nothing_is_left_to_warn_of(self):
        found = self.run_hosted("manage.py", "check", "--deploy", "--fail-level", "WARNING")
        self.assertEqual((found.returncode, found.stderr), (0, ""), found.stdout)

    def test_http_is_sent_to_https_and_health_is_not(self):
        code = (
            "import django; django.setup(); from django.test import Client; c = Client(HTTP_HOST='tannet.example'); "
            "a = c.get('/frames/'); print(a.status_code, a.headers['Location'], c.get('/health').status_code)"
        )
        self.assertEqual(self.run_hosted("-c", code).stdout.strip(), "301 https://tannet.example/frames/ 503")
