"""The worked examples of docs/schools.md, run."""

import re
from pathlib import Path

from django.test import SimpleTestCase

from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.planning.brief import Brief, PlacingChoice, Tone
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.zones import parse_zone

PAGE = Path(__file__).resolve().parents[3] / "docs" / "schools.md"
TONES = (
    Tone("coal", "shadow", (8.0,)),
    Tone("wall", "highlight", (14.0,)),
    Tone("sky", "sky", (13.0,)),
    Tone("figure", "subject", (9.0,)),
)
AIMS = {
    "pure white": {"white": "pure"},
    "black shapes": {"shadows": "empty"},
    "a third under": {"under_stops": 1 / 3},
    "two stops under": {"under_stops": 2.0},
}


def rows():
    for line in PAGE.read_text(encoding="utf-8").splitlines():
        cells = [cell.strip() for cell in line.strip("|").split("|")]
        if line.startswith("|") and len(cells) in (4, 5) and cells[0] not in ("school", "aim") and "---" not in line:
            yield cells


class WorkedExamples(SimpleTestCase):
    def test_every_example_sets_what_the_page_says(self):
        seen = 0
        for cells in rows():
            with self.subTest(" ".join(cells[:3])):
                aim = AIMS.get(cells[0], {})
                school, kind = (part.strip() for part in cells[1].split(",")) if aim else cells[:2]
                setting = cells[2] if aim else cells[3]
                tone, zone = None, None
                if not aim and school in ("known tone", "incident", "whole frame"):
                    tone, zone = re.fullmatch(r"(\w+) on (\S+)", cells[2]).groups()
                given_up = {"white": "highlight", "shadows": "shadow"}.get(next(iter(aim), ""))
                tones = tuple(Tone(t.name, t.role, t.evs, needs_texture=t.role != given_up) for t in TONES)
                choice = PlacingChoice(school, tone, parse_zone(zone) if zone else None, **aim)
                result = plan(Brief(tones=tones, medium=medium(kind), choice=choice))
                self.assertAlmostEqual(result.setting_ev100, parse_stops(setting, "setting"), places=2)
                seen += 1
        self.assertEqual(seen, 13)


class WhatAPlacingIs(SimpleTestCase):
    """A headline says only what is true of the tone that was placed."""

    def told(self, school, tone, zone=5, tones=TONES, kind="film", **aim):
        choice = PlacingChoice(school, tone, zone, **aim)
        return plan(Brief(tones=tones, medium=medium(kind), choice=choice)).placement.school

    def test_shadow_first_is_the_darkest_tone_with_texture_on_any_zone(self):
        self.assertEqual([self.told("shadow", "coal", zone) for zone in (2, 3, 6)], ["shadow"] * 3)
        self.assertEqual([self.told("shadow", name) for name in ("wall", "figure")], ["known tone"] * 2)

    def test_highlight_first_is_the_brightest_tone_with_texture(self):
        told = {tone.name: self.told("highlight", tone.name, kind="digital raw") for tone in TONES}
        self.assertEqual(told, {"coal": "known tone", "wall": "highlight", "sky": "known tone", "figure": "known tone"})

    def test_a_tone_that_needs_no_texture_is_not_the_end_of_a_school(self):
        tones = (Tone("hole", "shadow", (5.0,), needs_texture=False), *TONES)
        self.assertEqual(self.told("shadow", "hole", tones=tones), "known tone")
        self.assertEqual(self.told("shadow", "hole", tones=tones, shadows="empty"), "shadow", "given up on purpose")
        self.assertEqual(self.told("shadow", "coal", tones=tones), "shadow")

    def test_a_darker_tone_that_is_read_later_takes_the_name_away(self):
        darker = Tone("cellar", "shadow", (6.5,))
        self.assertEqual(self.told("shadow", "coal", tones=(*TONES, darker)), "known tone")
        as_dark = Tone("cellar", "shadow", (8.0,))
        self.assertEqual(self.told("shadow", "coal", tones=(*TONES, as_dark)), "shadow")

    def test_incident_is_a_measured_light(self):
        lit = (*TONES, Tone("hand", "subject", (12.0,), incident=(12.5,)))
        self.assertEqual(self.told("incident", "hand", tones=lit), "incident")
        self.assertEqual(self.told("incident", "wall", tones=lit), "known tone")
        self.assertEqual(self.told("incident", "wall"), "incident", "its EV may be one")

    def test_a_silhouette_may_be_placed_by_its_figure(self):
        self.assertEqual({self.told("silhouette", name) for name in ("sky", "figure")}, {"silhouette"})
