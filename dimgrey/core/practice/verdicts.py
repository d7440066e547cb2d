"""Whether a picture has what a task asks of it: shares of its tones against those of HANDBOOK 8, in a sentence each."""

FEW_MIDDLE, SOFT, MOST_DARK, ACCENT = 0.25, 0.9, 0.6, 0.01
LEAST_SHAPE, LEAST_GROUND, LONG, LEAST_TEXTURE, MOST_LOST = 0.03, 0.3, 6.0, 3.0, 0.03


def _percent(share):
    return f"{share * 100:.0f} %"


def low_key(seen):
    """Dark or black over most of it, with a light accent. seen: assignments.Seen."""
    black, dark, _, light, white = seen.shares
    met = black + dark >= MOST_DARK and light + white >= ACCENT
    text = f"{_percent(black + dark)} is dark or black and {_percent(light + white)} light."
    if black + dark < MOST_DARK:
        text += " Place the light lower, or let less of it reach the rest."
    elif not met:
        text += " It lacks its accent of light."
    return met, text


def black_shapes(seen):
    """A black shape before a bright ground. seen: assignments.Seen."""
    light = seen.shares[3] + seen.shares[4]
    met = seen.black_below_i >= LEAST_SHAPE and light >= LEAST_GROUND
    text = f"{_percent(seen.black_below_i)} lies below I and {_percent(light)} is light."
    if not met:
        text += (
            " The figure is not black yet: place the ground lower, or find a brighter one."
            if light >= LEAST_GROUND
            else " The ground is not bright enough."
        )
    return met, text


def full_texture(seen):
    """Detail all over and no end lost. seen: assignments.Seen."""
    lost = seen.shares[0] + seen.shares[4]
    met = seen.texture >= LEAST_TEXTURE and lost <= MOST_LOST
    text = f"Neighbouring places differ by {seen.texture:.1f} L* on average, {_percent(lost)} is black or white."
    if seen.texture < LEAST_TEXTURE:
        text += " Let the light rake over it from the side."
    elif not met:
        text += " One end is lost: softer light, or another place for the tone."
    return met, text


def soft_tones(seen):
    """Nearly all between III½ and VII½. seen: assignments.Seen."""
    met = seen.soft >= SOFT
    return met, f"{_percent(seen.soft)} lies between III½ and VII½." + (
        "" if met else " Leave out what is black, wait for thicker mist, or place it higher."
    )


def few_middle_greys(seen):
    """At most a quarter of middle greys. seen: assignments.Seen."""
    met = seen.shares[2] <= FEW_MIDDLE
    return met, f"Middle greys fill {_percent(seen.shares[2])}." + (
        "" if met else " Harder light, more contrast, or a simpler ground."
    )


def high_or_graphic(seen):
    """Light throughout, or black and white shapes. seen: assignments.Seen."""
    light = seen.shares[3] + seen.shares[4]
    met = light >= MOST_DARK or seen.shares[2] <= FEW_MIDDLE
    return met, f"{_percent(light)} is light and {_percent(seen.shares[2])} middle grey." + (
        "" if met else " The greys of what stands around speak louder: come closer."
    )


def long_range(seen):
    """A range from dark to light. seen: assignments.Seen."""
    met = seen.range_zones >= LONG
    return met, f"It runs over {seen.range_zones:.1f} zones." + (
        "" if met else " It lacks one end: another hour, another place, or more contrast."
    )
