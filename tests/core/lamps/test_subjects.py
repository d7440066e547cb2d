"""The sitter and the table: their tones against hand-made sums, their shadows against D b / d, wishes turned into lamps, advice."""

import math
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.lamps.adviser import clothes, grounds, pattern_words, through_filters
from dimgrey.core.lamps.backwards import Wish, solved
from dimgrey.core.lamps.bodies import meshes
from dimgrey.core.lamps.illuminance import illuminance
from dimgrey.core.lamps.lamp import Lamp, require_lamps
from dimgrey.core.lamps.lampexposure import Camera
from dimgrey.core.lamps.lightpatterns import PATTERNS, arranged
from dimgrey.core.lamps.places import OFFSETS, default_view, lit_places, places, sides
from dimgrey.core.lamps.reflectances import SURFACES, of_kind
from dimgrey.core.lamps.rendering import rendered, seen, shaded
from dimgrey.core.lamps.subjects import BLEND, BRIGHT_EDGE, PART, SITTER, TABLE
from tests.core.lamps.test_light import integrated

VIEW = default_view(SITTER, 2.0)
KEY = Lamp("key", angle_deg=0.0, away_m=1.5, height_m=1.25, width_m=0.6, face_m=0.6, strength=800.0)
SHARES = {"skin": 0.36, "hair": 0.07, "clothes": 0.04, "ground": 0.08}
CAMERA = Camera(4.0, 1 / 64, 400.0)


class Meshes(SimpleTestCase):
    def test_every_body_is_closed_and_stands_where_it_should(self):
        for subject, low, high in ((SITTER, 0.5, 1.45), (TABLE, 0.74, 0.9)):
            for mesh in meshes(subject):
                self.assertGreaterEqual(mesh.vertices[:, 2].min(), low - 0.05, mesh.part)
                self.assertLessEqual(mesh.vertices[:, 2].max(), high, mesh.part)
                edges = np.sort(np.concatenate([mesh.faces[:, [0, 1]], mesh.faces[:, [1, 2]], mesh.faces[:, [2, 0]]]))
                _, counts = np.unique(edges, axis=0, return_counts=True)
                self.assertGreater((counts == 2).mean(), 0.98, mesh.part)

    def test_normals_look_at_the_camera_and_every_place_is_found(self):
        for subject in (SITTER, TABLE):
            view = default_view(subject)
            found = seen(view)
            towards = np.asarray(view.at) - found.places
            on = found.part >= 0
            self.assertTrue(((towards * found.normals).sum(axis=1)[on] >= -1e-6).all())
            self.assertEqual({place.name for place in places(view)}, set(OFFSETS[subject]))


