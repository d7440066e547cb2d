"""Light studies: one subject in the lights of a day, a week or a year."""

from django.db import models
from django.urls import reverse

from dimgrey.core.picture.match import Match
from dimgrey.outings.models import Outing
from dimgrey.people.models import Owned
from dimgrey.people.removal import Removable
from dimgrey.pictures.deletion import goes_with
from dimgrey.pictures.models import Picture
from dimgrey.scenes.models import Scene
from dimgrey.web.shaped import ShapedField


class Study(Removable, Owned):
    """One subject. outing: tells the place, None where the sun is not to be told. heading_deg: where the camera looks. subject: (x, y) and crop:
    left, top, right, bottom, in the first picture, fractions."""

    title = models.CharField(max_length=120)
    outing = models.ForeignKey(Outing, on_delete=models.SET_NULL, related_name="+", null=True)
    heading_deg = models.FloatField(null=True)
    subject = models.JSONField(default=list)
    crop = models.JSONField(default=list)
    created_at = models.DateTimeField(auto_now_add=True)

    WORDS = "light study"

    class Meta:
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title

    def get_absolute_url(self):
        return reverse("study", args=[self.pk])


class StudyPicture(Removable):
    """One light of a study. picture: its own file; scene: the scene whose picture it shows instead. laid: its Match over the first.
    at: when it was taken, None where nobody knows."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="pictures")
    picture = models.OneToOneField(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    scene = models.ForeignKey(Scene, on_delete=models.SET_NULL, related_name="+", null=True)
    laid = ShapedField(Match)
    at = models.DateTimeField(null=True)
    note = models.CharField(max_length=120, blank=True)

    OWNER, WORDS = "study__owner_id", "light of a study"

    class Meta:
        ordering = ["pk"]

    def __str__(self):
        return f"{self.at:%-d %B, %H:%M} of {self.study}" if self.at else f"a light of {self.study}"

    def get_absolute_url(self):
        return self.study.get_absolute_url()

    @property
    def shown(self):
        """The Picture that it shows, or None when that is gone."""
        return self.picture or (self.scene.picture if self.scene else None)


goes_with(StudyPicture)
