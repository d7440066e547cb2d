"""What would bring a wish nearer and cannot be taken at the desk: another hour, softer light, a reflector. Told, never done.

They change readings that nobody has taken yet, so none has an act and only the hour has a figure. Source: HANDBOOK 21.
"""

from dataclasses import dataclass, replace

from dimgrey.core.errors import CoreError
from dimgrey.core.judging.judge import missed_of
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.scoring import LEAST_GAIN, LEAST_SHARE, score
from dimgrey.core.planning.wishes import MET_ZONES, wishes_of

LEAST_HOUR_STOPS = 0.5
"""A sky that another hour moves by less is not worth waiting for."""
REFLECTOR_STOPS = 1.0
"""What a reflector held near a face or a still life gives its shaded side, about."""
NEAR_MAGNIFICATION = 0.02
"""From here on a thing is near enough for a reflector: a head and shoulders fill the frame."""
FILLED_ROLES = ("skin",)
ALIKE_STOPS = 1 / 3
"""Tones that fall no further apart have one brightness, to an eye and to a meter."""
FAR_ZONES = 1.5
"""What the best proposal leaves further away than this is told with its reason."""


@dataclass(frozen=True)
class Hour:
    """Another hour of the same day. clock: its local time. sky_stops: by how much the sky in the frame is lighter, against what the sun lights."""

    clock: str
    sky_stops: float


def other_way(result, found, around):
    """A sentence on what would help beyond this light's proposals, "" where nothing does.

    result: a Plan. found: the judge's Judgement of it. around: Around.
    """
    left = found.best[0].score if found.best else found.now
    missed = [(wish, zones) for wish, zones in left.missed if zones >= MET_ZONES]
    if not missed and not left.lost:
        return ""
    return _filled(result, missed) or _hour(result, found, around) or _softer(result, left, around)


# --- what this light does not give ---------------------------------------------------------------------------------------------


def left_over(found):
    """What the best proposal of a Judgement leaves far from what is wanted, and why; "" where it leaves little, or there is none."""
    if not found.best:
        return ""
    after = found.best[0].plan
    far = [wish for wish, zones in missed_of(found.best[0].score) if zones >= FAR_ZONES]
    if not far:
        return ""
    reason, other = why_not(far[0], after)
    prints = {tone.name: tone.printed for tone in after.tones}
    return f"Then still {far[0].miss_words(prints)}: {reason} {other}".rstrip()


def why_not(wish, result):
    """(why a Wish is out of reach in this light, what might help in general), sentences; the second "" for nothing. result: a Plan."""
    tones = {tone.name: tone for tone in result.tones}
    named = [tones[name] for name in wish.tones[:2] if name in tones]
    if len(named) == 2:
        apart = named[0].fall - named[1].fall
        if abs(apart) <= ALIKE_STOPS:
            return _one_brightness(*named)
        return (
            f"{named[0].name} lies {counted_stops(abs(apart))} {'over' if apart > 0 else 'under'} {named[1].name} in this light.",
            "Other light or another viewpoint can change that.",
        )
    if not named:
        return "it asks for other light.", ""
    others = [tone for tone in result.tones if tone.needs_texture and tone is not named[0]]
    if not others:
        return (
            f"{named[0].name} falls on {format_stops(named[0].fall)} and no setting that the camera has moves it there.",
            "",
        )
    brightest = max(others, key=lambda tone: tone.fall)
    darkest = min(others, key=lambda tone: tone.fall)
    other = brightest if wish.kind == "span" and named[0].printed < wish.span[0] else darkest
    if abs(other.fall - named[0].fall) <= ALIKE_STOPS:
        return _one_brightness(named[0], other)
    apart = counted_stops(abs(other.fall - named[0].fall))
    return (
        f"what moves {named[0].name} moves {other.name} too, {apart} away, which is to stay.",
        "Other light can part them.",
    )


def _one_brightness(tone, other):
    return (
        f"{tone.name} and {other.name} have one brightness in this light.",
        "Wait for another, or another viewpoint.",
    )


# --- a reflector --------------------------------------------------------------------------------------------------------------


def _filled(result, missed):
    """A reflector for a near thing that is too dark beside what is brighter, and not in the sun."""
    brief = result.brief
    near = brief.magnification >= NEAR_MAGNIFICATION
    tones = {tone.name: tone for tone in result.tones}
    reached = {t.name for t in brief.tones if (near or t.role in FILLED_ROLES) and not t.is_sky and t.lit != "lit"}
    for wish, zones in sorted(missed, key=lambda each: -each[1]):
        if not wish.tones or wish.tones[0] not in reached:
            continue
        tone = tones[wish.tones[0]]
        if zones >= 2 * MET_ZONES and _is_too_dark(wish, tones):
            return f"A reflector near {tone.name} gives it up to about {counted_stops(REFLECTOR_STOPS)}; read it again then."
    return ""


def _is_too_dark(wish, tones):
    """Whether the first tone of a wish prints darker than it should."""
    first = tones[wish.tones[0]]
    if wish.kind == "span":
        return first.printed < wish.span[0]
    return wish.kind == "order" and len(wish.tones) == 2


# --- another hour -------------------------------------------------------------------------------------------------------------


def _hour(result, found, around):
    """The hour of the day at which the sky alone, against what the sun lights, brings the score down furthest."""
    brief = result.brief
    if not any(tone.is_sky and tone.evs for tone in brief.tones):
        return ""
    best = found.best[0].net if found.best else 0.0
    chosen = None
    for hour in around.hours() if around.hours else ():
        if abs(hour.sky_stops) < LEAST_HOUR_STOPS:
            continue
        there = _score_at(brief, hour)
        if there is None or not there.keeps_walls_of(found.now) or there.share_served(found.now) < LEAST_SHARE:
            continue
        gain = there.gain_over(found.now)
        if gain >= best + LEAST_GAIN and (chosen is None or gain > chosen[0] + 1e-9):
            chosen = gain, hour
    if chosen is None:
        return ""
    hour = chosen[1]
    way = "darker" if hour.sky_stops < 0 else "lighter"
    return (
        f"At about {hour.clock} a clear sky there is {counted_stops(abs(hour.sky_stops))} {way} against what the sun lights; "
        "read it again then."
    )


def _score_at(brief, hour):
    moved = tuple(
        replace(tone, evs=tuple(ev + hour.sky_stops for ev in tone.evs)) if tone.is_sky and tone.evs else tone
        for tone in brief.tones
    )
    try:
        there = replace(brief, tones=moved)
        return score(plan(there), wishes_of(there))
    except CoreError:
        return None


# --- softer light -------------------------------------------------------------------------------------------------------------


def _softer(result, left, around):
    """Cloud before the sun, where needed texture is lost at either end and things in sun and in shade are among what must stay."""
    if not around.in_sun or not left.lost or any(tone.is_sky for tone in result.brief.tones if tone.name in left.lost):
        return ""
    needed = [tone for tone in result.tones if tone.needs_texture]
    low, high = result.brief.medium.outer
    if max(tone.fall for tone in needed) - min(tone.fall for tone in needed) <= high - low:
        return ""
    return "Softer light, as when a cloud covers the sun, brings lit and shaded things nearer together."
