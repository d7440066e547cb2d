"""Names for a tone that was just sighted, from its colour, its brightness and where it lies in the picture.

A convenience, not a recognition: rules of thumb on hue, chroma and place, the likeliest first.
"""

import colorsys
from dataclasses import dataclass

from dimgrey.core.sky.daylight import mentions

INDOOR_WORDS = ("window", "room", "lamp", "interior", "indoor", "inside")


@dataclass(frozen=True)
class Suggestion:
    """A name for a tone, and the role that usually goes with it."""

    name: str
    role: str


def suggestions(colour, stops, height_fraction, light="D55", light_note="", taken=()):
    """Up to five names with their roles for a tone.

    light, light_note: of the scene. colour: linear sRGB. stops: from middle grey of the scene. height_fraction: 0 at the top of the picture, 1 at the
    bottom. taken: names already used, which are left out. Returns a tuple of Suggestion, never empty.
    """
    indoors = light == "A" or mentions(light_note, INDOOR_WORDS)
    peak = max(max(colour), 1e-9)
    hue, saturation, _ = colorsys.rgb_to_hsv(*(max(c, 0) / peak for c in colour))
    found = _by_place(hue * 360, saturation, stops, height_fraction, indoors)
    free = tuple(s for s in found if s.name not in taken)[:5]
    if free:
        return free
    number = next(k for k in range(1, 1000) if f"tone {k}" not in taken)
    return (Suggestion(f"tone {number}", "other"),)


def _by_place(hue, saturation, stops, height, indoors):
    names = []
    if stops < -5:
        names += [("black opening", "other"), ("deep shadow", "shadow")]
    elif stops < -2.5:
        names += [("shadow with texture", "shadow"), ("dark corner", "shadow"), ("dark trees", "background")]
    if stops > 3.5:
        names += (
            [("bare light", "other"), ("window", "other"), ("fire", "other")]
            if indoors
            else [("glare", "other"), ("bright cloud", "highlight")]
        )
    if saturation < 0.35:
        names += _neutrals(stops, height, indoors)
    elif 185 <= hue <= 265:
        names += [("blue sky", "sky")] if height < 0.45 and not indoors else []
        names += [("shade", "shadow"), ("blue door", "subject"), ("blue cloth", "subject"), ("water", "background")]
    elif 65 <= hue < 185:
        names += [("leaves", "background"), ("grass", "background"), ("ivy", "background"), ("green paint", "subject")]
    elif hue < 65 or hue > 320:
        skin = [("skin", "skin")] if -0.5 < stops < 2 and saturation < 0.7 else []
        names += [
            ("brick", "subject"),
            *skin,
            ("clay", "subject"),
            ("wood", "subject"),
            ("lamp-lit wall", "background"),
        ]
    if not names:
        names += [("middle tone", "other")]
    return [Suggestion(*pair) for pair in dict(names).items()]


def _neutrals(stops, height, indoors):
    if stops > 1:
        top = [] if indoors or height > 0.5 else [("cloud", "highlight")]
        return [
            *top,
            ("white wall", "highlight"),
            ("white ware", "highlight"),
            ("snow", "highlight"),
            ("linen", "highlight"),
        ]
    if stops > -1.5:
        return [
            ("stone", "subject"),
            ("path", "other"),
            ("weathered wood", "other"),
            ("grey card", "other"),
            ("mist", "background"),
        ]
    return [("slate", "background"), ("shade", "shadow"), ("dark cloth", "shadow"), ("iron", "subject")]
