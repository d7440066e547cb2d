"""Advice on the means, from plan and intent: at most three proposals, the strongest first, each with its reason.

Each says what it changes, so that it can be taken and undone. Source: HANDBOOK 6, 10.
"""

from dataclasses import dataclass, field, replace

from dimgrey.core.camera.setups import TONE_EFFECTS
from dimgrey.core.measure.stops import counted_stops
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.separation import colour_choices
from dimgrey.core.planning.wishes import LEAST_GAIN, MOST_WORSE_ZONES, score
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


def advice(result, scale="", balance=None, words=""):
    """Proposals for a Plan; each was tried on it, and none is made that takes a wish noticeably further away.

    scale: the wanted tone scale or "". balance: measures.Balance of the picture, or None. words: what is
    written of the scene, for skin and night.
    """
    made = [
        *_colour(result),
        *_range(result, scale),
        *_scale(result, scale, balance),
        *_shadows(result),
        *_subject(result, words.lower()),
    ]
    best = {}
    # The strongest of a kind stays; two of one kind would say the same thing twice.
    for proposal in sorted(made, key=lambda each: -each.strength):
        if _serves(result, proposal):
            best.setdefault(proposal.code, proposal)
    return tuple(best.values())[:MOST]


def _serves(result, proposal):
    """Whether a proposal of effects can be done here and does not work against what is wished or planned.

    Film has no menu, and a raw file prints without the setup; what would only be seen in an in-camera file is tried on it.
    """
    medium, effects = result.brief.medium, proposal.effects
    if not effects:
        return True
    if medium.is_film:
        return False
    moved = {name: effects.get(name, 0.0) for name in TONE_EFFECTS}
    if medium.kind != "digital file" or not any(moved.values()):
        return True
    tone = tuple(min(max(now + moved[name], -1.0), 1.0) for name, now in zip(TONE_EFFECTS, medium.tone, strict=True))
    before, after = score(result), score(plan(replace(result.brief, medium=medium.with_tone(tone))))
    worse = lambda wish, zones: (
        zones > (wish.missed_by({t.name: t.printed for t in result.tones}) or 0.0) + MOST_WORSE_ZONES
    )
    return after.value <= before.value + LEAST_GAIN and not any(worse(*each) for each in after.missed)


def _textured(result):
    return [tone for tone in result.tones if tone.needs_texture]


def _range(result, scale):
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
    # A silhouette and a soft or high-key picture are flat on purpose.
    meant = result.placement.school == "silhouette" or scale in ("soft", "high-key")
    if spread < 0.45 * room and result.brief.medium.kind != "film" and not meant:
        yield Proposal(
            "raise",
            "Raise contrast.",
            f"The light is flat: textured tones span {spread:.1f} of {room:.1f} zones.",
            0.5,
            effects={"contrast": 0.5},
        )


def _colour(result):
    """The filter or mix that is nearest to the wishes, where it is nearer than the present one by enough."""
    if len(result.tones) < 2:
        return
    found = colour_choices(result)
    now = next((choice for choice in found if choice.name == result.brief.colour_choice), None)
    best = next(
        (choice for choice in found if now and choice.score.is_better_than(now.score) and not choice.lost), None
    )
    served = best.score.serves(now.score) if best else ()
    if not served:
        return
    cost = f", {counted_stops(best.stops)}" if best.stops else ""
    before, after = (wish_missed(served[0], choice) for choice in (now, best))
    yield Proposal(
        "part",
        "Take the filter off." if best.name == "none" else f"Use {best.name}{cost}.",
        f"It serves {served[0].words}: missed by {before:.1f} zones now, then by {after:.1f}.",
        min(0.6 + (now.score.value - best.score.value) / 8, 0.95),
        choice=best.name,
    )


def wish_missed(wish, choice):
    """Zones that a Wish is missed by through a ColourChoice."""
    return wish.missed_by(choice.standing) or 0.0


def _scale(result, scale, balance):
    if not scale or balance is None:
        return
    black, dark, middle, light, white = balance.shares
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
    if scale == "soft" and balance.soft_share < 0.9:
        yield Proposal(
            "scale",
            "Lower contrast.",
            f"Soft wants 90 % between III½ and VII½; there are {balance.soft_share * 100:.0f} %.",
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


NIGHT_WORDS = ("night", "lantern", "firing")


def _subject(result, words):
    """What the subject asks of the surface of an in-camera file."""
    if any(tone.role == "skin" for tone in result.tones):
        yield Proposal(
            "skin",
            "Keep sharpening low.",
            "Skin shows every pore; sharpening can be added later and never taken away.",
            0.25,
            effects={"sharpening": -0.5},
        )
    burnt = [tone for tone in _textured(result) if tone.texture == "lost" and tone.held > result.brief.medium.outer[1]]
    if burnt and mentions(words, NIGHT_WORDS):
        yield Proposal(
            "night",
            "Lower highlights.",
            f"{burnt[0].name[:1].upper()}{burnt[0].name[1:]} burns out, as lamps do first at night.",
            0.45,
            effects={"highlights": -0.5},
        )
