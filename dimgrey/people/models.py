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


class Device(Owned):
    """A phone that was paired: it is signed in by its session, and dropping it ends that."""

    name = models.CharField(max_length=60)
    session_key = models.CharField(max_length=40, unique=True)
    paired_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField()

    class Meta:
        ordering = ["-used_at"]

    def __str__(self):
        return self.name


class PairingCode(Owned):
    """A code that one phone may be paired with, once, for a few minutes. digest: what is kept of it. misses: wrong codes typed since."""

    digest = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    misses = models.PositiveIntegerField(default=0)

    def __str__(self):
        return f"until {self.until:%H:%M}"
