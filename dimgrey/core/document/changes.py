"""What a proposal changes, written as a short code, and done to a document: one change names one thing and touches nothing else.

A code is `kind=value`, several are joined by `;`: "glass=orange;polarizer=0", "develop=-1", "print=D:3.33", "effects=highlights:-0.5". What
the judge tried and what one act takes are both made from it.
"""

from dataclasses import replace

from dimgrey.core.camera.setups import TONE_EFFECTS
from dimgrey.core.document import edits, meansedits
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.means import GlassPart
from dimgrey.core.document.model import BracketPart
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import counted_stops
from dimgrey.core.planning.development import format_development
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.zones import format_zone

OFF = "off"
MIDDLE_OF_ALL = "the middle of the tones"
"""What is placed where a school places no single tone."""


def changed(document, code, read=brief_of, item=None):
    """A Document after what a code says. read: from a Document to its Brief. item: name of a kit's filter -> GlassPart.

    Raises Refused for a code that says nothing here, and what the edits themselves refuse.
    """
    for part in code.split(";"):
        kind, _, value = part.partition("=")
        edit = _EDITS.get(kind)
        if edit is None:
            raise Refused(f"There is no change “{kind:.24}”.", code="no-change")
        try:
            document = edit(document, value, read, item)
        except (ValueError, KeyError, IndexError) as wrong:
            if isinstance(wrong, CoreError):
                raise
            raise Refused(f"“{part:.40}” says no change of this scene.", code="no-change") from None
    return document


def _glass(document, value, read, item):
    return meansedits.with_colour_choice(document, value)


def _kit(document, value, read, item):
    found = item(value) if item else None
    if found is None:
        raise Refused(f"The kit has no filter “{value}” any more. Choose another.", code="kit-gone")
    return meansedits.with_glass(document, found)


def _polarizer(document, value, read, item):
    others = tuple(glass for glass in document.filters if glass.name != "polarizer")
    if value == OFF:
        return replace(document, filters=others)
    before = next((glass for glass in document.filters if glass.name == "polarizer"), GlassPart("polarizer"))
    turned = replace(before, turned_deg=float(value))
    if turned in others or any(glass.name == "polarizer" for glass in document.filters):
        return replace(document, filters=tuple(turned if g.name == "polarizer" else g for g in document.filters))
    return replace(document, filters=(*others, turned))


def _graduated(document, value, read, item):
    others = tuple(glass for glass in document.filters if glass.name != "graduated")
    if value == OFF:
        return replace(document, filters=others)
    stops, _, edge = value.partition("@")
    return replace(
        document, filters=(*others, GlassPart("graduated", stops=float(stops), edge=float(edge) if edge else None))
    )


def _develop(document, value, read, item):
    if document.medium.kind != "film":
        raise Refused("Only negative film is developed longer or shorter.", code="not-film")
    return replace(document, medium=replace(document.medium, developed=int(value)))


def _print(document, value, read, item):
    mark, _, zone = value.partition(":")
    return edits.placed(document, mark, printed=float(zone), read=read)


def _shift(document, value, read, item):
    """The placed zone moved, whatever it is held by: the setting by as much the other way."""
    zone = round(min(max(float(value), 0.0), 10.0), 4)
    return replace(document, placing=replace(document.placing, zone=zone))


def _school(document, value, read, item):
    return edits.with_school(document, value, None, read)


def _effects(document, value, read, item):
    changes = {name: float(by) for name, by in (pair.split(":") for pair in value.split(","))}
    return replace(document, setup=meansedits.setup_moved(document, changes))


def _bend(document, value, read, item):
    mark, _, stops = value.partition(":")
    return meansedits.with_bend(document, edits.require_tone(document, mark).name, float(stops))


def _let_go(document, value, read, item):
    tone = edits.require_tone(document, value)
    return edits.with_tone(document, replace(tone, texture="free"))


def _bracket(document, value, read, item):
    count, _, step = value.partition("x")
    return replace(document, bracket=BracketPart(int(count), round(float(step), 4)))


