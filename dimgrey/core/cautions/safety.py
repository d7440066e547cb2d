"""Where photographing can hurt someone: short cautions, each shown where its danger arises and only there.

Source: HANDBOOK 14. They are reminders of usual practice, never advice on law; each defers to local rules.
"""

import re
from dataclasses import dataclass

from dimgrey.core.cautions.registry import caution, raised, rule

CLOSING = "Local rules and qualified people decide."


@dataclass(frozen=True)
class Circumstances:
    """What is known of an outing. words: everything written about it. sun: "frame", "near long lens" or "".

    night: somebody works after dark. tidal: the place has a tide. wind_m_s, rain: the worst hour planned.
    """

    words: str = ""
    sun: str = ""
    night: bool = False
    tidal: bool = False
    wind_m_s: float = 0.0
    rain: bool = False


TEXTS = {
    "sun": "The sun will be in a frame or near it: never look at it through an optical finder or a long lens, and keep it off "
    "the sensor while you wait.",
    "water": "Water and tide: know the times, keep a way back, do not turn your back to the sea, stay off cliff edges.",
    "night": "Working after dark: walk the ground in daylight first, carry a light and a spare, tell someone where you are "
    "and until when.",
    "roads": "Roads, rails and quarries: keep off tracks and carriageways, wear something bright, go where you are allowed.",
    "heat": "Kilns, furnaces and hot lamps: keep the distance that the people who run them name; hot air and sparks "
    "reach further than the glow.",
    "weather": "Strong wind or rain ahead: tie down what can fly, keep warm and dry, turn back early when you are alone.",
    "people": "People in the picture: ask where you can; privacy and the law of the place differ.",
    "permits": "Tripods, private sites and aircraft often need a permit.",
    "chemicals": "Darkroom chemicals: gloves, air, and the maker's data sheet.",
    "mains": "Hot lamps and mains cables: keep them dry, taped down and away from feet.",
}
_WORDS = {
    "water": r"sea|tide|tidal|shore|beach|cliff|harbour|river|canal|weir|pier|quay|coast",
    "roads": r"road|street|rail|rails|railway|track|tram|quarry|siding|level crossing",
    "heat": r"kiln|furnace|firing|fire|forge|foundry|bonfire",
    "people": r"portrait|figure|people|worker|potter|child|children|crowd|market",
    "permits": r"works|factory|private|drone|aircraft|museum|church|permit",
    "chemicals": r"developer|fixer|darkroom|toner|selenium",
    "mains": r"studio|hot lamp|lamps|floodlight|mains",
}
_PATTERNS = {code: re.compile(rf"\b(?:{words})\b", re.IGNORECASE) for code, words in _WORDS.items()}
STRONG_WIND_M_S = 9.0
"""Wind that is a danger to people; what moves a tripod is said by steadiness."""


def dangers(circumstances):
    """Cautions of an outing, the gravest first; () when nothing speaks for one."""
    return raised("safety", circumstances)


def _named(code, circumstances):
    return bool(_PATTERNS[code].search(circumstances.words))


@rule("safety", {"sun": "the sun is in a frame or near a long lens"}, grave=True)
def _sun(given):
    if given.sun:
        yield caution("sun", TEXTS["sun"])


@rule("safety", {"water": "the place has a tide, or water is named"}, grave=True)
def _water(given):
    if given.tidal or _named("water", given):
        yield caution("water", TEXTS["water"])


@rule("safety", {"night": "somebody works after dark"}, grave=True)
def _night(given):
    if given.night:
        yield caution("night", TEXTS["night"])


@rule(
    "safety",
    {"roads": "roads, rails or quarries are named", "heat": "kilns, furnaces or fire are named"},
    grave=True,
)
def _ground(given):
    for code in ("roads", "heat"):
        if _named(code, given):
            yield caution(code, TEXTS[code])


@rule("safety", {"weather": "wind of 9 m/s or rain is ahead"}, grave=True)
def _weather(given):
    if given.wind_m_s >= STRONG_WIND_M_S or given.rain:
        yield caution("weather", TEXTS["weather"])


@rule(
    "safety",
    {
        "people": "people are named",
        "permits": "a works, a private site or an aircraft is named",
        "chemicals": "darkroom work is named",
        "mains": "hot lamps or cables are named",
    },
)
def _words(given):
    for code in ("people", "permits", "chemicals", "mains"):
        if _named(code, given):
            yield caution(code, TEXTS[code])
