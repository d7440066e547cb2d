"""Light: where the camera looks and when, whether there is sky, and the light that is wanted."""

from dimgrey.core.document.lightplan import lamps_line
from dimgrey.core.sky.coordinates import format_coordinates
from dimgrey.core.sky.wants import compass_point
from dimgrey.outings.actions import change_outing
from dimgrey.outings.sky_over_scene import wants_words
from dimgrey.scenes.acts import Look, when_done
from dimgrey.scenes.sheet.part import Part


def _holds(situation):
    if lamps_line(situation.document):
        return "lamps"
    view = situation.document.view
    return " ".join(filter(None, (view.time, "" if view.heading_deg is None else compass_point(view.heading_deg))))


def _first(situation):
    view = situation.document.view
    return {
        "heading": _number(view.heading_deg),
        "tilt": _number(view.tilt_deg),
        "time": view.time,
        "sky": view.sky,
        "lights": list(situation.document.wanted.lights),
    }


def _offered(situation):
    """The place where the picture was taken, in words, while neither the scene nor its outing has one; "" for nothing to offer."""
    has_place = situation.scene.outing.has_place if situation.scene.outing else situation.document.place
    told = situation.picture.told_place if situation.picture else None
    return format_coordinates(*told[:2]) if told and not has_place else ""


def _take_place(scene, said, by, plainly):
    """In an outing the place is the outing's, whose scenes share one."""
    told = scene.picture.told_place if scene.picture else None
    if scene.outing is None or told is None:
        return plainly()
    latitude, longitude, _ = told
    change_outing(scene.outing, latitude_deg=latitude, longitude_deg=longitude)
    return scene


def _number(value):
    return "" if value is None else f"{value:g}"


def _line(situation):
    """Where the camera looks and what light it wants, in words."""
    heading, said = situation.document.view.heading_deg, []
    if heading is not None:
        said.append(f"looking {compass_point(heading)} ({heading:g}°)")
    if wants := wants_words(situation.document):
        said.append(f"wants {wants}")
    words = ", ".join(said)
    return {
        "words": situation.sky.short if situation.sky else words[:1].upper() + words[1:],
        "lamps": lamps_line(situation.document),
        "pk": situation.scene.pk,
    }


PART = Part(
    key="view",
    title="Light",
    order=50,
    at_rest=True,
    holds=_holds,
    line=_line,
    editor=lambda situation, acts, mark: {
        "form": acts.of("view"),
        "sky": situation.sky,
        "outing": situation.scene.outing,
        "offered": _offered(situation),
    },
    acts={
        "view": Look(_first, {"time": {"id": "planned-time"}, "sky": {"id": "has-sky"}}),
        "take-place": Look(),
    },
)
when_done("take-place", _take_place)
