"""In-camera settings, carrying over, advice, calibration, with the stand-in camera as a camera."""

import io
from datetime import UTC, datetime

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from dimgrey.core.camera import setups
from dimgrey.core.camera.calibration import CardFrame, curve_from_series, lightness_of, mix_from_chart
from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain
from dimgrey.core.colour.curves import transmittance
from dimgrey.core.colour.filters import own_spectrum
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.colour.spectra import WAVELENGTH_NM
from dimgrey.core.document import setupfile
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.detail import finished
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.plan import plan
from dimgrey.standins.simulated_camera import CameraSetting, SimulatedCamera

MENU = "Contrast: contrast -4..4 step 1\nHighlight tone: highlights -2..4 step 0.5\nShadow tone: shadows -2..4 step 0.5\nSharpness: sharpening -4..4 step 1"
HIDDEN = ((-6, -5, -4, -3, -2, -1, 0, 1, 2, 2.4, 3), (1, 2, 5, 12, 23, 36, 50, 68, 88, 97, 100))
"""A camera's own curve, unlike the default: steeper, clipping at +2.6."""


class Setups(SimpleTestCase):
    def test_the_middle_stays_and_the_ends_move_by_35_percent(self):
        for tone, stops, expected in (
            ((1, 0, 0), 2, 2.7),
            ((-1, 0, 0), -2, -1.3),
            ((0, 1, 0), 2, 2.7),
            ((0, 1, 0), -2, -2),
            ((0, 0, -1), -2, -1.3),
            ((1, 1, 1), 0, 0),
        ):
            self.assertAlmostEqual(float(setups.toned_stops(stops, tone)), expected)

    @given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
    def test_no_setting_swaps_two_tones(self, contrast, highlights, shadows):
        self.assertTrue(
            (np.diff(setups.toned_stops(np.linspace(-6, 4, 50), (contrast, highlights, shadows))) > 0).all()
        )

    def test_refusals(self):
        for arguments, sentence in (
            (("a", {"contrast": 2}), "Contrast runs from -1 to +1 (got 2)."),
            (("a", {"grain": -0.5}), "Grain runs from 0 to +1 (got -0.5)."),
            (("a", {"glow": 1}), "There is no effect “glow”."),
            (("a", {}, "pink"), "There is no in-camera filter “pink”."),
            (("  ", {}), "Give the setup a name."),
            (("a", {}, "red", 9), "Highlight protection is 0 to 3 stops (got 9)."),
        ):
            with self.subTest(sentence), self.assertRaises(CoreError) as caught:
                setups.setup(*arguments)
            self.assertIn(sentence, str(caught.exception))

    def test_menus_are_read_and_written(self):
        controls = setups.parse_controls(MENU)
        self.assertEqual([c.name for c in controls], ["Contrast", "Highlight tone", "Shadow tone", "Sharpness"])
        self.assertEqual(setups.parse_controls(setups.format_controls(controls)), controls)
        for line, sentence in (
            ("Contrast", "is not a control. Write Whole slope: contrast -12..12 step 2."),
            ("Glow: glow -1..1", "there is no effect “glow”"),
            ("Contrast: contrast 2..4", "its scale must hold 0 and rise"),
            ("A: contrast -1..1; B: contrast -2..2", "Two controls have the effect contrast."),
        ):
            with self.subTest(line), self.assertRaises(CoreError) as caught:
                setups.parse_controls(line)
            self.assertIn(sentence, str(caught.exception))

    def test_the_open_format_goes_out_and_comes_in_the_same(self):
        made = setups.setup("Hard noon", {"contrast": 0.5, "grain": 0.25}, "red", 1, "raw", "for walls", ("sun",))
        self.assertEqual(setupfile.setup_from(setupfile.plain(made)), made)
        for changed, sentence in (
            ([], "must be"),
            ({**setupfile.plain(made), "glow": 1}, "glow: unknown key"),
            ({**setupfile.plain(made), "effects": {"contrast": "high"}}, "effects.contrast: must be a number"),
        ):
            with self.subTest(sentence), self.assertRaises(CoreError) as caught:
                setupfile.setup_from(changed)
            self.assertIn(sentence, str(caught.exception))


