"""What pages read of the log."""

from dimgrey.frames.models import Frame


def frames_of(person):
    """A person's frames, newest first, with their scenes; 1 query."""
    return Frame.objects.owned_by(person).select_related("scene")
