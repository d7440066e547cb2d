"""Tones lie further apart or closer together."""

from dimgrey.core.camera.setups import SLOPE_AT_END
from dimgrey.core.planning.development import TARGET_SPREAD
from dimgrey.core.results.causes.cause import Cause, Part, Said, counted
from dimgrey.core.results.explaining import contrast_fit

SAID_CONTRAST = 0.05
"""The least share that is worth a word."""


def _tries(data, unit):
    yield contrast_fit(data, unit)


def _parts(apart):
    if abs(apart.fit.b) >= SAID_CONTRAST:
        yield Part("contrast", round(apart.fit.b, 4), round(apart.b_half, 3))


def _said(part, shot):
    higher = part.size > 0
    what = f"Contrast is {abs(part.size) * 100:.0f} % {'higher' if higher else 'lower'} than planned (±{part.half * 100:.0f} %)."
    short = f"contrast {part.size * 100:+.0f} %".replace("-", "−")
    grade = f"{'softer' if higher else 'harder'} grade"
    if shot.is_print:
        return Said("contrast", what, f"Print it on a {grade}.", short)
    if shot.is_film:
        steps = -TARGET_SPREAD * part.size
        by = f" by about {counted(steps, 'step')} of N" if abs(steps) >= 0.3 else ""
        return Said("contrast", what, f"Develop {'less' if higher else 'longer'}{by}, or use a {grade}.", short)
    turn = abs(1 / (1 + part.size) - 1) / SLOPE_AT_END
    advice = f"Turn contrast {'down' if higher else 'up'} by about {min(turn, 1) * 100:.0f} % of its way."
    return Said("contrast", what, advice, short)


CAUSE = Cause("contrast", 20, _parts, _said, _tries)