class TonesOfThePicture(SimpleTestCase):
    def test_named_places_agree_with_the_sum_over_the_lamps_face(self):
        """The picture, read at each place that nothing shades, against ``rho E / pi`` integrated by itself."""
        surfaces = {part: (share,) * 3 for part, share in SHARES.items()}
        picture = rendered(VIEW, (KEY,), {**surfaces, "hair": (0.07,) * 3}, 1 / 64)
        checked = 0
        for place in places(VIEW):
            x, y = int(place.in_picture[0] * VIEW.width), int(place.in_picture[1] * VIEW.height)
            where = np.array([place.at]), np.array([place.normal])
            alone = float(illuminance(KEY, VIEW.middle, *where)[0]) / KEY.intensity
            if place.part == "hair" or float(shaded(VIEW, KEY, 1.0, *where)[0]) < 0.99 * alone:
                continue  # strands are lighter and darker by turns; what is partly shaded is no plain sum
            expected = SHARES[place.part] * integrated(KEY, place.at, place.normal) / math.pi
            got = float(picture[y, x, 0])
            checked += 1
            self.assertLess(abs(math.log2(got / expected)), 0.1, place.name)
        self.assertGreaterEqual(checked, 5)

    def test_the_zones_of_places_are_those_of_the_picture(self):
        surfaces = {part: (share,) * 3 for part, share in SHARES.items()}
        picture = rendered(VIEW, (KEY,), surfaces, CAMERA.exposure_time_s, ambient_lux=3.0)
        for lit in lit_places(VIEW, (KEY,), SHARES, CAMERA, ambient_lux=3.0):
            if lit.place.part != "hair":
                x, y = (int(f * n) for f, n in zip(lit.place.in_picture, (VIEW.width, VIEW.height), strict=True))
                ev = math.log2(float(picture[y, x, 0]) * 100 / 12.5)
                self.assertAlmostEqual(ev, lit.ev100, delta=0.1, msg=lit.place.name)

    def test_lamps_add_and_what_is_off_gives_nothing(self):
        other = replace(KEY, name="fill", angle_deg=-60.0, strength=100.0)
        total = lambda *lamps: [each.light.lasting_lux for each in lit_places(VIEW, lamps, SHARES, CAMERA)]
        np.testing.assert_allclose(total(KEY, other), np.add(total(KEY), total(other)), rtol=1e-9)
        self.assertEqual(total(KEY, replace(other, is_on=False)), total(KEY))

    def test_the_lit_side_is_told_and_flat_light_has_none(self):
        side = lambda *lamps: sides(lit_places(VIEW, lamps, SHARES, CAMERA, ambient_lux=1.0))
        self.assertEqual(side(replace(KEY, angle_deg=70.0))[0], "right")
        self.assertEqual(side(replace(KEY, angle_deg=-70.0))[0], "left")
        self.assertEqual(side(KEY)[0], "")

    def test_stripes_and_plain_cloth_have_the_same_middle(self):
        surfaces = {part: (share,) * 3 for part, share in SHARES.items()}
        plain, bold = (rendered(VIEW, (KEY,), surfaces, 1.0, pattern=stops) for stops in (0.0, 2.0))
        lit = plain[..., 0] > 1e-6
        changed = np.abs(np.log2(bold[..., 0][lit] / plain[..., 0][lit]))
        self.assertAlmostEqual(float(changed[changed > 0.5].mean()), 1.0, delta=0.01)


class ShadowEdges(SimpleTestCase):
    def test_an_edge_on_the_ground_is_as_wide_as_the_lamp_makes_it(self):
        """The side of the head before the ground, a flat lamp behind the camera: from all shade to no shade is D b / d."""
        for size, ground in ((0.3, 1.5), (0.15, 1.5), (0.3, 0.8)):
            view = default_view(SITTER, ground)
            made = replace(KEY, width_m=size, face_m=0.01, away_m=2.0)
            x = np.linspace(0.0, 0.9, 3601)
            on_ground = np.stack([x, np.full_like(x, ground), np.full_like(x, 1.27)], axis=1)
            facing = np.tile([0.0, -1.0, 0.0], (len(x), 1))
            part = shaded(view, made, 1.0, on_ground, facing, count=48)
            share = part / _free(made, on_ground, facing)
            self.assertLess(share[0], 1e-6, "behind the head is all shade")
            inside = x[(share > 0.002) & (share < 0.998)]
            width = inside.max() - inside.min()
            edge = _edge_of_head(1.27)
            expected = size * (ground - edge[1]) / (2.0 + edge[1])
            self.assertAlmostEqual(width / expected, 1.0, delta=0.05, msg=f"{size} m, ground at {ground} m")


def _free(lamp, where, facing):
    return illuminance(lamp, (0.0, 0.0, 1.25), where, facing) / lamp.intensity


def _edge_of_head(height):
    """(x, y) of what lies farthest to the right of the head at a height."""
    rows = np.concatenate([mesh.vertices for mesh in meshes(SITTER)])
    near = rows[np.abs(rows[:, 2] - height) < 0.01]
    return near[np.argmax(near[:, 0]), :2]


