"""Where photographing can hurt someone: short cautions, each shown where its danger arises and only there.

Source: HANDBOOK 14. They are reminders of usual practice, never advice on law; each defers to local rules.
"""

import re
from dataclasses import dataclass

CLOSING = "Local rules and qualified people decide."


@dataclass(frozen=True)
class Danger:
    code: str
    text: str


@dataclass(frozen=True)
class Situation:
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
    "weather": "Wind or rain ahead: weigh the tripod down, keep warm and dry, turn back early when you are alone.",
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
WINDY_M_S = 9.0


def dangers(situation):
    """The dangers of a situation, the gravest first; () when nothing speaks for one."""
    words = situation.words
    arising = {
        "sun": bool(situation.sun),
        "water": situation.tidal or bool(_PATTERNS["water"].search(words)),
        "night": situation.night,
        "roads": bool(_PATTERNS["roads"].search(words)),
        "heat": bool(_PATTERNS["heat"].search(words)),
        "weather": situation.wind_m_s >= WINDY_M_S or situation.rain,
        "people": bool(_PATTERNS["people"].search(words)),
        "permits": bool(_PATTERNS["permits"].search(words)),
        "chemicals": bool(_PATTERNS["chemicals"].search(words)),
        "mains": bool(_PATTERNS["mains"].search(words)),
    }
    return tuple(Danger(code, TEXTS[code]) for code, holds in arising.items() if holds)
