"""A result on its way to the wished print: the picture upright and positive, its key tones, the plan that is kept, and what leaves the house."""

import io

import numpy as np
from django.db import transaction

from dimgrey.core.colour.encoding import srgb_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.core.finishing.applied import cropped, end_points, finished
from dimgrey.core.finishing.finishingplan import (
    Area,
    ToneInPicture,
    finish_file,
    proposed_finish,
    require_finish,
    square_about,
    with_area,
    without_area,
)
from dimgrey.finishing.models import Finishing
from dimgrey.judging.pick.picking import lightness_at
from dimgrey.pictures import store
from dimgrey.pictures.derived import kept_array
from dimgrey.results.comparison import lightness_of_light, planned_of
from dimgrey.scenes.exports import tagged

SIDE = 1000
"""Long side of the picture on the page."""
KEPT_STATES = 40
GRAIN_SEED = 1
ROWS = 256


def shown_of(result, side=SIDE):
    """L* of a result as it is finished: positive and not mirrored, at most so large. Raises PictureGone."""
    match = result.laid
    is_negative = bool(match and match.is_negative)
    # Each touch of a slider begins here, so it lies beside the picture.
    kept = result.picture.path / f"reduced-finish-{side}{'-negative' if is_negative else ''}.npy"
    make = lambda: lightness_at(result.picture, side, _planned(result), is_negative).astype(np.float16)
    shown = kept_array(kept, make).astype(np.float32)
    return shown[:, ::-1] if match and match.is_mirrored else shown


def _planned(result):
    try:
        return planned_of(result.frame)
    except CoreError:
        return None


def tones_of(result):
    """ToneInPicture of each key tone of a result, the darkest first."""
    scene, match = result.frame.as_it_was, result.laid
    pins = {tone.name: tone.at for tone in scene.document.tones if tone.at is not None} if scene and match else {}
    made = []
    for tone in result.found.tones if result.found else ():
        at = None
        if tone.name in pins:
            x, y = match.at(*pins[tone.name])
            at = (1 - x if match.is_mirrored else x, y)
        made.append(ToneInPicture(tone.name, tone.actual, tone.wished, at, tone.end))
    return sorted(made, key=lambda each: each.actual)


def proposal(result):
    """Finish that is proposed for a result."""
    tones = [tone for tone in tones_of(result) if not tone.end]
    return proposed_finish(tones, *end_points(shown_of(result, 400)), title=result.frame.title)


def finishing_of(result):
    """The Finishing of a result, made from the proposal when it is first asked for."""
    found = Finishing.objects.filter(result=result).first()
    return found or Finishing.objects.create(owner=result.owner, result=result, kept=finish_file(proposal(result)))


def outline_of_tone(result, name):
    """Corners of an area about a key tone: the area it was drawn with, else a square. Raises CoreError for one that has no place."""
    tone = next((each for each in tones_of(result) if each.name == name and each.at), None)
    if tone is None:
        raise CoreError(
            f"“{name[:60]}” has no place in this picture. Draw the area by hand.", parameter="tone", code="area-tone"
        )
    scene, match = result.frame.as_it_was, result.laid
    drawn = next((each.area for each in scene.document.tones if each.name == name), ())
    if not drawn:
        return square_about(*tone.at)
    places = [match.at(*corner) for corner in drawn]
    return tuple((round(1 - x if match.is_mirrored else x, 4), round(y, 4)) for x, y in places)


@transaction.atomic
def keep(finishing, finish):
    """Keep another state of a plan; the one before can be brought back. Raises CoreError for what is no plan."""
    kept = finish_file(require_finish(finish_file(finish)))
    if kept == finishing.kept:
        return
    finishing.past = [*finishing.past, finishing.kept][-KEPT_STATES:]
    finishing.kept = kept
    finishing.save(update_fields=["kept", "past", "updated_at"])


def set_enlarger(finishing, set_on):
    """Keep what is set at the enlarger. set_on: EnlargerSetting."""
    finishing.enlarger = set_on
    finishing.save(update_fields=["enlarger"])


def undo(finishing):
    """The state before. Returns whether there was one."""
    if not finishing.past:
        return False
    *finishing.past, finishing.kept = finishing.past
    finishing.save(update_fields=["kept", "past", "updated_at"])
    return True


def add_area(finishing, **told):
    """Add an area. told: fields of core Area. Raises CoreError."""
    keep(finishing, with_area(finishing.finish, Area(**told)))


def remove_area(finishing, number):
    """Take an area off. number: from 1."""
    keep(finishing, without_area(finishing.finish, number))


def preview(result, finish, side=SIDE, is_whole=True):
    """L* of a finished result, its crop applied unless `is_whole`. Raises PictureGone."""
    made = finished(shown_of(result, side), finish, np.random.default_rng(GRAIN_SEED))
    return made if is_whole else cropped(made, finish.crop)


def full_tiff(result, finish):
    """Bytes of the finished picture at its full size: 16-bit grey TIFF, sRGB, cropped."""
    from tifffile import imwrite

    match, planned = result.laid, _planned(result)
    is_negative, is_mirrored = bool(match and match.is_negative), bool(match and match.is_mirrored)
    with store.original_light(result.picture.path) as light:
        shown = np.empty(light.shape[:2], np.float32)
        if is_negative:
            shown[:] = lightness_of_light(light, result.picture, planned, True)
        else:
            for top in range(0, light.shape[0], ROWS):
                rows = slice(top, top + ROWS)
                shown[rows] = lightness_of_light(light[rows], result.picture, planned)
    shown = shown[:, ::-1] if is_mirrored else shown
    made = cropped(finished(shown, finish, np.random.default_rng(GRAIN_SEED)), finish.crop)
    grey = np.round(srgb_of_lightness(made) * 65535).astype(np.uint16)
    buffer = io.BytesIO()
    imwrite(buffer, grey, photometric="minisblack", compression="zlib", predictor=True, rowsperstrip=64, **tagged())
    return buffer.getvalue()
