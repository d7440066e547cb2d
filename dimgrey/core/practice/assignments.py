"""Tasks for a week or a month of seeing in grey: what to do, how to meter and place it, what to look for, and whether the result has it.

A task fits the season, the place's light and the kit; its check looks at the picture that came of it and says what it lacks. Source:
HANDBOOK 15 and 8.
"""

from dataclasses import dataclass, field

from dimgrey.core.practice.verdicts import (
    HOURS,
    PICTURES,
    black_shapes,
    few_middle_greys,
    full_texture,
    high_or_graphic,
    low_key,
    moved_since,
    one_glass,
    six_hours,
    soft_tones,
)

DAYS, WEEKS = 7, 4
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
class Again:
    """An old scene seen again. days: since it was planned. tones: (name, print as planned then, print now) of each key tone that both show."""

    days: int
    tones: tuple


@dataclass(frozen=True)
class Seen:
    """What a check looks at in one picture. shares: of black, dark, middle, light, white. soft: share from III½ to VII½. black_below_i: share below I.
    range_zones: between the darkest and lightest half per cent. texture: mean local contrast in L*. hour: of the day there, 0..24, None when not
    known. scene: key of its scene, "" for none. through: the coloured filter or the in-camera one, "" for none. again: Again, for an old scene."""

    shares: tuple
    soft: float
    black_below_i: float
    range_zones: float
    texture: float
    hour: float | None = None
    scene: str = ""
    through: str = ""
    again: Again | None = None


@dataclass(frozen=True)
class Verdict:
    """is_met: the aim was met. text: what was seen, and what would help where it was not."""

    is_met: bool
    text: str


@dataclass(frozen=True)
class Task:
    """One assignment. check: Seen of its picture, or a tuple of Seen where it asks for several -> (is it met, text). fits: Given -> whether it makes
    sense then. count: pictures that it asks for. light: the light of a day it wants, "low sun", "dark", "day" or "" for any. is_again: it is
    held against an old scene."""

    title: str
    aim: str
    meter: str
    look: str
    check: callable
    fits: callable = field(default=lambda given: True)
    count: int = 1
    light: str = ""
    is_again: bool = False


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
        "The same window six times over a day, one frame each, an hour apart at least; give all of them.",
        "Spot on the wall beside it; place it on V each time, whatever the hour.",
        "How the range of the room changes; which hour keeps both ends.",
        six_hours,
        count=HOURS,
        light="day",
    ),
    "silhouette": Task(
        "Silhouette",
        "A figure or a tree as a black shape before a bright ground.",
        "Spot on the ground behind; place it on VII, the figure falls below I.",
        "A shape that is known without any detail.",
        black_shapes,
        light="low sun",
    ),
    "texture": Task(
        "Texture",
        "A surface in raking light that one could feel: plaster, bark, stone.",
        "Spot on the middle of it; place it on V or VI.",
        "Side light, detail all over, no end lost.",
        full_texture,
        light="low sun",
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
        light="dark",
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
        "Go back to a scene you planned a week ago or earlier, in another light.",
        "As the old plan has it; then look what has moved.",
        "What the light of today does better or worse.",
        moved_since,
        lambda given: given.has_old,
        is_again=True,
    ),
    "one-filter": Task(
        "One filter only",
        "A walk with one filter, every picture through it; give three of them.",
        "Meter without it, give its factor; watch sky, leaves and skin.",
        "A sky that parts from the clouds, or a pair that would have merged.",
        one_glass,
        lambda given: given.has_filter,
        count=PICTURES,
        light="day",
    ),
}
"""Tasks by key."""


def week_of(given):
    """Keys of the tasks of a week, as many as it has days and fit; the same for the same week. given: Given.

    >>> len(week_of(Given(11, 40.0))), "mist" in week_of(Given(6, 40.0)), "again" in week_of(Given(6))
    (7, False, False)
    """
    return _fitting(given)[:DAYS]


def _fitting(given):
    """Keys of all tasks that fit, another one first in every week."""
    fitting = [key for key, task in TASKS.items() if task.fits(given)]
    start = given.seed % len(fitting)
    return tuple(fitting[start:] + fitting[:start])


def month_of(weeks):
    """Keys of the tasks of each of some weeks: every task that fits one of them once, two or three a week, so that each gets its time.

    weeks: Given of each week, in order. Returns a tuple of keys for each.

    >>> [len(week) for week in month_of([Given(11, 40.0, seed=k) for k in range(4)])]
    [3, 2, 2, 2]
    """
    made = [[] for _ in weeks]
    fitting = [_fitting(given) for given in weeks]
    for key in fitting[0] + tuple(key for key in TASKS if key not in fitting[0]):
        fits = [k for k, keys in enumerate(fitting) if key in keys]
        if fits:
            made[min(fits, key=lambda k: (len(made[k]), k))].append(key)
    return tuple(tuple(keys) for keys in made)


def verdict_on(key, seen):
    """Verdict of a task on what came of it. key: of TASKS. seen: Seen of each picture that was given, the last one last."""
    task = TASKS[key]
    return Verdict(*task.check(seen if task.count > 1 else seen[-1]))
