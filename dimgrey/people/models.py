"""Who uses Dimgrey, and how they like to look at it."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Person(AbstractUser):
    """One photographer. Everything else in the database belongs to one of them."""

    class Surround(models.TextChoices):
        DARK = "dark", "dark"
        MIDDLE = "middle", "middle"
        LIGHT = "light", "light"

    class Mode(models.TextChoices):
        PLAIN = "plain", "plain"
        SUN = "sun", "sun"
        NIGHT = "night", "night"

    class Labels(models.TextChoices):
        ZONES = "zones", "zones 0–X"
        STOPS = "stops", "stops −5–+5"

    surround = models.CharField(max_length=8, choices=Surround, default=Surround.MIDDLE)
    mode = models.CharField(max_length=8, choices=Mode, default=Mode.PLAIN)
    tone_labels = models.CharField(max_length=8, choices=Labels, default=Labels.ZONES)


class OwnedQuerySet(models.QuerySet):
    """Rows of one person; every query of the application starts here."""

    def owned_by(self, person):
        return self.filter(owner_id=person.pk)


class Owned(models.Model):
    """A row that belongs to a person."""

    owner = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True
