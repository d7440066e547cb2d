"""Everything of a person as one ZIP, handed out piece by piece while it is made."""

import json
import zipfile

from django.utils import timezone

from dimgrey.core.document import kitfile, setupfile
from dimgrey.core.shapes.plain import whole_part
from dimgrey.frames.csvlog import csv_lines
from dimgrey.frames.queries import frames_of
from dimgrey.judging.secondlook.models import Batch
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.outings.models import Outing
from dimgrey.pictures.arrivals import waiting
from dimgrey.pictures.store import COLOUR, GREY
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.restoring_practice import uid_of
from dimgrey.safekeeping.archive.restoring_results import told_of
from dimgrey.safekeeping.archive.rows import (
    BatchRow,
    MeasuredRow,
    OldPictureRow,
    OutingRow,
    PictureRow,
    SceneRow,
    SetupRow,
    StateRow,
    minor,
    told,
)
from dimgrey.safekeeping.archive.waiting import waiting_row
from dimgrey.scenes.models import Revision, Scene

PIECE = 1 << 20


class _Drain:
    """A file that is written to and emptied."""

    def __init__(self):
        self.data = bytearray()

    def write(self, data):
        self.data += data
        return len(data)

    def flush(self):
        pass

    def taken(self):
        data, self.data = bytes(self.data), bytearray()
        return data


def pieces(person):
    """Bytes of the archive, piece by piece."""
    drain = _Drain()
    with zipfile.ZipFile(drain, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, source in _entries(person):
            # Pictures are packed already.
            packed = (
                zipfile.ZIP_STORED
                if name.startswith(layout.PICTURES) and not name.endswith(".json")
                else zipfile.ZIP_DEFLATED
            )
            info = zipfile.ZipInfo(name, timezone.now().timetuple()[:6])
            info.compress_type = packed
            with archive.open(info, "w", force_zip64=True) as entry:
                for piece in source:
                    entry.write(piece)
                    if len(drain.data) >= PIECE:
                        yield drain.taken()
    yield drain.taken()


def _entries(person):
    """(name, pieces of bytes) of each file."""
    head = {
        "format": layout.FORMAT,
        "version": layout.VERSION,
        "minor": minor(),
        "of": str(person),
        "made_at": timezone.now().isoformat(timespec="seconds"),
    }
    yield layout.HEAD, _json(head)
    items = list(Item.objects.owned_by(person))
    kit = kitfile.text_of([(row.kind, row.name, row.values, row.retired) for row in items])
    yield layout.KIT, [kit.encode()]
    yield layout.MEASURED, _json([told(MeasuredRow, row, values=row.measured) for row in items if row.calibration])
    for k, row in enumerate(KeptSetup.objects.owned_by(person).select_related("camera"), 1):
        made = SetupRow(setup=setupfile.plain(row.setup, row.revision), camera=row.camera.name if row.camera else "")
        yield f"{layout.SETUPS}{layout.slug(k, row.name)}.json", _json(whole_part(made))
    outings = list(Outing.objects.owned_by(person).order_by("created_at", "pk"))
    yield layout.OUTINGS, _json([told(OutingRow, row) for row in outings])
    yield from _scenes(person)
    yield (
        layout.LOG,
        (line.encode() for line in csv_lines(frames_of(person).order_by("number").iterator(chunk_size=200))),
    )
    afterwards, pictures = told_of(person)
    yield layout.AFTERWARDS, _json(afterwards)
    sent = set(Scene.objects.owned_by(person).exclude(picture=None).values_list("picture_id", flat=True))
    sent |= set(Revision.objects.filter(scene__owner=person).exclude(picture=None).values_list("picture_id", flat=True))
    for picture in {each.pk: each for each in pictures if each.pk not in sent}.values():
        yield from _picture(picture)
    yield from _second_look(person)
    yield from _waiting(person)


def _json(value):
    return [(json.dumps(value, indent=1, ensure_ascii=False, default=str) + "\n").encode()]


def _scenes(person):
    pictures = {}
    scenes = Scene.objects.owned_by(person).select_related("outing", "picture").order_by("pk")
    for k, scene in enumerate(scenes, 1):
        revisions = list(scene.revisions.select_related("picture").order_by("pk"))
        place = {row.pk: number for number, row in enumerate(revisions)}
        states = tuple(
            StateRow(
                label=row.label, at=row.at, done_at=row.done_at, act=row.act, parent=place.get(row.parent_id),
                picture=_folder(row.picture), document=row.kept,
            )
            for row in revisions
        )  # fmt: skip
        history = told(
            SceneRow, scene, number=scene.pk, outing=uid_of(scene.outing), picture=_folder(scene.picture),
            head=place.get(scene.head_id), states=states,
        )  # fmt: skip
        name = f"{layout.SCENES}{layout.slug(k, scene.title)}/"
        yield f"{name}scene.json", _json(scene.kept)
        yield f"{name}history.json", _json(history)
        shown = [scene.picture, *(row.picture for row in revisions)]
        pictures.update({each.folder.hex: each for each in shown if each})
    for picture in pictures.values():
        yield from _picture(picture)


def _folder(picture):
    return picture.folder.hex if picture else None


def _picture(picture):
    name = f"{layout.PICTURES}{picture.folder.hex}/"
    yield f"{name}picture.json", _json(told(PictureRow, picture, name=picture.original_name))
    for pattern in ("original*", COLOUR, GREY):
        for path in sorted(picture.path.glob(pattern)):
            yield f"{name}{path.name}", _of_file(path)


def _of_file(path):
    try:
        with path.open("rb") as file:
            while piece := file.read(PIECE):
                yield piece
    except FileNotFoundError:  # deleted meanwhile
        return


def _waiting(person):
    for arrival in waiting(person):
        told = waiting_row(person, arrival)
        if told is None:
            continue
        name = f"{layout.WAITING}{arrival.folder.hex}/"
        yield f"{name}waiting.json", _json(whole_part(told))
        for path in sorted(arrival.path.glob("original*")):
            yield f"{name}{path.name}", _of_file(path)


def _second_look(person):
    batches = []
    for batch in Batch.objects.owned_by(person).prefetch_related("pictures__picture"):
        rows = []
        for row in batch.pictures.all():
            rows.append(
                OldPictureRow(
                    name=row.name, digest=row.digest, problem=row.problem, measures=row.measures, decision=row.decision,
                    reason=row.reason, picture=_folder(row.picture),
                )
            )  # fmt: skip
            if row.picture:
                yield from _picture(row.picture)
        batches.append(told(BatchRow, batch, made_at=batch.created_at, pictures=tuple(rows)))
    yield layout.SECOND_LOOK, _json(batches)
