"""Which ground and which clothes part from skin and hair in a light, and what a filter does to skin, lips, freckles, veins and cloth.

Two tones part at one zone and merge below a third. Silent where nothing is asked. Source: HANDBOOK 20 and 8.
"""

import math
from dataclasses import dataclass

from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain, grey_of_colour
from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS, linear_of_hex
from dimgrey.core.lamps.reflectances import CLOTH, GROUND, of_kind
from dimgrey.core.lamps.subjects import BLEND, BRIGHT_EDGE

PARTS_FROM, MERGES_BELOW = 1.0, 1 / 3
RESPONSE, LIGHT = "general panchromatic", "D55"
FILTERS = tuple(CHANNEL_MIXES)
ON_SKIN = {"lips": "#a85f55", "freckles": "#a8714e", "veins": "#a39a8e"}
"""Colours on pale skin; on other skins they are taken as far from it as these are from pale skin."""
PALE = "#d8ab8c"


@dataclass(frozen=True)
class Choice:
    """One ground or cloth in the light that is there. zone: where it would fall. from_hair, from_other: zones from the hair before the ground, and
    from shoulder (of a ground) or skin (of a cloth). fits: it does what is wished. why: in words."""

    name: str
    zone: float
    from_hair: float
    from_other: float
    fits: bool
    why: str


def _apart_words(name, apart):
    if abs(apart) < MERGES_BELOW:
        return f"merges with {name}"
    side = "lighter" if apart > 0 else "darker"
    return f"{abs(apart):.1f} zones {side} than {name}" + ("" if abs(apart) >= PARTS_FROM else ", weak")


def _fits(wish, *apart):
    if wish == BLEND:
        return any(abs(each) < MERGES_BELOW for each in apart)
    return all(abs(each) >= PARTS_FROM for each in apart)


def _zone_of(lit, surface):
    """Where a surface falls in the light of a place. lit: places.Lit there."""
    return lit.zone + math.log2(surface.reflectance / lit.reflectance)


def grounds(found, wish):
    """Choice of each ground, those that do what is wished first, the least dark or light of them in front.

    found: places.Lit of each place of a sitter. wish: PART, BLEND or BRIGHT_EDGE. A bright edge needs a ground a zone below the edge of the hair.
    """
    by_name = {each.place.name: each for each in found}
    made = []
    for surface in of_kind(GROUND):
        pairs = []
        for side in ("right", "left"):
            ground = by_name.get(f"ground {side}")
            if ground:
                zone = _zone_of(ground, surface)
                pairs.append((zone, by_name[f"hair {side}"].zone - zone, by_name[f"shoulder {side}"].zone - zone))
        if not pairs:
            return ()
        # The side where it is nearest decides.
        zone, hair, shoulder = min(pairs, key=lambda pair: min(abs(pair[1]), abs(pair[2])))
        if wish == BRIGHT_EDGE:
            brightest = max(pairs, key=lambda pair: pair[1])
            zone, hair, shoulder = brightest
            fits = hair >= PARTS_FROM
        else:
            fits = _fits(wish, hair, shoulder)
        why = f"{_apart_words('the hair', -hair)}, {_apart_words('the shoulder', -shoulder)}"
        made.append(Choice(surface.name, zone, -hair, -shoulder, fits, why))
    return tuple(sorted(made, key=lambda each: (not each.fits, abs(each.zone - 4.5))))


def clothes(found, wish):
    """Choice of each cloth against the skin beside it and the ground behind it. found: places.Lit of each place of a sitter. wish: as in grounds."""
    by_name = {each.place.name: each for each in found}
    made = []
    for surface in of_kind(CLOTH):
        tried = []
        for side in ("right", "left"):
            if f"ground {side}" in by_name:
                zone = _zone_of(by_name[f"shoulder {side}"], surface)
                tried.append((zone, zone - by_name[f"ground {side}"].zone, zone - by_name[f"cheek {side}"].zone))
        if not tried:
            return ()
        zone, ground, skin = min(tried, key=lambda each: min(abs(each[1]), abs(each[2])))
        why = f"{_apart_words('the ground', ground)}, {_apart_words('the skin', skin)}"
        made.append(Choice(surface.name, zone, ground, skin, _fits(wish, ground, skin), why))
    return tuple(sorted(made, key=lambda each: (not each.fits, abs(each.zone - 4.5))))


def pattern_words(clothes_zone, skin_zone):
    """Whether a bold pattern or a plain cloth serves, in a sentence. clothes_zone, skin_zone: where both fall."""
    if abs(clothes_zone - skin_zone) < PARTS_FROM:
        return "Clothes and skin lie close: a bold pattern parts them, a plain cloth melts."
    if clothes_zone > skin_zone:
        return "The clothes are lighter than the skin: take them plain, a pattern would draw the eye from the face."
    return (
        "The clothes are darker than the skin: plain keeps the eye on the face, a bold pattern makes a graphic picture."
    )


@dataclass(frozen=True)
class ThroughFilter:
    """What a filter does. name: of FILTERS. skin, cloth: stops that each moves against the meter. apart: lips, freckles, veins -> zones from the skin."""

    name: str
    skin: float
    cloth: float
    apart: dict


def through_filters(skin, cloth):
    """ThroughFilter of each filter on common film in daylight. skin, cloth: reflectances.Surface.

    >>> from dimgrey.core.lamps.reflectances import SURFACES
    >>> rows = {row.name: row for row in through_filters(SURFACES["pale skin"], SURFACES["blue shirt"])}
    >>> rows["blue"].cloth > rows["red"].cloth, rows["blue"].apart["lips"] < rows["red"].apart["lips"]
    (True, True)
    """
    pale = linear_of_hex(PALE)
    on_skin = {
        name: tuple(s * c / p for s, c, p in zip(skin.colour, linear_of_hex(colour), pale, strict=True))
        for name, colour in ON_SKIN.items()
    }
    made = []
    for name in FILTERS:
        chain = glass_chain(RESPONSE, LIGHT, () if name == "none" else (name,))
        moved = lambda colour, chain=chain: math.log2(grey_of_colour(chain, colour) / _luminance(colour))
        grey = lambda colour, chain=chain: math.log2(grey_of_colour(chain, colour))
        apart = {each: grey(colour) - grey(skin.colour) for each, colour in on_skin.items()}
        made.append(ThroughFilter(name, moved(skin.colour), moved(cloth.colour), apart))
    return tuple(made)


def _luminance(colour):
    return sum(w * c for w, c in zip(LUMINANCE_WEIGHTS, colour, strict=True))
