"""The tones of a scene as rows of the sheet: reading, zone, texture, and the readings behind them."""

from dataclasses import dataclass
from datetime import datetime

from django.utils import timezone

from dimgrey.core.document.scenefile import deciding_readings, reading_ev, tone_ev
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning import explain
from dimgrey.scenes import parts

TEXTURE_WORDS = {
    ("full", False): "full texture",
    ("full", True): "full texture",
    ("faint", False): "hardly any",
    ("faint", True): "delicate",
    ("lost", False): "black",
    ("lost", True): "blank white",
}


@dataclass(frozen=True)
class ReadingRow:
    index: int
    text: str
    source: str
    at: str
    decides: bool
    age: str = ""
    stale: bool = False
    note: str = ""


@dataclass(frozen=True)
class ToneRow:
    """One line of the sheet's tone table, and its pin on the stage."""

    mark: str
    name: str
    role: str
    needs_texture: bool
    ev: str
    spread: str
    zone: str
    zone_value: str
    texture: str
    why: str
    placed: bool
    x: str
    y: str
    readings: tuple
    compensation: str
    clipped: bool
    open: bool


def tone_row(entry, result, document, words, opened, low_sun=False):
    """ToneRow of a tone of the scene file. result: Plan or None. opened: parts that stand open."""
    fallen = next((t for t in result.tones if t.name == entry["name"]), None) if result else None
    readings = entry.get("readings", [])
    deciding = deciding_readings(readings)
    rows = tuple(_reading_row(k, r, any(r is d for d in deciding), document, low_sun) for k, r in enumerate(readings))
    ev = fallen.ev100 if fallen else _tone_ev(entry, document)
    spread = max(
        (r["high_ev100"] - r["low_ev100"] for r in readings if "high_ev100" in r and "low_ev100" in r), default=0
    )
    x, y = entry.get("at", (None, None))
    role = entry.get("role", "other")
    return ToneRow(
        mark=entry.get("mark", ""),
        name=entry["name"],
        role=role,
        needs_texture=entry.get("texture", "free" if entry.get("role") == "other" else "needed") == "needed",
        ev=format_stops(ev) if ev is not None else "—",
        spread=format_stops(spread) if spread > 2 else "",
        zone=words.zone(fallen.zone_after_filter) if fallen else "",
        zone_value=f"{fallen.zone:.4f}" if fallen else "",
        texture=_texture_words(fallen),
        why=explain.why_tone(fallen, result) if fallen else "",
        placed=bool(result and result.placement.tone == entry["name"]),
        x=f"{x * 100:.3f}%" if x is not None else "",
        y=f"{y * 100:.3f}%" if y is not None else "",
        readings=rows,
        compensation=format_stops(fallen.zone - 5, signed=True) if fallen else "",
        clipped=any(r.get("clipped", 0) > 0.02 for r in readings),
        open=f"tone-{entry.get('mark', '')}" in opened,
    )


def _texture_words(fallen):
    if fallen is None:
        return ""
    words = TEXTURE_WORDS[fallen.texture, fallen.zone_held > 5]
    return f"{words}, allowed" if fallen.texture == "lost" and not fallen.needs_texture else words


def _tone_ev(entry, document):
    return tone_ev(entry, document.get("meter", {}).get("calibration_stops", 0.0), document.get("increment", "third"))


def _reading_row(index, reading, decides, document, low_sun):
    if "ev100" in reading or "shutter" in reading:
        ev = reading_ev(reading, document.get("increment", "third"))
        text = f"EV {format_stops(ev)}"
        if "shutter" in reading:
            text = f"{reading['shutter']} {reading['aperture']} ISO {reading.get('iso', 100)} = {text}"
    else:
        text = f"{format_stops(reading.get('stops', 0), signed=True)} from the picture's middle"
    source = reading.get("meter") if reading.get("kind") == "picture" else reading.get("kind", "spot")
    if reading.get("shift"):
        text += f", light {format_stops(reading['shift'], signed=True)}"
    age, stale = parts.age_of(reading, timezone.now(), low_sun)
    clock = _clock(reading.get("taken_at", ""))
    return ReadingRow(index, text, source or "picture", clock, decides, age, stale, reading.get("note", ""))


def _clock(text):
    try:
        return datetime.fromisoformat(text).strftime("%H:%M")
    except ValueError:
        return ""
