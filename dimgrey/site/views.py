"""Pages that belong to no app: what is shown when something is not there or went wrong."""

import sys

from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse
from django.shortcuts import render
from django.template import loader

from dimgrey.site.troubles import sentence_for
from dimgrey.web.answers import refused

FAULT = 500


@login_not_required
def not_found(request, exception):
    text = str(exception.args[0]) if exception.args and isinstance(exception.args[0], str) else "There is no such page."
    return render(request, "site/problem.html", {"title": "Not here", "text": text}, status=404)


@login_not_required
def failed(request):
    """A sentence that says what is kept, without the database, which may be what failed."""
    status, text = sentence_for(sys.exception())
    if "HX-Request" in request.headers or "application/json" in request.headers.get("Content-Type", ""):
        return refused(text, status)
    title = "Our fault" if status == FAULT else "Not now"
    return HttpResponse(loader.render_to_string("site/problem.html", {"title": title, "text": text}), status=status)
