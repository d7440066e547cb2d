"""Lamps add up: inverse square, faces against an integration of their own, ratios, flash with ambient light, and the ways back."""

import math

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import dblquad

from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.illuminance import illuminance, intensities
from dimgrey.core.lamps.lamp import Lamp, require_lamp, require_lamps, strength_of_reading
from dimgrey.core.lamps.lampexposure import (
    Camera,
    Light,
    flash_f_number,
    incident_ev100,
    pause_s,
    require_sync,
    tone_ev100,
    zone,
)
from dimgrey.core.lamps.shadows import edge_width_m, fall_off_stops, hardness

SUBJECT = (0.0, 0.0, 1.25)
FRONT = (0.0, -1.0, 0.0)


def lamp(**more):
    return Lamp("key", **{"angle_deg": 0.0, "away_m": 1.0, "height_m": 1.25, "strength": 1000.0, **more})


def integrated(made, place, normal):
    """Illuminance of a Lambertian face at a place, integrated over the face by itself."""
    source = made.at
    length = math.dist(source, SUBJECT)
    forward = [(b - a) / length for a, b in zip(source, SUBJECT, strict=True)]
    flat = math.hypot(forward[0], forward[1])
    across = (forward[1] / flat, -forward[0] / flat, 0.0)
    up = (
        across[1] * forward[2] - across[2] * forward[1],
        across[2] * forward[0] - across[0] * forward[2],
        across[0] * forward[1] - across[1] * forward[0],
    )

    def given(u, v):
        at = [s + u * a + v * b for s, a, b in zip(source, across, up, strict=True)]
        to = [a - b for a, b in zip(at, place, strict=True)]
        d = math.hypot(*to)
        falling = max(sum(t * n for t, n in zip(to, normal, strict=True)) / d, 0.0)
        leaving = max(-sum(t * f for t, f in zip(to, forward, strict=True)) / d, 0.0)
        return falling * leaving / d**2

    w, h = made.width_m / 2, made.face_m / 2
    if made.is_round:
        edge = lambda v: math.sqrt(max(w**2 - v**2, 0.0))
        total = dblquad(given, -w, w, lambda v: -edge(v), edge, epsabs=1e-6)[0]
    else:
        total = dblquad(given, -h, h, -w, w, epsabs=1e-6)[0]
    return made.intensity / made.area_m2 * total


class OneLamp(SimpleTestCase):
    def test_a_point_falls_with_the_square_and_the_cosine(self):
        for away, tilt, expected in ((1.0, 0, 1000.0), (2.0, 0, 250.0), (2.0, 60, 125.0), (1.0, 90, 0.0)):
            normal = (math.sin(math.radians(tilt)), -math.cos(math.radians(tilt)), 0.0)
            got = float(illuminance(lamp(away_m=away), SUBJECT, [SUBJECT], [normal])[0])
            self.assertAlmostEqual(got, expected, places=6, msg=f"{away} m, {tilt} degrees")

    def test_a_face_agrees_with_an_integration_over_it(self):
        places = ((SUBJECT, FRONT), ((0.1, -0.05, 1.3), (0.4, -0.9165, 0.0)), ((0.3, 1.0, 1.0), (0.0, -0.8, 0.6)))
        for size in (0.1, 0.29, 0.31, 0.6, 1.0, 1.6):
            for more in ({}, {"is_round": True}, {"angle_deg": 60.0, "height_m": 1.9}, {"face_m": size / 3}):
                made = lamp(**{"width_m": size, "face_m": size, "away_m": 1.0, **more})
                for place, normal in places:
                    with self.subTest(size=size, more=more, place=place):
                        expected = integrated(made, place, normal)
                        got = float(illuminance(made, SUBJECT, [place], [normal])[0])
                        self.assertLess(abs(math.log2(got / expected)), 0.05)

    def test_the_point_law_would_be_a_third_off_at_its_own_size(self):
        wide = float(illuminance(lamp(width_m=1.0, is_round=True), SUBJECT, [SUBJECT], [FRONT])[0])
        self.assertAlmostEqual(math.log2(1000 / wide), math.log2(1.25), delta=0.01)

    def test_a_grid_cuts_the_side_and_a_flag_the_ground(self):
        far, beside = (0.0, 2.0, 1.25), (0.6, 0.0, 1.25)
        lit = lambda where, **more: float(illuminance(lamp(**more), SUBJECT, [where], [FRONT])[0])
        self.assertEqual(lit(SUBJECT, grid_deg=20.0), lit(SUBJECT))
        self.assertEqual(lit(beside, grid_deg=20.0), 0.0)
        self.assertAlmostEqual(lit(beside, grid_deg=45.0) / lit(beside), 0.4, places=6)
        self.assertEqual(lit(far, is_flagged=True), 0.0)
        self.assertEqual(lit(SUBJECT, is_flagged=True), lit(SUBJECT))

    def test_a_guide_number_is_what_an_incident_meter_reads(self):
        flash = lamp(kind="flash", strength=16.0, away_m=2.0)
        given = float(illuminance(flash, SUBJECT, [SUBJECT], [FRONT])[0])
        self.assertAlmostEqual(flash_f_number(Light(flash_lux_s=given), 1 / 128), 8.0, places=6)
        self.assertAlmostEqual(flash_f_number(Light(flash_lux_s=given), 1 / 128, iso=400), 16.0, places=6)
        half = lamp(kind="flash", strength=16.0, away_m=2.0, stops=-1.0)
        self.assertAlmostEqual(half.intensity * 2, flash.intensity)
        self.assertAlmostEqual(strength_of_reading("flash", 8, 2.0, iso=400), 8.0)
        self.assertAlmostEqual(pause_s(half, 3.0), 1.5)

    def test_a_window_is_a_face_as_bright_as_what_falls_on_its_pane(self):
        # A round face of luminance L gives ``pi L r**2 / (r**2 + d**2)`` on its axis.
        for away, share in ((1.0, 0.5), (2.0, 0.2)):
            pane = lamp(kind="window", strength=5000.0, width_m=2.0, is_round=True, away_m=away)
            given = float(illuminance(pane, SUBJECT, [SUBJECT], [FRONT])[0])
            self.assertAlmostEqual(given / (5000 * 0.8), share, places=3)

    def test_a_reflector_gives_back_its_share(self):
        key = lamp(away_m=2.0)
        board = lamp(kind="reflector", angle_deg=180.0, away_m=1.0, width_m=0.5, face_m=0.5, strength=0.8)
        (_, _), (lasting, flash) = intensities((key, board), SUBJECT)
        self.assertAlmostEqual(lasting, 1000 / 9 * 0.8 * 0.25 / math.pi, places=6)
        self.assertEqual(flash, 0.0)
        self.assertEqual(intensities((lamp(is_on=False), board), SUBJECT)[1], (0.0, 0.0))