class Backwards(SimpleTestCase):
    LAMPS = (
        replace(KEY, angle_deg=45.0, height_m=1.9),
        replace(KEY, name="fill", angle_deg=-30.0, away_m=2.0),
        Lamp(
            "edge", angle_deg=150.0, away_m=1.3, height_m=1.8, width_m=0.2, face_m=0.6, strength=800.0, is_flagged=True
        ),
        Lamp("ground lamp", angle_deg=170.0, away_m=1.0, height_m=0.3, width_m=0.2, face_m=0.2, strength=200.0),
    )

    def test_put_forward_again_every_wish_is_met(self):
        lamps = tuple(replace(each, strength=4000.0) for each in self.LAMPS[:3])
        wishes = (Wish("cheek right", 6.0), Wish("cheek left", -1.0, "cheek right"), Wish("hair right", 4.2))
        found = solved(VIEW, lamps, SHARES, CAMERA, wishes, ambient_lux=2.0)
        self.assertEqual(found.unmet, ())
        zones = {each.place.name: each.zone for each in lit_places(VIEW, found.lamps, SHARES, CAMERA, 2.0)}
        self.assertAlmostEqual(zones["cheek right"], 6.0, delta=1 / 6)
        self.assertAlmostEqual(zones["cheek left"] - zones["cheek right"], -1.0, delta=1 / 6)
        self.assertAlmostEqual(zones["hair right"], 4.2, delta=1 / 6)
        require_lamps(found.lamps, VIEW.middle)
        self.assertEqual(found.moved, (), "powers were enough")

    def test_where_powers_end_distances_change(self):
        weak = (replace(self.LAMPS[0], strength=220.0),)
        found = solved(VIEW, weak, SHARES, CAMERA, (Wish("cheek right", 5.0),))
        self.assertEqual((found.unmet, found.moved), ((), ("key",)))
        self.assertLess(found.lamps[0].away_m, weak[0].away_m)

    def test_wishes_that_contradict_are_named_with_the_nearest(self):
        found = solved(
            VIEW, self.LAMPS[:1], SHARES, CAMERA, (Wish("cheek right", 6.0), Wish("forehead", 2.0)), ambient_lux=1.0
        )
        self.assertEqual(len(found.unmet), 2)
        self.assertEqual(found.unmet[0].wish.words, "cheek right on VI")
        self.assertTrue(2.0 < found.unmet[1].got < 6.0)

    def test_a_ground_that_only_gets_spill_cannot_be_white(self):
        found = solved(VIEW, self.LAMPS[:1], SHARES, CAMERA, (Wish("cheek right", 6.0), Wish("ground left", 8.0)))
        self.assertIn("ground left", {each.wish.place for each in found.unmet})

    def test_without_a_lamp_that_can_change_nothing_is_tried(self):
        window = Lamp("window", kind="window", width_m=1.0, face_m=1.5, strength=3000.0)
        found = solved(VIEW, (window,), SHARES, CAMERA, (Wish("cheek right", 9.9),))
        self.assertEqual((found.lamps, len(found.unmet)), ((window,), 1))


class Patterns(SimpleTestCase):
    def test_each_stands_as_it_says_and_can_be_built(self):
        for key, pattern in PATTERNS.items():
            for subject in (SITTER, TABLE):
                view = default_view(subject)
                lamps = arranged(key, (KEY,), subject)
                require_lamps(lamps, view.middle)
                self.assertEqual(sum(each.is_on for each in lamps), len(pattern.stands), key)

    def test_each_does_to_the_face_what_it_is_for(self):
        told = {}
        for key in PATTERNS:
            found = lit_places(VIEW, arranged(key, (KEY,), SITTER), SHARES, CAMERA, ambient_lux=0.5)
            told[key] = {each.place.name: each.light.lasting_lux for each in found}
        self.assertGreater(told["side"]["cheek right"], 4 * told["side"]["cheek left"])
        self.assertLess(abs(math.log2(told["flat"]["cheek right"] / told["flat"]["cheek left"])), 0.2)
        self.assertGreater(told["edge"]["hair right"], 10 * told["edge"]["cheek left"])
        self.assertGreater(told["both-edges"]["hair left"], 10 * told["both-edges"]["forehead"])
        self.assertLess(told["edge"]["ground left"], 1.0, "the flag keeps it off the ground")
        self.assertGreater(told["above"]["forehead"], told["above"]["cheek right"])
        ratio = math.log2(told["three-quarter"]["cheek right"] / told["three-quarter"]["cheek left"])
        self.assertTrue(0.8 < ratio < 4, ratio)


