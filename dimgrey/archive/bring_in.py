"""An archive brought in again, here or elsewhere, whole or in part. What is there already is passed over; all of it counts, or none.

Nothing is unpacked by the names in the file: known places are read, and every picture, document and cell is checked as at its own door.
"""

import io
import tempfile
import uuid
import zipfile
from collections import Counter
from contextlib import contextmanager
from pathlib import Path

from django.core.exceptions import ValidationError
from django.utils import timezone
from django.utils.dateparse import parse_date, parse_datetime
from PIL import Image

from dimgrey.archive import form
from dimgrey.archive.afterwards import Afterwards
from dimgrey.core.camera.calibration import measured_of, measured_values
from dimgrey.core.document import scenefile
from dimgrey.core.document.jsontext import loads
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of
from dimgrey.core.document.setupfile import setup_from
from dimgrey.core.errors import CoreError
from dimgrey.frames import csvlog
from dimgrey.kit import actions as kit
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.kit.setups import import_setup
from dimgrey.outings.models import Outing
from dimgrey.pictures.actions import keep_picture, keep_views, keeping
from dimgrey.pictures.decoded import Decoded
from dimgrey.pictures.kinds import MAX_BYTES
from dimgrey.pictures.read import read_picture
from dimgrey.pictures.store import COLOUR, GREY
from dimgrey.scenes.models import Revision, Scene
from dimgrey.secondlook.models import Batch, OldPicture

MOST_FILES, MOST_TEXT = 200_000, 200_000_000
NO_ARCHIVE = "The file is not an archive of Dimgrey, or it is cut off. Take it from where it was saved again."


class ArchiveError(CoreError):
    """An archive that cannot be brought in; says what in it is wrong. Nothing of it was kept."""

    def __init__(self, sentence):
        super().__init__(sentence, parameter="file", code="archive")


