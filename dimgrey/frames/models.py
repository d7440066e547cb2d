"""The log: what was exposed, with a frozen copy of the plan it was made with; rolls of film, and what frames were made with."""

from django.db import models

from dimgrey.core.document.frozen import frozen_document, frozen_plan
from dimgrey.core.document.meansline import MadeWith, means_line
from dimgrey.people.models import Owned, OwnedQuerySet
from dimgrey.pictures.models import Picture
from dimgrey.scenes.models import Scene
from dimgrey.web.shaped import ShapedField


class Roll(Owned):
    """A roll of film in a camera: its number, the speed it was rated at, and the one development that all its frames get.

    film: as the scenes name it. ended_at: None while it is in the camera.
    """

    number = models.PositiveIntegerField()
    film = models.CharField(max_length=60)
    rated = models.CharField(max_length=16)
    development = models.CharField(max_length=8, blank=True)
    note = models.CharField(max_length=200, blank=True)
    begun_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["owner", "number"], name="roll_number_once_per_owner")]

    def __str__(self):
        return f"Roll {self.number}"


class StandingFrames(models.Manager.from_queryset(OwnedQuerySet)):
    """Frames that nobody struck out."""

    def get_queryset(self):
        return super().get_queryset().filter(struck_by=None)


class Frame(Owned):
    """One exposure. `plan` and `document` are copies that later edits never change; `token` makes a double click one.

    picture: the one that the plan was made on, None when it is gone. made: MadeWith, for lists, None for a frame that came
    without. grey: address of the plan's grey view,
    "" without a picture. bracket: what the frames of one bracket share. roll, roll_number: its place on a film. struck_by: id of the act
    that struck it out, None while it stands; lists have those alone that stand.
    """

    scene = models.ForeignKey(Scene, on_delete=models.SET_NULL, null=True, related_name="frames")
    token = models.UUIDField()
    number = models.PositiveIntegerField()
    title = models.CharField(max_length=120)
    exposed_at = models.DateTimeField()
    aperture = models.CharField(max_length=16)
    shutter = models.CharField(max_length=16)
    iso = models.CharField(max_length=16)
    difference_stops = models.FloatField()
    note = models.CharField(max_length=500, blank=True)
    plan = models.JSONField()
    document = models.JSONField()
    picture = models.ForeignKey(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    made = ShapedField(MadeWith)
    grey = models.CharField(max_length=2000, blank=True)
    bracket = models.UUIDField(null=True)
    roll = models.ForeignKey(Roll, on_delete=models.SET_NULL, related_name="frames", null=True)
    roll_number = models.PositiveIntegerField(null=True)

    struck_by = models.UUIDField(null=True)

    objects = StandingFrames()
    every = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-exposed_at", "-pk"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "number"], name="frame_number_once_per_owner"),
            models.UniqueConstraint(fields=["owner", "token"], name="frame_token_once_per_owner"),
        ]

    def __str__(self):
        return f"{self.number}: {self.title}"

    @property
    def means(self):
        """All that it was made with, in one line; "" for a frame that came without."""
        document = frozen_document(self.document)
        return means_line(document, self.frozen.development if self.frozen else None) if document else ""

    @property
    def place_on_film(self):
        """ "3/12": the number of its roll and its own on it; "" without a roll."""
        return f"{self.roll.number}/{self.roll_number}" if self.roll_id else ""

    @property
    def as_it_was(self):
        """Its scene as it was exposed: an unsaved Scene with the frozen document and the picture of then. None for a frame without."""
        if not self.document:
            return None
        kept = self.scene
        made = Scene(
            pk=self.scene_id,
            owner_id=self.owner_id,
            title=self.title,
            kept=self.document,
            picture=self.picture,
            outing=kept.outing if kept else None,
        )
        made.rolls = ()  # its document has what its roll said then
        return made

    @property
    def frozen(self):
        """The FrozenPlan it was made with, or None."""
        return frozen_plan(self.plan)
