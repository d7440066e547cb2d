"""The log as CSV (RFC 4180), out and in again whole: order, numbers, plans, and the scenes that frames belong to."""

import csv
import io
import json
import math
import re
import uuid
from dataclasses import dataclass
from types import SimpleNamespace

from django.db import transaction
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from dimgrey.core.document.frozen import frozen_document, frozen_plan
from dimgrey.core.document.jsontext import loads, require_letters
from dimgrey.core.document.meansline import COLUMNS, MadeWith
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.frames.actions import next_number
from dimgrey.frames.models import Frame, Roll
from dimgrey.scenes.models import Scene
from dimgrey.web.csvcells import disarmed, freed

ROLL_AFTER = COLUMNS.index("film") + 1
CELLS = (
    "number", "exposed_at", "scene", "aperture", "shutter", "iso", "difference_stops", "note", "means", "tones",
    *COLUMNS[:ROLL_AFTER], "roll", *COLUMNS[ROLL_AFTER:],
    "id", "scene_id", "plan", "document",
)  # fmt: skip
"""means and tones are told for people, and not read back. id, scene_id, plan and document bring a frame back whole; a
log of another program needs none of them."""
_ON_ROLL = re.compile(r"(\d{1,6})/(\d{1,4})")
NEEDED = ("exposed_at", "scene", "aperture", "shutter", "iso")
MAX_ROWS = 200_000
LONGEST_CELL = 2_000_000
MOST_MISTAKES = 50
AT_ONCE, LONGEST_NAME = 500, 120
YEARS = range(1826, 2200)
"""Since the first photograph; what lies outside is a typing error, or a time that clocks of places cannot tell."""

csv.field_size_limit(LONGEST_CELL)


class CsvError(CoreError):
    """A log file that cannot be read; `mistakes` has one sentence per fault with its line."""

    def __init__(self, mistakes):
        super().__init__("\n".join(mistakes), parameter="file", code="csv")
        self.mistakes = mistakes


def csv_lines(frames):
    """The log as lines of CSV, RFC 4180, one frame after another. Cells that a spreadsheet would run as a formula start with '."""
    yield _line(CELLS)
    for frame in frames:
        yield _line([disarmed(value) for value in _cells(frame)])


def _line(cells):
    out = io.StringIO()
    csv.writer(out).writerow(cells)
    return out.getvalue()


def _cells(f):
    made, plain = (
        f.made or MadeWith(),
        lambda value: json.dumps(value, ensure_ascii=False, separators=(",", ":")) if value else "",
    )
    return (
        f.number,
        f.exposed_at.isoformat(),
        f.title,
        f.aperture,
        f.shutter,
        f.iso,
        f"{f.difference_stops:.4f}",
        f.note,
        f.means,
        _tones(f.frozen),
        *(getattr(made, name) for name in COLUMNS[:ROLL_AFTER]),
        f.place_on_film,
        *(getattr(made, name) for name in COLUMNS[ROLL_AFTER:]),
        f.token,
        f.scene_id or "",
        plain(f.plan),
        plain(f.document),
    )


def _tones(planned):
    """ "wall falls 7.00 prints 7.70; ..." of a FrozenPlan; the print is left out where it was not recorded."""
    told = lambda tone: (
        f"{tone.name} falls {tone.zone_after_filter:.2f}" + ("" if tone.print is None else f" prints {tone.print:.2f}")
    )
    return "; ".join(map(told, planned.tones)) if planned else ""


@transaction.atomic
def import_frames(person, text, renumbered=None):
    """Frames from a CSV log; all or none. Returns (how many are new, how many were there). Raises CsvError with every faulty line.

    text: str, or a text file open for reading. renumbered: number of a scene where the log was written -> its number here. A frame that is in the log already is passed over. A number that is taken, or
    missing, becomes the next free one.
    """
    rows, mistakes = [], []
    reader = _reader(io.StringIO(text, newline="") if isinstance(text, str) else text)
    try:
        for row in reader:
            if len(rows) >= MAX_ROWS:
                raise CsvError([f"The file has more than {MAX_ROWS} lines. Split it."])
            try:
                rows.append(_line_of(row))
            except CoreError as refused:
                mistakes.append(f"Line {reader.line_num}: {refused}")
            if len(mistakes) >= MOST_MISTAKES:
                break
    except csv.Error as wrong:
        mistakes.append(f"Line {reader.line_num}: the file is not CSV from here on ({wrong}).")
    if mistakes:
        raise CsvError(mistakes)
    return _kept(person, rows, renumbered or {})


def _reader(file):
    """A reader of the rows, each a dictionary. Raises CsvError for a first line that is not a log's."""
    reader = csv.DictReader(file)
    try:
        names = [name.strip().lower() for name in reader.fieldnames or []]
    except csv.Error as wrong:
        raise CsvError([f"Line 1: the file is not CSV ({wrong})."]) from None
    mistakes = [
        f"Line 1: unknown column “{name[:30]}”. Known: {', '.join(CELLS)}." for name in names if name not in CELLS
    ]
    mistakes += [f"Line 1: the column “{name}” is missing." for name in NEEDED if name not in names]
    mistakes += [
        f"Line 1: the column “{name}” is there twice." for name in dict.fromkeys(names) if names.count(name) > 1
    ]
    if mistakes:
        raise CsvError(mistakes[:MOST_MISTAKES])
    reader.fieldnames = names
    return reader


