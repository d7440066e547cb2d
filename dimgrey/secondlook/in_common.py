"""What the pictures of a batch that are worth a print have in common, against those that were left."""

from collections import Counter

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
    scales = Counter(scale for picture in prints for scale in picture.measures["scales"])
    if scales:
        scale, count = scales.most_common(1)[0]
        if count >= len(prints) / 2:
            yield f"{count} of {len(prints)} prints are {scale}."


def _band(prints, rest):
    share = lambda group, band: sum(p.measures["balance"][band] for p in group) / len(group)
    band = max(BANDS, key=lambda name: share(prints, name) - (share(rest, name) if rest else USUAL_SHARE))
    words = f"The prints hold {share(prints, band) * 100:.0f} % {band}"
    yield f"{words}, those left {share(rest, band) * 100:.0f} %." if rest else f"{words} on average."


def _measures(prints, rest):
    if not rest:
        return
    mean = lambda group, name: sum(p.measures[name] for p in group) / len(group)
    if mean(rest, "twins") > mean(prints, "twins") + TWINS_DIFFER:
        yield f"Those left have more twins: {mean(rest, 'twins'):.1f} against {mean(prints, 'twins'):.1f}."
    if abs(mean(prints, "range_zones") - mean(rest, "range_zones")) > RANGE_DIFFERS:
        yield f"The prints span {mean(prints, 'range_zones'):.1f} zones, those left {mean(rest, 'range_zones'):.1f}."


def _reasons(prints, rest):
    for title, group in (("Printed", prints), ("Left", rest)):
        reasons = Counter(p.reason for p in group if p.reason)
        if reasons:
            yield f"{title} most often for {reasons.most_common(1)[0][0]}."
