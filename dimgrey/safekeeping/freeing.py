"""Freeing what was removed: for good after thirty days, at once when asked. Also how much room everything takes."""

from dataclasses import dataclass, replace

from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import F, Max
from django.utils import timezone

from dimgrey.outings.models import Outing
from dimgrey.people.removal import KEPT_FOR, delete_removed
from dimgrey.pictures import actions as pictures
from dimgrey.pictures import arrivals
from dimgrey.pictures.models import Picture
from dimgrey.scenes.models import Revision, Scene


@dataclass(frozen=True)
class Freed:
    """How many of each went for good."""

    scenes: int = 0
    outings: int = 0
    pictures: int = 0
    folders: int = 0
    bytes: int = 0
    others: int = 0


@transaction.atomic
def free(person=None, older_than=KEPT_FOR, now=None):
    """Delete for good what was removed before so long. person: of whom, None for everybody. Returns Freed, without folders."""
    until = (now or timezone.now()) - older_than
    mine = {} if person is None else {"owner": person}
    scenes = Scene.objects.filter(removed=True, removed_at__lte=until, **mine)
    outings = Outing.objects.filter(removed=True, removed_at__lte=until, **mine)
    count = scenes.count() + Scene.objects.filter(outing__in=outings, removed=False).count()
    for scene in scenes:
        scene.delete()
    outing_count = outings.count()
    for outing in outings:
        outing.delete()
    return Freed(count, outing_count, _free_pictures(until, mine), others=delete_removed(until, person))


def _free_pictures(until, mine):
    """Delete pictures that another one replaced so long ago; states that had them show the present one from now on."""
    old = (
        Revision.objects.exclude(parent__picture=None)
        .exclude(picture=F("parent__picture"))
        .filter(**{f"scene__{key}": value for key, value in mine.items()})
        .values("parent__picture")
        .annotate(replaced=Max("at"))
        .filter(replaced__lte=until)
        .values_list("parent__picture", flat=True)
    )
    found = Picture.objects.filter(pk__in=list(old)).exclude(
        pk__in=Scene.objects.exclude(picture=None).values("picture")
    )
    count = 0
    for picture in found:
        for revision in Revision.objects.filter(picture=picture).select_related("scene")[:1]:
            Revision.objects.filter(picture=picture).update(picture=revision.scene.picture_id)
        picture.delete()
        count += 1
    return count


def tidy(now=None):
    """All that a daily run does: free, sweep folders of nobody, forget ended sessions. Returns Freed."""
    freed = free(now=now)
    arrivals.forget()
    folders, size = pictures.sweep()
    Session.objects.filter(expire_date__lt=now or timezone.now()).delete()
    return replace(freed, folders=folders, bytes=size)
