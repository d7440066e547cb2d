"""What pages read of second looks."""

from django.db.models import Count

from dimgrey.judging.secondlook.models import Batch


def batches_of(person):
    """A person's batches with the number of pictures; 1 query."""
    return Batch.objects.owned_by(person).annotate(count=Count("pictures"))


def batch_of(person, pk):
    """One batch of a person, or None; 1 query."""
    return Batch.objects.owned_by(person).filter(pk=pk).first()


def pictures_of(batch):
    """The pictures of a batch with their views; 1 query."""
    return batch.pictures.select_related("picture")
