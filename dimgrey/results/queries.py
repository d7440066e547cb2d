"""What pages read of results."""

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
