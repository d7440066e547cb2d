"""How kit items are written: tables of a film, limits of a sensor, spectra of glass, each as one line of text or a list.

Each reader takes text as people write it or the rows that were kept, and raises CoreError with the notation to use.
"""

import math
import re
from typing import NamedTuple

from dimgrey.core.camera.setups import format_controls, name_of, parse_controls
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.planning.media import limits_at


def spectrum_points(given):
    """Points from lines of CSV, wavelength first; a heading line is passed over."""
    if isinstance(given, list):
        if any(not _numbers(row, 2) for row in given):
            raise CoreError("is rows of a wavelength and a transmittance.")
        return given
    rows = []
    for line in given.replace(";", "\n").splitlines():
        cells = [cell.strip() for cell in re.split(r"[,\t ]+", line.strip()) if cell.strip()]
        if not cells or (not rows and not re.match(r"[\d.]", cells[0])):
            continue
        try:
            nm, value = map(finite, cells)
        except ValueError:
            raise CoreError(
                f"“{line.strip()[:40]}” is not a wavelength and a transmittance. Write 400, 0.02."
            ) from None
        rows.append((nm, value))
    return rows


def finite(text):
    """The number that a text says. Raises ValueError for what is no number, and for one that no row can hold."""
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text} is no number that can be kept")
    return value


def table_rows(given):
    """Rows of metered and given seconds from "4:6, 15:30"; the rule they must keep is core.measure.longexposure's."""
    if isinstance(given, list):
        if any(not _numbers(row, 2) for row in given):
            raise CoreError("is rows of metered and given seconds.")
        return given
    try:
        rows = [[finite(cell) for cell in row.split(":")] for row in given.replace(";", ",").split(",") if row.strip()]
    except ValueError:
        rows = [[]]
    if any(len(row) != 2 for row in rows):
        raise CoreError("is written 4:6, 15:30 - metered and given seconds.")
    return rows


def limit_rows(given):
    """Rows of speed, headroom and footroom from "100: 3.3/4, 3200: 3/3"; the rule they must keep is core.media's."""
    rows = given
    if isinstance(given, str):
        try:
            rows = [
                [finite(cell) for cell in re.split("[:/]", row)]
                for row in given.replace(";", ",").split(",")
                if row.strip()
            ]
        except ValueError:
            rows = [[]]
    if not isinstance(rows, list) or any(not _numbers(row, 3) for row in rows):
        raise CoreError("is written 100: 3.3/4, 3200: 3/3 - speed, headroom and footroom.")
    limits_at(rows, 100)
    return rows


def _numbers(row, count):
    return isinstance(row, list | tuple) and len(row) == count and all(type(cell) in (int, float) for cell in row)


class Step(NamedTuple):
    """A row of a film's development. step: k of N+k. minutes: of developing. stops: exposure to add."""

    step: int
    minutes: float | None = None
    stops: float = 0.0


def steps_of(rows):
    """Step of each kept row of a development."""
    return tuple(Step(**row) for row in rows)


def _is_step(row):
    """Whether a row of JSON is a step of development: a whole step, minutes and stops as numbers, and nothing else."""
    try:
        step = Step(**row)
    except TypeError:
        return False
    return type(step.step) is int and type(step.minutes) in (int, float) and type(step.stops) in (int, float)


_STEP = re.compile(
    r"N\s*(?P<step>[+\-−]\s*\d)?\s+(?P<minutes>\d+(?:[.,]\d+)?|\d+:\d\d)\s*(?:min)?\s*(?P<stops>[+\-−].*)?",
    re.IGNORECASE,
)


def development_rows(given):
    """Rows of a film's development from "N-1 8 +1/3, N 10": step, minutes, exposure to add."""
    if isinstance(given, list):
        if not all(_is_step(row) for row in given):
            raise CoreError("is rows of step, minutes and stops.")
        return given
    rows = []
    for part in re.split(r"[;,\n](?=\s{0,8}[Nn])", given.strip()):
        match = _STEP.fullmatch(" ".join(part.rstrip(",; \n").split()))
        if not match:
            raise CoreError(
                f"“{part.strip()[:40]}” is not a development. Write N-1 8 +1/3: step, minutes, exposure to add."
            )
        step = int((match["step"] or "0").replace("−", "-").replace(" ", ""))
        minutes, _, seconds = match["minutes"].replace(",", ".").partition(":")
        stops = parse_stops(match["stops"], "development") if match["stops"] else 0.0
        rows.append(Step(step, round(float(minutes) + float(seconds or 0) / 60, 3), round(stops, 4))._asdict())
    return rows


# --- and back: a kept value as people write it ---------------------------------------------------------------------------


def written(form, value):
    """A kept value of a field's form as text; "" for none."""
    if value in (None, [], ()):
        return ""
    if form == "table":
        return ", ".join(":".join(f"{cell:g}" for cell in row) for row in value)
    if form == "limits":
        return ", ".join(f"{iso:g}: {head:g}/{foot:g}" for iso, head, foot in value)
    if form == "spectrum":
        return "\n".join(f"{nm:g}, {t:g}" for nm, t in value)
    if form == "controls":
        return format_controls(parse_controls(value), name_of)
    if form == "development":
        return ", ".join(map(_written_step, steps_of(value)))
    return f"{value:g}" if isinstance(value, float) else str(value)


def _written_step(row):
    step = f"N{row.step:+d}" if row.step else "N"
    stops = f" {row.stops:+.2f}" if row.stops else ""
    return f"{step} {row.minutes or 0:g}{stops}"
