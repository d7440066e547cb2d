"""What came of a task: pictures that are given for it, what is seen in them, and whether its aim was met."""

import numpy as np
from django.db import transaction
from django.utils import timezone
from scipy.ndimage import gaussian_filter

from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.document.frozen import frozen_document
from dimgrey.core.document.meansline import mix_words
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.measures import balance
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.practice.assignments import TASKS, Again, Seen, verdict_on
from dimgrey.core.sky.clock import zone_named
from dimgrey.finishing.finishing import shown_of
from dimgrey.results.comparison import match_of, over_plan, planned_on

SIDE, NEAR_PX = 400, 2.0
ENDS = (0.005, 0.995)
AROUND = 0.006
"""Half the side of what is read around a pin, as a share of the picture's width."""


def seen_in(result, again=None):
    """Seen of what a result shows. again: Again, for an old scene. Raises PictureGone."""
    shown, frame = shown_of(result, SIDE), result.frame
    zones = zones_of_lightness(shown)
    found = balance(zones)
    low, high = np.quantile(zones, ENDS)
    at = timezone.localtime(frame.exposed_at, _zone(frame))
    return Seen(
        shares=found.shares,
        soft=found.soft_share,
        black_below_i=float(np.mean(zones < 1)),
        range_zones=float(np.clip(high, 0, 10) - np.clip(low, 0, 10)),
        texture=float(np.abs(shown - gaussian_filter(shown, NEAR_PX, mode="nearest")).mean()),
        hour=at.hour + at.minute / 60,
        scene=str(frame.scene_id or ""),
        through=_through(frame),
        again=again,
    )


def _zone(frame):
    outing = frame.scene.outing if frame.scene else None
    return zone_named(outing.zone) if outing else None


def _through(frame):
    """The coloured glass that a frame was made through, or its in-camera filter, "" for none."""
    document = frozen_document(frame.document) if frame.document else None
    if document is None:
        return ""
    glass = [each.name for each in document.filters if each.name in COLOURED]
    return " + ".join(glass) or mix_words(document)


def again_of(result, old):
    """Again of a result held against the plan of an old scene. Raises CoreError where it is not the same view."""
    if old.picture is None:
        raise CoreError("That scene has no picture to hold yours against.", code="no-picture")
    planned = planned_on(old)
    shown, inside = over_plan(planned, result.picture, match_of(planned, result.picture))
    zones, (width, height) = zones_of_lightness(shown), planned.size
    reach = max(round(AROUND * width), 1)
    prints = {tone.name: tone.printed for tone in planned.situation.plan.tones}
    tones = []
    for tone in planned.situation.document.tones:
        if tone.at is None or tone.name not in prints:
            continue
        x, y = round(tone.at[0] * (width - 1)), round(tone.at[1] * (height - 1))
        around = slice(max(y - reach, 0), y + reach + 1), slice(max(x - reach, 0), x + reach + 1)
        if inside[around].all():
            tones.append((tone.name, prints[tone.name], float(np.median(zones[around]))))
    was = old.outing.date if old.outing and old.outing.date else timezone.localdate(old.created_at)
    return Again((timezone.localdate(result.frame.exposed_at) - was).days, tuple(tones))


def give(assignment, result, old_scene=None):
    """Give a result for a task, beside what was given before where it asks for several, and keep what is seen.

    old_scene: what it is held against, for a task that asks for one. Raises CoreError for one whose file is gone, and PictureGone.
    """
    task = TASKS[assignment.key]
    if result.picture is None:
        raise CoreError("The file of this result is gone.", code="no-file")
    if task.is_again and old_scene is None:
        raise CoreError("Choose the old scene that you went back to.", code="no-scene")
    again = again_of(result, old_scene) if task.is_again else None
    before = [each for each in given_for(assignment) if each.pk != result.pk] if task.count > 1 else []
    rows = sorted([*before, result], key=lambda each: each.frame.exposed_at)
    verdict = verdict_on(assignment.key, tuple(seen_in(each, again) for each in rows))
    with transaction.atomic():
        assignment.results.set(rows)
        assignment.old_scene = old_scene if task.is_again else None
        assignment.is_met, assignment.text = verdict.is_met, verdict.text[:300]
        assignment.done_at = timezone.now()
        assignment.save(update_fields=["old_scene", "is_met", "text", "done_at"])
    return assignment


def given_for(assignment):
    """Results that were given for a task and still have their file; 1 query."""
    return list(assignment.results.exclude(picture=None).select_related("picture", "frame__scene__outing"))


@transaction.atomic
def take_back(assignment, result):
    """Take a result back from a task, and look at the rest anew."""
    assignment.results.remove(result)
    rows = sorted(given_for(assignment), key=lambda each: each.frame.exposed_at)
    if rows and not TASKS[assignment.key].is_again:
        verdict = verdict_on(assignment.key, tuple(seen_in(each) for each in rows))
        assignment.is_met, assignment.text = verdict.is_met, verdict.text[:300]
    else:
        assignment.is_met, assignment.text, assignment.old_scene, assignment.done_at = False, "", None, None
    assignment.save(update_fields=["old_scene", "is_met", "text", "done_at"])
    return assignment
