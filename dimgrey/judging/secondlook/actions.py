"""What a person does in a second look: the only place that writes batches and their pictures."""

import hashlib
from pathlib import PurePath

import numpy as np
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
from dimgrey.pictures import arrivals
from dimgrey.pictures.actions import lying_views
from dimgrey.pictures.filekinds import NO_ROOM, PictureError
from dimgrey.pictures.store import COLOUR, GREY
from dimgrey.pictures.upload import lying

MOST_PICTURES = 200
PURPOSE = "batch"
"""What a file for a batch comes for."""
REASONS = ("light", "shape", "texture", "mood", "parting of tones", "clutter")
SHOWN_SIDE = 1000
"""Long side of the copies that lie on the board: enough for the loupe to show texture."""


def create_batch(person, title):
    return Batch.objects.create(owner=person, title=title)


def add_file(batch, source, filename):
    """Take one file into a batch. Returns ("known", "waiting", "new" or "broken", its OldPicture or None while it waits).

    A file that cannot be read is kept by its name with the reason, so that the rest goes on. Raises CoreError when the batch is full
    or there is no room.
    """
    with lying(source) as path:
        digest = _digest(path)
        known = _known(batch, digest)
        if known:
            return "known", known
        try:
            came = arrivals.take_in(batch.owner, PURPOSE, batch.pk, path, filename)
        except PictureError as plain:
            if plain.code == NO_ROOM:
                raise
            name = PurePath(filename or "picture").name[:255]
            return "broken", _named(OldPicture(owner=batch.owner, batch=batch, name=name, digest=digest), str(plain))
    if came.became is None:
        return "waiting", None
    picture = OldPicture.objects.select_related("picture").get(pk=came.became)
    return "broken" if picture.problem else "new", picture


def _broken(arrival, sentence):
    """What stays of a file that cannot be read."""
    return _named(_row(arrival), sentence).pk


def _named(row, problem):
    """A file that is in a batch by its name alone."""
    row.problem = problem[:300]
    row.save()
    return row


@arrivals.reads(PURPOSE, broken=_broken)
def read_for_batch(arrival, decoded):
    """A file is measured for a batch, and its small views are kept; the file itself is not."""
    row = _row(arrival)
    row.measures, views = _looked_at(decoded)
    row.picture = lying_views(arrival, decoded, views)

    def keep():
        known = _known(row.batch, row.digest)  # one that came twice at once
        if known:
            return known.pk
        row.picture.save()
        row.save()
        return row.pk

    return keep


def _row(arrival):
    batch = Batch.objects.filter(pk=arrival.subject, owner_id=arrival.owner_id).first()
    if batch is None:
        raise CoreError("The batch is gone.", code="batch-gone")
    return OldPicture(owner_id=arrival.owner_id, batch=batch, name=arrival.name, digest=_digest(arrival.original))


def _digest(path):
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _known(batch, digest):
    """The picture of a file that is in a batch, or None. Raises CoreError for another one when the batch is full."""
    known = OldPicture.objects.filter(batch=batch, digest=digest).first()
    if known is None and OldPicture.objects.filter(batch=batch).count() >= MOST_PICTURES:
        raise CoreError(
            f"A batch holds {MOST_PICTURES} pictures. Start another one.", parameter="file", code="batch-full"
        )
    return known


def _looked_at(decoded):
    """(Measures of a picture, its small views by their names)."""
    planes = np.moveaxis(np.asarray(decoded.linear, np.float32), -1, 0)
    shown = reduced(planes, SHOWN_SIDE)
    views = {
        GREY: Image.fromarray(grey8_of_lightness(_tone_map().lightness(shown))),
        COLOUR: Image.fromarray(colour_picture(shown)),
    }
    return measures_of(reduced(planes)), views


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
