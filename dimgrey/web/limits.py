"""What is too much to be taken: answered with a sentence before it is read."""

from django.conf import settings
from django.http import HttpResponse

MOST_OF_STRANGERS = 1_000_000
"""Bytes of a request that brings no sign-in along: a form. The web server in front has the same limit, before it takes the body."""


class UploadLimit:
    """Refuses a request whose body is larger than any file that is taken, of a stranger than any form. The server in front of it takes the
    body, so the answer arrives."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        length = request.META.get("CONTENT_LENGTH") or "0"
        is_stranger = not settings.DIMGREY_LOCAL and settings.SESSION_COOKIE_NAME not in request.COOKIES
        most = MOST_OF_STRANGERS if is_stranger else settings.DIMGREY_MOST_UPLOADED
        if not length.isdecimal() or int(length) > most:
            sentence = (
                f"At most {most / 1e6:.0f} MB are taken at once. Nothing was kept of it, and nothing was changed."
            )
            return HttpResponse(sentence, status=413, content_type="text/plain; charset=utf-8")
        return self.get_response(request)
