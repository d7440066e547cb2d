"""Every change of a scene document, as a function from Document to Document. Nothing is kept here.

What is refused is refused with a sentence: Refused says what to do instead. Whether the result can be kept is checked by
scenefile.kept.
"""

from dataclasses import replace

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.model import MAX_TONES, PlacingPart
from dimgrey.core.document.tonebriefing import linear_colour, school_of, tone_ev
from dimgrey.core.document.tones import MAX_READINGS, ToneEntry
from dimgrey.core.document.upgrade import free_mark
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.plan import film_step, hold_of, school_of_placed, zone_for_print
from dimgrey.core.planning.schools import KNOWN
from dimgrey.core.planning.tonenames import is_beyond_texture, suggestions
from dimgrey.core.planning.zones import MIDDLE, require_zone


class Refused(CoreError):
    """An act that cannot be done now, with what to do."""


# --- tones ---------------------------------------------------------------------------------------------------------------


def require_tone(document, mark):
    """The ToneEntry of a letter; Refused when it is gone."""
    found = document.tone(mark)
    if found is None:
        raise Refused(f"There is no tone {mark} in this scene any more.", code="no-tone")
    return found


def with_tone(document, changed):
    """The document with one tone as it is now; it is found by its letter. changed: ToneEntry."""
    return replace(document, tones=tuple(changed if tone.mark == changed.mark else tone for tone in document.tones))


def with_new_tone(document, entry):
    """A tone added under the next free letter, and called by it where it has no name. entry: ToneEntry without a mark."""
    if len(document.tones) >= MAX_TONES:
        raise Refused(f"A scene holds {MAX_TONES} tones. Remove one that does not matter.", code="too-many-tones")
    mark = free_mark({tone.mark for tone in document.tones})
    if not entry.name:
        entry = replace(entry, name=_letter_name(document, mark), guessed=("name",))
    _require_free_name(document, entry.name)
    return replace(document, tones=(*document.tones, replace(entry, mark=mark)))


def _letter_name(document, mark):
    """ "tone A", or where somebody has called another tone so, "tone A 2"."""
    names = (f"tone {mark}", *(f"tone {mark} {k}" for k in range(2, MAX_TONES + 3)))
    return next(name for name in names if name not in document.names)


def _require_free_name(document, name):
    if name in document.names:
        raise Refused(f"“{name}” is already a tone of this scene. Give each tone a name of its own.", code="name-taken")


def suggested_names(document, tone):
    """What a pinned ToneEntry may be, without names already used."""
    seen = tone.picture_reading
    if tone.at is None or tone.colour is None or seen is None:
        return ()
    note = f"{document.light_note} {document.title}"
    return suggestions(linear_colour(tone.colour), seen.stops, tone.at[1], document.light, note, document.names)


def pinned(document, x, y, spot, reading, area=()):
    """A key tone pinned at fractions x, y of the picture, called by its letter. spot: SpotReading there. area: corners of the
    area that it is, as fractions; () for a spot."""
    entry = ToneEntry(
        name="",
        texture="free" if is_beyond_texture(spot.mean_stops) else "needed",
        colour=kept_colour(spot.colour),
        at=(round(x, 5), round(y, 5)),
        area=area,
        readings=(reading,),
    )
    return with_new_tone(document, entry)


def area_moved(tone, x, y):
    """Corners of a ToneEntry's area when its pin goes to fractions x, y, held within the picture; () for a spot."""
    if not tone.area:
        return ()
    held = lambda by, values: min(max(by, -min(values)), 1 - max(values))
    dx = held(x - tone.at[0], [corner[0] for corner in tone.area])
    dy = held(y - tone.at[1], [corner[1] for corner in tone.area])
    return tuple((round(a + dx, 4), round(b + dy, 4)) for a, b in tone.area)


def repinned(document, mark, x, y, spot, reading):
    """A tone's pin at another place of the picture: its colour and the picture's reading follow, what was typed stays.

    x, y: fractions. spot: SpotReading there. reading: what the picture says there.
    """
    tone = require_tone(document, mark)
    changed = replace(
        tone,
        at=(round(x, 5), round(y, 5)),
        area=area_moved(tone, x, y),
        colour=kept_colour(spot.colour),
        readings=(*tone.typed_readings, reading),
    )
    return with_tone(document, changed)


def taken(document, mark=None):
    """What the program guessed of a tone, its name and role, taken as the photographer's own. mark: None for all tones."""
    if mark is not None:
        return with_tone(document, replace(require_tone(document, mark), guessed=()))
    return replace(document, tones=tuple(replace(tone, guessed=()) for tone in document.tones))


