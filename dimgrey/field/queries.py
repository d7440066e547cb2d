"""What a phone is told of outings before it takes one along. Says what it costs."""

from datetime import timedelta

from dimgrey.outings.queries import outings_of
from dimgrey.scenes.models import Scene

MOST_NEAR = 12


def outings_near(person, today, have=()):
    """The outings from yesterday on, the last ones made and those that a phone has, each with the stamps of its scenes, as plain values; 4 queries.

    have: numbers of outings.
    """
    known = outings_of(person)
    coming = known.filter(date__gte=today - timedelta(days=1)).order_by("date", "pk")
    near = {*have, *coming.values_list("pk", flat=True)[:MOST_NEAR], *known.values_list("pk", flat=True)[:MOST_NEAR]}
    scenes = {pk: [] for pk in near}
    rows = Scene.objects.owned_by(person).filter(removed=False, outing__in=near)
    for outing, pk, title, stamp in rows.values_list("outing_id", "pk", "title", "stamp"):
        scenes[outing].append({"pk": pk, "title": title, "stamp": stamp})
    return [
        {"pk": pk, "title": title, "date": date.isoformat() if date else "", "scenes": scenes[pk]}
        for pk, title, date in known.filter(pk__in=near).values_list("pk", "title", "date")
    ]
