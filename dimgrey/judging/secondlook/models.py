"""Second look: old colour pictures seen again in grey, and what the person decides about each."""

from django.db import models
from django.urls import reverse

from dimgrey.core.picture.measures import Measures
from dimgrey.people.models import Owned
from dimgrey.people.removal import Removable
from dimgrey.pictures.models import Picture
from dimgrey.web.shaped import ShapedField


class Batch(Removable, Owned):
    """Pictures looked at together."""

    title = models.CharField(max_length=120)
    created_at = models.DateTimeField(auto_now_add=True)

    WORDS = "second look"

    class Meta:
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title

    def get_absolute_url(self):
        return reverse("batch", args=[self.pk])


class OldPicture(Owned):
    """One picture of a batch. `digest` notices duplicates; `problem` is set and its Measures are None when it cannot be read.

    picture: its small grey and colour views, None when it could not be read.
    """

    class Decision(models.TextChoices):
        OPEN = "", "not decided"
        PRINT = "print", "print"
        WAIT = "wait", "wait"
        LEAVE = "leave", "leave"

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="pictures")
    name = models.CharField(max_length=255)
    digest = models.CharField(max_length=64)
    picture = models.OneToOneField(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    problem = models.CharField(max_length=300, blank=True)
    measures = ShapedField(Measures)
    decision = models.CharField(max_length=8, choices=Decision, default=Decision.OPEN, blank=True)
    reason = models.CharField(max_length=24, blank=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["batch", "digest"], name="picture_once_per_batch")]

    def __str__(self):
        return self.name
