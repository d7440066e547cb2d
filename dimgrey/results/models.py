"""What came of frames: files that belong to them, how each lies over its plan, and what was found of it."""

from django.db import models
from django.urls import reverse

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.match import Match
from dimgrey.core.results.finding import Found
from dimgrey.core.results.resultkinds import KINDS
from dimgrey.frames.models import Frame
from dimgrey.people.models import Owned
from dimgrey.people.removal import Removable
from dimgrey.pictures.deletion import goes_with
from dimgrey.pictures.models import Picture
from dimgrey.web.shaped import ShapedField


class Result(Removable, Owned):
    """One file of a frame. kind: key of core.results.resultkinds.KINDS, "" to be told from the file. laid: the Match over the plan's picture,
    None for none. refused: why it could not be laid or measured, "" when it was. found: the Found of results.comparison, None for nothing;
    it stays when scene and picture are gone. uid: what it is known by in archives."""

    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="results")
    picture = models.OneToOneField(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    kind = models.CharField(max_length=16, choices=[(kind.name, kind.words) for kind in KINDS.values()], blank=True)
    laid = ShapedField(Match)
    refused = models.CharField(max_length=400, blank=True)
    found = ShapedField(Found)
    digest = models.CharField(max_length=64)
    added_at = models.DateTimeField(auto_now_add=True)

    WORDS = "result"

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["frame", "digest"], condition=models.Q(removed_at=None), name="result_once_per_frame"
            )
        ]

    def __str__(self):
        return f"{self.get_kind_display() or 'result'} of frame {self.frame_id}"

    def get_absolute_url(self):
        return reverse("result", args=[self.pk])

    def make_room(self):
        if Result.objects.filter(frame=self.frame_id, digest=self.digest).exists():
            raise CoreError("The same file is there again.", code="there-again")


goes_with(Result)
