"""Files that come for a frame, or for a bracket as a group: each finds the frame that it was taken with."""

import math

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.exposure import ev100
from dimgrey.frames.forms import kept_setting
from dimgrey.frames.queries import bracket_of
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.upload import source_of
from dimgrey.results.actions import keep_decoded

NEAR_STOPS = 0.4
"""A file belongs to the frame of a bracket whose exposure its data come so close to."""


def bring(frame, files, kind="", is_group=False):
    """Keep uploaded files as results. is_group: they are part of a larger number. Several of a bracket go to the frames whose exposure they were taken with, else in their
    order. Returns (results that were kept, one sentence for each file that was not)."""
    frames = bracket_of(frame) if is_group or len(files) > 1 else [frame]
    kept, mistakes = [], []
    for place, file in enumerate(files):
        try:
            source = source_of(file)
            decoded = read_picture(source, file.name)
            whose = frame if len(frames) == 1 else _taken_with(frames, decoded, place)
            kept.append(keep_decoded(whose, decoded, source, file.name, kind))
        except CoreError as refused:
            mistakes.append(f"{file.name}: {refused}")
    return kept, mistakes


def _taken_with(frames, decoded, place):
    """The frame of a bracket that a file was taken with. place: of the file among those that came."""
    shot = decoded.shot
    if shot.f_number and shot.time_s and shot.iso:
        given = ev100(shot.f_number, shot.time_s, shot.iso)
        nearest = min(frames, key=lambda each: abs(_ev(each) - given))
        if abs(_ev(nearest) - given) <= NEAR_STOPS:
            return nearest
    return frames[min(place, len(frames) - 1)]


def _ev(frame):
    given = kept_setting(frame).ev100
    return math.inf if given is None else given
