"""The health of the house, for whoever watches it, and freeing what was removed at once."""

from datetime import timedelta

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.db import DatabaseError, connection
from django.http import Http404
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.outings.queries import removed_outings_of
from dimgrey.people import removal
from dimgrey.pictures.reader import is_alive
from dimgrey.safekeeping.freeing import free
from dimgrey.safekeeping.proof import last_proof
from dimgrey.scenes.queries import removed_scenes_of
from dimgrey.web.answers import refused


@require_safe
@login_not_required
def health(request):
    """ "ok" while the database answers; for supervisors, without a sign-in; whether the last backup was proven, and nothing else."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1 FROM django_migrations LIMIT 1")
    except DatabaseError:
        return refused("the database does not answer", 503)
    proof = last_proof(settings.DIMGREY_DATA)
    wrong = [] if proof is None or proof.is_good else ["the last backup was not proven"]
    if not is_alive():
        wrong.append("nothing reads the pictures that come in")
    return refused(", but ".join(["ok", " and ".join(wrong)]) if wrong else "ok", 200)


def proof_for(person):
    """The last Proof of a backup, for those who look after the house; None for others and where none was made."""
    return last_proof(settings.DIMGREY_DATA) if person.is_owner or settings.DIMGREY_LOCAL else None


@require_POST
def free_removed(request):
    """Delete for good, now, what a person removed."""
    free(request.user, timedelta(0))
    return redirect("removed")


@require_safe
def removed(request):
    """All that a person removed, to be brought back or let go for good."""
    return _removed(request)


def _removed(request, problem=""):
    context = {
        "rows": removal.removed_rows(request.user),
        "scenes": removed_scenes_of(request.user),
        "outings": removed_outings_of(request.user),
        "problem": problem,
        "page": "account",
    }
    return render(request, "safekeeping/removed.html", context, status=422 if problem else 200)


@require_POST
def bring_back_row(request, kind, pk):
    """Something that was removed stands again."""
    row = removal.removed_row(request.user, kind, pk)
    if row is None:
        raise Http404("There is no such thing among what you removed.")
    try:
        removal.bring_back(row)
    except CoreError as refused:
        return _removed(request, str(refused))
    return redirect(row)
