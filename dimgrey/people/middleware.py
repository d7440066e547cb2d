"""Who is asking: the one person of this machine, from the loopback address only; a paired device by its session."""

from django.conf import settings
from django.contrib.auth.middleware import LoginRequiredMiddleware
from django.contrib.auth.models import AnonymousUser
from django.shortcuts import render
from django.utils.functional import SimpleLazyObject

from dimgrey.people.actions import local_person
from dimgrey.people.interrupted import carry, safe_next
from dimgrey.people.pairing import DEVICE, is_let_in
from dimgrey.web.answers import refused

ENDED = "Your sign-in has ended. Sign in again; what you did is not lost."

LOOPBACK = {"127.0.0.1", "::1"}
FORWARDED = (
    "HTTP_X_FORWARDED_FOR", "HTTP_FORWARDED", "HTTP_X_FORWARDED_HOST", "HTTP_X_FORWARDED_PROTO", "HTTP_X_FORWARDED_PORT",
    "HTTP_X_FORWARDED_SERVER", "HTTP_X_REAL_IP", "HTTP_X_CLIENT_IP", "HTTP_VIA", "HTTP_CF_CONNECTING_IP", "HTTP_TRUE_CLIENT_IP",
)  # fmt: skip
"""What a server in front of this one adds: then the loopback address is its own, and says nothing of who asks."""
OLD_PROTOCOL = "HTTP/1.0"
"""No browser speaks it any more, and web servers do to those behind them."""


class SignInFirst(LoginRequiredMiddleware):
    """Asks for a sign-in, and drops nothing of what was on its way: a script is told to ask and send again, a form is carried along."""

    def handle_no_permission(self, request, view_func):
        if request.headers.get("HX-Request") or request.content_type == "application/json":
            return refused(ENDED, 401)
        if request.method != "POST":
            return super().handle_no_permission(request, view_func)
        carried = carry(request)
        context = {
            "form": None,
            "next": safe_next(request),
            "carried": carried,
            "ended": True,
            "lost_files": bool(request.FILES),
        }
        return render(request, "people/sign_in.html", context, status=401)


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


def address_of(request):
    """Where a request comes from: what the server says, which knows the proxy before it."""
    return request.META.get("REMOTE_ADDR", "")


def is_from_here(meta):
    """Whether a request comes from this machine itself, and not through a server in front of this one."""
    if meta.get("SERVER_PROTOCOL") == OLD_PROTOCOL or any(key in meta for key in FORWARDED):
        return False
    return meta.get("REMOTE_ADDR") in LOOPBACK
