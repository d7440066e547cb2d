"""Waiting in the field: when the light of the day changes next, and how many frames an interval makes."""

import math

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.stops import format_stops

STEP_STOPS = 1 / 3
"""What counts as a change of the light."""
MOST_FRAMES = 100_000


def minutes_of(clock):
    """Minutes since midnight of "16:40"."""
    hours, minutes = clock.split(":")
    return int(hours) * 60 + int(minutes)


def coming(rows, clock):
    """What the light of the day will do from a time on, as sentences; () without a table.

    rows: of a day at even steps, as the phone carries them: clock, altitude of the sun, azimuth, then EV100 of a sunlit, a shaded and an
    overcast card, None for what cannot be said. clock: "16:40", by the clocks of the place.
    """
    if not rows:
        return ()
    now = minutes_of(clock)
    ahead = [row for row in rows if minutes_of(row[0]) >= now] or list(rows[-1:])
    here, said = ahead[0], []
    lit = here[3] is not None
    name, column = ("sunlit", 3) if lit else ("open shade", 4)
    if here[column] is not None:
        said.append(f"A grey card in {'the sun' if lit else name}: EV {format_stops(here[column])} (estimate).")
    turn = next((row for row in ahead if (row[3] is not None) != lit), None)
    if turn:
        said.append(f"The sun {'sets' if lit else 'rises'} at {turn[0]}, {_in(minutes_of(turn[0]) - now)}.")
    change = next((row for row in ahead if _moved(row[column], here[column])), None)
    if change and (turn is None or minutes_of(change[0]) < minutes_of(turn[0])):
        less = change[column] < here[column]
        said.append(
            f"{_in(minutes_of(change[0]) - now).capitalize()} it is a third of a stop {'less' if less else 'more'}."
        )
    return tuple(said)


def _moved(there, here):
    return there is not None and here is not None and abs(there - here) >= STEP_STOPS


def _in(minutes):
    """ "in 25 min", "in 1 h 12 min".

    >>> _in(25), _in(72)
    ('in 25 min', 'in 1 h 12 min')
    """
    return f"in {minutes} min" if minutes < 60 else f"in {minutes // 60} h {minutes % 60} min"


def interval_frames(every_s, minutes):
    """Frames of an interval plan, the first and the last counted. every_s: seconds between two, above 0. minutes: how long, above 0.

    Raises OutOfRange, naming the parameter.

    >>> interval_frames(10, 5)
    31
    """
    for name, value in (("every_s", every_s), ("minutes", minutes)):
        if not (math.isfinite(value) and value > 0):
            raise OutOfRange(f"An interval needs times above 0 (got {value:g}).", parameter=name, code="interval")
    frames = math.floor(minutes * 60 / every_s + 1e-9) + 1
    if frames > MOST_FRAMES:
        raise OutOfRange(
            f"That makes {frames} frames; at most {MOST_FRAMES} are planned.", parameter="every_s", code="interval"
        )
    return frames


def interval_words(every_s, minutes, longest_s, frame_mb=0.0):
    """What an interval plan takes, in one sentence.

    every_s, minutes: as in `interval_frames`. longest_s: the exposure's own time. frame_mb: space of a frame, 0 for film.
    """
    frames = interval_frames(every_s, minutes)
    words = f"{frames} frames in {minutes:g} min"
    words += f", {frames * frame_mb / 1000:.1f} GB on the card." if frame_mb else "."
    if longest_s >= every_s:
        words += " Each exposure is longer than the interval: frames will be missed."
    return words
