"""What a page says of what was removed on the page before."""

from django import template

from dimgrey.people.forms import RemovedForm
from dimgrey.people.removal import removed_row

register = template.Library()


@register.inclusion_tag("people/_just_removed.html", takes_context=True)
def just_removed(context):
    """The offer to bring back what the address names as removed; nothing for anything else."""
    request = getattr(context, "request", None)
    form = RemovedForm(request.GET) if getattr(request, "user", None) else None
    if form is None or not form.is_valid():
        return {}
    kind, pk = form.typed.removed.split("-")
    return {"kind": kind, "row": removed_row(request.user, kind, int(pk))}
