"""The drills: each makes one question from what a generator draws, and its answer by the same rules as the desk.

No drill asks what cannot be told: options lie at least a third of a zone apart. Source: HANDBOOK 4, 6, 8, 9, 15.
"""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import combinations
from typing import NamedTuple

from dimgrey.core.measure.exposure import marked_aperture, marked_time
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.measure.surfaces import SURFACES
from dimgrey.core.planning.media import DEPENDABLE
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.zones import ZONES, format_tone
from dimgrey.core.practice.colourdrills import colour_of_grey, merging_pair, order_of_five, parting_filter
from dimgrey.core.practice.question import LEAST_APART, STEPS, Question, grey_hex, one_of, spread_options, stops_words
from dimgrey.core.sky.horizon import deepest_turns_deg

EVEN = "nowhere: it is even"
SUN_HEIGHTS = (10, 40, 50, 60)
"""Where the direction that is deepest is deeper by a third of a stop than those that are called wrong."""
COMPASS = (("north", 0), ("east", 90), ("south", 180), ("west", 270))


@dataclass(frozen=True)
class Material:
    """A picture to ask about. key: how pages find it. tones: (name, (x, y), print as a zone) of its pins. range_stops: between its ends, None when
    not known. bars: shares of its eleven zones."""

    key: str
    title: str
    tones: tuple = ()
    range_stops: float | None = None
    bars: tuple = ()


def _near(zone):
    """What usually lies on a zone."""
    return ZONES[min(max(round(zone), 0), 10)].holds


def zone_of_patch(rng, level, material=()):
    """Name the zone of a grey patch. rng: random.Random. level: 0..4. material: Material of each picture, not used."""
    zone = rng.randrange(1, 10) + rng.choice((0, 0, 1 / 3, 2 / 3) if level > 2 else (0,))
    zone = min(zone, 9.0)
    options = spread_options(zone, STEPS[level], 0, 10, 4, format_tone, rng)
    why = f"Its grey is {format_tone(zone)}: {_near(zone)}."
    return Question(
        "patch",
        f"patch:{zone:.2f}",
        "Which zone is this grey?",
        options,
        why,
        f"zone {format_tone(round(zone))}",
        (grey_hex(zone),),
        in_stops=True,
    )


def zone_of_pin(rng, level, material=()):
    """Name the zone of a pinned tone in a picture, or None without one. rng: random.Random. level: 0..4. material: Material of each picture."""
    asked = [(each, tone) for each in material for tone in each.tones if 0.5 <= tone[2] <= 9.5]
    if not asked:
        return None
    shown, (name, at, zone) = rng.choice(asked)
    zone = round(zone * 3) / 3
    options = spread_options(zone, STEPS[level], 0, 10, 4, format_tone, rng)
    why = f"{name} prints on {format_tone(zone)} in “{shown.title}”."
    return Question(
        "pin",
        f"pin:{shown.key}:{name}",
        "On which zone does the marked tone print?",
        options,
        why,
        name,
        picture=shown.key,
        at=at,
        in_stops=True,
    )


def compensation(rng, level, material=(), surfaces=SURFACES):
    """Say the compensation for a surface under the spot. rng: random.Random. level: 0..4. surfaces: Surface of each to ask about. material: not used."""
    surface = rng.choice([each for each in surfaces if abs(each.compensation_stops) < 4])
    right = round(surface.compensation_stops * 3) / 3
    options = spread_options(right, STEPS[min(level, 3)], -4, 4, 4, stops_words, rng)
    why = f"{surface.name.capitalize()} usually goes on {format_tone(surface.zone)}; the meter makes it V, so {stops_words(right)}."
    return Question(
        "compensation",
        f"compensation:{surface.name}",
        f"The spot is on {surface.name}. Which compensation?",
        options,
        why,
        surface.name,
        in_stops=True,
    )