class Scales(SimpleTestCase):
    def test_a_scale_with_uneven_ends_is_normalised_on_each_side(self):
        uneven, upwards = setups.control("a", "highlights", -2, 4, 0.5), setups.control("b", "grain", 0, 3, 1)
        self.assertEqual([uneven.normalised(v) for v in (-2, -1, 0, 2, 4)], [-1, -0.5, 0, 0.5, 1])
        self.assertEqual([upwards.normalised(v) for v in (-1, 0, 1.5, 3)], [0, 0, 0.5, 1])
        self.assertEqual([uneven.value_for(e) for e in (-1, -0.5, 0, 0.3, 1, 2)], [-2, -1, 0, 1, 4, 4])
        self.assertEqual([upwards.value_for(e) for e in (-0.6, 0.4, 1)], [0, 1, 3])

    def test_a_scale_holds_0_and_rises(self):
        for low, high, step in ((0, 3, 3), (-1, 0.5, 1.5)):
            setups.control("a", "grain", low, high, step)
        for low, high, step in ((0.1, 3, 1), (-3, 0, 1), (0, 3, 0), (0, 3, 3.1)):
            with self.assertRaises(CoreError):
                setups.control("a", "grain", low, high, step)


class Names(SimpleTestCase):
    def test_an_effect_is_called_as_people_call_it_and_kept_as_files_name_it(self):
        for line in ("Bite: local contrast -6..6 step 1", "Bite: clarity -6..6 step 1"):
            (control,) = setups.parse_controls(line)
            self.assertEqual(control.effect, "clarity")
            self.assertEqual(setups.format_controls((control,)), "Bite: clarity -6..6 step 1")
            said = setups.format_controls((control,), setups.name_of)
            self.assertEqual(said, "Bite: local contrast -6..6 step 1")
        self.assertEqual(
            {setups.effect_named(setups.name_of(effect)) for effect in setups.EFFECTS}, set(setups.EFFECTS)
        )
        with self.assertRaisesMessage(CoreError, "Local contrast runs from -1 to +1"):
            setups.setup("a", {"clarity": 2})
        changed = setups.what_changed(setups.setup("a"), setups.setup("a", {"clarity": 0.5}))
        self.assertEqual(changed, "local contrast +0.00 → +0.50")


class CarryingOver(SimpleTestCase):
    def test_the_same_effect_at_the_nearest_step(self):
        wanted = setups.setup("a", {"contrast": 0.6, "highlights": -0.5, "clarity": 0.4}, "orange", 2)
        found = setups.carry(wanted, setups.parse_controls(MENU), ("none", "red"), 1)
        self.assertEqual(
            [(c.name, value) for c, value, _ in found.menu],
            [("Contrast", 2), ("Highlight tone", -1), ("Shadow tone", 0), ("Sharpness", 0)],
        )
        self.assertAlmostEqual(found.setup.effects["contrast"], 0.5)
        said = " ".join(found.cannot)
        for part in (
            "Local contrast +0.40 cannot be carried",
            "The orange filter cannot be carried",
            "protection of 2 stops becomes 1",
        ):
            self.assertIn(part, said)

    @given(st.integers(-4, 4), st.integers(-4, 8), st.integers(-4, 8))
    def test_it_is_a_round_trip_where_the_scales_allow(self, contrast, highlights, shadows):
        controls = setups.parse_controls(MENU)
        values = {"contrast": contrast, "highlights": highlights / 2, "shadows": shadows / 2}
        wanted = setups.setup("a", {c.effect: c.normalised(values[c.effect]) for c in controls if c.effect in values})
        there = setups.carry(wanted, controls)
        self.assertEqual((there.cannot, [lost for _, _, lost in there.menu if abs(lost) >= 1e-3]), ((), []))
        self.assertEqual({c.effect: value for c, value, _ in there.menu if c.effect in values}, values)
        self.assertEqual(setups.carry(there.setup, controls).setup, there.setup)


