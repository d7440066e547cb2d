"""Answers that are no pages: a refusal in one sentence, a file to save."""

from django.http import HttpResponse
from django.utils.text import slugify


def refused(sentence, status=422):
    """A refusal in plain text, for what scripts and links ask."""
    return HttpResponse(sentence, status=status, content_type="text/plain; charset=utf-8")


def attached(data, content_type, title, ending, usual="file"):
    """A file to save, named after a title. ending: what follows it, such as "-grey.png"."""
    response = HttpResponse(data, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{slugify(title) or usual}{ending}"'
    return response
