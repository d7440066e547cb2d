"""What the scene is taken with, by hand: medium, speed, light, lens and meter."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import As, Number, OneOf, Text, YesNo, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.colour.chain import CHANNEL_MIXES, LIGHT_NAMES
from dimgrey.core.colour.responses import OF_MEDIA
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.means import DEFAULT_SPOT_DEG, MOST_OFFSET_STOPS, MediumPart, ReciprocityPart
from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.measure.notation import parse_speed, parse_stops
from dimgrey.core.measure.stops import INCREMENT_WORDS
from dimgrey.core.planning.media import KINDS


def _offset(text):
    offset = parse_stops(text, "calibration")
    if abs(offset) > MOST_OFFSET_STOPS:
        most = MOST_OFFSET_STOPS
        raise OutOfRange(
            f"A meter's calibration offset is −{most:g} to {most:g} stops (got {offset:g}).", code="offset"
        )
    return offset


@dataclass(frozen=True, kw_only=True)
class Keys:
    kind: str = needed(OneOf(KINDS), "Medium")
    iso: str = given(Text(12), "", "ISO")
    increment: str = needed(OneOf(INCREMENT_WORDS), "Camera steps")
    light: str = needed(OneOf(LIGHT_NAMES), "Light")
    light_note: str = given(Text(120), "", "In words", "sun, haze, lamp")
    own_iso: str = given(Text(12), "", "Film's own ISO, if rated otherwise", "as rated")
    response: str | None = given(OneOf(OF_MEDIA, unsaid="colour sensor"), None, "Sees like")
    channel_mix: str = given(OneOf(tuple(CHANNEL_MIXES)), "none", "In-camera filter")
    focal_35mm: float | None = given(Number(4, 2000), None, "Lens, mm in 35 mm terms", "50")
    spot_deg: float | None = given(Number(0.1, 30), None, "Spot, degrees", "1 (default)")
    magnification: float | None = given(Number(0, 20), None, "Magnification close up", "0")
    calibration: float | None = given(As(_offset), None, "Meter offset, stops", "0")
    reciprocity: float | None = given(Number(1, 2), None, "Reciprocity exponent", "not known")
    through_filter: bool = given(YesNo(), False, "Metered through the filter")


def _speed(said, name):
    """The marked speed of a key as its name, "" for none. Raises CoreError at that key."""
    text = getattr(said, name)
    try:
        return parse_speed(text, said.increment).name if text or name == "iso" else ""
    except CoreError as refused:
        refused.parameter = name
        raise


def _edit(document, said, case):
    meter = replace(
        document.meter,
        spot_deg=said.spot_deg or DEFAULT_SPOT_DEG,
        calibration_stops=said.calibration or 0.0,
        through_filter=said.through_filter,
    )
    lens = replace(document.lens, focal_35mm=said.focal_35mm, magnification=said.magnification or 0.0)
    made = document.with_(
        medium=_medium(document.medium, said),
        increment=said.increment,
        light=said.light,
        light_note=said.light_note,
        lens=lens,
        meter=meter,
    )
    return rescaled(made, case.facts)


def _medium(before, said):
    """The MediumPart that is meant; numbers that are not said stay as they were."""
    iso, own = _speed(said, "iso"), _speed(said, "own_iso")
    kept = before if before.kind == said.kind else MediumPart(kind=said.kind)
    film, negative = kept.is_film, kept.kind == "film"
    mixes = not film and not said.response
    mix = said.channel_mix if mixes and said.channel_mix != "none" else None
    if mixes and isinstance(kept.channel_mix, tuple) and said.channel_mix == "none":
        mix = kept.channel_mix  # measured weights, which the key has no name for
    reciprocity = kept.reciprocity
    if not (reciprocity and reciprocity.table):
        reciprocity = ReciprocityPart(said.reciprocity) if film and said.reciprocity else None
    return replace(
        kept,
        iso=int(iso),
        response=said.response,
        channel_mix=mix,
        reciprocity=reciprocity,
        developed=before.developed if negative else None,
        by_sheet=before.by_sheet and negative,
        own_iso=int(own) if negative and own and own != iso else None,
    )


VERB = Verb("camera", "Say what the scene is taken with", _edit, Keys, "camera and medium")
