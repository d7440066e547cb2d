"""What a page says of what was removed on the page before."""

from django import template

from dimgrey.people.removal import removed_row

register = template.Library()


@register.inclusion_tag("people/_just_removed.html", takes_context=True)
def just_removed(context):
    """The offer to bring back what the address names as removed; nothing for anything else."""
    request = getattr(context, "request", None)
    said = request.GET.get("removed", "") if request else ""
    kind, _, pk = said.partition("-")
    row = removed_row(request.user, kind, int(pk)) if pk.isdecimal() and len(pk) < 18 else None
    return {"kind": kind, "row": row}