class Advice(SimpleTestCase):
    def lit(self, hair="brown hair", cloth="black cotton", ground="dark grey paper"):
        shares = {
            "skin": 0.36,
            "hair": SURFACES[hair].reflectance,
            "clothes": SURFACES[cloth].reflectance,
            "ground": SURFACES[ground].reflectance,
        }
        lamps = (replace(KEY, angle_deg=30.0, away_m=3.0), replace(KEY, name="fill", angle_deg=-40.0, away_m=3.0))
        return lit_places(VIEW, lamps, shares, CAMERA, ambient_lux=1.0)

    def test_grounds_that_part_do_so_by_a_zone_on_both_sides(self):
        found = self.lit()
        for choice in grounds(found, PART):
            near = min(abs(choice.from_hair), abs(choice.from_other))
            self.assertEqual(choice.fits, near >= 1.0, choice)
        self.assertTrue(grounds(found, PART)[0].fits)
        names = {choice.name: choice for choice in grounds(found, PART)}
        self.assertTrue(names["white paper"].fits)
        rows = {choice.name: choice for choice in grounds(self.lit("black hair", "black velvet"), PART)}
        self.assertFalse(rows["black cloth ground"].fits, "black hair and shoulders melt into it")

    def test_blending_asks_for_what_parting_refuses(self):
        found = self.lit("black hair")
        self.assertTrue(any("merges" in choice.why for choice in grounds(found, BLEND) if choice.fits))
        both = {c.name for c in grounds(found, BLEND) if c.fits} & {c.name for c in grounds(found, PART) if c.fits}
        self.assertEqual(both, set())

    def test_a_bright_edge_wants_a_ground_darker_than_the_hair(self):
        for choice in grounds(self.lit("blond hair"), BRIGHT_EDGE):
            self.assertEqual(choice.fits, choice.from_hair <= -1.0, choice)

    def test_clothes_are_held_against_ground_and_skin(self):
        rows = {choice.name: choice for choice in clothes(self.lit(ground="white paper"), PART)}
        self.assertTrue(rows["black cotton"].fits)
        self.assertFalse(rows["white shirt"].fits)
        self.assertEqual(clothes((), PART), ())
        self.assertEqual(grounds((), PART), ())

    def test_a_pattern_is_advised_only_where_it_parts(self):
        self.assertIn("bold pattern parts them", pattern_words(5.5, 5.0))
        self.assertIn("take them plain", pattern_words(7.0, 6.0))
        self.assertIn("plain keeps the eye", pattern_words(3.0, 6.0))

    def test_filters_do_to_skin_and_cloth_what_they_are_known_for(self):
        rows = {row.name: row for row in through_filters(SURFACES["pale skin"], SURFACES["blue shirt"])}
        self.assertGreater(rows["red"].apart["freckles"], rows["blue"].apart["freckles"] + 0.5, "red fades freckles")
        self.assertGreater(rows["red"].apart["lips"], rows["green"].apart["lips"] + 0.5, "green darkens lips")
        self.assertGreater(rows["blue"].cloth, 1.0, "a blue shirt gets light through blue")
        self.assertLess(rows["orange"].cloth, -0.3)
        self.assertGreater(rows["orange"].skin, rows["none"].skin)

    def test_surfaces_lie_in_their_ranges_and_keep_their_reflectance(self):
        weights = (0.2126, 0.7152, 0.0722)
        for surface in SURFACES.values():
            self.assertTrue(surface.low <= surface.reflectance <= surface.high, surface.name)
            luminance = sum(w * c for w, c in zip(weights, surface.colour, strict=True))
            self.assertAlmostEqual(luminance, surface.reflectance, places=3, msg=surface.name)
        self.assertEqual(len(of_kind("skin")), 4)
        self.assertTrue(all(len(surface.wished) == 2 for surface in of_kind("skin")))
