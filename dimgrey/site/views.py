"""Pages that belong to no app: what is shown when something is not there or went wrong."""

from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponseServerError
from django.shortcuts import render
from django.template import loader


@login_not_required
def not_found(request, exception):
    text = str(exception.args[0]) if exception.args and isinstance(exception.args[0], str) else "There is no such page."
    return render(request, "site/problem.html", {"title": "Not here", "text": text}, status=404)


@login_not_required
def failed(request):
    """A plain page without the database, which may be what failed."""
    text = "Something went wrong on our side. Every confirmed reading is kept; go back and try again."
    return HttpResponseServerError(loader.render_to_string("site/problem.html", {"title": "Our fault", "text": text}))
