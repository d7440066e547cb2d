"""The one rule of deletion: a picture's files go when its row is gone for certain, however it was deleted."""

from django.db import transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver

from dimgrey.pictures.models import Picture
from dimgrey.pictures.store import drop_files


@receiver(post_delete, sender=Picture)
def drop_with_the_row(instance, **kwargs):
    folder = instance.path
    transaction.on_commit(lambda: drop_files(folder))


def goes_with(model):
    """A model's rows take the picture they point at along when they are deleted, cascades included."""

    def drop(instance, **kwargs):
        if instance.picture_id is not None:
            for picture in Picture.objects.filter(pk=instance.picture_id):
                picture.delete()

    post_delete.connect(drop, sender=model, weak=False, dispatch_uid=f"picture-of-{model.__name__}")
