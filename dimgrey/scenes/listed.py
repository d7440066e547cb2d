"""One scene as a line of a list."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import LIGHT_NAMES
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.scenes.situation import Situation


@dataclass(frozen=True)
class Listed:
    """pk, title and picture of a scene with its placing and exposure in words; exposure "" while unplanned.

    grey: address of its grey view, "" without a picture.
    """

    pk: int
    title: str
    intent: str
    grey: str
    width: int
    height: int
    medium: str
    placing: str
    exposure: str
    cautions: int
    tones: int


def listed(scene, labels="zones"):
    """Listed of a scene."""
    situation = Situation(scene, labels)
    result, picture, document = situation.plan, situation.picture, situation.document
    return Listed(
        pk=scene.pk,
        title=scene.title,
        intent=document.intent,
        grey=situation.grey,
        width=picture.view_width if picture else 3,
        height=picture.view_height if picture else 2,
        medium=f"{document.medium.kind}, {LIGHT_NAMES[document.light]}",
        placing=_placing(result, situation.words),
        exposure=f"{format_time(result.shutter)} {format_aperture(result.aperture)}" if result else "",
        cautions=len(situation.cautions) if result else 0,
        tones=len(document.tones),
    )


def _placing(result, words):
    if result is None:
        return ""
    placement = result.placement
    return f"{SCHOOLS[placement.school].name}: {placement.tone or 'midpoint'} on {words.zone(placement.zone)}"
