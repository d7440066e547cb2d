"""Cautions of lamps: each just below and just above its limit."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.cautions.lamps import DAZZLING_LUX, HIGH_M, LampCase
from dimgrey.core.cautions.registry import raised
from dimgrey.core.lamps.lamp import Lamp
from dimgrey.core.lamps.lampexposure import Camera

USUAL = Camera()
LAMP = Lamp("key", angle_deg=60.0, away_m=2.0, height_m=1.25, strength=800.0)


def codes(*lamps, subject="sitter", camera=USUAL):
    return [each.code for each in raised("lamps", LampCase(lamps, subject, camera))]


class Lamps(SimpleTestCase):
    def test_each_on_either_side_of_its_limit(self):
        flash = replace(LAMP, kind="flash", strength=16.0)
        window = replace(LAMP, kind="window", width_m=1.0, face_m=1.0)
        dazzling = DAZZLING_LUX * 4.0  # at two metres
        for lamps, expected in (
            ((), []),
            ((replace(LAMP, is_on=False),), []),
            ((LAMP,), ["hot-lamps"]),
            ((replace(LAMP, height_m=HIGH_M - 0.01),), ["hot-lamps"]),
            ((replace(LAMP, height_m=HIGH_M),), ["hot-lamps", "stands"]),
            ((replace(window, height_m=3.0),), []),
            ((flash,), ["flash-eyes"]),
            ((replace(LAMP, strength=dazzling - 1),), ["hot-lamps"]),
            ((replace(LAMP, strength=dazzling),), ["hot-lamps", "dazzling"]),
        ):
            with self.subTest(expected=expected, lamps=[each.height_m for each in lamps]):
                self.assertEqual(codes(*lamps), expected)

    def test_a_lamp_in_the_picture_is_told(self):
        behind = replace(LAMP, angle_deg=150.0, away_m=1.0, height_m=1.2)
        self.assertEqual(codes(behind), ["hot-lamps"], "0.5 m to the side, where the frame is 0.36 m")
        self.assertEqual(codes(replace(behind, away_m=0.5)), ["hot-lamps", "lamp-in-frame"])
        self.assertEqual(codes(replace(behind, away_m=0.5, height_m=1.75)), ["hot-lamps", "stands"], "above it")
        self.assertEqual(codes(replace(behind, angle_deg=180.0, away_m=1.6)), ["hot-lamps"], "behind the ground")
        self.assertEqual(codes(replace(behind, angle_deg=180.0, away_m=1.4)), ["hot-lamps", "lamp-in-frame"])

    def test_a_table_has_no_eyes(self):
        flash = replace(LAMP, kind="flash", height_m=1.0)
        self.assertEqual(codes(flash, replace(LAMP, strength=1e6), subject="table"), ["hot-lamps"])

    def test_flash_past_its_sync_time(self):
        flash = replace(LAMP, kind="flash")
        self.assertEqual(codes(flash, camera=Camera(8, 1 / 128, 100, 1 / 128)), ["flash-eyes"])
        self.assertEqual(codes(flash, camera=Camera(8, 1 / 129, 100, 1 / 128)), ["flash-eyes", "flash-sync"])
        self.assertEqual(codes(LAMP, camera=Camera(8, 1 / 500, 100, 1 / 128)), ["hot-lamps"])
