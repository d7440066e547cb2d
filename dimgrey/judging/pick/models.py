"""Picks among near-identical frames, and why those were kept."""

from django.db import models

from dimgrey.core.judging.pick import Look
from dimgrey.core.picture.match import Match
from dimgrey.people.models import Owned
from dimgrey.results.models import Result
from dimgrey.web.shaped import ShapedField


class Pick(Owned):
    """A choice among near-identical frames. subject: (x, y) in the first of them, fractions. reason: why those were kept, in the person's words."""

    title = models.CharField(max_length=120)
    subject = models.JSONField(default=list)
    reason = models.CharField(max_length=300, blank=True)
    decided_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        app_label = "results"  # its tables were made there
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title


class Candidate(models.Model):
    """One frame of a pick. laid: its Match over the first one. look: what core.judging.pick found. kept: it was picked."""

    pick = models.ForeignKey(Pick, on_delete=models.CASCADE, related_name="candidates")
    result = models.ForeignKey(Result, on_delete=models.CASCADE, related_name="+")
    laid = ShapedField(Match)
    look = ShapedField(Look)
    kept = models.BooleanField(default=False)

    class Meta:
        app_label = "results"  # its tables were made there
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["pick", "result"], name="result_once_per_pick")]

    def __str__(self):
        return f"{self.result_id} of {self.pick}"
