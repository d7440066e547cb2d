"""Advice on the means, from plan and intent: at most three proposals, the strongest first, each with its reason.

Each says what it changes, so that it can be taken and undone. Source: HANDBOOK 6, 10.
"""

from dataclasses import dataclass, field, replace

from dimgrey.core.picture.measures import balance
from dimgrey.core.planning.separation import MERGE, colour_choices
from dimgrey.core.sky.daylight import mentions

MOST = 3


@dataclass(frozen=True)
class Proposal:
    """code, what to do, why, how strong (0..1), and what it changes: "choice" a filter or mix, "effects" of a setup."""

    code: str
    text: str
    reason: str
    strength: float
    choice: str = ""
    effects: dict = field(default_factory=dict)


def advice(result, scale="", zones=None, words=""):
    """Proposals for a Plan.

    scale: the wanted tone scale or "". zones: of the picture's pixels, to judge the balance, or None. words: what is
    written of the scene, for portrait, foliage, architecture and night.
    """
    made = [
        *_range(result),
        *_merging(result),
        *_scale(result, scale, zones),
        *_shadows(result),
        *_subject(result, words.lower()),
    ]
    if result.brief.medium.is_film:  # film has no menu: what a setup would do is done in development and on paper
        made = [
            replace(each, effects={}, reason=f"{each.reason} On film: by development and paper.")
            if each.effects
            else each
            for each in made
        ]
    best = {}
    # The strongest of a kind stays; two of one kind would say the same thing twice.
    for proposal in sorted(made, key=lambda each: -each.strength):
        best.setdefault(proposal.code, proposal)
    return tuple(best.values())[:MOST]


def _textured(result):
    return [tone for tone in result.tones if tone.needs_texture]


def _range(result):
    tones = _textured(result)
    if len(tones) < 2:
        return
    low, high = result.brief.medium.dependable
    seen = [tone.held for tone in tones]
    spread, room = max(seen) - min(seen), high - low
    over = max(max(seen) - high, low - min(seen))
    # A fifth of a zone is less than a menu step changes.
    if over > 0.2 and result.brief.medium.kind == "digital file":
        which = "highlights" if max(seen) - high >= low - min(seen) else "shadows"
        yield Proposal(
            "soften",
            f"Lower {which} first, then contrast.",
            f"The textured tones reach {over:.1f} zones past what the file holds.",
            min(0.5 + over / 4, 1.0),
            effects={which: -0.5, "contrast": -0.25},
        )
    if spread < 0.45 * room and result.brief.medium.kind != "film":
        yield Proposal(
            "raise",
            "Raise contrast.",
            f"The light is flat: textured tones span {spread:.1f} of {room:.1f} zones.",
            0.5,
            effects={"contrast": 0.5},
        )


def _merging(result):
    if len(result.tones) < 2:
        return
    found = colour_choices(result)
    now = _current(found, result)
    if now is None:
        return
    merging = [k for k, parted in enumerate(now.parted) if abs(parted.zones_apart) < MERGE]
    if not merging:
        return
    for choice in found:
        if (
            choice.name != now.name
            # Twice the merging limit: advice that only just parts would not be seen on the print.
            and all(abs(choice.parted[k].zones_apart) > 2 * MERGE for k in merging)
            and not choice.lost
        ):
            pair = now.parted[merging[0]].pair
            cost = f", {choice.stops:.1f} stops" if choice.stops else ""
            yield Proposal(
                "part",
                f"Use {choice.name}{cost}.",
                f"{pair.a} and {pair.b} merge; {choice.name} brings them {abs(choice.parted[merging[0]].zones_apart):.1f} zones apart.",
                0.9,
                choice=choice.name,
            )
            return


def _current(found, result):
    return next((choice for choice in found if choice.name == result.brief.colour_choice), None)


def _scale(result, scale, zones):
    if not scale or zones is None:
        return
    black, dark, middle, light, white = balance(zones).shares
    if scale == "graphic" and middle > 0.25:
        yield Proposal(
            "scale",
            "Raise contrast, deepen shadows.",
            f"Graphic wants at most 25 % middle greys; there are {middle * 100:.0f} %.",
            0.6,
            effects={"contrast": 0.75, "shadows": 0.5},
        )
    if scale == "high-key" and light + white < 0.6:
        yield Proposal(
            "scale",
            "Lower the shadows' slope, and place the light tones higher.",
            f"High-key wants 60 % light; there are {(light + white) * 100:.0f} %.",
            0.55,
            effects={"shadows": -0.75, "contrast": -0.25},
        )
    if scale == "low-key" and black + dark < 0.6:
        yield Proposal(
            "scale",
            "Deepen shadows, and place them lower.",
            f"Low-key wants 60 % dark; there are {(black + dark) * 100:.0f} %.",
            0.55,
            effects={"shadows": 0.75},
        )
    if scale == "soft" and balance(zones).soft_share < 0.9:
        yield Proposal(
            "scale",
            "Lower contrast.",
            f"Soft wants 90 % between III½ and VII½; there are {balance(zones).soft_share * 100:.0f} %.",
            0.6,
            effects={"contrast": -0.75},
        )
    if scale == "full scale" and min(black, white) < 0.02:
        yield Proposal(
            "scale",
            "Raise contrast until both ends are reached.",
            f"Full scale wants black and white; there are {black * 100:.0f} % and {white * 100:.0f} %.",
            0.45,
            effects={"contrast": 0.5},
        )


def _shadows(result):
    deep = [tone for tone in result.tones if tone.printed < 1.5 and not tone.needs_texture]
    if deep and result.brief.medium.kind.startswith("digital"):
        yield Proposal(
            "grain",
            "Add a little grain.",
            f"{deep[0].name[:1].upper()}{deep[0].name[1:]} is a smooth black; grain gives it some life.",
            0.2,
            effects={"grain": 0.4},
        )


_SUBJECTS = (
    (
        "portrait",
        ("portrait", "skin", "face", "freckles"),
        "Use green or yellow-green glass for weathered skin, orange or none to smooth it.",
        "Skin: red light hides freckles and pales lips; green brings both out.",
        {"sharpening": -0.5, "clarity": -0.25},
    ),
    (
        "foliage",
        ("wood", "foliage", "ivy", "leaves", "meadow"),
        "Try yellow-green: leaves rise half a zone against bark and sky.",
        "Foliage is greener than it is bright.",
        {},
    ),
    (
        "architecture",
        ("facade", "kiln", "brick", "tower", "hall"),
        "Side light and some clarity bring out courses and joints.",
        "Texture of built things lives from coarse contrast.",
        {"clarity": 0.4},
    ),
    (
        "night",
        ("night", "lantern", "firing"),
        "Keep shadows empty, lower highlights.",
        "Lamps burn out first at night.",
        {"highlights": -0.5},
    ),
)


def _subject(result, words):
    skin = any(tone.role == "skin" for tone in result.tones)
    for code, keys, text, reason, effects in _SUBJECTS:
        if (code == "portrait" and skin) or mentions(words, keys):
            yield Proposal(code, text, reason, 0.25, effects=effects)
