"""Settings of the tests: the application's own, on a fresh folder, with static files served as they lie."""

import os
import tempfile
from pathlib import Path

FOLDER = Path(tempfile.mkdtemp(prefix="dimgrey-tests-"))
os.environ["DIMGREY_DATA"] = str(FOLDER)

from dimgrey.site.settings import *  # noqa: E402, F403
from dimgrey.site.settings import DATABASES, STORAGES  # noqa: E402

DIMGREY_DATA = FOLDER
DATABASES["default"]["TEST"] = {"NAME": str(FOLDER / "test.sqlite3")}
# Cloning for parallel runs copies the file without its write-ahead log, so the log is left out here;
# without it every commit would wait for the disk, so that is left out too.
DATABASES["default"]["OPTIONS"]["init_command"] = "PRAGMA synchronous=OFF;"
STORAGES["staticfiles"] = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
# What comes in is read at once; the tests of the queue have the real one.
TASKS = {"default": {"BACKEND": "django_tasks.backends.immediate.ImmediateBackend"}}
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
TEST_RUNNER = "tests.runner.CountingRunner"
WHITENOISE_AUTOREFRESH = True
WHITENOISE_USE_FINDERS = True
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler", "level": "ERROR"}},
    "root": {"handlers": ["console"], "level": "ERROR"},
}
