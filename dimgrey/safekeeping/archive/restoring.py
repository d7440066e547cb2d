"""An archive brought in again, here or elsewhere, whole or in part. What is there already is passed over; all of it counts, or none.

Nothing is unpacked by the names in the file: known places are read, and every picture, document and cell is checked as at its own door.
"""

import io
import math
import time
import uuid
import zipfile
from contextlib import contextmanager
from dataclasses import replace
from functools import cached_property

from django.core.exceptions import ValidationError
from django.utils import timezone
from PIL import Image

from dimgrey.core.camera.calibration import measured_values
from dimgrey.core.document import scenefile
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
from dimgrey.pictures.actions import keep_views, keeping
from dimgrey.pictures.decoded import Decoded
from dimgrey.pictures.filekinds import MAX_BYTES
from dimgrey.pictures.models import folder_path
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.store import COLOUR, GREY, drop_files
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.laying import Laying
from dimgrey.safekeeping.archive.restoring_results import Afterwards
from dimgrey.safekeeping.archive.rows import (
    AfterwardsRow,
    BatchRow,
    MeasuredRow,
    OutingRow,
    PictureRow,
    SceneRow,
    SetupRow,
    WaitingRow,
    row_by_uid,
)
from dimgrey.safekeeping.archive.unpacking import NO_ARCHIVE, ArchiveError, Unpacked, checked_jpeg
from dimgrey.safekeeping.archive.waiting import WAITS_WITH, subject_of, take_waiting
from dimgrey.scenes.models import Revision, Scene


def restore_archive(person, file, parts=tuple(layout.PARTS)):
    """Bring an archive in, here and now. Returns Counter: what came in -> how many, and "there already".

    file: a path or an open binary file. parts: names of layout.PARTS. Raises ArchiveError; then nothing is kept.
    """
    folder = folder_path(uuid.uuid4())  # where a sweep finds it, should this be killed
    folder.mkdir(parents=True)
    try:
        with opened(person, file, folder) as incoming:
            incoming.lay_pictures(parts)
            return incoming.take(parts)
    finally:
        drop_files(folder)


@contextmanager
def opened(person, file, folder):
    """An archive on its way in, whose pictures are laid aside below a folder. Raises ArchiveError for what is none, and for what is
    wrong with it while it is open."""
    try:
        with zipfile.ZipFile(file) as archive:
            yield Incoming(person, archive, Laying(folder))
    except (zipfile.BadZipFile, zipfile.LargeZipFile, EOFError, NotImplementedError, RuntimeError, OSError) as wrong:
        if isinstance(wrong, OSError) and wrong.errno:
            raise  # a disk that fails is not the archive's fault
        raise ArchiveError(NO_ARCHIVE) from None


class Incoming(Unpacked):
    """One archive on its way in."""

    def __init__(self, person, archive, laying):
        super().__init__(archive)
        self.person, self.laying = person, laying
        self.scene_numbers, self.pictures = {}, {}

    def lay_pictures(self, parts, until=math.inf):
        """Decode the pictures that are to come, before anything is kept. until: time.monotonic() from which on no more is begun; one is.

        Returns (how many lie there, how many are to).
        """
        wanted = self.laying.wanted(lambda: self.attempt("scenes", lambda: self.wanted(parts)))
        done = fresh = 0
        for name in wanted:
            if not self.laying.has(name):
                if fresh and time.monotonic() >= until:
                    break
                fresh += 1
                self.attempt("scenes", lambda name=name: self.lay(name))
            done += 1
        return done, len(wanted)

    def wanted(self, parts):
        """Names of the pictures of what is not here yet."""
        named = set()
        if "scenes" in parts:
            for name in self.below(layout.SCENES):
                told = self.row(SceneRow, name) if name.endswith("/history.json") else None
                if told and not row_by_uid(Scene, self.person, told.uid):
                    named |= {told.picture, *(state.picture for state in told.states)}
        if "results" in parts:
            named |= set(Afterwards(self, self.afterwards).wanted())
        return [name for name in map(_plain, named - {None}) if self.original(name)]

    def take(self, parts):
        """Write the rows of what is not here yet. Returns Counter: what came in -> how many."""
        with keeping():
            waiting = self.attempt("scenes", lambda: list(self.waiting(parts)))
            for part in layout.PARTS:
                if part in parts:
                    self.attempt(part, getattr(self, f"take_{part.replace('-', '_')}"))
            for told, original in waiting:
                with self.lying(original) as path:
                    self.count["files that wait to be read"] += take_waiting(self.person, told, path)
        return self.count

    def attempt(self, part, taker):
        try:
            return taker()
        except ArchiveError:
            raise
        except CoreError as refused:
            raise ArchiveError(f"{layout.PARTS[part].capitalize()}: {refused}", refused.code) from None
        except ValidationError as wrong:
            raise ArchiveError(f"{layout.PARTS[part].capitalize()}: {' '.join(wrong.messages)[:200]}") from None
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as wrong:
            raise ArchiveError(
                f"{layout.PARTS[part].capitalize()}: something is not what was written there ({wrong!s:.80})."
            ) from None

    def waiting(self, parts):
        """(WaitingRow, where its file lies) of files that waited to be read, for what is not here yet."""
        for name in self.below(layout.WAITING):
            told = self.row(WaitingRow, name) if name.endswith("/waiting.json") else None
            if told and WAITS_WITH[told.purpose] in parts and not subject_of(self.person, told):
                start = name.removesuffix("waiting.json")
                yield from ((told, each) for each in self.below(f"{start}original"))

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
        name = _plain(folder)
        if name not in self.pictures:
            if not self.laying.has(name) and self.original(name):
                self.lay(name)  # came to be wanted meanwhile
            self.pictures[name] = self.laying.take(name)
            self.count["pictures"] += self.pictures[name] is not None
        return self.pictures[name]

    def original(self, name):
        """Where the file of a picture lies in the archive, None for none."""
        start = f"{layout.PICTURES}{name}/"
        return next((each for each in self.below(start) if each.startswith(f"{start}original")), None)

    def lay(self, name):
        """Decode a picture and lay its files aside."""
        start = f"{layout.PICTURES}{name}/"
        told = self.row(PictureRow, f"{start}picture.json") or PictureRow()
        with self.lying(self.original(name)) as path:
            decoded = read_picture(path, told.name)
            simulated = told.simulated_light
            snapshot = checked_jpeg(self.read(f"{start}{COLOUR}", MAX_BYTES)) if simulated else None
            self.laying.lay(name, self.person.pk, decoded, path, told.name, snapshot, simulated)

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


def _plain(folder):
    """Name of a picture's folder in the archive."""
    return uuid.UUID(folder).hex


def checked(kept):
    """JSON of a document that can be shown, in the present version. Raises DocumentError."""
    SCENE.check(kept)
    return scenefile.kept(document_of(kept))[0]
