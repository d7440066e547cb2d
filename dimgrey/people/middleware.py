"""Local mode: the one person of this machine is signed in, from the loopback address only."""

from django.conf import settings
from django.utils.functional import SimpleLazyObject

from dimgrey.people.actions import local_person

LOOPBACK = {"127.0.0.1", "::1"}


class LocalPersonMiddleware:
    """Gives loopback requests the local person; every other request keeps its sign-in, or is sent to it."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        if settings.DIMGREY_LOCAL and request.META.get("REMOTE_ADDR") in LOOPBACK:
            # Lazy: files and views that never ask who it is cost no query.
            request.user = SimpleLazyObject(local_person)
        return self.get_response(request)
