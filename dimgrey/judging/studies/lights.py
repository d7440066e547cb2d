"""What a study shows of each of its lights: the picture under one crop and one exposure, the sun of its hour, and what the light does."""

from dataclasses import dataclass
from datetime import UTC

import numpy as np

from dimgrey.core.colour.encoding import grey8_of_lightness, luminance
from dimgrey.core.finishing.applied import cropped
from dimgrey.core.judging.lightstudy import Hour, Sun, exposure_of, hour_of, in_order, stops_of
from dimgrey.core.picture.display import lightness
from dimgrey.core.picture.match import laid
from dimgrey.core.planning.prints import PRINT_CURVE
from dimgrey.core.sky.clock import julian_date, zone_named
from dimgrey.core.sky.sun import sun_position
from dimgrey.pictures import store
from dimgrey.pictures.fitting import fitted_plane
from dimgrey.pictures.store import PictureGone

SIDE, SMALL_SIDE, SURROUND = 1000, 500, 0x69
DARKEST = 1e-6


@dataclass(frozen=True)
class Shown:
    """One light as the page tells it. row: StudyPicture. hour: core Hour, None where its file is gone. when, sun: in words."""

    row: object
    hour: Hour | None
    when: str
    sun: str


def zone_of(study):
    """The clocks of a study's place; UTC without one."""
    return zone_named(study.outing.zone) if study.outing else UTC


def grey_of_picture(picture, side=SIDE):
    """Linear grey of a picture at most so large, shape (h, w), float32. Raises PictureGone."""
    return fitted_plane(luminance(np.moveaxis(store.linear_of(picture.path), 0, -1).astype(np.float32)), side)


def grey8_of(picture):
    """8-bit greys of a picture about its own middle, for laying one over another. Raises PictureGone."""
    stops = np.log2(np.maximum(grey_of_picture(picture), DARKEST) / 0.18)
    return grey8_of_lightness(lightness(np.clip(stops - np.median(stops), -5, 5), PRINT_CURVE))


def study_ev(rows):
    """EV100 that a study is shown at."""
    return exposure_of([row.shown.middle_grey_ev100 for row in rows if row.shown])


def stops_in(row, ev100, size_of_first, crop, side=SIDE):
    """(stops of a light under the study's exposure, laid over the first and cropped; where it shows something). Raises PictureGone."""
    picture = row.shown
    if picture is None:
        raise PictureGone("The file is gone.", parameter="picture", code="picture-gone")
    stops = stops_of(grey_of_picture(picture, side), picture.middle_grey_ev100, ev100)
    over, inside = laid(stops, row.laid, size_of_first)
    return cropped(over, crop), cropped(inside, crop)


def size_of(row, side=SIDE):
    """(width, height) at which a study lays its pictures: that of its first. Raises PictureGone."""
    return grey_of_picture(row.shown, side).shape[::-1]


def sun_of(study, row):
    """Sun at the hour of a light, or None while place or time is missing."""
    if row.at is None or study.outing is None or not study.outing.has_place:
        return None
    at = sun_position(julian_date(row.at), study.outing.latitude_deg, study.outing.longitude_deg)
    return Sun(float(at.azimuth_deg), float(at.altitude_deg))


def shown_of(study):
    """Shown of each light of a study in the order of the day; those whose file is gone come as they are, without an hour."""
    rows = list(study.pictures.select_related("picture", "scene__picture"))
    if not rows:
        return []
    zone, ev100 = zone_of(study), study_ev(rows)
    suns = [sun_of(study, row) for row in rows]
    hours = [row.at.astimezone(zone).hour + row.at.astimezone(zone).minute / 60 if row.at else None for row in rows]
    size = next((size_of(row, SMALL_SIDE) for row in rows if _is_there(row)), None)
    return [_shown(study, rows[k], suns[k], ev100, size, zone) for k in in_order(suns, hours)]


def _is_there(row):
    try:
        return row.shown is not None and grey_of_picture(row.shown, 64) is not None
    except PictureGone:
        return False


def _shown(study, row, sun, ev100, size, zone):
    when = row.at.astimezone(zone).strftime("%-d %b %Y %H:%M") if row.at else "no time"
    told = (
        ""
        if sun is None
        else f"sun {sun.altitude_deg:.0f}° high"
        if sun.altitude_deg > 0
        else f"sun {-sun.altitude_deg:.0f}° below the horizon"
    )
    try:
        stops, inside = stops_in(row, ev100, size, study.crop, SMALL_SIDE)
    except PictureGone:
        return Shown(row, None, when, told)
    stops = np.where(inside, stops, np.median(stops[inside]) if inside.any() else 0.0)
    return Shown(row, hour_of(stops, subject_in(study), sun, study.heading_deg), when, told)


def subject_in(study):
    """Where the subject lies within the crop, fractions."""
    left, top, right, bottom = study.crop
    x, y = study.subject
    return min(max((x - left) / (right - left), 0), 1), min(max((y - top) / (bottom - top), 0), 1)


def picture_of(study, row):
    """8-bit greys of a light as the study shows it. Raises PictureGone."""
    rows = list(study.pictures.select_related("picture", "scene__picture"))
    size = next(size_of(each) for each in rows if _is_there(each))
    stops, inside = stops_in(row, study_ev(rows), size, study.crop)
    shown = grey8_of_lightness(lightness(np.clip(stops, -5, 5), PRINT_CURVE))
    return np.where(inside, shown, SURROUND).astype(np.uint8)
