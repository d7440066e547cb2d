"""The core gives what it gave: numbers and words of a few hundred made-up cases, against tests/reference/pins.json.

A change that was meant is taken over with `python -m tests.reference.pins`, after a look at what moved.
"""

import json
import math

from django.test import SimpleTestCase

from tests.reference.pins import FILE, ROOMS, pins

KEPT = json.loads(FILE.read_text(encoding="utf-8"))


def differs(now, before, path=""):
    """Path of the first difference, or "". Numbers may differ by a hundred-thousandth: processors round differently."""
    if isinstance(now, float | int) and isinstance(before, float | int) and not isinstance(now, bool):
        return "" if math.isclose(now, before, rel_tol=1e-5, abs_tol=1e-6) else f"{path}: {now}, was {before}"
    if isinstance(now, list) and isinstance(before, list) and len(now) == len(before):
        return next(
            (said for k, pair in enumerate(zip(now, before, strict=True)) if (said := differs(*pair, f"{path}[{k}]"))),
            "",
        )
    if isinstance(now, dict) and isinstance(before, dict) and set(now) == set(before):
        return next((said for key in now if (said := differs(now[key], before[key], f"{path}.{key}"))), "")
    return "" if now == before else f"{path}: {now!r:.200}, was {before!r:.200}"


class Pins(SimpleTestCase):
    def check(self, room):
        now = pins(room)
        self.assertEqual(set(now), set(KEPT[room]))
        for name, value in now.items():
            with self.subTest(name):
                self.assertEqual(differs(value, KEPT[room][name]), "")

    def test_every_room_is_pinned(self):
        self.assertEqual(set(KEPT), set(ROOMS))

    def test_camera(self):
        self.check("camera")

    def test_colour(self):
        self.check("colour")

    def test_defaults(self):
        self.check("defaults")

    def test_documents(self):
        self.check("documents")

    def test_edges(self):
        self.check("edges")

    def test_kits(self):
        self.check("kits")

    def test_measuring(self):
        self.check("measuring")

    def test_pictures(self):
        self.check("pictures")

    def test_planning(self):
        self.check("planning")

    def test_settings(self):
        self.check("settings")

    def test_words(self):
        self.check("words")

    def test_skies(self):
        self.check("skies")
