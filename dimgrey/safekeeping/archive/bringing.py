"""An archive that came by the page: its pictures are read as other files are, a few at a time and after those of others."""

import time

from django.db import transaction

from dimgrey.pictures import arrivals
from dimgrey.pictures.models import Arrival
from dimgrey.safekeeping.archive.restoring import opened

PURPOSE = "archive"
AT_ONCE_S = 3
"""So long others' files wait behind an archive."""


def bring(person, source, name, parts):
    """Take an archive in, to be read in a moment. Returns its Arrival. Raises CoreError for what is plainly none."""
    with arrivals.laid_down(person, source, name, is_picture=False) as row, transaction.atomic():
        with opened(person, row.original, row.path):
            pass
        arrivals.send(row, PURPOSE, person.pk, parts=list(parts))
        arrivals.refused(row)
    return row


@arrivals.reads(PURPOSE, is_picture=False)
def read_archive(arrival, parts):
    """Lay its pictures aside for a while; once they all are, hand back what keeps it."""
    with opened(arrival.owner, arrival.original, arrival.path) as incoming:
        done, most = incoming.lay_pictures(parts, time.monotonic() + AT_ONCE_S)
    if done < most:
        _say(arrival, f"{done} of {most} pictures are read.")
        return None

    def keep():
        with opened(arrival.owner, arrival.original, arrival.path) as incoming:
            _say(arrival, told_of(incoming.take(parts)))
        return arrival.owner_id

    return keep


def told_of(count):
    """What came in, in words. count: as restore_archive gives it."""
    return ", ".join(f"{number} {what}" for what, number in count.items() if number) or "nothing new"


def _say(arrival, words):
    Arrival.objects.filter(pk=arrival.pk).update(sentence=words[:400])