def kept_colour(colour):
    """A colour with the five digits that a document keeps."""
    return tuple(float(f"{c:.5g}") for c in colour)


def with_pins_read(document, read):
    """Pins read anew, in another picture; typed readings stay. read: ToneEntry -> (spot, Reading)."""
    tones = []
    for tone in document.tones:
        readings = tone.typed_readings
        if tone.at is not None:
            spot, reading = read(tone)
            tone = replace(tone, colour=kept_colour(spot.colour))
            readings = (*readings, reading)
        tones.append(replace(tone, readings=readings))
    return replace(document, tones=tuple(tones))


def with_named_tone(document, name, reading=None):
    """A tone without a place in a picture. name: "" for its letter. reading: its first, or None."""
    readings = (_stamped(reading, document),) if reading else ()
    return with_new_tone(document, ToneEntry(name=name, role="other", texture="needed", readings=readings))


def described(document, mark, **fields):
    """A tone with another name, role or texture; placing and pairs follow the name."""
    tone = require_tone(document, mark)
    name = fields.get("name", tone.name)
    if name != tone.name:
        _require_free_name(document, name)
        renamed = lambda each: name if each == tone.name else each
        pairs = tuple(tuple(map(renamed, pair)) for pair in document.pairs)
        placing = replace(document.placing, tone=renamed(document.placing.tone))
        orders = tuple(replace(o, lighter=renamed(o.lighter), darker=renamed(o.darker)) for o in document.orders)
        document = replace(document, placing=placing, pairs=pairs, orders=orders)
    said = {"role"} & fields.keys() | ({"name"} if name != tone.name else set())
    return with_tone(document, replace(tone, guessed=tuple(g for g in tone.guessed if g not in said), **fields))


def without_tone(document, mark):
    """A tone removed; a placing on it ends, and its pairs go with it."""
    tone = require_tone(document, mark)
    placing = document.placing
    if placing.tone == tone.name:
        placing = replace(placing, tone=None, zone=None)
    return replace(
        document,
        tones=tuple(each for each in document.tones if each is not tone),
        placing=placing,
        pairs=tuple(pair for pair in document.pairs if tone.name not in pair),
        orders=tuple(order for order in document.orders if tone.name not in (order.lighter, order.darker)),
    )


# --- readings ------------------------------------------------------------------------------------------------------------


def _stamped(reading, document):
    """A typed reading with the meter that took it."""
    given = reading.calibration_stops
    offset = document.meter.calibration_stops if given is None else given
    return replace(reading, calibration_stops=offset, meter=reading.meter or document.meter.name)


def with_reading(document, mark, reading, replaces=False, facts=None):
    """A typed reading of a tone. replaces: earlier typed ones go. facts: of the picture, whose scale may follow."""
    tone = require_tone(document, mark)
    kept = tuple(r for r in tone.readings if r.is_of_picture or not replaces)
    if len(kept) >= MAX_READINGS:
        raise Refused(
            f"{tone.name} holds {MAX_READINGS} readings, as many as a scene file keeps. Remove those that are wrong.",
            code="too-many-readings",
        )
    changed = replace(tone, ev100=None, readings=(*kept, _stamped(reading, document)))
    return rescaled(with_tone(document, changed), facts)


def with_light_from(document, mark, reading):
    """The light changed, as a new reading of one tone says: it replaces those of its tone, and every other moves along."""
    tone = require_tone(document, mark)
    before = tone_ev(tone, document)
    if before is None:
        raise Refused(f"{tone.name} was not read before, so it cannot say how the light changed.", code="nothing-read")
    kept = tuple(r for r in tone.readings if r.is_of_picture)
    read = replace(tone, ev100=None, readings=(*kept, _stamped(reading, document)))
    now = tone_ev(read, document)
    if now is None:
        sentence = f"This reading does not say how bright {tone.name} is now, so not how the light changed."
        raise Refused(
            f"{sentence} Read it with the spot and without a filter.", parameter="reading", code="light-unsaid"
        )
    stops = round(now - before, 4)
    # The picture shows the light as it was.
    moved = replace(read, readings=(*(_shifted(r, stops) for r in kept), read.readings[-1]))
    tones = tuple(moved if each is tone else _tone_shifted(each, stops) for each in document.tones)
    return replace(document, tones=tones)


