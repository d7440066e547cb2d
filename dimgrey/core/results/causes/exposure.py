"""The whole picture lies lighter or darker."""

from dimgrey.core.results.causes.cause import Cause, Part, Said, counted
from dimgrey.core.results.explaining import SAID_ZONES, exposure_fit

SET_ALIKE_STOPS = 1 / 6
"""What was set otherwise than planned by less is rounding; and it explains a difference that is so close to it."""


def _tries(data, unit):
    yield exposure_fit(data, unit)


def _parts(apart):
    if abs(apart.fit.a) >= SAID_ZONES:
        yield Part("exposure", round(apart.fit.a, 3), round(apart.a_half, 3))


def _sure(half):
    return f" (±{half:.1f})" if half >= 0.05 else " (±0.05)"


def _said(part, shot):
    lighter = "lighter" if part.size > 0 else "darker"
    amount = counted(part.size, "stop")
    short = f"{amount} {lighter}"
    if shot.is_print:
        way = "darker: give its paper more light" if part.size > 0 else "lighter: give its paper less light"
        what = f"The print is {amount} {lighter} than planned{_sure(part.half)}."
        return Said("exposure", what, f"Print it {way}. It says nothing of the exposure of the film.", short)
    what = f"The whole picture is {amount} {lighter} than planned{_sure(part.half)}."
    left = part.size
    if abs(shot.set_stops) > SET_ALIKE_STOPS:
        left -= shot.set_stops
        set_words = (
            f"{counted(shot.set_stops, 'stop')} {'more' if shot.set_stops > 0 else 'less'} light was set than planned"
        )
        if abs(left) <= SET_ALIKE_STOPS:
            return Said("exposure", what, f"That is what was set: {set_words}.", short)
        what += f" Of this, {set_words}; {counted(left, 'stop')} {'lighter' if left > 0 else 'darker'} is left."
    way = "less" if left > 0 else "more"
    advice = f"Next time give {counted(left, 'stop')} {way} light, or ask the reading that placed it."
    return Said("exposure", what, advice, short)


CAUSE = Cause("exposure", 10, _parts, _said, _tries)