class Together(SimpleTestCase):
    def test_light_adds_in_lux_and_ambient_by_time(self):
        both = Light(100.0, 2.0) + Light(50.0, 1.0)
        self.assertEqual((both.lasting_lux, both.flash_lux_s), (150.0, 3.0))
        self.assertAlmostEqual(both.lux_seconds(0.02), 6.0)

    def test_both_meters_agree_at_the_reflectance_of_their_constants(self):
        light = Light(2500.0)
        rho = math.pi * 12.5 / 250
        self.assertAlmostEqual(tone_ev100(light, rho, 1 / 60), incident_ev100(light, 1 / 60), places=9)
        camera = Camera(8.0, 1 / 64, 100.0)
        self.assertAlmostEqual(zone(light, rho, camera), 5 + incident_ev100(light, 1 / 64) - camera.setting_ev100)
        self.assertAlmostEqual(zone(light, 0.18, camera) - zone(light, rho, camera), math.log2(0.18 / rho))

    @given(st.floats(0, 10), st.floats(0.02, 0.9), st.floats(1, 22), st.floats(1 / 500, 2))
    def test_as_many_stops_of_light_as_of_zones(self, stops, rho, f_number, time):
        camera, light = Camera(f_number, time, 200.0), Light(flash_lux_s=3.0)
        more = Light(flash_lux_s=3.0 * 2.0**stops)
        self.assertAlmostEqual(zone(more, rho, camera) - zone(light, rho, camera), stops, places=6)

    def test_flash_beyond_the_sync_time_is_refused_and_only_then(self):
        flash = lamp(kind="flash", strength=16.0)
        require_sync(Camera(exposure_time_s=1 / 128, sync_time_s=1 / 128), [flash])
        require_sync(Camera(exposure_time_s=1 / 512, sync_time_s=1 / 128), [lamp(), lamp(kind="flash", is_on=False)])
        with self.assertRaisesMessage(CoreError, "Set 1/128 s or longer"):
            require_sync(Camera(exposure_time_s=1 / 256, sync_time_s=1 / 128), [flash])


class Shadows(SimpleTestCase):
    def test_edges_and_fall_off_by_hand(self):
        self.assertAlmostEqual(edge_width_m(0.6, 1.5, 0.05), 0.02)
        self.assertAlmostEqual(fall_off_stops(1.0, 0.5), 2 * math.log2(1.5))
        self.assertAlmostEqual(fall_off_stops(4.0, 0.5), 0.34, delta=0.005)
        words = [hardness(lamp(width_m=size, face_m=size), SUBJECT)[1] for size in (0.05, 0.3, 1.0)]
        self.assertEqual(words, ["hard", "between hard and soft", "soft"])


class BadLamps(SimpleTestCase):
    def test_each_is_refused_with_what_to_do(self):
        for more, words in (
            ({"away_m": 0.0}, "stands in the subject"), ({"away_m": 40.0}, "up to 30 m away"), ({"height_m": -1.0}, "0 to 12 m high"),
            ({"width_m": 2.5, "face_m": 0.3}, "reaches into the subject"), ({"width_m": 9.0}, "0 to 6 m"), ({"strength": 0.0}, "more than 0"),
            ({"stops": 1.0}, "goes from -7 to +0 stops"), ({"stops": -8.0}, "goes from -7"), ({"kind": "candle"}, "A lamp is lasting"),
            ({"kind": "window"}, "needs its width and height"), ({"kind": "reflector", "strength": 2.0, "width_m": 0.5, "face_m": 0.5}, "share of 0 to 1"),
            ({"away_m": math.nan}, "must be a number"),
        ):  # fmt: skip
            with self.subTest(more=more), self.assertRaisesMessage(CoreError, words):
                require_lamp(lamp(**more), SUBJECT)
        with self.assertRaisesMessage(CoreError, "At most 12 lamps (got 500)"):
            require_lamps([lamp()] * 500, SUBJECT)
        self.assertEqual(len(require_lamps([lamp()] * 12, SUBJECT)), 12)
        with self.assertRaisesMessage(CoreError, "more than 0"):
            strength_of_reading("lasting", 0, 1.0)
