"""Keeping pictures: the only place that writes their rows and files."""

import io
import time
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import asdict
from pathlib import PurePath

from django.db import transaction
from PIL import Image

from dimgrey.people.models import Person
from dimgrey.people.quota import most_of
from dimgrey.pictures import queries, store, writing
from dimgrey.pictures.filekinds import NO_ROOM, PictureError
from dimgrey.pictures.models import Arrival, Picture, pictures_path
from dimgrey.pictures.upload import size_of

SWEPT_AFTER_S = 600
"""A folder without a row is left alone for so long: its row may be about to be written."""
_written = ContextVar("written", default=None)


@contextmanager
def keeping():
    """A transaction in which pictures may be kept: when it fails, nothing of their files is left."""
    outer, folders = _written.get(), []
    before = _written.set(folders)
    try:
        with transaction.atomic():
            yield
        if outer is not None:
            outer.extend(folders)
    except BaseException:
        # The rows are rolled back already; what was written for them must not stay.
        for folder in folders:
            store.drop_files(folder)
        raise
    finally:
        _written.reset(before)


def keep_picture(owner_id, decoded, data, filename, snapshot=None, simulated_light=False):
    """Keep a picture with its original and working copy. Returns the row. Call it within `keeping`.

    decoded: of read.read_picture. data: the file's bytes, or where it lies. snapshot: bytes of a picture shown in the colour view instead.
    Raises PictureGone when the files cannot be written.
    """
    row = _whole_row(owner_id, filename, decoded, simulated_light)
    _note(row.path)
    _write(row, row.path, decoded, data, snapshot)
    row.save()
    return row


def laid_aside(path, owner_id, decoded, data, filename, snapshot=None, simulated_light=False, others_bytes=0):
    """`keep_picture` whose files are written into the folder `path` and whose row is not saved: `take_laid` does it.

    others_bytes: of files that were laid aside before, for which there must be room too.
    """
    row = _whole_row(owner_id, filename, decoded, simulated_light)
    _write(row, path, decoded, data, snapshot, others_bytes)
    return row


def take_laid(row, path):
    """Save the row of a picture that was laid aside, and move its files to their place. Returns the row. Call it within `keeping`."""
    _note(row.path)
    writing.move(path, row.path)
    row.save()
    return row


def _whole_row(owner_id, filename, decoded, simulated_light):
    height, width = decoded.linear.shape[:2]
    row = _row(owner_id, filename, decoded, width, height)
    row.simulated_light = simulated_light
    return row


def _write(row, path, decoded, data, snapshot, others_bytes=0):
    shown = Image.open(io.BytesIO(snapshot)) if snapshot else _shown(decoded)
    require_room(row.owner_id, others_bytes + size_of(data) + decoded.linear.nbytes)
    writing.keep_files(path, data, suffix_of(row.original_name), decoded.linear, shown)
    row.bytes = store.size_of(path)


def lying_picture(arrival, decoded):
    """The row of a picture whose original came before it was read, not saved yet: its other files are written beside it.

    Nothing waits for the database meanwhile. Raises PictureGone when they cannot be written, PictureError without room for them.
    """
    height, width = decoded.linear.shape[:2]
    row = _row(arrival.owner_id, arrival.name, decoded, width, height)
    row.folder = arrival.folder
    require_room(arrival.owner_id, decoded.linear.nbytes)
    writing.keep_beside_original(row.path, decoded.linear, _shown(decoded))
    row.bytes = store.size_of(row.path)
    return row


def lying_views(arrival, decoded, views):
    """The row of a picture of which only small views stay, not saved yet. views: file name -> Image. Raises PictureGone."""
    width, height = next(iter(views.values())).size
    row = _row(arrival.owner_id, arrival.name, decoded, width, height)
    row.folder = arrival.folder
    writing.keep_images(row.path, views, is_new=False)
    row.bytes = sum((row.path / name).stat().st_size for name in views)
    return row


def _shown(decoded):
    """The picture as it looks, when its file was made for looking at; else None."""
    return None if decoded.shown is None else Image.fromarray(decoded.shown)


def suffix_of(name):
    """The ending under which an original lies, "" for none that is one."""
    suffix = PurePath(name).suffix.lower()
    return suffix if suffix.isascii() and len(suffix) <= 8 else ""


def keep_views(owner_id, decoded, filename, views):
    """Keep small views of a picture whose file stays where it is. views: file name -> Image. Returns the row.

    Call it within `keeping`. Raises PictureGone when the files cannot be written.
    """
    width, height = next(iter(views.values())).size
    row = _row(owner_id, filename, decoded, width, height)
    require_room(owner_id, 0)
    _note(row.path)
    writing.keep_images(row.path, views)
    row.bytes = store.size_of(row.path)
    row.save()
    return row


def _row(owner_id, filename, decoded, width, height):
    shot = asdict(decoded.shot)
    shot.pop("warnings")
    return Picture(
        owner_id=owner_id,
        original_name=PurePath(filename or "picture").name[:255],
        kind=decoded.kind,
        width=decoded.width,
        height=decoded.height,
        view_width=width,
        view_height=height,
        profile=decoded.profile[:120],
        shot=shot,
        middle_grey_ev100=decoded.middle_grey_ev100,
        scene_linear=decoded.scene_linear,
        absolute=decoded.absolute,
        clip=decoded.clip,
        warnings=list(decoded.warnings),
    )


def require_room(owner_id, more):
    """Raise PictureError when a person's pictures would take more room than there is for them. more: bytes to come."""
    most = most_of(Person.objects.only("quota_mb").get(pk=owner_id))
    used = queries.bytes_of(owner_id) if most else 0
    if most and used + more > most:
        raise PictureError(
            f"Your pictures take {used / 1e6:.0f} of {most / 1e6:.0f} MB, and this one does not fit. Delete what you removed, "
            "or ask an owner of the house for more room.",
            NO_ROOM,
        )


def _note(folder):
    """Remember a folder that is about to be written, in case the transaction fails."""
    folders = _written.get()
    if folders is None:
        raise RuntimeError("Keep pictures within `keeping`, so that a failure leaves no files behind.")
    folders.append(folder)


def sweep(older_than_s=SWEPT_AFTER_S, now=None):
    """Remove folders that no row owns, such as a killed upload leaves. Returns (how many, bytes).

    older_than_s: folders changed since then are left alone. now: seconds of the epoch.
    """
    root = pictures_path()
    if not root.is_dir():
        return 0, 0
    owned = {folder.hex for model in (Picture, Arrival) for folder in model.objects.values_list("folder", flat=True)}
    latest = (time.time() if now is None else now) - older_than_s
    count = size = 0
    for folder in root.iterdir():
        # A young folder may belong to an upload whose row is not committed yet.
        if folder.is_dir() and folder.name not in owned and folder.stat().st_mtime <= latest:
            size += sum(file.stat().st_size for file in folder.rglob("*") if file.is_file())
            store.drop_files(folder)
            count += 1
    return count, size
