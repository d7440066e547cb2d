"""A form that was sent after the sign-in had ended: signed, carried through the sign-in page, and sent on afterwards.

Nothing of it is kept on the server meanwhile. Files cannot be carried; the page says so.
"""

from urllib.parse import urlsplit

from django.core import signing

SALT = "dimgrey.carried"
LASTS_S = 3600
MOST_LETTERS = 100_000


def carry(request):
    """What a form said, signed, as text; "" for more than fits."""
    fields = [
        [name, value] for name, values in request.POST.lists() for value in values if name != "csrfmiddlewaretoken"
    ]
    text = signing.dumps([request.get_full_path(), fields], salt=SALT, compress=True)
    return text if len(text) <= MOST_LETTERS else ""


def carried(text):
    """(address, fields) of what `carry` signed; None for anything else, and for what is older than an hour."""
    try:
        to, fields = signing.loads(text, salt=SALT, max_age=LASTS_S)
        return to, fields
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return None


def safe_next(request):
    """Where to go after signing in: the page that the form stood on, on this site alone; "/" else."""
    said = urlsplit(request.headers.get("Referer", ""))
    here = said.netloc == request.get_host()
    return f"{said.path}{'?' + said.query if said.query else ''}" if here and said.path.startswith("/") else "/"
