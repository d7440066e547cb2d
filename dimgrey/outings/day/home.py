"""What home shows: the next outing with its light today, the scene to resume, every outing with its scenes."""

from dataclasses import dataclass

from dimgrey.core.errors import CoreError
from dimgrey.outings.day import queries
from dimgrey.outings.day.table import light_table
from dimgrey.outings.queries import next_outing, removed_outings_of
from dimgrey.scenes.queries import removed_scenes_of, scenes_of
from dimgrey.scenes.summary import listed_soundly


@dataclass(frozen=True)
class Home:
    next: object
    next_in: str
    next_light: tuple
    resume: object
    outings: tuple
    loose: tuple
    removed: tuple
    removed_outings: tuple
    unshown: tuple


def home_of(person, now):
    """Home of a person; 5 queries."""
    found = list(queries.outings_of(person))
    loose = list(scenes_of(person).filter(outing=None))
    scenes = [*loose, *(scene for outing in found for scene in outing.scenes.all())]
    coming = next_outing(found, now.date())
    last = max(scenes, key=lambda scene: scene.updated_at, default=None)
    alone, unshown = listed_soundly(loose, person.tone_labels)
    outings, all_shown = [], []
    for outing in found:
        shown, wrong = listed_soundly(outing.scenes.all(), person.tone_labels)
        outings.append({"outing": outing, "scenes": shown})
        all_shown += shown
        unshown += wrong
    everything = [*alone, *all_shown]
    return Home(
        next=coming,
        next_in=_in_days((coming.date - now.date()).days) if coming else "",
        next_light=_light(coming) if coming else (),
        resume=next((scene for scene in everything if last and scene.pk == last.pk), None),
        outings=tuple(outings),
        loose=tuple(alone),
        removed=tuple(removed_scenes_of(person)[:5]),
        removed_outings=tuple(removed_outings_of(person)[:5]),
        unshown=tuple(unshown),
    )


def _in_days(days):
    return {0: "today", 1: "tomorrow"}.get(days, f"in {days} days")


def _light(outing):
    try:
        table = light_table(outing, [])
    except CoreError:
        return ()
    return table.facts[:2] if table else ()
