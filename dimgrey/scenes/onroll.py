"""The rolls that are in a person's cameras: the log tells them, which stands above scenes. Asked once in a request."""

from threading import local

from django.core.signals import request_finished, request_started
from django.dispatch import receiver

_told_by = []
_request = local()


def rolls_are_told(function):
    """Let the log tell them. function: number of a person -> RollInUse of each."""
    _told_by[:] = [function]


def rolls_in_cameras(owner_id):
    """RollInUse of each roll that is in a camera of a person; 1 query, none when the request has asked already."""
    known = getattr(_request, "known", None)
    if known is not None and owner_id in known:
        return known[owner_id]
    found = tuple(roll for tell in _told_by for roll in tell(owner_id))
    if known is not None:
        known[owner_id] = found
    return found


@receiver(request_started)
def begin(**_):
    """Nothing is known yet."""
    _request.known = {}


@receiver(request_finished)
def forget(**_):
    """What comes next asks anew; outside of requests nothing is kept. Also after a change of rolls."""
    _request.known = None
