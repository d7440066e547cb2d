"""One tone alone lies elsewhere."""

from dimgrey.core.results.causes.cause import Cause, Part, Said, counted

OWN_ZONES = 0.3
"""What one tone keeps beyond this is its own."""
CUT = 2
"""A tone of which a part is black or white in the result is read so much less surely."""


def _parts(apart):
    for name, off in sorted(apart.residuals.items(), key=lambda each: -abs(each[1])):
        if abs(off) > OWN_ZONES * (1 if apart.seen.weights[apart.seen.named(name)] >= 1 else CUT):
            yield Part("tone", round(off, 3), tone=name)


def _said(part, shot):
    lighter = "lighter" if part.size > 0 else "darker"
    what = f"{part.tone} alone is {counted(part.size, 'zone')} {lighter} than planned."
    advice = "It moved or its light changed, or its colour is another than was read."
    return Said("tone", what, advice, f"{part.tone} {lighter}")


CAUSE = Cause("tone", 50, _parts, _said)
