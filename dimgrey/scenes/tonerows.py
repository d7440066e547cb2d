"""The tones of a scene as rows of the sheet: reading, zone, texture, and the readings behind them."""

from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache

from django.template.loader import render_to_string
from django.utils import timezone

from dimgrey.core.document.tonebriefing import glass_in_front, needs_texture, reading_ev, tone_ev
from dimgrey.core.measure.metering import CLIPPED_SHARE, MIXED_SPREAD_STOPS
from dimgrey.core.measure.readings import reading_age
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning import explain
from dimgrey.core.planning.planwords import APART, FULL, texture_words
from dimgrey.core.planning.scenerange import SOFT_STOPS
from dimgrey.core.planning.spans import format_span
from dimgrey.core.planning.wishes import SOURCES
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.sky.clock import zone_named


@dataclass(frozen=True)
class ReadingRow:
    """One reading in words. decides: it counts; what the picture estimates gives way to a meter."""

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
    """One line of the sheet's tone table, and its pin on the stage.

    printed: the grey it will be seen in. fall: its place on film or sensor, "" where that is the same. x, y: in percent, ""
    without a place.
    """

    mark: str
    name: str
    role: str
    needs_texture: bool
    ev: str
    spread: str
    printed: str
    fall: str
    wish: str
    wish_is_guessed: bool
    zone_value: str
    texture: str
    why: str
    placed: bool
    x: str
    y: str
    area: str
    compensation: str
    clipped: bool
    guess: str
    differs: str
    unsure: str
    is_old: bool
    entry: object
    situation: object

    @property
    def at_rest(self):
        """What is said of its texture without being asked: that it is not whole."""
        return "" if self.texture == FULL else self.texture

    @property
    def closed(self):
        """Markup of the row while its editor is closed: the same for the same words."""
        return _closed_row(tuple(getattr(self, name) for name in SHOWN), bool(self.guess), bool(self.unsure))

    @property
    def _through(self):
        """Readings through the glass that is on the lens now, which count too."""
        glass = glass_in_front(self.situation.document)
        return tuple(r for r in self.entry.readings if r.through and r.through == glass)

    @property
    def readings(self):
        """ReadingRow of each, for its editor."""
        deciding = self.entry.deciding_readings
        return tuple(
            _reading_row(k, reading, any(reading is each for each in (*deciding, *self._through)), self.situation)
            for k, reading in enumerate(self.entry.readings)
        )


SHOWN = ("mark", "name", "ev", "printed", "at_rest", "placed", "is_old")
"""What a closed row says."""


@lru_cache(maxsize=2048)
def _closed_row(values, guess, unsure):
    tone = dict(zip(SHOWN, values, strict=True))
    context = {"tone": {**tone, "guess": guess, "unsure": unsure}, "open_tones": ()}
    return render_to_string("scenes/sheet/_tone_row.html", context)


def tone_rows(situation):
    """ToneRow of every tone of a Situation."""
    fallen = {tone.name: tone for tone in situation.plan.tones} if situation.plan else {}
    return tuple(_tone_row(entry, fallen.get(entry.name), situation) for entry in situation.document.tones)


