"""One scene as a line or a small sheet: for lists, cards and logs."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import LIGHT_NAMES
from dimgrey.core.document.scenefile import scene_of
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.placing import SCHOOLS
from dimgrey.scenes.desk import divisions_of, plan_or_wait, view_key
from dimgrey.scenes.queries import picture_of
from dimgrey.scenes.rail import Words


@dataclass(frozen=True)
class SheetLine:
    """pk, title and picture of a scene with its placing and exposure in words; exposure "" while unplanned."""

    pk: int
    title: str
    intent: str
    view_key: str
    width: int
    height: int
    medium: str
    placing: str
    exposure: str
    cautions: int
    tones: int


def sheet_line(scene, labels="zones"):
    core_scene = scene_of(scene.document)
    result, _ = plan_or_wait(core_scene)
    picture = picture_of(scene)
    return SheetLine(
        pk=scene.pk,
        title=scene.title,
        intent=scene.document.get("intent", ""),
        view_key=view_key(scene.document, picture, result, core_scene) if picture else "",
        width=picture.view_width if picture else 3,
        height=picture.view_height if picture else 2,
        medium=f"{scene.document.get('medium', {}).get('kind', 'film')}, {LIGHT_NAMES[core_scene.light]}",
        placing=_placing(result, Words(labels, divisions_of(scene.document))),
        exposure=f"{format_time(result.shutter)} {format_aperture(result.aperture)}" if result else "",
        cautions=len(result.cautions) if result else 0,
        tones=len(core_scene.tones),
    )


def _placing(result, words):
    if result is None:
        return ""
    where = words.zone(result.placement.zone)
    return f"{SCHOOLS[result.placement.school].name}: {result.placement.tone or 'midpoint'} on {where}"
