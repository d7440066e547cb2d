"""A house of its own: a data folder, with the program run in processes of their own as its commands run it."""

import atexit
import os
import shutil
import subprocess
import sys
import tempfile
from functools import cache
from pathlib import Path

from dimgrey.site.config import ROOT

WRITER = """
import django, sys
django.setup()
from dimgrey.core.document.model import Document
from dimgrey.people.actions import local_person
from dimgrey.pictures.actions import keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes import lifecycle
from tests import picturefiles as pictures
person, data = local_person(), pictures.jpeg(60, 40)
decoded = read_picture(data)
for k in range(int(sys.argv[1])):
    with keeping():
        scene = lifecycle.create_scene(person, Document(title=f"Scene {k}"))
        lifecycle.attach_picture(scene, decoded, data, "a.jpg")
    if k % 3 == 2:
        scene.delete()
    print(k, flush=True)
"""
"""Writes so many scenes with a picture, and deletes every third."""
PLAIN_STATIC = """
from django.conf import settings
settings.STORAGES = {**settings.STORAGES, "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}}
"""
"""Put before a program that visits pages: static files need not be collected first."""


class House:
    """A data folder that may be empty, and what runs on it."""

    def __init__(self, folder):
        self.data = Path(folder) / "data"
        self.environment = {
            **os.environ,
            "DIMGREY_DATA": str(self.data),
            "DJANGO_SETTINGS_MODULE": "dimgrey.site.settings",
        }

    @classmethod
    def furnished(cls, folder, scenes=0):
        """A house with its tables and so many scenes with pictures."""
        shutil.copytree(_furnished(scenes).data, Path(folder) / "data")
        return cls(folder)

    def run(self, *args, check=True, text=None):
        return subprocess.run(
            [sys.executable, *args],
            cwd=ROOT,
            env=self.environment,
            check=check,
            capture_output=True,
            text=True,
            input=text,
        )

    def manage(self, *args, check=True, text=None):
        return self.run("manage.py", *args, check=check, text=text)

    def start(self, *args):
        return subprocess.Popen(
            [sys.executable, *args], cwd=ROOT, env=self.environment, stdout=subprocess.PIPE, text=True
        )


@cache
def _furnished(scenes):
    """A house that others are copied from; made once by each process of the tests."""
    folder = tempfile.mkdtemp(prefix="dimgrey-house-")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    house = House(folder)
    house.manage("migrate", "--verbosity", "0")
    if scenes:
        house.run("-c", WRITER, str(scenes))
    return house