class OwnFilters(SimpleTestCase):
    def test_a_spectrum_of_points_acts_like_the_curve_it_was_read_from(self):
        curve = transmittance(("orange",))
        points = own_spectrum([(nm, t) for nm, t in zip(WAVELENGTH_NM, curve, strict=True)])
        known, own = (
            glass_chain("general panchromatic", "D55", ("orange",)),
            glass_chain("general panchromatic", "D55", (points,)),
        )
        self.assertAlmostEqual(known.factor, own.factor, places=6)
        for colour in ((0.1, 0.2, 0.6), (0.5, 0.1, 0.05)):
            self.assertAlmostEqual(float(grey_of(known, colour)), float(grey_of(own, colour)), places=6)

    def test_it_costs_light_and_shifts_tones_in_a_plan(self):
        points = own_spectrum(
            [
                (380, 0.02),
                (420, 0.02),
                (460, 0.02),
                (500, 0.1),
                (550, 0.4),
                (600, 0.9),
                (650, 0.9),
                (700, 0.9),
                (730, 0.9),
            ]
        )
        sky = Tone("sky", "sky", (13.0,), (0.1, 0.18, 0.4))
        result = plan(
            Brief(
                tones=(sky,), choice=PlacingChoice("known tone", "sky", 5), filters=(Glass("my amber", points=points),)
            )
        )
        self.assertGreater(result.filter_cost.stops, 0.8)
        self.assertLess(result.tones[0].fall, 4.9)

    def test_bad_spectra_are_refused(self):
        for points, sentence in (
            ([(400, 0.5), (700, 0.5)], "needs at least three points (got 2)"),
            ([(400, 0.5), (380, 0.5), (700, 0.5)], "Wavelengths must rise: 380 nm comes after 400 nm."),
            ([(400, 0.5), (500, 0.5), (700, 0.5)], "a gap from 400 to 500 nm"),
            ([(400, 0.5), (440, 85), (480, 0.5)], "Transmittance is 0 to 1 (got 85 at 440 nm). For 85 % write 0.85."),
            ([(400, 0.5), (440, -0.1), (480, 0.5)], "Transmittance is 0 to 1 (got -0.1"),
            ([(450, 0.5), (480, 0.5), (520, 0.5)], "must reach from 400 to 700 nm (got 450 to 520)"),
            ([(nm, 0.0) for nm in range(400, 710, 20)], "is a lens cap"),
        ):
            with self.subTest(sentence), self.assertRaises(CoreError) as caught:
                own_spectrum(points)
            self.assertIn(sentence, str(caught.exception))


class Calibration(SimpleTestCase):
    def camera(self):
        return SimulatedCamera(np.full((4, 4, 3), 0.18), 12.0, HIDDEN)

    def series(self, setup=None):
        return [CardFrame(*frame) for frame in self.camera().card_series(setup or setups.Setup("plain"))]

    def test_a_hidden_curve_is_recovered(self):
        found = curve_from_series(self.series())
        for stops, l_star in zip(*HIDDEN, strict=True):
            if -5 <= stops <= 2.4 and float(stops).is_integer():
                self.assertAlmostEqual(float(lightness_of(found, stops)), l_star, delta=2)
        self.assertAlmostEqual(found.middle_stops, 0, delta=0.1)
        self.assertAlmostEqual(found.headroom, 2.7, delta=0.35)

    def test_a_setup_shows_in_the_curve(self):
        hard = curve_from_series(self.series(setups.Setup("hard", {"contrast": 1.0})))
        plain = curve_from_series(self.series())
        self.assertGreater(float(lightness_of(hard, 1)), float(lightness_of(plain, 1)) + 4)

    def test_order_does_not_matter_and_bad_series_are_named(self):
        good = self.series()
        self.assertEqual(curve_from_series(good[::-1]), curve_from_series(good))
        for series, sentence in (
            (good[:4], "needs at least 6 frames (got 4)"),
            ([f for f in good if f.stops not in (0, 1)], "A frame is missing between -1 and +2 stops."),
            ([CardFrame(k, 100) for k in range(8)], "The whole series is blank"),
            ([*good[:5], CardFrame(0, 10), *good[6:]], "is darker than the one before it"),
        ):
            with self.subTest(sentence), self.assertRaises(CoreError) as caught:
                curve_from_series(series)
            self.assertIn(sentence, str(caught.exception))

    def test_a_chart_gives_the_mix(self):
        rng = np.random.default_rng(2)
        colours = rng.uniform(0.02, 0.9, (24, 3))
        for mix in CHANNEL_MIXES.values():
            greys = colours @ np.asarray(mix)
            found = mix_from_chart(colours, greys * rng.normal(1, 0.005, 24))
            np.testing.assert_allclose(found.weights, mix, atol=0.02)
            self.assertLess(found.residual_stops, 0.1)
        for colours, greys, sentence in (
            (np.ones((3, 3)), np.ones(3), "at least 6 patches"),
            (np.full((8, 3), 0.4), np.full(8, 0.4), "patches are all grey"),
        ):
            with self.assertRaises(CoreError) as caught:
                mix_from_chart(colours, greys)
            self.assertIn(sentence, str(caught.exception))


