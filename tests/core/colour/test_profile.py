"""Tone curves of colour profiles: each form of ICC.1:2022, 10.6 and 10.18, with values worked by hand."""

import struct

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.profile import _curve


def parametric(form, *values):
    return (
        b"para"
        + bytes(4)
        + struct.pack(">HH", form, 0)
        + struct.pack(f">{len(values)}i", *(round(v * 65536) for v in values))
    )


def table(*values):
    return b"curv" + bytes(4) + struct.pack(">I", len(values)) + struct.pack(f">{len(values)}H", *values)


class Curves(SimpleTestCase):
    def check(self, tag, pairs):
        for given, expected in pairs:
            self.assertAlmostEqual(float(_curve(tag)(np.array(given))), expected, places=3, msg=given)

    def test_parametric_forms(self):
        self.check(parametric(0, 2.0), [(0.5, 0.25), (0.0, 0.0), (1.0, 1.0)])
        # (0.8 x - 0.2)**2 from x = 0.25 on, else nothing
        self.check(parametric(1, 2.0, 0.8, -0.2), [(0.5, 0.04), (0.24, 0.0), (1.0, 0.36)])
        self.check(parametric(2, 2.0, 0.8, -0.2, 0.1), [(0.5, 0.14), (0.2, 0.1), (1.0, 0.46)])
        # (0.9 x + 0.1)**2 from 0.3 on, else 0.4 x
        self.check(parametric(3, 2.0, 0.9, 0.1, 0.4, 0.3), [(0.31, 0.1436), (0.29, 0.116), (1.0, 1.0)])
        self.check(parametric(4, 2.0, 0.9, 0.1, 0.4, 0.3, 0.05, 0.02), [(0.31, 0.1936), (0.29, 0.136), (1.0, 1.05)])

    def test_tables(self):
        self.check(table(), [(0.3, 0.3)])
        self.check(table(512), [(0.5, 0.25)])
        self.check(table(0, 16384, 65535), [(0.5, 0.25), (0.25, 0.125), (0.75, 0.625)])

    def test_an_unknown_curve_is_refused(self):
        with self.assertRaises(ValueError):
            _curve(b"none" + bytes(12))
