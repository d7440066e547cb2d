"""What pages read of pictures."""

from django.db.models import Sum

from dimgrey.pictures.models import Arrival, Picture, folder_path


def folder_of(person, folder):
    """Path of the folder of one of a person's pictures, or None; 1 query, no model. folder: its UUID."""
    found = Picture.objects.owned_by(person).filter(folder=folder).exists()
    return folder_path(folder) if found else None


def bytes_of(owner_id):
    """Bytes that a person's pictures take, with those of files that wait to be read; 2 queries."""
    kept = Picture.objects.filter(owner_id=owner_id).aggregate(all=Sum("bytes"))["all"] or 0
    waits = Arrival.objects.filter(owner_id=owner_id, state=Arrival.State.WAITING).aggregate(all=Sum("bytes"))["all"]
    return kept + (waits or 0)


def bytes_of_all():
    """Number of a person -> bytes that their pictures take; 1 query."""
    return dict(Picture.objects.values_list("owner").annotate(all=Sum("bytes")).order_by())
