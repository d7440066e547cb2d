"""What the list of frames shows of results: a small grey, and the finding in a few words."""

from dimgrey.results import page
from dimgrey.results.queries import first_results


def beside(frames):
    """{frame id: {"result", "finding"}} of frames that have one; 1 query."""
    return {pk: {"result": each, "finding": page.short(each)} for pk, each in first_results(frames).items()}
