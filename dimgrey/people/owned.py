"""Who may see what, at the edge: a view gets one of the person's own rows, or nobody learns whether there is one."""

from functools import wraps

from django.http import Http404


def owned(query, person, pk, what):
    """The person's row, or a 404 that does not tell whether another person has one.

    query: (person, pk) -> row or None. what: in words, such as "scene".
    """
    row = query(person, pk)
    if row is None:
        raise Http404(f"There is no such {what} among yours.")
    return row


def of_mine(query, what):
    """Hands a view the person's row instead of its number. query, what: as in `owned`."""

    def decorated(view):
        @wraps(view)
        def found(request, pk, *args, **kwargs):
            return view(request, owned(query, request.user, pk, what), *args, **kwargs)

        return found

    return decorated


def owners_alone(view):
    """A page of the house is there for its owners; for everybody else there is no such page."""

    @wraps(view)
    def shown(request, *args, **kwargs):
        if not request.user.is_owner:
            raise Http404("There is no such page.")
        return view(request, *args, **kwargs)

    return shown
