"""Exposure: time, aperture and speed in very large figures, the other pairs, and the timer."""

from dimgrey.core.measure.stops import format_seconds
from dimgrey.core.planning import explain
from dimgrey.core.planning.planwords import exposure_words, pairs_of, timer_seconds
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part


def _line(situation):
    seconds = timer_seconds(situation.plan)
    return {
        "exposure": exposure_words(situation.plan),
        # Before the first tone the ramp says it, where the picture is.
        "wait": situation.wait if situation.document.tones else "",
        "why": explain.why_exposure(situation.plan) if situation.plan else "",
        "timer": f"{seconds:.2f}" if seconds else "",
        "timer_words": format_seconds(seconds) if seconds else "",
    }


PART = Part(
    key="exposure",
    title="Exposure",
    order=30,
    line=_line,
    editor=lambda situation, forms, mark: {"form": forms.of("setting"), "pairs": pairs_of(situation.plan)},
    opens=lambda situation: "Other pairs" if situation.plan else "",
    acts={"setting": Look(lambda situation: {"lead": "shutter"}, {"value": {"id": "lead-shutter"}})},
)
