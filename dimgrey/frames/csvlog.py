"""The log as CSV (RFC 4180), out and in again."""

import csv
import io
import math
import uuid

from django.db import transaction
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.frames.actions import next_number
from dimgrey.frames.models import Frame

COLUMNS = ("number", "exposed_at", "scene", "aperture", "shutter", "iso", "difference_stops", "note", "means", "tones")
"""means and tones are told of frames that have a plan; a log that comes in needs neither, and they are not read back."""
MAX_ROWS = 5000


class CsvError(CoreError):
    """A log file that cannot be read; `mistakes` has one sentence per fault with its line."""

    def __init__(self, mistakes):
        super().__init__("\n".join(mistakes), parameter="file", code="csv")
        self.mistakes = mistakes


def frames_as_csv(frames):
    """The log as CSV, RFC 4180, one line per frame. Cells that a spreadsheet would run as a formula start with '."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for f in frames:
        values = (
            f.number,
            f.exposed_at.isoformat(timespec="seconds"),
            f.title,
            f.aperture,
            f.shutter,
            f.iso,
            f"{f.difference_stops:.2f}",
            f.note,
            f.means,
            _tones(f.frozen),
        )
        writer.writerow([_safe_cell(v) for v in values])
    return out.getvalue()


def _tones(planned):
    """ "wall falls 7.00 prints 7.70; ..." of a FrozenPlan; the print is left out where it was not recorded."""
    told = lambda tone: (
        f"{tone.name} falls {tone.zone:.2f}" + ("" if tone.printed is None else f" prints {tone.printed:.2f}")
    )
    return "; ".join(map(told, planned.tones)) if planned else ""


def _safe_cell(value):
    text = str(value)
    runs = text.startswith(("=", "@", "\t", "\r")) or (text.startswith(("+", "-")) and not _is_number(text))
    return f"'{text}" if runs else text


def _is_number(text):
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False


@transaction.atomic
def import_frames(person, text):
    """Frames from a CSV log; all or none. Returns how many. Raises CsvError with every faulty line."""
    reader = csv.DictReader(io.StringIO(text))
    header = [name.strip().lower() for name in reader.fieldnames or []]
    needed = {"exposed_at", "scene", "aperture", "shutter", "iso"}
    mistakes = [
        f"Line 1: unknown column “{name[:30]}”. Known: {', '.join(COLUMNS)}." for name in header if name not in COLUMNS
    ]
    mistakes += [f"Line 1: the column “{name}” is missing." for name in COLUMNS if name in needed - set(header)]
    if mistakes:
        raise CsvError(mistakes)
    reader.fieldnames = header
    rows = []
    for line, row in enumerate(reader, 2):
        if line > MAX_ROWS + 1:
            raise CsvError([f"The file has more than {MAX_ROWS} lines. Split it."])
        try:
            rows.append(_frame_of(row))
        except CoreError as refused:
            mistakes.append(f"Line {line}: {refused}")
    if mistakes:
        raise CsvError(mistakes[:50])
    number = next_number(person)
    Frame.objects.bulk_create(
        Frame(owner=person, token=uuid.uuid4(), number=number + k, plan={}, document={}, **values)
        for k, values in enumerate(rows)
    )
    return len(rows)


def _frame_of(row):
    if None in row or any(value is None for value in row.values()):
        raise CoreError("the line has another number of cells than the first.", code="csv-cells")
    # The quote that `_safe_cell` set, taken off again.
    unquoted = {k: v[1:] if v.startswith("'") else v for k, v in row.items()}
    try:
        at = parse_datetime(unquoted["exposed_at"].strip())
    except ValueError:
        at = None
    if at is None:
        raise CoreError(f"“{unquoted['exposed_at'][:30]}” is not a time. Write 2026-05-01T09:30:00.", code="csv-time")
    return {
        "exposed_at": at if timezone.is_aware(at) else timezone.make_aware(at),
        "title": unquoted["scene"][:120] or "Untitled scene",
        "aperture": format_aperture(parse_aperture(unquoted["aperture"])),
        "shutter": format_time(parse_time(unquoted["shutter"])),
        "iso": parse_speed(unquoted["iso"]).name,
        "difference_stops": _difference_cell(unquoted.get("difference_stops", "")),
        "note": unquoted.get("note", "")[:500],
    }


def _difference_cell(text):
    try:
        value = float(text or 0)
    except ValueError:
        value = math.nan
    if not abs(value) < 40:
        raise CoreError(f"“{text[:20]}” is not a difference in stops.", code="csv-difference")
    return value