def deepest_sky(rng, level, material=()):
    """In which direction is a clear sky deepest? rng: random.Random. level: 0..4. material: not used."""
    name, azimuth = rng.choice(COMPASS)
    altitude = rng.choice(SUN_HEIGHTS)
    away = lambda turn: min(COMPASS, key=lambda each: abs((each[1] - azimuth - turn + 180) % 360 - 180))[0]
    turns = deepest_turns_deg(altitude)
    if len(turns) > 1:  # the sun is low, and the sky opposite it hardly paler: only its own side is plainly wrong
        right, wrong = f"{away(90)} or {away(270)}", [name, EVEN]
    else:
        right, wrong = away(180), [name, away(rng.choice((90, 270)))]
    where = "on either side of it" if len(turns) > 1 else "opposite it"
    why = (
        f"A clear sky is deepest about 90° from the sun, {where} when it stands {altitude}° high, and palest before it."
    )
    return Question(
        "sky",
        f"sky:{name}:{altitude}",
        f"Clear sky, the sun {altitude}° high in the {name}. Where is the sky deepest?",
        one_of(right, wrong, rng),
        why,
        "sky",
    )


def equal_exposure(rng, level, material=()):
    """Which time gives the same exposure at another aperture? rng: random.Random. level: 0..4. material: not used."""
    divisor = 1 if level < 2 else 3
    k, n = rng.randrange(4, 10), rng.randrange(4, 9)
    moved = rng.choice([m for m in range(-3 * divisor, 3 * divisor + 1) if m and 2 <= n + m / divisor <= 10]) / divisor
    time, aperture = marked_time(2.0**-k), marked_aperture(2.0 ** (n / 2))
    other = marked_aperture(2.0 ** ((n + moved) / 2))
    words = lambda stops: format_time(marked_time(2.0 ** (-k + stops)))
    options = spread_options(moved, max(STEPS[min(level, 2)] / 2, 1 / divisor), -8, 8, 4, words, rng)
    way = "longer" if moved > 0 else "shorter"
    why = f"From {format_aperture(aperture)} to {format_aperture(other)} is {stops_words(moved)} stop, so the time gets as much {way}."
    ask = f"{format_time(time)} at {format_aperture(aperture)} is right. Which time at {format_aperture(other)}?"
    return Question("exposure", f"exposure:{k}:{n}:{moved:.2f}", ask, options, why, "exposure", in_stops=True)


def lost_end(rng, level, material=()):
    """Which end is lost at this setting? rng: random.Random. level: 0..4. material: not used."""
    kind = rng.choice(("film", "digital file", "slide"))
    low, high = DEPENDABLE[kind]
    margin = max(STEPS[level] / 2, LEAST_APART)
    case = rng.choice(("shadows", "highlights", "both", "neither"))
    dark = low - margin if case in ("shadows", "both") else low + margin
    light = high + margin if case in ("highlights", "both") else high - margin
    words = {"film": "negative film", "digital file": "an in-camera file", "slide": "slide film"}[kind]
    ask = f"On {words}: the darkest tone falls on {format_tone(dark)}, the brightest on {format_tone(light)}. Which end loses its texture?"
    why = f"{words.capitalize()} keeps dependable texture from {format_tone(low)} to {format_tone(high)}."
    right = {"shadows": "the shadows", "highlights": "the highlights", "both": "both", "neither": "neither"}
    return Question(
        "ends",
        f"ends:{kind}:{case}",
        ask,
        one_of(right[case], [w for c, w in right.items() if c != case], rng),
        why,
        kind,
    )