def _tone_row(entry, fallen, situation):
    result, words = situation.plan, situation.words
    ev = fallen.ev100 if fallen else tone_ev(entry, situation.document)
    spread = max((reading.spread_stops for reading in entry.readings), default=0.0)
    x, y = entry.at or (None, None)
    wish = next((each for each in situation.wishes if each.span and each.tones == (entry.name,)), None)
    return ToneRow(
        mark=entry.mark,
        name=entry.name,
        role=entry.role or "other",
        needs_texture=needs_texture(entry, situation.document),
        ev="—" if ev is None else format_stops(ev),
        spread=format_stops(spread) if spread > MIXED_SPREAD_STOPS else "",
        printed=words.printed(fallen.print) if fallen else "",
        fall=words.zone(fallen.fall) if fallen and abs(fallen.fall - fallen.printed) > APART else "",
        wish=_wish_words(wish, result),
        wish_is_guessed=bool(wish and wish.guessed),
        zone_value=f"{result.kept_zone(fallen):.4f}" if fallen else "",
        texture=texture_words(fallen),
        why=explain.why_tone(fallen, result) if fallen else "",
        placed=bool(result and result.placement.tone == entry.name),
        x="" if x is None else f"{x * 100:.3f}%",
        y="" if y is None else f"{y * 100:.3f}%",
        area=" ".join(f"{a * 1000:.0f},{b * 1000:.0f}" for a, b in entry.area),
        compensation=format_stops(fallen.zone - MIDDLE + result.development_stops, words.divisions, signed=True)
        if fallen
        else "",
        clipped=any(reading.clipped > CLIPPED_SHARE for reading in entry.readings),
        guess=_guess_words(entry),
        differs=situation.pins_apart.get(entry.mark, ""),
        unsure=_unsure_words(fallen, result),
        is_old=any(_age(reading, situation)[1] for reading in entry.deciding_readings),
        entry=entry,
        situation=situation,
    )


def _wish_words(wish, result):
    """The wished print of a tone, and by how much it is missed; "" without one."""
    if wish is None:
        return ""
    source = SOURCES[wish.source]
    text = format_span(wish.span) + (f" ({source})" if source else "")
    missed = wish.missed_by({tone.name: tone.printed for tone in result.tones}) if result else None
    return f"{text}, missed by {format_stops(missed)}" if missed and missed > APART else text


def _guess_words(entry):
    """What the program guessed of a tone, "" where nothing is left to take."""
    if "role" not in entry.guessed and entry.name.startswith("tone "):
        return ""  # it is called by its letter, which nobody guessed
    if not entry.guessed:
        return ""
    parts = {"name": f"its name, {entry.name}", "role": f"that it is a {entry.role or 'other'}"}
    return (
        f"Guessed from colour and place: {' and '.join(parts[each] for each in entry.guessed)}. It drives nothing yet."
    )


def _unsure_words(fallen, result):
    """What to do about a tone whose grey is uncertain through the glass, "" where it is sure enough."""
    if fallen is None or fallen.error_stops <= SOFT_STOPS:
        return ""
    glass = result.brief.colour_choice
    through = f"Read it through the {glass} filter to settle it" if glass != "none" else "Only a test frame settles it"
    return f"Its grey is sure to ±{format_stops(fallen.error_stops)} stop only: such colours differ from paint to paint. {through}."


def _reading_row(index, reading, decides, situation):
    if reading.is_scaled:
        text = f"EV {format_stops(reading_ev(reading, situation.document.increment))}"
        if reading.shutter is not None:
            text = f"{reading.shutter} {reading.aperture} ISO {reading.iso} = {text}"
    else:
        text = f"{format_stops(reading.stops or 0, signed=True)} from the picture's middle"
    if reading.shift:
        text += f", light {format_stops(reading.shift, signed=True)}"
    age, stale = _age(reading, situation)
    source = (reading.meter or "picture") if reading.is_of_picture else reading.kind
    if reading.through:
        source += f" through {reading.through}"
    return ReadingRow(
        index, text, source, _clock(reading.taken_at, situation.scene.outing), decides, age, stale, reading.note
    )


def _clock(text, outing):
    """The time of a reading by the clocks of its place, "" without one."""
    try:
        taken = datetime.fromisoformat(text)
    except ValueError:
        return ""
    if outing and taken.tzinfo:
        return taken.astimezone(zone_named(outing.zone)).strftime("%H:%M")
    return taken.strftime("%H:%M UTC" if taken.tzinfo else "%H:%M")


def _age(reading, situation):
    """(age in words, whether it is stale) of a Reading; what the picture says does not age."""
    if reading.is_of_picture:
        return "", False
    low_sun = bool(situation.sky and situation.sky.seen.is_low_sun)
    return reading_age(reading.taken_at, timezone.now(), low_sun)
