"""The place where the picture was taken as the scene's. The day is the picture's, where it tells one."""

from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.model import PlacePart


def _edit(document, said, case):
    told = case.place()
    if told is None:
        raise Refused("This picture tells no place.", code="no-place")
    latitude, longitude, day = told
    return document.with_(place=PlacePart(latitude, longitude, date=day))


VERB = Verb(
    "take-place", "Take the place that the picture tells", _edit, words="place of the picture", needs=("place",)
)
