"""An archive brought in again, here or elsewhere, whole or in part. What is there already is passed over; all of it counts, or none.

Nothing is unpacked by the names in the file: known places are read, and every picture, document and cell is checked as at its own door.
"""

import io
import tempfile
import uuid
import zipfile
from collections import Counter
from contextlib import contextmanager
from dataclasses import replace
from functools import cached_property
from pathlib import Path

from django.core.exceptions import ValidationError
from django.utils import timezone
from PIL import Image

from dimgrey.core.camera.calibration import measured_values
from dimgrey.core.document import scenefile
from dimgrey.core.document.jsontext import loads
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of
from dimgrey.core.document.setupfile import setup_from
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.plain import whole_part
from dimgrey.frames import csvlog
from dimgrey.judging.secondlook.models import Batch, OldPicture
from dimgrey.kit import actions as kit
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.kit.setups import import_setup
from dimgrey.outings.models import Outing
from dimgrey.pictures.actions import keep_picture, keep_views, keeping
from dimgrey.pictures.decoded import Decoded
from dimgrey.pictures.filekinds import MAX_BYTES
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.store import COLOUR, GREY
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.restoring_results import Afterwards
from dimgrey.safekeeping.archive.rows import (
    AfterwardsRow,
    BatchRow,
    MeasuredRow,
    OutingRow,
    PictureRow,
    SceneRow,
    SetupRow,
    left_out,
    minor,
    row_by_uid,
    row_of,
)
from dimgrey.scenes.models import Revision, Scene

MOST_FILES, MOST_TEXT = 200_000, 200_000_000
NO_ARCHIVE = "The file is not an archive of Dimgrey, or it is cut off. Take it from where it was saved again."


class ArchiveError(CoreError):
    """An archive that cannot be brought in; says what in it is wrong. Nothing of it was kept."""

    def __init__(self, sentence):
        super().__init__(sentence, parameter="file", code="archive")


