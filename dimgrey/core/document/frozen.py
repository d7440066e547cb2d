"""The plan and the document that a frame keeps for good, of whatever version they were frozen in.

A frozen zone is where a tone fell on film or sensor; how it prints was recorded later only.
"""

from dataclasses import dataclass

from dimgrey.core.document.plainform import document_of


@dataclass(frozen=True)
class FrozenTone:
    """One tone as it was planned. zone: its fall after the filter. printed: its zone in the print, None when not recorded."""

    name: str
    ev100: float
    zone: float
    printed: float | None
    texture: str


@dataclass(frozen=True)
class FrozenPlan:
    """A plan as it was. school, tone: of its placing. exposure_ev100: planned, None for a frame without a plan."""

    school: str
    tone: str | None
    exposure_ev100: float
    shutter: str
    aperture: str
    iso: str
    development: str | None
    tones: tuple


def frozen_plan(data):
    """FrozenPlan of a kept "dimgrey-plan", or None for a frame that was logged without one."""
    if not data:
        return None
    placing = data.get("placing", {})
    return FrozenPlan(
        school=placing.get("school", ""),
        tone=placing.get("tone"),
        exposure_ev100=data["exposure_ev100"],
        shutter=data.get("shutter", ""),
        aperture=data.get("aperture", ""),
        iso=str(data.get("iso", "")),
        development=data.get("development"),
        tones=tuple(
            FrozenTone(tone["name"], tone["ev100"], tone["zone_after_filter"], tone.get("print"), tone["texture"])
            for tone in data.get("tones", [])
        ),
    )


def frozen_document(data):
    """The Document that a frame was made with, or None for one that came without."""
    return document_of(data) if data else None
