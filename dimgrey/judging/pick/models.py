"""Picks among near-identical frames, and why those were kept."""

from django.db import models
from django.urls import reverse

from dimgrey.core.errors import CoreError
from dimgrey.core.judging.pick import Look
from dimgrey.core.picture.match import Match
from dimgrey.people.models import Owned
from dimgrey.people.removal import Removable
from dimgrey.results.models import Result
from dimgrey.web.shaped import ShapedField


class Pick(Removable, Owned):
    """A choice among near-identical frames. subject: (x, y) in the first of them, fractions. reason: why those were kept, in the person's words."""

    title = models.CharField(max_length=120)
    subject = models.JSONField(default=list)
    reason = models.CharField(max_length=300, blank=True)
    decided_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    WORDS = "pick"

    class Meta:
        app_label = "results"  # its tables were made there
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title

    def get_absolute_url(self):
        return reverse("pick", args=[self.pk])

    def make_room(self):
        mine = Candidate._base_manager.filter(pick=self).values("result")
        if Candidate.objects.filter(result__in=mine).exists():
            raise CoreError("Its frames are in another pick now.", code="picked-again")


class Standing(models.Manager):
    """Frames of picks, without what was removed."""

    def get_queryset(self):
        return super().get_queryset().filter(result__removed_at=None, pick__removed_at=None)


class Candidate(models.Model):
    """One frame of a pick. laid: its Match over the first one. look: what core.judging.pick found. kept: it was picked."""

    pick = models.ForeignKey(Pick, on_delete=models.CASCADE, related_name="candidates")
    result = models.ForeignKey(Result, on_delete=models.CASCADE, related_name="+")
    laid = ShapedField(Match)
    look = ShapedField(Look)
    kept = models.BooleanField(default=False)

    objects = Standing()

    class Meta:
        app_label = "results"  # its tables were made there
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["pick", "result"], name="result_once_per_pick")]

    def __str__(self):
        return f"{self.result_id} of {self.pick}"
