"""Bracket: several frames around the plan, and which of them holds which tone."""

from typing import NamedTuple

from dimgrey.core.measure.stops import format_stops, format_time
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part


def _first(situation):
    part = situation.document.bracket
    return {"count": part.count, "step": format_stops(part.step), "order": part.order} if part else {}


class BracketLine(NamedTuple):
    """One frame in words. holds: tones. zones: low and high that it holds well."""

    offset: str
    shutter: str
    holds: str
    zones: tuple


def bracket_lines(situation):
    """BracketLine of each frame of the bracket, () without one."""
    result = situation.plan
    if result is None:
        return ()
    low, high = result.brief.medium.dependable
    return tuple(
        BracketLine(
            format_stops(frame.offset_stops, signed=True) if frame.offset_stops else "0",
            format_time(frame.shutter),
            ", ".join(frame.holds) or "no tone well",
            (low - frame.offset_stops, high - frame.offset_stops),
        )
        for frame in result.bracket_frames
    )


PART = Part(
    key="bracket",
    title="Bracket",
    order=100,
    at_rest=True,
    holds=lambda situation: f"{len(lines)} frames" if (lines := bracket_lines(situation)) else "",
    line=lambda situation: {"words": ", ".join(frame.shutter for frame in bracket_lines(situation)) or "None"},
    editor=lambda situation, forms, mark: {"form": forms.of("bracket"), "frames": bracket_lines(situation)},
    shown=lambda situation: situation.plan is not None,
    acts={
        "bracket": Look(
            _first, {"count": {"id": "bracket-count"}, "step": {"id": "bracket-step"}, "order": {"id": "bracket-order"}}
        )
    },
)
