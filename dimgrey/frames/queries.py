"""What pages read of the log."""

from dimgrey.frames.models import Frame


def frames_of(person):
    """A person's frames, newest first, with their scenes and outings; 1 query."""
    return Frame.objects.owned_by(person).select_related("scene__outing")


def frame_of(person, pk):
    """One frame of a person, or None; 1 query."""
    return frames_of(person).filter(pk=pk).first()
