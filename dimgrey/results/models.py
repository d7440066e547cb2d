"""What came of frames: files that belong to them, how each lies over its plan, and what was found of it."""

from django.db import models

from dimgrey.core.learning.enlarger import EnlargerSetting
from dimgrey.core.learning.finishingplan import require_finish
from dimgrey.core.learning.found import Found
from dimgrey.core.learning.pick import Look
from dimgrey.core.learning.scans import KINDS
from dimgrey.core.picture.match import Match
from dimgrey.frames.models import Frame
from dimgrey.people.models import Owned
from dimgrey.pictures.deletion import goes_with
from dimgrey.pictures.models import Picture
from dimgrey.web.shaped import ShapedField


class Result(Owned):
    """One file of a frame. kind: key of core.learning.scans.KINDS, "" to be told from the file. laid: the Match over the plan's picture,
    None for none. refused: why it could not be laid or measured, "" when it was. found: the Found of results.comparing, None for nothing;
    it stays when scene and picture are gone. uid: what it is known by in archives."""

    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="results")
    picture = models.OneToOneField(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    kind = models.CharField(max_length=16, choices=[(kind.name, kind.words) for kind in KINDS.values()], blank=True)
    laid = ShapedField(Match)
    refused = models.CharField(max_length=400, blank=True)
    found = ShapedField(Found)
    digest = models.CharField(max_length=64)
    added_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["frame", "digest"], name="result_once_per_frame")]

    def __str__(self):
        return f"{self.get_kind_display() or 'result'} of frame {self.frame_id}"


class Pick(Owned):
    """A choice among near-identical frames. subject: (x, y) in the first of them, fractions. reason: why those were kept, in the person's words."""

    title = models.CharField(max_length=120)
    subject = models.JSONField(default=list)
    reason = models.CharField(max_length=300, blank=True)
    decided_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title


class Candidate(models.Model):
    """One frame of a pick. laid: its Match over the first one. look: what core.learning.pick found. kept: it was picked."""

    pick = models.ForeignKey(Pick, on_delete=models.CASCADE, related_name="candidates")
    result = models.ForeignKey(Result, on_delete=models.CASCADE, related_name="+")
    laid = ShapedField(Match)
    look = ShapedField(Look)
    kept = models.BooleanField(default=False)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["pick", "result"], name="result_once_per_pick")]

    def __str__(self):
        return f"{self.result_id} of {self.pick}"


class Finishing(Owned):
    """The finishing plan of a result: a "dimgrey-finish" document, and those before it for undo, the newest last."""

    result = models.OneToOneField(Result, on_delete=models.CASCADE, related_name="finishing")
    kept = models.JSONField()
    past = models.JSONField(default=list)
    enlarger = ShapedField(EnlargerSetting)
    updated_at = models.DateTimeField(auto_now=True)

    def __str__(self):
        return f"finishing of result {self.result_id}"

    @property
    def finish(self):
        """The core's Finish."""
        return require_finish(self.kept)


goes_with(Result)
