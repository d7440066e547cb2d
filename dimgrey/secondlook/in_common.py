"""What the kept pictures of a batch have in common, against those that were let go."""

from collections import Counter

from dimgrey.core.picture.measures import BANDS

LEAST_KEPT = 3
TWINS_DIFFER, RANGE_DIFFERS = 0.5, 0.7
USUAL_SHARE = 0.2
"""Share of a band where nothing was let go to compare with."""


def in_common(pictures):
    """Sentences about the kept pictures; () before three are kept. pictures: OldPicture, those that could be read."""
    kept = [picture for picture in pictures if picture.decision == "keep"]
    rest = [picture for picture in pictures if picture.decision == "let go"]
    if len(kept) < LEAST_KEPT:
        return ()
    return (*_scale(kept), *_band(kept, rest), *_measures(kept, rest), *_reasons(kept, rest))


def _scale(kept):
    scales = Counter(scale for picture in kept for scale in picture.measures["scales"])
    if scales:
        scale, count = scales.most_common(1)[0]
        if count >= len(kept) / 2:
            yield f"{count} of {len(kept)} kept are {scale}."


def _band(kept, rest):
    share = lambda group, band: sum(p.measures["balance"][band] for p in group) / len(group)
    band = max(BANDS, key=lambda name: share(kept, name) - (share(rest, name) if rest else USUAL_SHARE))
    words = f"Kept ones hold {share(kept, band) * 100:.0f} % {band}"
    yield f"{words}, those let go {share(rest, band) * 100:.0f} %." if rest else f"{words} on average."


def _measures(kept, rest):
    if not rest:
        return
    mean = lambda group, name: sum(p.measures[name] for p in group) / len(group)
    if mean(rest, "twins") > mean(kept, "twins") + TWINS_DIFFER:
        yield f"Those let go have more twins: {mean(rest, 'twins'):.1f} against {mean(kept, 'twins'):.1f}."
    if abs(mean(kept, "range_zones") - mean(rest, "range_zones")) > RANGE_DIFFERS:
        yield f"Kept ones span {mean(kept, 'range_zones'):.1f} zones, those let go {mean(rest, 'range_zones'):.1f}."


def _reasons(kept, rest):
    for title, group in (("Kept", kept), ("Let go", rest)):
        reasons = Counter(p.reason for p in group if p.reason)
        if reasons:
            yield f"{title} most often for {reasons.most_common(1)[0][0]}."
