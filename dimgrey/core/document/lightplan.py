"""A light plan's meaning: its part of the document as lamps, surfaces and a camera, and the changes that people make to it."""

import math
from dataclasses import asdict, fields, replace

from dimgrey.core.cautions.lamps import LampCase
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lighting import KeptLampsPart, LampPart, LightingPart, LightWishPart, LitTonePart
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.lamp import FLASH, Lamp, require_lamp, require_lamps
from dimgrey.core.lamps.lampexposure import Camera, flash_f_number, incident_ev100
from dimgrey.core.lamps.reflectances import SURFACES
from dimgrey.core.lamps.subjects import CLOTHES, HAIR, MIDDLES, SITTER, SKIN
from dimgrey.core.measure.exposure import exposure_time_s, marked_aperture, marked_time
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.stops import format_aperture, format_time

FIRST = (LampPart("key", width_m=0.6, face_m=0.6, strength=800.0),)
"""What a new light plan begins with."""
STILL_LIFE = {"cup": "white glaze", "shell": "shell", "cloth": "white linen", "top": "light grey wall"}


def lamps_of(lighting):
    """Lamp of each in a LightingPart, checked. Raises CoreError."""
    return require_lamps([_lamp(part) for part in lighting.lamps], MIDDLES[lighting.subject])


def _lamp(part):
    return Lamp(**{each.name: getattr(part, each.name) for each in fields(Lamp)})


def part_of(lamp):
    """LampPart of a Lamp, figures rounded to what a stand or a dial is set to."""
    said = asdict(lamp)
    rounded = {"angle_deg": 1, "away_m": 3, "height_m": 3, "stops": 3}
    return LampPart(**{**said, **{name: round(said[name], digits) for name, digits in rounded.items()}})


def surfaces_of(lighting):
    """part of the subject -> reflectances.Surface. A still life's cup, shell and cloth are what they are; clothes is its cloth."""
    if lighting.subject == SITTER:
        names = {SKIN: lighting.skin, HAIR: lighting.hair, CLOTHES: lighting.clothes}
    else:
        names = dict(STILL_LIFE)
    return {part: surface(name) for part, name in {**names, "ground": lighting.ground}.items()}


def surface(name):
    """The reflectances.Surface of a name. Raises CoreError."""
    if name not in SURFACES:
        raise CoreError(f"There is no surface “{name}”.", parameter="surface", code="surface")
    return SURFACES[name]


def camera_of(document, plan=None):
    """exposure.Camera of a document's light plan: the scene's own plan where there is one, else what the light plan was given.

    plan: planning.plan.Plan or None. Raises CoreError for what is no aperture or time.
    """
    lighting = document.lighting
    iso = float(document.medium.iso) if isinstance(document.medium.iso, int | float) else 100.0
    if plan is not None:
        # What filters take is in the setting, not in the light: so a place falls here where the desk has it.
        seconds = plan.shutter_seconds
        f_number = math.sqrt(2.0**plan.setting_ev100 * iso / 100 * seconds)
        return Camera(f_number, seconds, iso, lighting.sync_s)
    aperture, time = parse_aperture(str(lighting.aperture)), parse_time(str(lighting.shutter))
    return Camera(aperture.exact, time.exact, iso, lighting.sync_s)


def lamp_case(document, plan=None):
    """cautions.lamps.LampCase of a document, None without a light plan. plan: as in `camera_of`."""
    if document.lighting is None:
        return None
    lighting = document.lighting
    camera = camera_of(document, plan)
    return LampCase(lamps_of(lighting), lighting.subject, camera, lighting.camera_m, lighting.ground_m)


def lamps_line(document):
    """The lamps that burn, in one line: "key 45° 1.5 m, edge 150° 1.2 m -1"; "" without a light plan."""
    if document.lighting is None:
        return ""
    said = [
        f"{lamp.name} {lamp.angle_deg:g}° {lamp.away_m:g} m" + (f" {lamp.stops:+g}" if lamp.stops else "")
        for lamp in document.lighting.lamps
        if lamp.is_on
    ]
    return ", ".join(said)


# --- changes: document -> document


def begun(document):
    """A document with a light plan, with one lamp to begin with."""
    return document if document.lighting else document.with_(lighting=LightingPart(lamps=FIRST))


def _changed(document, **parts):
    return document.with_(lighting=replace(document.lighting, **parts))


