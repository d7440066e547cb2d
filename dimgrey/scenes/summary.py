"""One scene as a line of a list."""

import logging
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


def listed_soundly(scenes, labels="zones"):
    """(Listed of each scene that can be shown, the scenes that cannot). One that cannot is told of in the log of the server."""
    shown, unshown = [], []
    for scene in scenes:
        try:
            shown.append(listed(scene, labels))
        except Exception:  # whatever is wrong with one scene, the others are shown
            logging.getLogger(__name__).exception("Scene %s cannot be shown.", scene.pk)
            unshown.append(scene)
    return shown, unshown


def _placing(result, words):
    if result is None:
        return ""
    placement = result.placement
    return f"{SCHOOLS[placement.school].name}: {placement.tone or 'midpoint'} on {words.zone(placement.zone)}"