def with_light_shifted(document, stops, only=None):
    """The light of the scene changed by stops: readings move together, and stay as they were taken.

    only: "lit" or "unlit", where the main light alone changed or all but it; None for every tone.
    """
    meant = [tone for tone in document.tones if only is None or tone.lit == only]
    if not any(tone.is_read for tone in meant):
        which = f" that is said to be {only}" if only else ""
        raise Refused(f"No tone{which} is read yet, so no light can have changed.", code="nothing-read")
    tones = tuple(_tone_shifted(tone, stops) if tone in meant else tone for tone in document.tones)
    return replace(document, tones=tones)


def with_tones_moved(document, moved):
    """Readings of some tones moved, each by its own stops, as where one lamp changed. moved: name -> stops; those that are not read stay."""
    tones = tuple(
        _tone_shifted(tone, moved[tone.name]) if tone.is_read and moved.get(tone.name) else tone
        for tone in document.tones
    )
    return replace(document, tones=tones)


def _shifted(reading, stops):
    return replace(reading, shift=round(reading.shift + stops, 4))


def _tone_shifted(tone, stops):
    ev = tone.ev100 if isinstance(tone.ev100, str) or tone.ev100 is None else round(tone.ev100 + stops, 4)
    return replace(tone, ev100=ev, readings=tuple(_shifted(reading, stops) for reading in tone.readings))


def without_reading(document, mark, index, facts=None):
    """One reading of a tone taken back. index: its place among all of the tone."""
    tone = require_tone(document, mark)
    if not 0 <= index < len(tone.readings):
        raise Refused("That reading is no longer there.", code="no-reading")
    kept = tone.readings[:index] + tone.readings[index + 1 :]
    return rescaled(with_tone(document, replace(tone, readings=kept)), facts)


# --- placing ---------------------------------------------------------------------------------------------------------------


def placed(document, mark, zone=None, printed=None, read=brief_of):
    """A tone placed on a zone. Where the school would not place this one, it becomes “known tone”, with its own usual hold.

    zone: in the terms of the plan's hold, which is kept. printed: instead of it, the print that the tone shall have. read: from a Document to
    its Brief, where more than the document is known, such as the sun before a polarizer.
    """
    tone = require_tone(document, mark)
    before = document.placing
    placing = replace(before, school=_school_for(document, tone, read), tone=tone.name)
    # A film keeps the development that it had: placing is not to change how the rest of the picture prints.
    document = _development_held(document, replace(document, placing=placing), read)
    now = replace(document, placing=placing)
    if zone is None:
        if not tone.is_read:
            raise Refused(
                f"{tone.name} has no reading yet, so it has no place in the print. Read it first.", code="unread"
            )
        zone = zone_for_print(read(now), tone.name, require_zone(printed))
    elif before.hold is None and placing.school != before.school:
        meant = hold_of(read(document))
        placing = replace(placing, hold=meant if meant != hold_of(read(now)) else None)
    return replace(document, placing=replace(placing, zone=round(require_zone(zone), 4)))


def _development_held(document, now, read):
    """The document with its film's development written down, where another placing would ask for another. now: it, placed otherwise."""
    if (
        document.medium.kind != "film"
        or document.medium.developed is not None
        or now.placing.school == document.placing.school
    ):
        return document
    before, after = (film_step(read(each)) for each in (document, now))
    return document if before in (None, after) else replace(document, medium=replace(document.medium, developed=before))


def _school_for(document, tone, read):
    """The school that placing a ToneEntry is: that in use as far as it places this tone, else “known tone”."""
    school = document.placing.school
    if school == "midpoint" or (school is None and sum(each.is_read for each in document.tones) < 2):
        return KNOWN
    placing = replace(document.placing, school=school_of(document), tone=tone.name, zone=MIDDLE)
    return school_of_placed(read(replace(document, placing=placing)))


def with_school(document, school, targets=None, read=brief_of):
    """Another way to place, and what it aims at. A new school finds its own tone and zone.

    targets: hold, under_stops, white, shadows by name; those that are missing stay. read: as in `placed`.
    """
    placing, targets = document.placing, targets or {}
    if placing.school is None or school_of_placed(read(document)) != school:
        placing = replace(placing, school=school, tone=None, zone=None)
    if any(key in targets and getattr(placing, key) != targets[key] for key in ("white", "shadows")):
        placing = replace(placing, zone=None)
    return replace(document, placing=replace(placing, **targets))


def unplaced(document):
    """The document with no tone placed, and the school left to the medium."""
    return replace(document, placing=PlacingPart())


def unmeasured(document):
    """The document without what belongs to one day: readings, colours, places in a picture, placing."""
    tones = tuple(
        ToneEntry(name=tone.name, mark=tone.mark, role=tone.role, texture=tone.texture, guessed=tone.guessed)
        for tone in document.tones
    )
    return replace(document, tones=tones, placing=PlacingPart())
