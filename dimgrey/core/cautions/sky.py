"""What the light of the place warns of: the sun near the frame, flare, polarizer, dark subject on a dark sky, wind.

Each rule takes a SkyCase. Source: HANDBOOK 9, 11, 14.
"""

from dataclasses import dataclass
from functools import cached_property

from dimgrey.core.cautions.registry import caution, rule
from dimgrey.core.measure.handheld import LONG_LENS_MM, wind_shakes
from dimgrey.core.sky.skyprint import SkyPrint, observed_sky, sky_print

DARK_ZONE = 4.5
POLARIZER_SPREAD_STOPS = 1.0
"""A polarizer that darkens one edge of the frame by this much more than the other is warned of."""
SUN_NEAR_DEG = 15.0
MERGES_WITHIN_ZONES = 1.0


@dataclass(frozen=True)
class SkyCase:
    """sky: the FrameSky of a scene. result: its Plan or None. planned: the SkyPrint of its planned moment, carried over to
    another; None for the moment itself."""

    sky: object
    result: object = None
    planned: SkyPrint | None = None

    @property
    def has_filter(self):
        return bool(self.sky.coloured) or self.sky.polarizer

    @property
    def observed(self):
        """Whether the sky of this moment was read: what was seen beats what was computed."""
        return self.planned is None and observed_sky(self.result) is not None

    @cached_property
    def print(self):
        """SkyPrint of the frame's sky, moved by one that was read; for a sky with a tone."""
        return self.planned or sky_print(self.result, self.sky.tone)

    @property
    def prints(self):
        """Prints of the sky across the frame; () without one."""
        tone = self.sky.tone
        return tuple(self.print.print(point.stops) for point in tone.seen.values()) if tone else ()

    @property
    def main_print(self):
        """Print of the sky where the frame usually has it."""
        return self.print.print(self.sky.tone.main.stops)

    @property
    def sun_is_near(self):
        gap = self.sky.sun_gap_deg
        return gap is not None and 0 < gap < SUN_NEAR_DEG


@rule("sky", {"sun-in-frame": "the sun stands in the frame"}, grave=True)
def _sun_in_frame(case):
    if case.sky.sun_gap_deg is not None and case.sky.sun_gap_deg <= 0:
        yield caution(
            "sun-in-frame",
            "The sun is in the frame: take filters off, shade the lens, expect flare. Do not look at it through an "
            "optical finder; it burns eyes and sensors.",
        )


@rule("sky", {"sun-near-long-lens": "the sun stands within 15° of the frame of a long lens"}, grave=True)
def _sun_near_long_lens(case):
    if case.sun_is_near and case.sky.focal_35mm >= LONG_LENS_MM:
        yield caution(
            "sun-near-long-lens",
            f"The sun stands {case.sky.sun_gap_deg:.0f}° outside the frame of a long lens: never sweep across it with an "
            "optical finder. Shade the lens.",
        )


@rule("sky", {"flare": "the sun stands within 15° of the frame and a filter is on the lens"})
def _flare(case):
    if case.sun_is_near and case.sky.focal_35mm < LONG_LENS_MM and case.has_filter:
        yield caution(
            "flare", "The sun is close to the frame: each filter adds flare. Shade the lens or take them off."
        )


@rule("sky", {"polarizer-uneven": "a polarizer darkens one side of the sky more than a stop more than the other"})
def _polarizer_uneven(case):
    tone = case.sky.tone
    if tone and tone.seen and case.sky.polarizer and tone.polarizer_spread_stops > POLARIZER_SPREAD_STOPS:
        yield caution(
            "polarizer-uneven",
            f"The polarizer darkens the sky unevenly: {tone.polarizer_spread_stops:.1f} stops difference across the frame. "
            "Use a longer lens, turn it back, or leave it off.",
        )


@rule("sky", {"subject-merges-with-sky": "a dark subject stands against a sky that a filter makes as dark"})
def _dark_subject(case):
    tone = case.sky.tone
    subjects = [t for t in case.result.tones if t.role == "subject"] if case.result else []
    if not (tone and tone.seen and subjects and case.has_filter):
        return
    darkest = min(subjects, key=lambda each: each.fall)
    if abs(min(case.prints) - darkest.printed) < MERGES_WITHIN_ZONES and darkest.printed < DARK_ZONE:
        yield caution(
            "subject-merges-with-sky",
            f"{darkest.name[:1].upper()}{darkest.name[1:]} is as dark as this sky will be: they will merge. Wait for a "
            "cloud behind it, or leave the filter off.",
            darkest.name,
        )


@rule("sky", {"wind-shakes-tripod": "wind over 5 m/s moves a tripod with a long lens between 1/60 and 2 s"})
def _wind(case):
    if case.result and wind_shakes(case.sky.conditions.wind_m_s, case.sky.focal_35mm, case.result.shutter_seconds):
        yield caution(
            "wind-shakes-tripod",
            "Wind moves a tripod with a long lens between 1/60 and 2 s: weigh it down, find shelter, or hold a safe time "
            "by hand.",
        )
