"""The log of requests: one line each with time, person, what was asked and how it ended, and an id that the answer carries too."""

import logging
import time
import uuid
from contextvars import ContextVar

from pythonjsonlogger.json import JsonFormatter

NO_REQUEST = {"request": "-", "person": "-"}
_about = ContextVar("about", default=NO_REQUEST)
_log = logging.getLogger("dimgrey.request")
ID = "X-Request-ID"


class RequestLog:
    """Gives every request an id, tells it to whoever logs meanwhile, and writes one line when it is answered."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        about = {"request": uuid.uuid4().hex[:12], "person": "-"}
        token, began = _about.set(about), time.monotonic()
        try:
            response = self.get_response(request)
            about["person"] = _name_of(request)
            ms = round((time.monotonic() - began) * 1000)
            told = {"method": request.method, "path": request.path, "status": response.status_code, "ms": ms}
            # The address alone: what follows a question mark may be a secret.
            _log.info("{method} {path} {status}".format(**told), extra=told)
            response[ID] = about["request"]
            return response
        finally:
            _about.reset(token)


def _name_of(request):
    """Number of the person, "-" for nobody. A person that no page asked for is not asked for here either."""
    user = request.__dict__.get("_cached_user") or request.__dict__.get("user")
    wrapped = getattr(user, "_wrapped", user)
    return getattr(wrapped, "pk", None) or "-"


class AboutRequest(logging.Filter):
    """Adds the request's id and person to whatever is logged while it is answered."""

    def filter(self, record):
        for name, value in _about.get().items():
            setattr(record, name, value)
        return True


class Lines(JsonFormatter):
    """One JSON object a line: time, level, where, what, request, person."""

    def __init__(self, *args, **kwargs):
        super().__init__(
            "%(asctime)s %(levelname)s %(name)s %(message)s %(request)s %(person)s",
            rename_fields={"asctime": "time", "levelname": "level", "name": "where", "message": "what"},
            datefmt="%Y-%m-%dT%H:%M:%S%z",
        )
