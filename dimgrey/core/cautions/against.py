"""What tones warn of as they stand against each other: silhouettes, and a subject that merges with what is behind it.

Each rule takes a Plan.
"""

from dimgrey.core.cautions.registry import caution, falls_on, rule, started
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.separation import MERGE

SILHOUETTE_ZONE = 1.05


@rule(
    "exposure",
    {"silhouette-unsaid": "a silhouette is planned and no tone is said to be its figure, or what is behind it"},
)
def _silhouette_unsaid(plan):
    if plan.placement.school != "silhouette":
        return
    has = lambda *roles: any(tone.role in roles for tone in plan.tones)
    missing = (
        []
        if has("background", "sky")
        else [f"what is behind the figure ({plan.placement.tone}, the brightest, is placed)"]
    )
    missing += [] if has("subject") else ["the figure"]
    if missing:
        yield caution("silhouette-unsaid", f"No tone is said to be {' or '.join(missing)}: say it at the tone.")


@rule("exposure", {"silhouette-not-black": "the figure of a silhouette prints above I"})
def _silhouette(plan):
    if plan.placement.school != "silhouette":
        return
    for tone in plan.tones:
        if tone.role == "subject" and tone.printed > SILHOUETTE_ZONE:
            yield caution(
                "silhouette-not-black",
                f"{started(tone.name)} prints {falls_on(tone.printed)}; a silhouette wants it on I or below. "
                "Find a brighter background, or place it lower on the scale so that the figure goes down with it.",
                tone.name,
            )


@rule("exposure", {"tones-merge": "a subject and what is behind it print within a third of a zone"})
def _merging(plan):
    """Subject against what is behind it: under a third of a zone apart they print as one grey."""
    behind = [t for t in plan.tones if t.role in ("background", "sky")]
    for subject in (t for t in plan.tones if t.role in ("subject", "skin")):
        for other in behind:
            # Where they print, not where they are exposed: development and setup may part what the light does not.
            apart = abs(subject.printed - other.printed)
            if apart < MERGE:
                yield caution(
                    "tones-merge",
                    f"{started(subject.name)} and {other.name} print within {format_stops(apart) if apart >= 1 / 6 else 'a sixth'}"
                    " of a zone: they will merge. Another filter, light or viewpoint can part them.",
                    subject.name,
                )
