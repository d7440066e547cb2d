"""Drills on colours that become greys: which lands where, which pair merges, which filter parts it, in which order they lie."""

from itertools import combinations

from dimgrey.core.planning.zones import MIDDLE, format_tone
from dimgrey.core.practice.colours import hex_of, pool_of, stops_of
from dimgrey.core.practice.measured import FILTERS
from dimgrey.core.practice.question import LEAST_APART, STEPS, Option, Question, grey_hex, one_of

COLOUR_GAPS = (0.8, 0.7, 0.6, 0.5, 0.35)
"""Stops between four colours at least, by difficulty."""
CLEAR, ALIKE = 1.0, LEAST_APART
"""Zones from which a pair parts clearly, and below which it merges."""


def colour_of_grey(rng, level, material=()):
    """Which of four colours lands on this grey? rng: random.Random. level: 0..4. material: not used."""
    gap = COLOUR_GAPS[level]
    names = pool_of(rng)
    for _ in range(60):
        chosen = rng.sample(names, 4)
        stops = [stops_of(name) for name in chosen]
        if min(abs(a - b) for a, b in combinations(stops, 2)) >= gap:
            break
    else:
        return None
    right = chosen[0]
    options = [Option(name, abs(stops_of(name) - stops_of(right)), hex_of(name)) for name in chosen]
    rng.shuffle(options)
    zone = stops_of(right) + MIDDLE
    why = f"On common film in daylight {right} lands on {format_tone(zone)}."
    return Question(
        "colour",
        f"colour:{right}",
        "Which colour lands on this grey?",
        tuple(options),
        why,
        right,
        (grey_hex(zone),),
        in_stops=True,
    )


def merging_pair(rng, level, material=()):
    """Which pair merges into one grey? rng: random.Random. level: 0..4. material: not used."""
    pairs = list(combinations(pool_of(rng), 2))
    apart = {pair: abs(stops_of(pair[0]) - stops_of(pair[1])) for pair in pairs}
    merging = [pair for pair in pairs if apart[pair] < ALIKE / 2]
    clear = [pair for pair in pairs if CLEAR <= apart[pair] < CLEAR + STEPS[level]]
    if not merging or len(clear) < 2:
        return None
    right, wrong = rng.choice(merging), rng.sample(clear, 2)
    words = lambda pair: f"{pair[0]} and {pair[1]}"
    why = f"{words(right).capitalize()} lie {apart[right]:.1f} zone apart in grey; under a third they merge."
    options = [
        Option(words(pair), float(pair != right), f"{hex_of(pair[0])} {hex_of(pair[1])}") for pair in (right, *wrong)
    ]
    rng.shuffle(options)
    key = f"merging:{right[0]}:{right[1]}"
    return Question("merging", key, "Which pair becomes one grey?", tuple(options), why, right[0])


def parting_filter(rng, level, material=()):
    """Which filter parts a pair that merges? rng: random.Random. level: 0..4. material: not used."""
    found = []
    for a, b in combinations(pool_of(rng), 2):
        if abs(stops_of(a) - stops_of(b)) < ALIKE:
            by = {name: abs(stops_of(a, name) - stops_of(b, name)) for name in FILTERS[1:]}
            best, second = sorted(by, key=by.get, reverse=True)[:2]
            if by[best] >= CLEAR and by[best] - by[second] >= LEAST_APART:
                found.append((a, b, best, by))
    if not found:
        return None
    a, b, best, by = rng.choice(found)
    wrong = rng.sample([name for name in by if name != best], 2)
    why = f"Through {best} {a} and {b} lie {by[best]:.1f} zones apart, through {wrong[0]} {by[wrong[0]]:.1f}."
    return Question(
        "parting",
        f"parting:{a}:{b}",
        f"{a.capitalize()} and {b} merge. Which filter parts them best?",
        one_of(best, wrong, rng),
        why,
        best,
        (hex_of(a), hex_of(b)),
    )


def order_of_five(rng, level, material=()):
    """Which of several orders, dark to light, do five colours take through a filter? rng: random.Random. level: 0..4. material: not used."""
    filter_name, names = rng.choice(FILTERS[1:]), pool_of(rng)
    for _ in range(80):
        chosen = sorted(rng.sample(names, 5), key=lambda name: stops_of(name, filter_name))
        stops = [stops_of(name, filter_name) for name in chosen]
        if min(b - a for a, b in zip(stops, stops[1:], strict=False)) >= LEAST_APART:
            break
    else:
        return None
    wrong = []
    for k in rng.sample(range(4), 3):
        turned = list(chosen)
        turned[k], turned[k + 1] = turned[k + 1], turned[k]
        wrong.append(", ".join(turned))
    why = (
        f"Through {filter_name}, from dark to light: "
        + ", ".join(f"{name} {format_tone(s + MIDDLE)}" for name, s in zip(chosen, stops, strict=True))
        + "."
    )
    shown = sorted(hex_of(name) for name in chosen)
    ask = f"Through the {filter_name} filter: which order is right, from dark to light?"
    return Question(
        "order",
        f"order:{filter_name}:{'-'.join(sorted(chosen))}"[:110],
        ask,
        one_of(", ".join(chosen), wrong, rng),
        why,
        filter_name,
        tuple(shown),
    )
