"""The log: what was exposed, with a frozen copy of the plan it was made with."""

from django.db import models

from dimgrey.core.document.frozen import frozen_document, frozen_plan
from dimgrey.core.document.meansline import means_line
from dimgrey.people.models import Owned
from dimgrey.scenes.models import Scene


class Frame(Owned):
    """One exposure. `plan` and `document` are copies that later edits never change; `token` makes a double click one."""

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
    def frozen(self):
        """The FrozenPlan it was made with, or None."""
        return frozen_plan(self.plan)