_EDITS = {
    "glass": _glass,
    "kit": _kit,
    "polarizer": _polarizer,
    "graduated": _graduated,
    "develop": _develop,
    "print": _print,
    "zone": _shift,
    "school": _school,
    "effects": _effects,
    "bend": _bend,
    "let-go": _let_go,
    "bracket": _bracket,
}
KINDS = tuple(_EDITS)


# --- in words ---------------------------------------------------------------------------------------------------------------


def change_words(document, code, placed=None):
    """What a code does, in words: "Orange and a polarizer".

    document: as it is before. placed: name of the tone that its plan is placed on, where the school found it.
    """
    if placed and document.placing.tone is None:
        document = replace(document, placing=replace(document.placing, tone=placed))
    said = [_WORDS[kind](document, value) for kind, _, value in (part.partition("=") for part in code.split(";"))]
    text = " and ".join(said)
    return text[:1].upper() + text[1:]


def _glass_words(document, value):
    if document.medium.mixes_channels:
        return "the plain in-camera mix" if value == "none" else f"in-camera {value}"
    coloured = [glass.name for glass in document.filters if meansedits.is_coloured(glass)]
    if value == "none":
        return "take the coloured filter off"
    return f"{value} in place of {' and '.join(coloured)}" if coloured else f"{_article(value)} {value} filter"


def _article(word):
    return "an" if word[:1] in "aeiou" else "a"


def _polarizer_words(document, value):
    if value == OFF:
        return "take the polarizer off"
    turned = f"turned back by {float(value):.0f}°" if float(value) else "at its deepest"
    is_on = any(glass.name == "polarizer" for glass in document.filters)
    return f"the polarizer {turned}" if is_on else f"a polarizer{'' if not float(value) else f' {turned}'}"


def _graduated_words(document, value):
    if value == OFF:
        return "take the graduated filter off"
    stops, _, edge = value.partition("@")
    at = f", its edge {float(edge) * 100:.0f} % from the top" if edge else " over the sky"
    return f"a graduated filter of {counted_stops(float(stops))}{at}"


def _tone_of(document, mark):
    tone = document.tone(mark)
    return tone.name if tone else mark


def _print_words(document, value):
    mark, _, zone = value.partition(":")
    return f"place {_tone_of(document, mark)} so that it prints on {format_zone(float(zone))}"


def _zone_words(document, value):
    name = document.placing.tone or MIDDLE_OF_ALL
    return f"place {name} on {format_zone(float(value))}"


def _effects_words(document, value):
    parts = (pair.split(":") for pair in value.split(","))
    return (
        ", ".join(f"{name} {_percent(float(by))} ({_DOES[name][float(by) > 0]})" for name, by in parts)
        + " in the setup"
    )


_DOES = dict(
    zip(
        TONE_EFFECTS,
        (
            ("softer", "harder"),
            ("light tones held back", "light tones lighter"),
            ("shadows opened", "shadows deeper"),
        ),
        strict=True,
    )
)
"""What a control does where it is lowered, and where it is raised."""


def _percent(by):
    return f"{'+' if by > 0 else '−'}{abs(by) * 100:.0f}"


def _bend_words(document, value):
    mark, _, stops = value.partition(":")
    way = "lighter" if float(stops) > 0 else "darker"
    return f"mix {_tone_of(document, mark)} {counted_stops(abs(float(stops)))} {way}"


_WORDS = {
    "glass": _glass_words,
    "kit": lambda document, value: f"{value} of the kit",
    "polarizer": _polarizer_words,
    "graduated": _graduated_words,
    "develop": lambda document, value: f"develop {format_development(int(value))}",
    "print": _print_words,
    "zone": _zone_words,
    "school": lambda document, value: f"place by “{SCHOOLS[value].name}”",
    "effects": _effects_words,
    "bend": _bend_words,
    "let-go": lambda document, value: f"let {_tone_of(document, value)} go on purpose",
    "bracket": lambda document, value: "bracket {} frames, {} apart".format(*_bracket_words(value)),
}


def _bracket_words(value):
    count, _, step = value.partition("x")
    return count, counted_stops(float(step))
