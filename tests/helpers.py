"""What page tests share: a person, a scene with a picture of known light, and acts as the desk sends them."""

import shutil
from pathlib import Path

import numpy as np
from django.conf import settings
from django.db import connection
from django.test import Client, TestCase

from dimgrey.people.actions import local_person
from dimgrey.people.models import Person
from dimgrey.pictures.actions import keeping
from dimgrey.pictures.decoded import Decoded
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests.documents import document


def stepped_light(height=60, width=110):
    """Eleven vertical bands one stop apart, -5..+5 from middle grey; shape (height, width, 3), float32."""
    stops = np.repeat(np.arange(-5, 6), width // 11)
    return np.repeat(np.repeat((0.18 * 2.0**stops)[None, :, None], height, axis=0), 3, axis=2).astype(np.float32)


def scene_with_light(person, middle_ev100=12.0, absolute=True, **parts):
    """A scene whose picture is `stepped_light` with middle grey at an EV100 (None: no scale)."""
    written = document(**{"title": "Steps", "medium": {"kind": "film"}, **parts})
    return scene_with_picture(person, written, stepped_light(), "steps", middle_ev100, absolute)


def scene_with_picture(person, written, linear, name, middle_ev100=12.0, absolute=True):
    """A scene of a Document with an OpenEXR picture of linear light, shape (h, w, 3)."""
    height, width = linear.shape[:2]
    decoded = Decoded(
        "OpenEXR",
        width,
        height,
        linear,
        middle_grey_ev100=middle_ev100,
        scene_linear=True,
        absolute=absolute,
        clip=None,
    )
    with keeping():
        scene = lifecycle.create_scene(person, written)
        lifecycle.attach_picture(scene, decoded, name.encode(), f"{name}.exr")
    return Scene.objects.select_related("picture").get(pk=scene.pk)


def band(zone):
    """Fraction of the width at the middle of the band that is `zone - 5` stops from middle grey."""
    return (zone + 0.5) / 11


class AsItRuns:
    """A test case on the database as it runs outside of tests: with its write-ahead log, every commit waiting for the disk."""

    @classmethod
    def setUpClass(cls):
        cls._pragmas("WAL", "FULL")
        cls.addClassCleanup(cls._pragmas, "DELETE", "OFF")
        super().setUpClass()

    @staticmethod
    def _pragmas(journal, synchronous):
        with connection.cursor() as cursor:
            cursor.execute(f"PRAGMA journal_mode={journal}")
            cursor.execute(f"PRAGMA synchronous={synchronous}")


class PageTest(TestCase):
    """A test with the local person, whose requests come from this machine."""

    FROM_HERE = {"REMOTE_ADDR": "127.0.0.1", "HTTP_HOST": "127.0.0.1"}

    def setUp(self):
        self.person = local_person()
        self.client.defaults.update(self.FROM_HERE)

    @classmethod
    def visitor(cls):
        """A client for `setUpTestData`, where there is none yet."""
        return Client(**cls.FROM_HERE)

    @classmethod
    def tearDownClass(cls):
        shutil.rmtree(Path(settings.DIMGREY_DATA) / "pictures", ignore_errors=True)
        super().tearDownClass()

    def other(self):
        return Person.objects.create_user("someone-else", password="long enough password")

    def fresh(self, scene):
        return Scene.objects.get(pk=scene.pk)

    def act(self, scene, verb, **values):
        """The answer to one act, sent as the desk sends it with the scene's present stamp."""
        values = {"stamp": self.fresh(scene).stamp, **values}
        return self.client.post(f"/scenes/{scene.pk}/do/{verb}", values, headers={"HX-Request": "true"})

    def act_of_page(self, scene, page, verb, **values):
        """The answer to one act, sent as a page beside the desk sends it: "bench" or "compare"."""
        values = {"stamp": self.fresh(scene).stamp, "page": page, **values}
        return self.client.post(f"/scenes/{scene.pk}/do/{verb}", values)
