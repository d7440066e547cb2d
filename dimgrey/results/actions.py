"""Keeping results, laying them over their plans again, letting them go: the only place that writes them."""

import hashlib
from pathlib import Path

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.match import by_points
from dimgrey.frames.queries import bracket_of, frame_of
from dimgrey.pictures import arrivals
from dimgrey.pictures.actions import keep_picture, keeping, lying_picture
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.upload import source_of
from dimgrey.results.comparison import NothingToCompare, found_of, match_of, planned_of
from dimgrey.results.matching import taken_with
from dimgrey.results.models import Result

MOST_OF_A_FRAME = 60
PURPOSE = "frame"
"""What a file for a frame comes for."""


def keep_result(frame, source, filename, kind="", match=None):
    """Keep a file as a result of a frame, and compare it. The same file twice is one. Returns the Result.

    source: bytes, or the path of a file. match: how it lies over the plan, None to find it. Raises PictureError for what is no picture.
    """
    return keep_decoded(frame, read_picture(source, filename), source, filename, kind, match)


def keep_decoded(frame, decoded, source, filename, kind="", match=None):
    """`keep_result` of a file that was read already."""
    digest = digest_of(source)
    known = known_result(frame, digest)
    if known:
        return known
    with keeping():
        picture = keep_picture(frame.owner_id, decoded, source, filename)
        result = Result.objects.create(owner=frame.owner, frame=frame, picture=picture, kind=kind, digest=digest)
    return compare(result, match)


@arrivals.reads(PURPOSE)
def read_for_frame(arrival, decoded, kind="", is_group=False, place=0):
    """A file becomes a result of the frame it was taken with, compared already when it is kept; the same file twice is one."""
    frame = frame_of(arrival.owner, arrival.subject)
    if frame is None:
        raise CoreError("The frame is gone.", code="frame-gone")
    if is_group:
        frame = taken_with(bracket_of(frame), decoded, place)
    digest = digest_of(arrival.original)
    known = known_result(frame, digest)
    if known:
        return lambda: known.pk
    picture = lying_picture(arrival, decoded)
    result = Result(owner_id=arrival.owner_id, frame=frame, picture=picture, kind=kind, digest=digest)
    _measure(result, None)

    def keep():
        known = known_result(frame, digest)  # one that came twice at once
        if known:
            return known.pk
        picture.save()
        result.save()
        return result.pk

    return keep


def known_result(frame, digest):
    """A result of the same file, or None. Raises CoreError for a new one where there are too many."""
    known = Result.objects.filter(frame=frame, digest=digest).first()
    if known is None and frame.results.count() >= MOST_OF_A_FRAME:
        raise CoreError(f"A frame has at most {MOST_OF_A_FRAME} results. Remove one first.", code="results-many")
    return known


def digest_of(source):
    """SHA-256 of a source, in hex."""
    if not isinstance(source, Path):
        return hashlib.sha256(source).hexdigest()
    with source.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def compare(result, match=None):
    """Lay a result over its plan and measure it. match: None to find it. What was found before stays where nothing can be compared now."""
    _measure(result, match)
    result.save(update_fields=["laid", "found", "refused"])
    return result


def _measure(result, match):
    try:
        planned = planned_of(result.frame)
        if result.picture is None:
            raise NothingToCompare("The file of this result is gone. What was measured before is kept.", code="no-file")
        match = match or match_of(planned, result.picture)
        result.laid = match.plain
        result.found = found_of(result.frame, planned, result.picture, match, result.kind)
        result.refused = ""
    except CoreError as refused:
        result.refused = str(refused)[:400]
        if not isinstance(refused, NothingToCompare):
            result.found = None
            result.laid = match.plain if match else None


def bring(frame, files, kind="", is_group=False):
    """Take uploaded files in as results of a frame, or of its bracket. is_group: they are part of a larger number.

    Returns (results that are kept already, one sentence for each file that was not taken).
    """
    is_group = is_group or len(files) > 1
    kept, mistakes = [], []
    for place, file in enumerate(files):
        try:
            about = {"kind": kind, "is_group": is_group, "place": place}
            row = arrivals.take_in(frame.owner, PURPOSE, frame.pk, source_of(file), file.name, **about)
            if row.became:
                kept.append(row.became)
        except CoreError as refused:
            mistakes.append(f"{file.name}: {refused}")
    return kept, mistakes


def lay_by_points(result, planned, there, is_mirrored=False, is_negative=False):
    """Lay a result over its plan by three pairs of places. Raises CoreError for three on one line."""
    return compare(result, by_points(planned, there, is_mirrored, is_negative))


def name_kind(result, kind):
    """Say what kind of file a result is, and compare it again as that."""
    result.kind = kind
    result.save(update_fields=["kind"])
    return compare(result, result.laid)