def spot_on(rng, level, material=()):
    """Where does the spot go? rng: random.Random. level: 0..4. material: not used."""
    cases = {
        "negative film, everything shall keep texture": ("shadow", "the darkest tone that needs texture"),
        "an in-camera file, a white wall in the sun": ("highlight", "the brightest tone that needs texture"),
        "a figure as a black shape before a bright sky": ("silhouette", "the sky behind it"),
        "slide film, clouds matter": ("highlight", "the brightest tone that needs texture"),
        "you know one grey in the same light": ("known tone", "the tone you know"),
    }
    case = rng.choice(sorted(cases))
    school, right = cases[case]
    wrong = rng.sample(sorted({words for _, words in cases.values()} - {right}), 2)
    return Question(
        "spot",
        f"spot:{case}",
        f"{case.capitalize()}. Where does the spot go?",
        one_of(right, wrong, rng),
        SCHOOLS[school].reason,
        school,
    )


def guess_range(rng, level, material=()):
    """How many stops does a scene span? None without a picture that knows. rng: random.Random. level: 0..4. material: Material of each picture."""
    known = [each for each in material if each.range_stops and 2 <= each.range_stops <= 14]
    if not known:
        return None
    shown = rng.choice(known)
    right = round(shown.range_stops)
    step = 3 if level < 2 else 2 if level < 4 else 1
    options = spread_options(right, step, 1, 16, 4, lambda stops: f"{stops:.0f} stops", rng)
    why = f"“{shown.title}” spans {shown.range_stops:.1f} stops between its darkest and lightest half per cent."
    return Question(
        "range",
        f"range:{shown.key}",
        "How many stops does this scene span?",
        options,
        why,
        "range",
        picture=shown.key,
        in_stops=True,
    )


def read_histogram(rng, level, material=()):
    """Which picture has this profile? None with fewer than three. rng: random.Random. level: 0..4. material: Material of each picture."""
    known = [each for each in material if each.bars]
    if len(known) < 3:
        return None
    for _ in range(20):
        chosen = rng.sample(known, 3)
        apart = min(
            sum(abs(a - b) for a, b in zip(one.bars, two.bars, strict=True)) for one, two in combinations(chosen, 2)
        )
        if apart > 0.5:
            break
    else:
        return None
    right = chosen[0]
    most = max(range(11), key=lambda zone: right.bars[zone])
    why = f"“{right.title}” has most of its area on {format_tone(most)}."
    return Question(
        "histogram",
        f"histogram:{right.key}",
        "Which picture has this profile of tones?",
        one_of(right.title, [each.title for each in chosen[1:]], rng),
        why,
        "histogram",
        bars=right.bars,
    )


class Drill(NamedTuple):
    """name: for people. make: (rng, level, material) -> Question. page, place: of the book, where it says more."""

    name: str
    make: Callable
    page: str
    place: str = ""


KINDS = {
    "patch": Drill("zone of a grey", zone_of_patch, "glossary", "zone"),
    "pin": Drill("zone in a picture", zone_of_pin, "glossary", "print"),
    "compensation": Drill("compensation", compensation, "zones", "surfaces"),
    "colour": Drill("colour to grey", colour_of_grey, "numbers", "tone-shift-of-a-colour"),
    "merging": Drill("merging pairs", merging_pair, "glossary", "merge"),
    "parting": Drill("parting filters", parting_filter, "filters", "red"),
    "order": Drill("order through a filter", order_of_five, "filters", "yellow"),
    "sky": Drill("deepest sky", deepest_sky, "numbers", "clear-sky"),
    "exposure": Drill("equal exposures", equal_exposure, "numbers", "exposure-value"),
    "ends": Drill("lost ends", lost_end, "films", "media"),
    "spot": Drill("where the spot goes", spot_on, "schools"),
    "range": Drill("range of a scene", guess_range, "numbers", "range"),
    "histogram": Drill("profile of tones", read_histogram, "glossary", "profile-of-tones"),
}
"""Kinds of drills."""


def question(kind, rng, level=0, material=()):
    """Question of a kind, or None where the material does not carry one. kind: key of KINDS. rng: random.Random. level: 0 (easy) to 4. material:
    Material of each picture."""
    return KINDS[kind].make(rng, min(max(level, 0), len(STEPS) - 1), tuple(material))