class StandInCamera(SimpleTestCase):
    def setUp(self):
        zones = np.repeat(np.arange(1, 9), 10)[None].repeat(20, axis=0)
        self.linear = np.repeat((0.18 * 2.0 ** (zones - 5.0))[..., None], 3, axis=-1)
        self.camera = SimulatedCamera(self.linear, 12.0)

    def test_middle_grey_at_its_setting_is_middle_grey_in_the_file(self):
        shot = self.camera.shoot(
            setups.Setup("plain"), CameraSetting(8.0, 64 / 4096, 100), now=datetime(2027, 6, 1, tzinfo=UTC)
        )
        image = Image.open(io.BytesIO(shot.jpeg))
        self.assertAlmostEqual(np.asarray(image)[10, 45], 119, delta=2)
        self.assertEqual(image.getexif().get_ifd(0x8769)[0x8827], 100)
        self.assertEqual(shot.linear.shape, self.linear.shape)
        self.assertIsNone(
            self.camera.shoot(setups.Setup("x", file="in-camera"), CameraSetting(8.0, 1 / 60, 100)).linear
        )

    def test_live_view_shows_histogram_lost_ends_and_the_setup(self):
        right, over = (self.camera.live(setups.Setup("x"), CameraSetting(8.0, t, 100)) for t in (1 / 64, 1 / 4))
        self.assertAlmostEqual(sum(right.histogram), 1)
        self.assertGreater(over.lost_white, right.lost_white)
        hard = self.camera.live(setups.Setup("x", {"contrast": 1.0}), CameraSetting(8.0, 1 / 64, 100))
        self.assertGreater(int(hard.grey[10, 65]), int(right.grey[10, 65]))

    def test_metering_lock_and_compensation(self):
        before = self.camera.metered()
        self.camera.lock()
        self.assertEqual(self.camera.metered(), before)
        self.assertAlmostEqual(self.camera.metered(1.0), before - 1)
        self.assertAlmostEqual(self.camera.setting(10, 8.0, 100).ev100, 10)

    def test_a_bracket_has_a_shot_for_each_offset(self):
        shots = self.camera.bracket(setups.Setup("x"), CameraSetting(8.0, 1 / 64, 100), (0, -1, 1))
        self.assertEqual([round(shot.setting.time_s * 64, 3) for shot in shots], [1, 0.5, 2])

    def test_a_polarizer_darkens_blue_and_leaves_grey(self):
        picture = np.array([[[0.1, 0.18, 0.42], [0.2, 0.2, 0.2]]])
        camera = SimulatedCamera(picture, 12)
        off, on = (camera.live(setups.Setup("x"), CameraSetting(8.0, 1 / 64, 100), angle).grey for angle in (0, 1))
        self.assertLess(int(on[0, 0]), int(off[0, 0]) - 20)
        self.assertEqual(int(on[0, 1]), int(off[0, 1]))


class Finish(SimpleTestCase):
    def edge(self):
        return np.repeat(np.repeat([40.0, 60.0], 40)[None], 40, axis=0)

    def done(self, **effects):
        return finished(self.edge(), setups.Setup("x", effects), np.random.default_rng(1))

    def test_each_effect_does_its_own(self):
        plain = self.done()
        np.testing.assert_array_equal(plain, self.edge())
        self.assertGreater(self.done(sharpening=1.0).max(), 62, "an edge overshoots")
        self.assertLess(np.abs(np.diff(self.done(**{"noise reduction": 1.0})[20])).max(), 10, "an edge is softened")
        grain = self.done(grain=1.0)
        self.assertAlmostEqual(float(grain[:, :30].std()), 7 * 2 * (0.4 * 0.6) ** 0.5, delta=1.5)
        coarse = self.done(**{"grain": 1.0, "grain size": 1.0})
        rough = lambda field: float(np.abs(np.diff(field[:, :30], axis=1)).mean())
        self.assertLess(rough(coarse), rough(grain))
