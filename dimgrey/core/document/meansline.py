"""The means of a picture as one account, in words: what stands on the sheet and the card, on a frame and in the log."""

from dataclasses import dataclass

from dimgrey.core.colour.filters import GREY
from dimgrey.core.colour.ownmix import hue_name
from dimgrey.core.document.lightplan import lamps_line
from dimgrey.core.document.tonebriefing import school_of
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.shapes.declare import Shaped, key, known_keys, text

COLUMN = text(300)


def glass_names(document):
    """Everything on the lens, in words, in its order."""
    return tuple(_glass(glass) for glass in document.filters)


def _glass(glass):
    if glass.name not in GREY:
        return glass.name
    usual = GREY[glass.name].usual_stops
    return GREY[glass.name].words.format(stops=format_stops((usual if glass.stops is None else glass.stops) or 0))


def mix_points(points):
    """Points of an own mix in words: "red −1, blue +½"."""
    return ", ".join(
        f"{hue_name(hue)} {format_stops(stops, signed=True)}" for hue, stops in points if abs(stops) > 0.05
    )


def mix_words(document):
    """What a colour sensor makes its grey with, "" for its own plain mix and for film."""
    medium, setup = document.medium, document.setup_in_use
    if not medium.mixes_channels:
        return ""
    mix = medium.channel_mix or (setup.filter if setup else "none")
    if medium.own_mix and medium.kind == "digital raw":
        return f"own mix over {'the plain mix' if mix == 'none' else mix}: {mix_points(medium.own_mix)}"
    if isinstance(mix, str):
        return "" if mix == "none" else f"in-camera {mix}"
    return f"own mix {' '.join(f'{weight:.2f}' for weight in mix)}"


def means_line(document, development=None):
    """Camera, lens, film and rating, glass, mix, setup and its version, file, development, bracket, support, in one line.

    development: that of the plan, "N-1", or None.
    """
    medium, kit, lens, setup = document.medium, document.kit, document.lens, document.setup_in_use
    focal = lens.focal_35mm or lens.focal_mm
    rated = f"ISO {medium.iso}" if medium.own_iso is None else f"ISO {medium.own_iso} rated {medium.iso}"
    said = [
        kit.camera or document.camera.name,
        kit.lens or (f"{focal:g} mm" if focal else ""),
        f"{kit.film or medium.name or medium.kind} {rated}",
        *glass_names(document),
        mix_words(document),
    ]
    if setup:
        version = f" version {setup.revision}" if setup.revision else ""
        said.append(f"setup {setup.name}{version}")
        said.append("raw and in-camera file" if setup.file == "both" else f"{setup.file} file")
    if development:
        said.append(f"develop {development}")
    if document.bracket:
        said.append(f"bracket of {document.bracket.count}, {counted_stops(document.bracket.step)} apart")
    lamps = lamps_line(document)
    said.append(f"lamps: {lamps}" if lamps else "")
    said.append({"tripod": "tripod", "hand": "by hand"}.get(document.needs.support, ""))
    return ", ".join(filter(None, said))


@dataclass(frozen=True)
class MadeWith(Shaped):
    """What a picture was made with, by columns; "" for what was not said. The film of a digital camera is "". light: as the scene
    was planned for it."""

    camera: str = key(COLUMN, "")
    lens: str = key(COLUMN, "")
    film: str = key(COLUMN, "")
    filter: str = key(COLUMN, "")
    meter: str = key(COLUMN, "")
    setup: str = key(COLUMN, "")
    development: str = key(COLUMN, "")
    light: str = key(COLUMN, "")
    school: str = key(COLUMN, "")


COLUMNS = tuple(each.name for each in known_keys(MadeWith))
"""Names of them, in the order of the log."""


def film_of(document):
    """Name of the film, its kind where it has none; "" for a digital camera."""
    medium = document.medium
    return (document.kit.film or medium.name or medium.kind) if medium.is_film else ""


def made_with(document):
    """MadeWith of a Document; how its film is developed is the plan's to say."""
    kit, setup, lens = document.kit, document.setup_in_use, document.lens
    focal = lens.focal_mm or lens.focal_35mm
    glass = [*glass_names(document), *filter(None, [mix_words(document)])]
    return MadeWith(
        camera=kit.camera or document.camera.name,
        lens=kit.lens or (f"{focal:g} mm" if focal else ""),
        film=film_of(document),
        filter=" + ".join(glass) or "none",
        meter=kit.meter or document.meter.name,
        setup=setup.name if setup else "",
        light=document.light_note,
        school=school_of(document),
    )


def filter_line(document, result):
    """The filters in use, on the lens and in the camera, and what they cost in stops; "None" without any.

    document: Document. result: its Plan, or None before one.
    """
    names = [*glass_names(document), *filter(None, [mix_words(document)])]
    if not names:
        return "None"
    line = " + ".join(names)
    return f"{line}: {counted_stops(result.filter_cost.stops)}" if result and document.filters else line
