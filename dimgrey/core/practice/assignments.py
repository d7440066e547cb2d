"""Tasks for a week of seeing in grey: what to do, how to meter and place it, what to look for, and whether the result has it.

A task fits the season, the place's light and the kit; its check looks at the picture that came of it and says what it lacks. Source:
HANDBOOK 15 and 8.
"""

from dataclasses import dataclass, field

from dimgrey.core.practice.verdicts import (
    black_shapes,
    few_middle_greys,
    full_texture,
    high_or_graphic,
    long_range,
    low_key,
    soft_tones,
)

DAYS = 7
MIST_MONTHS, SHORT_DAYS = (9, 10, 11, 12, 1, 2), (10, 11, 12, 1, 2)
"""Months of mist and of early dark north of the equator; half a year later south of it."""


@dataclass(frozen=True)
class Given:
    """What a week has. month: 1..12. latitude_deg: of the place, None when not known. has_filter: there is a coloured filter or an in-camera one.
    has_old: there are scenes of before. seed: of the week."""

    month: int
    latitude_deg: float | None = None
    has_filter: bool = True
    has_old: bool = False
    seed: int = 0


@dataclass(frozen=True)
class Seen:
    """What a check looks at. shares: of black, dark, middle, light, white. soft: share from III½ to VII½. black_below_i: share below I. range_zones: between
    the darkest and lightest half per cent. texture: mean local contrast in L*."""

    shares: tuple
    soft: float
    black_below_i: float
    range_zones: float
    texture: float


@dataclass(frozen=True)
class Verdict:
    """is_met: the aim was met. text: what was seen, and what would help where it was not."""

    is_met: bool
    text: str


@dataclass(frozen=True)
class Task:
    """One assignment. fits: Given -> whether it makes sense then. check: Seen -> (is it met, text)."""

    title: str
    aim: str
    meter: str
    look: str
    check: callable
    fits: callable = field(default=lambda given: True)


def _northern(given, months):
    month = given.month if given.latitude_deg is None or given.latitude_deg >= 0 else (given.month + 5) % 12 + 1
    return month in months


TASKS = {
    "one-light": Task(
        "One light",
        "A subject lit by one lamp or one window, the rest let go dark.",
        "Spot on the lit side; place it on VI, let the other side fall where it falls.",
        "One accent of light, most of the picture dark, its edge readable.",
        low_key,
    ),
    "window": Task(
        "One window at six hours",
        "The same window six times over a day, one frame each; give the best of them.",
        "Spot on the wall beside it; place it on V each time, whatever the hour.",
        "How the range of the room changes; which hour keeps both ends.",
        long_range,
    ),
    "silhouette": Task(
        "Silhouette",
        "A figure or a tree as a black shape before a bright ground.",
        "Spot on the ground behind; place it on VII, the figure falls below I.",
        "A shape that is known without any detail.",
        black_shapes,
    ),
    "texture": Task(
        "Texture",
        "A surface in raking light that one could feel: plaster, bark, stone.",
        "Spot on the middle of it; place it on V or VI.",
        "Side light, detail all over, no end lost.",
        full_texture,
    ),
    "mist": Task(
        "Mist",
        "A wood or a yard in mist: few tones, one behind the other.",
        "Spot on the farthest thing; place it on VII.",
        "Nothing black, nothing white; depth by tone alone.",
        soft_tones,
        lambda given: _northern(given, MIST_MONTHS),
    ),
    "night": Task(
        "Night",
        "A lit street or yard after dark, the dark left dark.",
        "Spot on a lit wall; place it on V or lower, not on VII.",
        "Mostly black and dark, a few lights that do not spread.",
        low_key,
        lambda given: _northern(given, SHORT_DAYS) or given.latitude_deg is None,
    ),
    "two-tones": Task(
        "Two tones",
        "A picture of black and white shapes, hardly any grey.",
        "Place the light shape on VIII, look where the dark one falls.",
        "It still says what it is with two tones.",
        few_middle_greys,
    ),
    "already": Task(
        "A subject that is black and white already",
        "White ware, coal, piano keys, a magpie: nothing to translate.",
        "Spot on the white; place it on VII to VIII.",
        "Its colours lose nothing, its light says all.",
        high_or_graphic,
    ),
    "again": Task(
        "An old scene again",
        "Go back to a scene you planned, in another light.",
        "As the old plan has it; then look what has moved.",
        "What the light of today does better or worse.",
        long_range,
        lambda given: given.has_old,
    ),
    "one-filter": Task(
        "One filter only",
        "A walk with one filter, every picture through it.",
        "Meter without it, give its factor; watch sky, leaves and skin.",
        "A sky that parts from the clouds, or a pair that would have merged.",
        long_range,
        lambda given: given.has_filter,
    ),
}
"""Tasks by key."""


def week_of(given):
    """Keys of the tasks of a week, as many as it has days and fit; the same for the same week. given: Given.

    >>> len(week_of(Given(11, 40.0))), "mist" in week_of(Given(6, 40.0)), "again" in week_of(Given(6))
    (7, False, False)
    """
    fitting = [key for key, task in TASKS.items() if task.fits(given)]
    start = given.seed % len(fitting)
    turned = fitting[start:] + fitting[:start]
    return tuple(turned[:DAYS])


def verdict_on(key, seen):
    """Verdict of a task on what came of it. key: of TASKS. seen: Seen."""
    return Verdict(*TASKS[key].check(seen))
