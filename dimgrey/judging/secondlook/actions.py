"""What a person does in a second look: the only place that writes batches and their pictures."""

import hashlib
from pathlib import PurePath

import numpy as np
from django.db import IntegrityError
from PIL import Image

from dimgrey.core.colour.chain import glass_chain
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import colour_picture
from dimgrey.core.picture.measures import BANDS, Measures, balance, bright_edges, pulls, verdict
from dimgrey.core.picture.tonemap import ToneMap, reduced
from dimgrey.core.picture.tonescales import SCALES
from dimgrey.core.picture.twins import areas_of, twins
from dimgrey.judging.secondlook.models import Batch, OldPicture
from dimgrey.pictures.actions import keep_views, keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.store import COLOUR, GREY, PictureGone
from dimgrey.pictures.upload import lying

MOST_PICTURES = 200
REASONS = ("light", "shape", "texture", "mood", "parting of tones", "clutter")
SHOWN_SIDE = 1000
"""Long side of the copies that lie on the board: enough for the loupe to show texture."""


def create_batch(person, title):
    return Batch.objects.create(owner=person, title=title)


def add_picture(batch, data, filename):
    """Take one picture into a batch. Returns (picture, is_new); a file that was there already is not read again.

    A file that cannot be read is kept by its name with the reason, so that the rest goes on.
    Raises CoreError when the batch is full.
    """
    with lying(data) as path, path.open("rb") as file:
        digest = hashlib.file_digest(file, "sha256").hexdigest()
    known = OldPicture.objects.filter(batch=batch, digest=digest).first()
    if known:
        return known, False
    if OldPicture.objects.filter(batch=batch).count() >= MOST_PICTURES:
        raise CoreError(
            f"A batch holds {MOST_PICTURES} pictures. Start another one.", parameter="file", code="batch-full"
        )
    name = PurePath(filename or "picture").name[:255]
    row = OldPicture(owner_id=batch.owner_id, batch=batch, name=name, digest=digest)
    try:
        decoded = read_picture(data, filename)
    except CoreError as refused:
        row.problem = str(refused)[:300]
        row.save()
        return row, True
    try:
        with keeping():
            _keep(row, decoded, filename)
            row.save()
    except PictureGone as full:
        row.problem = str(full)[:300]
        return row, True  # not written, so that it can be added again
    except IntegrityError:  # the same file came twice at once
        return OldPicture.objects.get(batch=batch, digest=digest), False
    return row, True


def _keep(row, decoded, filename):
    """Measure a picture and keep its small grey and colour views."""
    planes = np.moveaxis(np.asarray(decoded.linear, np.float32), -1, 0)
    row.measures = measures_of(reduced(planes))
    shown = reduced(planes, SHOWN_SIDE)
    views = {
        GREY: Image.fromarray(grey8_of_lightness(_tone_map().lightness(shown))),
        COLOUR: Image.fromarray(colour_picture(shown)),
    }
    row.picture = keep_views(row.owner_id, decoded, filename, views)


def _tone_map():
    return ToneMap(glass_chain("general panchromatic", "D55"))


def measures_of(linear):
    """Measures of a small picture. linear: shape (h, w, 3)."""
    tone_map = _tone_map()
    zones, light = tone_map.zones(linear), tone_map.lightness(linear)
    areas = areas_of(linear)
    found = balance(zones)
    low, high = np.percentile(zones, (5, 95))
    return Measures(
        balance=dict(zip(BANDS, (round(share, 4) for share in found.shares), strict=True)),
        scales=tuple(scale for scale in SCALES if verdict(found, scale).holds),
        range_zones=round(float(high - low), 2),
        pulls=len(pulls(light)),
        bright_edges=len(bright_edges(light)),
        twins=len(twins(areas, tone_map.lightness(areas.colours))),
    )


def decide(person, pk, decision, reason=""):
    """Print, wait or leave, with a reason; an empty decision takes it back. Returns the picture, None when not there."""
    if decision not in OldPicture.Decision.values or reason not in ("", *REASONS):
        raise CoreError("There is no such decision or reason.", parameter="decision", code="decision")
    picture = OldPicture.objects.owned_by(person).filter(pk=pk).first()
    if picture:
        picture.decision, picture.reason = decision, reason if decision else ""
        picture.save(update_fields=["decision", "reason"])
    return picture


def remove_batch(batch):
    """Delete a batch with its small views; the person's own files were never moved."""
    batch.delete()