def with_lamps(document, lamps):
    """Other lamps. lamps: Lamp of each. Raises CoreError for one that cannot stand so."""
    checked = require_lamps(lamps, MIDDLES[document.lighting.subject])
    return _changed(document, lamps=tuple(part_of(lamp) for lamp in checked))


def with_lamp(document, index, **fields):
    """One lamp changed. index: its place, or the number of lamps for a new one. Raises Refused for one that is gone, CoreError."""
    lamps = [_lamp(part) for part in document.lighting.lamps]
    if index == len(lamps):
        lamps.append(_free_named(Lamp("lamp"), lamps))
    if not 0 <= index < len(lamps):
        raise Refused("That lamp is gone.", code="lamp-gone")
    lamps[index] = require_lamp(replace(lamps[index], **fields), MIDDLES[document.lighting.subject])
    return with_lamps(document, lamps)


def _free_named(lamp, lamps):
    names = {each.name for each in lamps}
    return replace(lamp, name=next(name for k in range(1, 99) if (name := f"lamp {k}") not in names))


def without_lamp(document, index):
    """Without one lamp. index: its place. Raises Refused for one that is gone."""
    lamps = document.lighting.lamps
    if not 0 <= index < len(lamps):
        raise Refused("That lamp is gone.", code="lamp-gone")
    return _changed(document, lamps=lamps[:index] + lamps[index + 1 :])


def with_subject(document, **fields):
    """What is lit, and where it stands. fields: of LightingPart. Raises CoreError for a surface that is not known, or lamps that stand in it."""
    made = _changed(document, **fields)
    surfaces_of(made.lighting)
    lamps_of(made.lighting)
    camera_of(made)
    return made


def exposed_for(document, light):
    """The exposure that an incident meter at the subject gives: a flash sets the aperture, lasting light the time; marked in the document's steps.

    light: exposure.Light before the subject. Raises CoreError where no camera has such a setting.
    """
    camera = camera_of(document)
    if light.flash_lux_s:
        time = max(camera.exposure_time_s, camera.sync_time_s)
        aperture = marked_aperture(flash_f_number(light, time, camera.iso), document.increment)
        shutter = marked_time(time, document.increment)
    else:
        aperture = marked_aperture(camera.f_number, document.increment)
        ev = incident_ev100(light, camera.exposure_time_s)
        shutter = marked_time(exposure_time_s(ev, aperture.exact, camera.iso), document.increment)
    return _changed(document, aperture=format_aperture(aperture), shutter=format_time(shutter))


def exposed_longer(document, stops):
    """So many whole stops more exposure: by time, or where a flash burns by aperture, whose light has no time."""
    camera, lighting = camera_of(document), document.lighting
    if any(lamp.kind == FLASH and lamp.is_on for lamp in lighting.lamps):
        aperture = marked_aperture(camera.f_number / 2 ** (stops / 2), document.increment)
        return _changed(document, aperture=format_aperture(aperture))
    shutter = marked_time(camera.exposure_time_s * 2.0**stops, document.increment)
    return _changed(document, shutter=format_time(shutter))


def with_wish(document, place, zone, over=""):
    """A wish for a place, instead of the one that it had. zone: its zone, or zones over the place `over`."""
    others = tuple(wish for wish in document.lighting.wishes if wish.place != place)
    return _changed(document, wishes=(*others, LightWishPart(place, zone, over)))


def without_wish(document, place):
    """Without the wish for a place."""
    return _changed(document, wishes=tuple(wish for wish in document.lighting.wishes if wish.place != place))


def bound(document, tone, place):
    """A tone of the scene bound to the light of a place, "" for none."""
    others = tuple(each for each in document.lighting.lit if each.tone != tone)
    return _changed(document, lit=(*others, LitTonePart(tone, place)) if place else others)


def with_kept(document, name):
    """The lamps in use kept under a name, in front of what was kept before; a name has one."""
    kept = KeptLampsPart(name, document.lighting.lamps)
    others = tuple(each for each in document.lighting.kept if each.name != name)
    return _changed(document, kept=(kept, *others)[:3])


def kept_again(document, name):
    """The lamps that were kept under a name in use again. Raises Refused where there are none."""
    found = next((each for each in document.lighting.kept if each.name == name), None)
    if found is None:
        raise Refused("Those lamps are not kept any more.", code="lamps-gone")
    return _changed(document, lamps=found.lamps)