def restore_archive(person, file, parts=tuple(layout.PARTS)):
    """Bring an archive in. Returns Counter: what came in -> how many, and "there already".

    file: a path or an open binary file. parts: names of layout.PARTS. Raises ArchiveError; then nothing is kept.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            return _Incoming(person, archive).take(parts)
    except (zipfile.BadZipFile, zipfile.LargeZipFile, EOFError, NotImplementedError, RuntimeError, OSError) as wrong:
        if isinstance(wrong, OSError) and wrong.errno:
            raise  # a disk that fails is not the archive's fault
        raise ArchiveError(NO_ARCHIVE) from None


class _Incoming:
    """One archive on its way in."""

    def __init__(self, person, archive):
        self.person, self.archive = person, archive
        self.names = {info.filename: info for info in archive.infolist()}
        self.count = Counter()
        self.scene_numbers, self.pictures = {}, {}
        if len(self.names) > MOST_FILES:
            raise ArchiveError(f"The archive has more than {MOST_FILES} files.")
        head = self.json(layout.HEAD)
        said = head.get if isinstance(head, dict) else {}.get
        if said("format") != layout.FORMAT:
            raise ArchiveError(NO_ARCHIVE)
        if said("version") != layout.VERSION:
            raise ArchiveError(
                f"The archive is of version {said('version')!s:.20}; this program reads version {layout.VERSION}."
            )
        newest = said("minor", 0)
        self.is_newer = type(newest) is int and newest > minor()

    def take(self, parts):
        with keeping():
            for part in layout.PARTS:
                if part in parts:
                    self.attempt(part, getattr(self, f"take_{part.replace('-', '_')}"))
        return self.count

    def attempt(self, part, taker):
        try:
            taker()
        except ArchiveError:
            raise
        except CoreError as refused:
            raise ArchiveError(f"{layout.PARTS[part].capitalize()}: {refused}") from None
        except ValidationError as wrong:
            raise ArchiveError(f"{layout.PARTS[part].capitalize()}: {' '.join(wrong.messages)[:200]}") from None
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as wrong:
            raise ArchiveError(
                f"{layout.PARTS[part].capitalize()}: something is not what was written there ({wrong!s:.80})."
            ) from None

    # --- files ---------------------------------------------------------------------------------------------------------

    def read(self, name, most=MOST_TEXT):
        """Bytes of a file, b"" where there is none. Raises ArchiveError for one that unpacks to too much."""
        info = self.names.get(name)
        if info is None:
            return b""
        with self.archive.open(info) as entry:
            data = entry.read(most + 1)
        if len(data) > most:
            raise ArchiveError(f"{name} holds more than {most / 1e6:.0f} MB.")
        return data

    def text(self, name):
        try:
            return self.read(name).decode("utf-8")
        except UnicodeDecodeError:
            raise ArchiveError(f"{name} is not text.") from None

    def json(self, name):
        """What a JSON file holds, None where there is none. Raises ArchiveError."""
        text = self.text(name)
        if not text:
            return None
        try:
            return loads(text)
        except CoreError as refused:
            raise ArchiveError(f"{name}: {refused}") from None

    def rows(self, row, name):
        """Rows of a JSON file that holds a list of them, () where there is none. Raises DocumentError."""
        told = self.json(name) or ()
        if not isinstance(told, list | tuple):
            raise ArchiveError(f"{name}: must be a list.")
        return [self.checked(row, each, f"{name}[{k}]") for k, each in enumerate(told)]

    def row(self, row, name):
        """The row that a JSON file holds, None where there is none. Raises DocumentError."""
        told = self.json(name)
        return None if told is None else self.checked(row, told, name)

    def checked(self, row, told, path):
        made = row_of(row, told, path, self.is_newer)
        if self.is_newer and (beyond := left_out(made)):
            self.count["words of a newer program, left out"] += beyond
        return made

    @contextmanager
    def lying(self, name):
        """The path where a file of the archive lies while it is read."""
        with tempfile.NamedTemporaryFile(prefix="dimgrey-") as file, self.archive.open(self.names[name]) as entry:
            left = MAX_BYTES + 1
            while left > 0 and (piece := entry.read(min(1 << 20, left))):
                file.write(piece)
                left -= len(piece)
            file.flush()
            yield Path(file.name)

    def below(self, start):
        """Names of the files below a folder, in their order."""
        return sorted(name for name in self.names if name.startswith(start) and not name.endswith("/"))

    # --- parts ---------------------------------------------------------------------------------------------------------

    def take_kit(self):
        text = self.text(layout.KIT)
        if text:
            new, passed, renamed = kit.import_items(self.person, text)
            self.count["items of the kit"] += new + renamed
            self.count["there already"] += passed
        for told in self.rows(MeasuredRow, layout.MEASURED):
            row = Item.objects.owned_by(self.person).filter(kind=told.kind, name=told.name).first()
            if row and not row.calibration:
                row.calibration = measured_values(told.values)
                row.save(update_fields=["calibration"])

    def take_setups(self):
        for name in self.below(layout.SETUPS):
            told = self.row(SetupRow, name)
            made = setup_from(told.setup)
            there = KeptSetup.objects.owned_by(self.person).filter(name=made.name).first()
            if there and there.setup == made:
                self.count["there already"] += 1
                continue
            camera = Item.objects.owned_by(self.person).filter(kind="camera", name=told.camera).first()
            import_setup(self.person, made, camera)
            self.count["setups"] += 1

    def take_scenes(self):
        outings = {each.uid: self.outing(each) for each in self.rows(OutingRow, layout.OUTINGS)}
        for name in self.below(layout.SCENES):
            if name.endswith("/history.json"):
                self.scene(self.row(SceneRow, name), outings)

    def outing(self, told):
        there = row_by_uid(Outing, self.person, told.uid)
        if there:
            self.count["there already"] += 1
            return there
        values = {name: value for name, value in whole_part(replace(told, beyond=())).items() if value is not None}
        row = Outing(owner=self.person, **values)
        row.removed_at = timezone.now() if row.removed else None
        row.full_clean(exclude=["owner", "removed_at", "terrain", "checked", "typed_conditions", "dismissed"])
        row.save()
        self.count["outings"] += 1
        return row

    def scene(self, told, outings):
        there = row_by_uid(Scene, self.person, told.uid)
        if there:
            self.scene_numbers[told.number] = there.pk
            self.count["there already"] += 1
            return
        documents = [checked(state.document) for state in told.states]
        title = told.title[:120]
        row = Scene.objects.create(
            owner=self.person, uid=told.uid, outing=outings.get(told.outing), title=title, kept=documents[told.head],
            position=told.position, removed=told.removed, removed_at=timezone.now() if told.removed else None,
            picture=self.picture(told.picture),
        )  # fmt: skip
        made = []
        for state, kept in zip(told.states, documents, strict=True):
            revision = Revision.objects.create(
                scene=row, parent=None if state.parent is None else made[state.parent], label=state.label[:160], kept=kept,
                picture=self.picture(state.picture), act=state.act, done_at=state.done_at,
            )  # fmt: skip
            Revision.objects.filter(pk=revision.pk).update(at=state.at or revision.at)
            made.append(revision)
        row.head = made[told.head]
        row.save(update_fields=["head"])
        if not row.is_sound:
            raise ArchiveError(f"The scene “{title}” cannot be read.")
        self.scene_numbers[told.number] = row.pk
        self.count["scenes"] += 1

    def picture(self, folder):
        """The picture of a folder of the archive, kept once; None for none."""
        if folder is None:
            return None
        if folder not in self.pictures:
            self.pictures[folder] = self.new_picture(f"{layout.PICTURES}{uuid.UUID(folder).hex}/")
        return self.pictures[folder]

    def new_picture(self, start):
        told = self.row(PictureRow, f"{start}picture.json") or PictureRow()
        original = next((name for name in self.below(start) if name.startswith(f"{start}original")), None)
        if original is None:
            return None
        filename, simulated = told.name, told.simulated_light
        with self.lying(original) as path:
            decoded = read_picture(path, filename)
            snapshot = checked_jpeg(self.read(f"{start}{COLOUR}", MAX_BYTES)) if simulated else None
            self.count["pictures"] += 1
            return keep_picture(self.person.pk, decoded, path, filename, snapshot, simulated)

    def take_log(self):
        text = self.text(layout.LOG)
        Afterwards(self, self.afterwards).take_rolls()
        if not text:
            return
        new, there = csvlog.import_frames(self.person, io.StringIO(text, newline=""), self.scene_numbers)
        self.count["frames"] += new
        self.count["there already"] += there

    @cached_property
    def afterwards(self):
        return self.row(AfterwardsRow, layout.AFTERWARDS) or AfterwardsRow()

    def take_results(self):
        Afterwards(self, self.afterwards).take()

    def take_second_look(self):
        for told in self.rows(BatchRow, layout.SECOND_LOOK):
            title, digests = told.title, {row.digest for row in told.pictures}
            batches = Batch.objects.owned_by(self.person).filter(title=title)
            if any(digests == set(batch.pictures.values_list("digest", flat=True)) for batch in batches):
                self.count["there already"] += 1
                continue
            batch = Batch.objects.create(owner=self.person, title=title)
            if told.made_at:
                Batch.objects.filter(pk=batch.pk).update(created_at=told.made_at)
            for row in told.pictures:
                self.old_picture(batch, row)
            self.count["second looks"] += 1

    def old_picture(self, batch, told):
        row = OldPicture(
            owner=self.person, batch=batch, name=told.name, digest=told.digest, reason=told.reason,
            problem=told.problem or ("" if told.picture else "Its picture is not in the archive."),
            decision=told.decision, measures=told.measures,
        )  # fmt: skip
        row.full_clean(exclude=["owner", "batch", "picture", "measures"])
        if told.picture:
            start = f"{layout.PICTURES}{uuid.UUID(told.picture).hex}/"
            views = {
                name: Image.open(io.BytesIO(checked_jpeg(self.read(f"{start}{name}", MAX_BYTES))))
                for name in (GREY, COLOUR)
            }
            size = next(iter(views.values())).size
            row.picture = keep_views(self.person.pk, Decoded("JPEG", *size, None), told.name, views)
        row.save()


def checked(kept):
    """JSON of a document that can be shown, in the present version. Raises DocumentError."""
    SCENE.check(kept)
    return scenefile.kept(document_of(kept))[0]


def checked_jpeg(data):
    """The bytes of a small JPEG that can be read. Raises ArchiveError."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            if image.format != "JPEG" or max(image.size) > 4000:
                raise ArchiveError("A small view in the archive is not a JPEG.")
            image.load()
    except (OSError, SyntaxError, ValueError) as wrong:
        if isinstance(wrong, ArchiveError):
            raise
        raise ArchiveError("A small view in the archive cannot be read.") from None
    return data
