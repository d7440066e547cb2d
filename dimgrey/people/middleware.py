"""Who is asking: the one person of this machine, from the loopback address only; a paired device by its session."""

from django.conf import settings
from django.contrib.auth.models import AnonymousUser
from django.utils.functional import SimpleLazyObject

from dimgrey.people.actions import local_person
from dimgrey.people.devices import DEVICE, is_let_in

LOOPBACK = {"127.0.0.1", "::1"}
FORWARDED = ("HTTP_X_FORWARDED_FOR", "HTTP_FORWARDED", "HTTP_X_FORWARDED_HOST")
"""What a server in front of this one adds: then the loopback address is its own, and says nothing of who asks."""


class LocalPersonMiddleware:
    """Gives loopback requests the local person; every other request keeps its sign-in, or is sent to it."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        if settings.DIMGREY_LOCAL and is_from_here(request.META):
            # Lazy: files and views that never ask who it is cost no query.
            request.user = SimpleLazyObject(local_person)
        elif DEVICE in request.session and not is_let_in(request.session):
            request.session.flush()
            request.user = AnonymousUser()
        return self.get_response(request)


def is_from_here(meta):
    """Whether a request comes from this machine itself, and not through a server in front of this one."""
    return meta.get("REMOTE_ADDR") in LOOPBACK and not any(key in meta for key in FORWARDED)
