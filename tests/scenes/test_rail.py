"""The rail's geometry: nothing lies on anything else, whatever the tones."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.planning.brief import Brief, PlacingChoice, Tone
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.tonewords import Words
from dimgrey.pictures.addresses import Rendering, key_of, rendering_of
from dimgrey.scenes.rail import ASSUMED_WIDTH_PX, COMPACT_FLAG_PX, COMPACT_WIDTH_PX, GAP_PX, _rows, rail_of


def boxes(rail):
    for flag in rail.flags:
        at = float(flag.x[:-1]) / 100 * ASSUMED_WIDTH_PX
        yield flag.row, at + flag.box_x, at + flag.box_x + flag.width


class Rows(SimpleTestCase):
    @given(st.lists(st.tuples(st.floats(-6, 20), st.integers(1, 30)), min_size=1, max_size=12))
    def test_no_flag_lies_on_another_and_none_leaves_the_rail(self, tones):
        scene = Brief(
            medium=medium("film"),
            tones=tuple(Tone(f"{k:02d}{'n' * size}", "shadow", (ev,)) for k, (ev, size) in enumerate(tones)),
            choice=PlacingChoice("shadow"),
        )
        found = sorted(boxes(rail_of(plan(scene), {}, Words())))
        for (row, _, right), (other, left, _) in zip(found, found[1:], strict=False):
            if row == other:
                self.assertGreaterEqual(left, right)
        self.assertGreaterEqual(min(left for _, left, _ in found), -ASSUMED_WIDTH_PX * 0.5)
        self.assertLessEqual(max(right for _, _, right in found), ASSUMED_WIDTH_PX + 1)

    @given(st.lists(st.floats(0.4, 99.6), min_size=1, max_size=12))
    def test_letters_on_the_phone_never_overlap(self, places):
        places = sorted(places)
        rows, _ = _rows(places, [COMPACT_FLAG_PX] * len(places), COMPACT_WIDTH_PX, centred=True)
        for row in set(rows):
            at = [p / 100 * COMPACT_WIDTH_PX for p, r in zip(places, rows, strict=True) if r == row]
            for a, b in zip(at, at[1:], strict=False):
                self.assertGreaterEqual(b - a, COMPACT_FLAG_PX + GAP_PX - 1e-6)

    def test_lines_do_not_cross_flags_in_the_middle_of_the_rail(self):
        rows, _ = _rows([30, 31, 32, 33], [100] * 4, 760)
        self.assertEqual(rows, [3, 2, 1, 0])

    def test_stops_and_zones_name_the_same_places(self):
        scene = Brief(
            medium=medium("digital file"), tones=(Tone("a", "shadow", (10.0,)),), choice=PlacingChoice("shadow")
        )
        zones, stops = (rail_of(plan(scene), {}, Words(labels)) for labels in ("zones", "stops"))
        self.assertEqual(zones.flags[0].x, stops.flags[0].x)
        self.assertEqual([b.label for b in stops.bands][4:7], ["−1", "0", "+1"])
        self.assertIn("white from IX, a fall on VII⅔", zones.base.caption)


class Addresses(SimpleTestCase):
    @given(
        st.floats(-5, 5),
        st.floats(-12, 12),
        st.floats(0.5, 3),
        st.sampled_from(["film", "digital raw"]),
        st.integers(-2, 2),
    )
    def test_a_view_is_read_back_from_its_address(self, weight, stops, slope, kind, step):
        shown = Rendering(
            mixed_chain((weight, 0.5, 0.5 - weight)),
            stops,
            slope,
            kind,
            step,
            "three",
            (weight / 5, -0.2, 0.3),
        )
        back = rendering_of(key_of(shown))
        self.assertEqual((back.kind, back.development, back.look), (kind, step, "three"))
        for a, b in zip(
            (*shown.chain.weights, stops, slope, *shown.tone),
            (*back.chain.weights, back.stops, back.slope, *back.tone),
            strict=True,
        ):
            self.assertAlmostEqual(a, b, delta=5.1e-5)
