"""Picks: near-identical frames found by time and likeness, laid over each other, looked at, put in order, and chosen from."""

from dataclasses import replace
from functools import lru_cache

import numpy as np
from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from PIL import Image

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.pick import FEWEST, MOST, look_at, moved_places, ordered
from dimgrey.core.picture.match import Match, laid, matched
from dimgrey.judging.pick.models import Candidate, Pick
from dimgrey.pictures.fitting import fitted_plane
from dimgrey.pictures.models import Picture
from dimgrey.pictures.store import PictureGone
from dimgrey.results.comparison import lightness_of
from dimgrey.results.models import Result

NEAR_SECONDS, ALIKE = 900, 0.6
"""Frames of one group were exposed so close to each other, and their small greys correlate so much."""
LOOKED_BACK = 60
SIDE, SMALL = 900, (48, 32)
MIDDLE = (0.5, 0.5)


def lightness_at(picture, side=SIDE, planned=None, is_negative=False):
    """L* of a result at most so large, shape (h, w), float32. planned, is_negative: as comparing.lightness_of takes them."""
    return fitted_plane(lightness_of(picture, planned, is_negative), side)


def groups_of(person):
    """Groups of results that look like one picture taken several times, newest first, as lists; those picked already stay out."""
    picked = set(Candidate.objects.filter(pick__owner=person).values_list("result_id", flat=True))
    rows = (
        Result.objects.owned_by(person)
        .exclude(picture=None)
        .select_related("picture", "frame")
        .order_by("-frame__exposed_at", "-pk")[:LOOKED_BACK]
    )
    groups = []
    for result in reversed([row for row in rows if row.pk not in picked]):
        small = _small(result)
        if small is None:
            continue
        if groups and _is_near(groups[-1][-1], (result, small)):
            groups[-1].append((result, small))
        else:
            groups.append([(result, small)])
    return [[result for result, _ in group][:MOST] for group in reversed(groups) if len(group) >= FEWEST]


def _small(result):
    try:
        return _cell(str(result.picture.folder))
    except PictureGone:
        return None


@lru_cache(2048)
def _cell(folder):
    """Cell of likeness of a picture, shape (32, 48), mean 0, deviation 1. A picture never changes, so it is made once."""
    shown = lightness_at(Picture.objects.get(folder=folder), 160)
    small = np.asarray(Image.fromarray(shown).resize(SMALL, Image.Resampling.BOX), np.float32)
    return (small - small.mean()) / max(float(small.std()), 1e-6)


def _is_near(before, after):
    seconds = abs((after[0].frame.exposed_at - before[0].frame.exposed_at).total_seconds())
    return seconds <= NEAR_SECONDS and float((before[1] * after[1]).mean()) >= ALIKE


@transaction.atomic
def make_pick(person, results):
    """A Pick among results, in the order they were exposed. Raises CoreError for too few, too many, or one that shows something else."""
    results = sorted(results, key=lambda each: (each.frame.exposed_at, each.pk))
    if not FEWEST <= len(results) <= MOST:
        raise CoreError(f"Choose {FEWEST} to {MOST} frames to pick from (got {len(results)}).", code="pick-number")
    first = results[0]
    pick = Pick.objects.create(owner=person, title=first.frame.title, subject=list(subject_of(first)))
    here = grey8_of_lightness(lightness_at(first.picture))
    for result in results:
        match = Match()
        if result is not first:
            try:
                match = matched(here, grey8_of_lightness(lightness_at(result.picture)))
            except CoreError:
                raise CoreError(
                    f"Frame {result.frame.number} does not show what frame {first.frame.number} shows: pick among like ones.",
                    code="pick-other",
                ) from None
        Candidate.objects.create(pick=pick, result=result, laid=match.plain)
    look_again(pick)
    return pick


def subject_of(result):
    """Where the subject of a result lies, (x, y): its plan's subject tone, else the middle."""
    scene = result.frame.as_it_was
    tones = scene.document.tones if scene and result.laid else ()
    for tone in tones:
        if tone.role == "subject" and tone.at is not None:
            x, y = result.laid.at(*tone.at)
            if 0 <= x <= 1 and 0 <= y <= 1:
                return round(x, 4), round(y, 4)
    return MIDDLE


def look_again(pick):
    """Look at every frame of a pick with its present subject, and keep what was found."""
    candidates = list(pick.candidates.select_related("result__picture"))
    first = lightness_at(candidates[0].result.picture)
    size, subject = first.shape[::-1], tuple(pick.subject)
    for candidate in candidates:
        own = lightness_at(candidate.result.picture)
        over, inside = laid(own, candidate.laid, size)
        over = np.where(inside, over, np.median(own))
        moved = tuple(moved_places(first, over, inside)) if candidate is not candidates[0] else ()
        candidate.look = replace(look_at(over, subject, own), moved=moved)
        candidate.save(update_fields=["look"])


def order_of(candidates):
    """(candidate, Place) in the proposed order. candidates: of one pick."""
    return [(candidates[place.index], place) for place in ordered([each.look for each in candidates])]


def set_subject(pick, x, y):
    """Say where the subject is, and look again."""
    pick.subject = [x, y]
    pick.save(update_fields=["subject"])
    look_again(pick)


@transaction.atomic
def decide(pick, kept, reason):
    """Keep some frames of a pick, for a reason. kept: numbers of candidates. Raises CoreError for none or more than two."""
    if not 1 <= len(kept) <= 2:
        raise CoreError("Keep one frame, or two.", parameter="kept", code="pick-kept")
    pick.candidates.update(kept=False)
    if pick.candidates.filter(pk__in=kept).update(kept=True) != len(kept):
        raise CoreError("One of these frames is not in this pick.", parameter="kept", code="pick-kept")
    pick.reason, pick.decided_at = reason, timezone.now()
    pick.save(update_fields=["reason", "decided_at"])


def reasons_of(person, words=""):
    """(decided picks whose title or reason holds words, how often each reason was given, the most frequent first)."""
    picks = Pick.objects.owned_by(person).exclude(decided_at=None)
    counts = {}
    for reason in picks.values_list("reason", flat=True):
        for part in filter(None, (each.strip().lower() for each in reason.replace(";", ",").split(","))):
            counts[part] = counts.get(part, 0) + 1
    if words:
        picks = picks.filter(Q(reason__icontains=words) | Q(title__icontains=words))
    return picks, sorted(counts.items(), key=lambda each: (-each[1], each[0]))
