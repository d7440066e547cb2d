"""The look a page is drawn with: surround, mode, tone labels and whether words are explained, of the person who asks."""

from django.conf import settings
from django.contrib.auth import SESSION_KEY


def look_of_request(request):
    person = getattr(request, "user", None)
    signed_in = person is not None and person.is_authenticated
    return {
        # A function, so that the session is read only for a page that shows the link.
        "signs_out": lambda: signed_in and SESSION_KEY in request.session,
        "surround": person.surround if signed_in else "middle",
        "explains_words": signed_in and person.explains_words,
        "mode": person.mode if signed_in else "auto",
        "labels": person.tone_labels if signed_in else "zones",
        "signed_in": signed_in,
        "owns_house": lambda: signed_in and person.is_owner and not settings.DIMGREY_LOCAL,
    }