def _kept(person, lines, renumbered):
    tokens = {line.frame.token for line in lines}
    known = set(Frame.every.owned_by(person).values_list("token", flat=True)) & tokens
    taken = set(Frame.every.owned_by(person).values_list("number", flat=True))
    scenes = dict(Scene.objects.owned_by(person).values_list("pk", "title"))
    rolls = {roll.number: roll for roll in Roll.objects.owned_by(person)}
    number, made = next_number(person), []
    for line in lines:
        frame = line.frame
        if frame.token in known:
            continue
        known.add(frame.token)
        if frame.number is None or frame.number in taken:
            frame.number, number = number, number + 1
        taken.add(frame.number)
        number = max(number, frame.number + 1)
        # The number of a scene says nothing elsewhere; with its title it does.
        same = line.scene_id if scenes.get(line.scene_id) == frame.title else None
        frame.owner, frame.scene_id = person, renumbered.get(line.scene_id) or same
        if line.on_roll:
            frame.roll, frame.roll_number = _roll(person, rolls, line), line.on_roll[1]
        made.append(frame)
    Frame.objects.bulk_create(made, batch_size=AT_ONCE)
    return len(made), len(lines) - len(made)


def _roll(person, rolls, line):
    """The roll that a line names, made when there is none of that number. rolls: those there are, by number."""
    number, frame = line.on_roll[0], line.frame
    if number not in rolls:
        at, film = frame.exposed_at, frame.made.film[:60]
        rolls[number] = Roll.objects.create(
            owner=person, number=number, film=film, rated=frame.iso, begun_at=at, ended_at=at
        )
    return rolls[number]


@dataclass(frozen=True)
class Line:
    """A line that was read. frame: not kept yet, without its owner; its number may be None. scene_id: where the log was written.
    on_roll: (number of the roll, place on it), or None."""

    frame: Frame
    scene_id: int | None
    on_roll: tuple | None


def _line_of(row):
    if None in row or any(value is None for value in row.values()):
        raise CoreError("the line has another number of cells than the first.", code="csv-cells")
    given = {name: require_letters(freed(value)) for name, value in row.items()}
    cell = SimpleNamespace(**dict.fromkeys(CELLS, "") | given)
    frame = Frame(
        plan=_json_cell(cell.plan, "plan", frozen_plan),
        document=_json_cell(cell.document, "document", frozen_document),
        number=_whole_cell(cell.number, "number"),
        exposed_at=_time_cell(cell.exposed_at),
        title=cell.scene[:120] or "Untitled scene",
        aperture=format_aperture(parse_aperture(cell.aperture)),
        shutter=format_time(parse_time(cell.shutter)),
        iso=parse_speed(cell.iso).name,
        difference_stops=_difference_cell(cell.difference_stops),
        note=cell.note[:500],
        token=_id_cell(cell.id, given),
        made=MadeWith(**{name: getattr(cell, name)[:LONGEST_NAME] for name in COLUMNS}),
    )
    return Line(frame, _whole_cell(cell.scene_id, "scene_id"), _roll_cell(cell.roll))


def _roll_cell(text):
    """(number of the roll, place on it), or None."""
    found = _ON_ROLL.fullmatch(text.strip())
    return (int(found[1]), int(found[2])) if found and int(found[1]) and int(found[2]) else None


def _time_cell(text):
    try:
        at = parse_datetime(text.strip())
    except ValueError:
        at = None
    if at is None or at.year not in YEARS:
        raise CoreError(f"“{text[:30]}” is not a time. Write 2026-05-01T09:30:00.", code="csv-time")
    return at if timezone.is_aware(at) else timezone.make_aware(at)


def _whole_cell(text, name):
    """A number above 0, or None where the cell is empty or missing. Raises CoreError."""
    text = text.strip()
    if not text:
        return None
    if not (text.isascii() and text.isdigit() and len(text) < 10 and int(text)):
        raise CoreError(f"“{text[:20]}” is not a number for “{name}”. Write 12, or leave it empty.", code="csv-number")
    return int(text)


def _id_cell(text, cells):
    """The frame's id. A line without one is told by what it says, so that the same log twice is one."""
    text = text.strip()
    try:
        return uuid.UUID(text) if text else uuid.uuid5(uuid.NAMESPACE_OID, json.dumps(cells, sort_keys=True))
    except ValueError:
        raise CoreError(f"“{text[:40]}” is not the id of a frame.", code="csv-id") from None


def _json_cell(text, name, read):
    """What a cell of JSON holds, {} for an empty one. read: must be able to read it. Raises CoreError."""
    text = text.strip()
    if not text:
        return {}
    try:
        found = loads(text)
        read(found)
        return found
    except Exception:  # whatever the reader stumbles over, this is no plan of a frame
        raise CoreError(f"the cell “{name}” does not hold what was written there.", code="csv-json") from None


def _difference_cell(text):
    try:
        value = float(text or 0)
    except ValueError:
        value = math.nan
    if not abs(value) < 40:
        raise CoreError(f"“{text[:20]}” is not a difference in stops.", code="csv-difference")
    return value
