"""Another way to place, and what it aims at."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import OneOf, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lightscale import light_scale
from dimgrey.core.document.tones import Reading, ToneEntry
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.sky.daylight import mentions

WHOLE_FRAME, WHOLE = "whole frame", ((0, 0), (1, 0), (1, 1), (0, 1))
SNOW_STOPS = 1.0
"""Compensation of a frame that is mostly snow; of what else is in it, only the photographer knows how much."""
UNDER = {
    "0": "as metered",
    "0.3333": "a third under",
    "2": "two stops under",
    "2 lifted": "two under, lifted later",
}
HOLDS_NAMED = {
    "usual": "as fits",
    "before filter": "before the filter (classic)",
    "after filter": "after the filter",
    "in the print": "in the print",
}


@dataclass(frozen=True, kw_only=True)
class Keys:
    """A key that is left out leaves what it is about as it was."""

    school: str = needed(
        OneOf(lambda document: {key: school.name for key, school in SCHOOLS.items()}),
        "School",
        missing="Say which school.",
    )
    hold: str | None = given(OneOf(HOLDS_NAMED), None, "The zone is held")
    white: str | None = given(OneOf({"textured": "keep texture", "pure": "pure white"}), None, "Whites")
    shadows: str | None = given(OneOf({"full": "keep detail", "empty": "black shapes"}), None, "Shadows")
    under: str | None = given(OneOf(UNDER), None, "Exposure")


def under_stops(row):
    """Stops of a row of UNDER."""
    return float(row.split()[0])


def _edit(document, said, case):
    targets = {name: getattr(said, name) for name in ("white", "shadows") if getattr(said, name)}
    if said.hold:
        targets["hold"] = None if said.hold == "usual" else said.hold
    if said.under:
        targets |= {"under_stops": round(under_stops(said.under), 4), "lifted": said.under.endswith("lifted")}
    if said.school == WHOLE_FRAME:
        document = _whole_frame(document, case)
    return edits.with_school(document, said.school, targets, case.read_as)


def _whole_frame(document, case):
    """The document with its whole frame metered where a picture is at hand and nobody has, and placed with the surface's compensation."""
    found = next((tone for tone in document.tones if any(r.kind == WHOLE_FRAME for r in tone.readings)), None)
    if found is None and case.facts is not None and light_scale(document, case.facts) is not None:
        seen = case.meter(document).read_area(WHOLE)
        reading = Reading(
            kind=WHOLE_FRAME, ev100=round(seen.ev100, 4), taken_at=case.time, meter="picture", calibration_stops=0.0
        )
        document = edits.with_new_tone(
            document, ToneEntry(name=_free(document), role="other", texture="free", readings=(reading,))
        )
        found = document.tones[-1]
    if found is None:
        raise Refused(
            "No whole-frame reading yet: add a tone “whole frame” by name, with what the camera's meter shows, and say its kind.",
            parameter="school",
            code="nothing-placed",
        )
    surface = surface_named(f"{document.title} {document.intent}")
    zone = MIDDLE + SNOW_STOPS if surface and mentions(surface.name, ("snow",)) else MIDDLE
    placing = replace(document.placing, school=WHOLE_FRAME, tone=found.name, zone=zone)
    return replace(document, placing=placing)


def _free(document):
    return next(
        name for name in ("whole frame", *(f"whole frame {k}" for k in range(2, 99))) if name not in document.names
    )


VERB = Verb("school", "Choose how to place", _edit, Keys, "school: {school}", ("read_as",))
