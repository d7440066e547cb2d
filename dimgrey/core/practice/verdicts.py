"""Whether a picture has what a task asks of it: shares of its tones against those of HANDBOOK 8, in a sentence each."""

from dimgrey.core.planning.zones import format_tone

FEW_MIDDLE, SOFT, MOST_DARK, ACCENT = 0.25, 0.9, 0.6, 0.01
LEAST_SHAPE, LEAST_GROUND, LEAST_TEXTURE, MOST_LOST = 0.03, 0.3, 3.0, 0.03
HOURS, HOUR_APART, PICTURES, OLD_DAYS, MOVED, MOST_TOLD = 6, 1.0, 3, 7, 1 / 3, 4
"""Hours that a window is seen at and how far apart; pictures of a walk; days after which a scene is an old one; zones that count as moved; tones
that a sentence names."""


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


def _clock(hour):
    minutes = round(hour * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def apart_by_an_hour(seen):
    """The pictures of one scene at hours that lie one apart at least, in the order of the day. seen: assignments.Seen of each; those without an hour
    count for none, and of several scenes the one with most pictures is looked at."""
    timed = [each for each in seen if each.hour is not None and each.scene]
    scenes = [each.scene for each in timed]
    chosen = []
    for each in sorted(timed, key=lambda one: one.hour):
        is_of_it = each.scene == max(scenes, key=scenes.count)
        if is_of_it and (not chosen or each.hour - chosen[-1].hour >= HOUR_APART):
            chosen.append(each)
    return tuple(chosen)


def six_hours(seen):
    """One window at six hours of the day, and which of them kept both ends. seen: assignments.Seen of each picture."""
    hours = apart_by_an_hour(seen)
    if not hours:
        return False, "None of them has a scene and an hour: log the frame when you expose it."
    ranges = [each.range_zones for each in hours]
    met = len(hours) >= HOURS
    text = f"{min(len(hours), HOURS)} of {HOURS} hours: {', '.join(_clock(each.hour) for each in hours)}."
    if len(hours) > 1:
        text += f" The range goes from {min(ranges):.1f} to {max(ranges):.1f} zones."
        kept = [each for each in hours if each.shares[0] + each.shares[4] <= MOST_LOST]
        best = max(kept, key=lambda each: each.range_zones, default=None)
        text += f" Most of it without a lost end at {_clock(best.hour)}." if best else " Every hour loses one end."
    return met, text + ("" if met else " Go on at another hour, one apart at least.")


def one_glass(seen):
    """A walk through one coloured filter. seen: assignments.Seen of each picture."""
    bare = sum(not each.through for each in seen)
    names = sorted({each.through for each in seen if each.through})
    if bare:
        return False, f"{bare} of {len(seen)} was taken without a filter: only those through it count."
    if len(names) > 1:
        return False, f"More than one filter: {', '.join(names)}. Keep to one."
    met = len(seen) >= PICTURES
    text = f"{len(seen)} of {PICTURES} through {names[0]}." if not met else f"{len(seen)} pictures through {names[0]}."
    return met, text + (" Compare what it did to sky, leaves and skin." if met else " Go on with it.")


def moved_since(seen):
    """An old scene in another light: what has moved in the print. seen: assignments.Seen, with its Again."""
    again = seen.again
    if again is None or not again.tones:
        return False, "It shares no key tone with the old plan: stand where you stood, and pin what matters."
    moved = sorted(again.tones, key=lambda tone: -abs(tone[2] - tone[1]))
    words = "; ".join(
        f"{name} {format_tone(before)} then, {format_tone(now)} now" for name, before, now in moved[:MOST_TOLD]
    )
    if again.days < OLD_DAYS:
        return False, f"{words}. But the plan is {again.days} days old: come back after a week, in another light."
    has_moved = abs(moved[0][2] - moved[0][1]) >= MOVED
    text = f"After {again.days} days: {words}."
    return has_moved, text + ("" if has_moved else " Nothing has moved by a third: another hour, another weather.")
