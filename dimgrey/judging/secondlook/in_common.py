"""What the pictures of a batch that are worth a print have in common, against those that were left."""

from collections import Counter
from statistics import fmean

from dimgrey.core.picture.measures import BANDS

LEAST_PRINTS = 3
TWINS_DIFFER, RANGE_DIFFERS = 0.5, 0.7
USUAL_SHARE = 0.2
"""Share of a band where nothing was left to compare with."""


def in_common(pictures):
    """Sentences about the prints; () before there are three. pictures: OldPicture, those that could be read."""
    prints = [picture for picture in pictures if picture.decision == "print"]
    rest = [picture for picture in pictures if picture.decision == "leave"]
    if len(prints) < LEAST_PRINTS:
        return ()
    return (*_scale(prints), *_band(prints, rest), *_measures(prints, rest), *_reasons(prints, rest))


def _scale(prints):
    scales = Counter(scale for picture in prints for scale in picture.measures.scales)
    if scales:
        scale, count = scales.most_common(1)[0]
        if count >= len(prints) / 2:
            yield f"{count} of {len(prints)} prints are {scale}."


def _band(prints, rest):
    share = lambda group, band: sum(p.measures.share(band) for p in group) / len(group)
    band = max(BANDS, key=lambda name: share(prints, name) - (share(rest, name) if rest else USUAL_SHARE))
    words = f"The prints hold {share(prints, band) * 100:.0f} % {band}"
    yield f"{words}, those left {share(rest, band) * 100:.0f} %." if rest else f"{words} on average."


def _measures(prints, rest):
    if not rest:
        return
    printed, left = (fmean(p.measures.twins for p in group) for group in (prints, rest))
    if left > printed + TWINS_DIFFER:
        yield f"Those left have more twins: {left:.1f} against {printed:.1f}."
    printed, left = (fmean(p.measures.range_zones for p in group) for group in (prints, rest))
    if abs(printed - left) > RANGE_DIFFERS:
        yield f"The prints span {printed:.1f} zones, those left {left:.1f}."


def _reasons(prints, rest):
    for title, group in (("Printed", prints), ("Left", rest)):
        reasons = Counter(p.reason for p in group if p.reason)
        if reasons:
            yield f"{title} most often for {reasons.most_common(1)[0][0]}."
