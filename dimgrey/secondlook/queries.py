"""What pages read of second looks."""

from collections import Counter

from django.db.models import Count

from dimgrey.core.picture.measures import BANDS
from dimgrey.secondlook.models import Batch, OldPicture


def batches_of(person):
    """A person's batches with the number of pictures; 1 query."""
    return Batch.objects.owned_by(person).annotate(count=Count("pictures"))


def batch_of(person, pk):
    """One batch of a person, or None; 1 query."""
    return Batch.objects.owned_by(person).filter(pk=pk).first()


def picture_of(person, pk):
    """One picture of a person that could be read, or None; 1 query."""
    return OldPicture.objects.owned_by(person).filter(pk=pk, problem="").first()


def in_common(pictures):
    """What the kept pictures have in common against the others, as sentences; () before three are kept.

    pictures: OldPicture, those that could be read.
    """
    kept = [picture for picture in pictures if picture.decision == "keep"]
    rest = [picture for picture in pictures if picture.decision == "let go"]
    if len(kept) < 3:
        return ()
    lines = []
    scales = Counter(scale for picture in kept for scale in picture.measures["scales"])
    if scales:
        scale, count = scales.most_common(1)[0]
        if count >= len(kept) / 2:
            lines.append(f"{count} of {len(kept)} kept are {scale}.")
    share = lambda group, band: sum(p.measures["balance"][band] for p in group) / len(group)
    band = max(BANDS, key=lambda name: share(kept, name) - (share(rest, name) if rest else 0.2))
    words = f"Kept ones hold {share(kept, band) * 100:.0f} % {band}"
    lines.append(f"{words}, those let go {share(rest, band) * 100:.0f} %." if rest else f"{words} on average.")
    mean = lambda group, name: sum(p.measures[name] for p in group) / len(group)
    if rest:
        if mean(rest, "twins") > mean(kept, "twins") + 0.5:
            lines.append(f"Those let go have more twins: {mean(rest, 'twins'):.1f} against {mean(kept, 'twins'):.1f}.")
        if abs(mean(kept, "range_zones") - mean(rest, "range_zones")) > 0.7:
            lines.append(
                f"Kept ones span {mean(kept, 'range_zones'):.1f} zones, those let go {mean(rest, 'range_zones'):.1f}."
            )
    for title, group in (("Kept", kept), ("Let go", rest)):
        reasons = Counter(p.reason for p in group if p.reason)
        if reasons:
            lines.append(f"{title} most often for {reasons.most_common(1)[0][0]}.")
    return tuple(lines)
