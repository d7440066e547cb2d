"""The health of the house, for whoever watches it, and freeing what was removed at once."""

from datetime import timedelta

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.db import DatabaseError, connection
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from dimgrey.pictures.reader import is_alive
from dimgrey.safekeeping.freeing import free
from dimgrey.safekeeping.proof import last_proof
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
    return redirect("home")
