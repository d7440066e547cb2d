"""What pages read of results."""

from dimgrey.kit.models import ItemRevision
from dimgrey.results.models import Result


def results_of(frame):
    """The results of a frame with their pictures, in the order they came; 1 query."""
    return frame.results.select_related("picture")


def result_of(person, pk):
    """One result of a person with its frame, or None; 1 query."""
    return (
        Result.objects.owned_by(person)
        .select_related("picture", "frame__scene__outing", "frame__picture", "frame__roll")
        .filter(pk=pk)
        .first()
    )


def first_results(frames):
    """{frame id: its first result with a picture}; 1 query."""
    found = Result.objects.filter(frame__in=frames).exclude(picture=None).select_related("picture").order_by("-pk")
    return {result.frame_id: result for result in found}


def corrections_of(person):
    """Corrections that a person applied, newest first, undone ones too; 1 query."""
    return ItemRevision.objects.filter(item__owner=person).exclude(correction="").select_related("item")


def correction_of(person, pk):
    """One correction of a person, or None; 1 query."""
    return corrections_of(person).filter(pk=pk).first()


def results_to_pick(person):
    """Results with a file, newest first, at most a page of them; 1 query."""
    rows = Result.objects.owned_by(person).exclude(picture=None).select_related("picture", "frame")
    return rows.order_by("-frame__exposed_at", "-pk")[:60]