def bring_in(person, file, parts=tuple(form.PARTS)):
    """Bring an archive in. Returns Counter: what came in -> how many, and "there already".

    file: a path or an open binary file. parts: names of form.PARTS. Raises ArchiveError; then nothing is kept.
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
        head = self.json(form.HEAD)
        if not isinstance(head, dict) or head.get("format") != form.FORMAT:
            raise ArchiveError(NO_ARCHIVE)
        if head.get("version") != form.VERSION:
            raise ArchiveError(
                f"The archive is of version {head.get('version')!s:.20}; this program reads version {form.VERSION}."
            )

    def take(self, parts):
        takers = {"kit": self.take_kit, "setups": self.take_setups, "scenes": self.take_scenes, "log": self.take_log,
                  "results": self.take_afterwards, "second-look": self.take_second_look}  # fmt: skip
        with keeping():
            for part, taker in takers.items():
                if part in parts:
                    self.attempt(part, taker)
        return self.count

    def attempt(self, part, taker):
        try:
            taker()
        except ArchiveError:
            raise
        except CoreError as refused:
            raise ArchiveError(f"{form.PARTS[part].capitalize()}: {refused}") from None
        except ValidationError as wrong:
            raise ArchiveError(f"{form.PARTS[part].capitalize()}: {' '.join(wrong.messages)[:200]}") from None
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as wrong:
            raise ArchiveError(
                f"{form.PARTS[part].capitalize()}: something is not what was written there ({wrong!s:.80})."
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
        text = self.text(form.KIT)
        if text:
            new, passed, renamed = kit.import_items(self.person, text)
            self.count["items of the kit"] += new + renamed
            self.count["there already"] += passed
        for told in self.json(form.MEASURED) or ():
            row = Item.objects.owned_by(self.person).filter(kind=told["kind"], name=told["name"]).first()
            if row and not row.calibration:
                row.calibration = measured_values(require_measured(measured_of(told["values"])))
                row.save(update_fields=["calibration"])

    def take_setups(self):
        for name in self.below(form.SETUPS):
            told = self.json(name)
            made = setup_from(told["setup"])
            there = KeptSetup.objects.owned_by(self.person).filter(name=made.name).first()
            if there and there.setup == made:
                self.count["there already"] += 1
                continue
            camera = Item.objects.owned_by(self.person).filter(kind="camera", name=told.get("camera") or "").first()
            import_setup(self.person, made, camera)
            self.count["setups"] += 1

    def take_scenes(self):
        outings = {each["uid"]: self.outing(each) for each in self.json(form.OUTINGS) or ()}
        for name in self.below(form.SCENES):
            if name.endswith("/history.json"):
                self.scene(self.json(name), outings)

    def outing(self, told):
        uid = uuid.UUID(told["uid"])
        there = Outing.objects.owned_by(self.person).filter(uid=uid).first()
        if there:
            self.count["there already"] += 1
            return there
        values = {name: told[name] for name in form.OUTING if name in told}
        values["date"] = parse_date(values["date"]) if values.get("date") else None
        row = Outing(owner=self.person, uid=uid, **values)
        row.removed_at = timezone.now() if row.removed is True else None
        row.full_clean(exclude=["owner", "removed_at", "terrain", "checked", "typed_conditions", "dismissed"])
        row.save()
        row.refresh_from_db()
        require_outing(row)
        self.count["outings"] += 1
        return row

    def scene(self, told, outings):
        uid = uuid.UUID(told["uid"])
        there = Scene.objects.owned_by(self.person).filter(uid=uid).first()
        if there:
            self.scene_numbers[told.get("number")] = there.pk
            self.count["there already"] += 1
            return
        states = told["states"]
        documents = [checked(state["document"]) for state in states]
        head = told["head"]
        title = str(told["title"])[:120]
        row = Scene.objects.create(
            owner=self.person, uid=uid, outing=outings.get(told["outing"]), title=title, kept=documents[head],
            position=int(told["position"]), removed=told["removed"] is True,
            removed_at=timezone.now() if told["removed"] is True else None, picture=self.picture(told["picture"]),
        )  # fmt: skip
        made = []
        for state, kept in zip(states, documents, strict=True):
            parent = made[state["parent"]] if state["parent"] is not None else None
            revision = Revision.objects.create(
                scene=row, parent=parent, label=str(state["label"])[:160], kept=kept, picture=self.picture(state["picture"]),
                act=uuid.UUID(state["act"]) if state["act"] else None, done_at=_moment(state["done_at"]),
            )  # fmt: skip
            Revision.objects.filter(pk=revision.pk).update(at=_moment(state["at"]) or revision.at)
            made.append(revision)
        row.head = made[head]
        row.save(update_fields=["head"])
        if not row.is_sound:
            raise ArchiveError(f"The scene “{title}” cannot be read.")
        self.scene_numbers[told.get("number")] = row.pk
        self.count["scenes"] += 1

    def picture(self, folder):
        """The picture of a folder of the archive, kept once; None for none."""
        if folder is None:
            return None
        if folder not in self.pictures:
            self.pictures[folder] = self.new_picture(f"{form.PICTURES}{uuid.UUID(folder).hex}/")
        return self.pictures[folder]

    def new_picture(self, start):
        told = self.json(f"{start}picture.json") or {}
        original = next((name for name in self.below(start) if name.startswith(f"{start}original")), None)
        if original is None:
            return None
        filename = str(told.get("name", "picture"))[:255]
        simulated = told.get("simulated_light") is True
        with self.lying(original) as path:
            decoded = read_picture(path, filename)
            snapshot = checked_jpeg(self.read(f"{start}{COLOUR}", MAX_BYTES)) if simulated else None
            self.count["pictures"] += 1
            return keep_picture(self.person.pk, decoded, path, filename, snapshot, simulated)

    def take_log(self):
        text = self.text(form.LOG)
        Afterwards(self).rolls(self.json(form.AFTERWARDS) or {})
        if not text:
            return
        new, there = csvlog.import_frames(self.person, io.StringIO(text, newline=""), self.scene_numbers)
        self.count["frames"] += new
        self.count["there already"] += there

    def take_afterwards(self):
        told = self.json(form.AFTERWARDS)
        if told:
            Afterwards(self).take(told)

    def take_second_look(self):
        for told in self.json(form.SECOND_LOOK) or ():
            title, rows = str(told["title"])[:120], told["pictures"]
            digests = {row["digest"] for row in rows}
            batches = Batch.objects.owned_by(self.person).filter(title=title)
            if any(digests == set(batch.pictures.values_list("digest", flat=True)) for batch in batches):
                self.count["there already"] += 1
                continue
            batch = Batch.objects.create(owner=self.person, title=title)
            for row in rows:
                self.old_picture(batch, row)
            self.count["second looks"] += 1

    def old_picture(self, batch, told):
        fields = {
            name: str(told[name])[:most]
            for name, most in (("name", 255), ("digest", 64), ("problem", 300), ("reason", 24))
        }
        row = OldPicture(owner=self.person, batch=batch, decision=told["decision"], measures=told["measures"], **fields)
        row.full_clean(exclude=["owner", "batch", "picture", "measures"])
        if not isinstance(row.measures, dict):
            raise ArchiveError("Second look: measures are not what was written there.")
        if told["picture"]:
            start = f"{form.PICTURES}{uuid.UUID(told['picture']).hex}/"
            views = {
                name: Image.open(io.BytesIO(checked_jpeg(self.read(f"{start}{name}", MAX_BYTES))))
                for name in (GREY, COLOUR)
            }
            size = next(iter(views.values())).size
            row.picture = keep_views(self.person.pk, Decoded("JPEG", *size, None), fields["name"], views)
        row.save()


def _moment(text):
    return parse_datetime(text) if text else None


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


def require_measured(measured):
    """A Measured whose lists and numbers are what pages expect. Raises ArchiveError."""
    numbers = lambda values: isinstance(values, tuple) and all(type(v) in (int, float) for v in values)
    one = (measured.headroom, measured.footroom, measured.residual, measured.middle_stops)
    mixes = isinstance(measured.mixes, dict) and all(
        isinstance(w, list) and len(w) == 3 and numbers(tuple(w)) for w in measured.mixes.values()
    )
    curve = numbers(measured.stops) and numbers(measured.lightness) and len(measured.stops) == len(measured.lightness)
    days = isinstance(measured.day, str) and isinstance(measured.mix_day, str)
    rest = isinstance(measured.mix_residuals, dict) and numbers(tuple(measured.mix_residuals.values()))
    if not (curve and mixes and rest and days and numbers(one)):
        raise ArchiveError("What was measured of the kit is not what was written there.")
    return measured


def require_outing(row):
    """Raise ArchiveError unless an outing's lists and numbers are what pages expect."""
    latitude, longitude = row.latitude_deg, row.longitude_deg
    placed = latitude is None or (abs(latitude) <= 90 and longitude is not None and abs(longitude) <= 180)
    lists = all(isinstance(each, list) for each in (row.terrain, row.checked, row.dismissed)) and isinstance(
        row.typed_conditions, dict
    )
    points = lists and all(
        isinstance(p, list) and len(p) == 2 and all(type(v) in (int, float) for v in p) for p in row.terrain
    )
    if not (placed and points):
        raise ArchiveError(f"The outing “{row.title}” is not what was written there.")
