"""Every stored picture: facts about the original, and a folder of files. Who shows it points at it."""

import uuid
from pathlib import Path

from django.conf import settings
from django.db import models

from dimgrey.core.document.lightscale import Facts
from dimgrey.core.measure.shotdata import shot_kept
from dimgrey.people.models import Owned


class Picture(Owned):
    """One picture with its folder. Scenes keep the original and a working copy there, second looks small views.

    shot: what the camera wrote of its exposure. middle_grey_ev100: EV100 of linear 0.18, None without a scale. clip:
    linear value at which it ends, or None. bytes: of the files that are kept for good. The row goes first and its files when that is certain: see deletion.
    """

    folder = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    original_name = models.CharField(max_length=255)
    kind = models.CharField(max_length=16, blank=True)
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    view_width = models.PositiveIntegerField(default=0)
    view_height = models.PositiveIntegerField(default=0)
    profile = models.CharField(max_length=120, blank=True)
    shot = models.JSONField(default=dict)
    middle_grey_ev100 = models.FloatField(null=True)
    scene_linear = models.BooleanField(default=False)
    absolute = models.BooleanField(default=False)
    clip = models.FloatField(null=True)
    simulated_light = models.BooleanField(default=False)
    warnings = models.JSONField(default=list)
    bytes = models.PositiveBigIntegerField(default=0)

    def __str__(self):
        return self.original_name

    @property
    def path(self) -> Path:
        return folder_path(self.folder)

    @property
    def shot_data(self):
        """ShotData: what the camera wrote into its file."""
        return shot_kept(self.shot or {})

    @property
    def told_place(self):
        """(latitude, longitude, day as ISO 8601 or "") that its file tells, None for none."""
        shot = self.shot_data
        return (*shot.place, (shot.taken_at or "")[:10]) if shot.place else None

    @property
    def facts(self):
        """What the core needs to know of it beside its pixels."""
        return Facts(
            self.view_width,
            self.view_height,
            self.shot_data.focal_35mm,
            self.middle_grey_ev100,
            self.absolute,
            self.clip,
            self.simulated_light,
        )


class Arrival(Owned):
    """A file that lies safely on the disk and waits to be read; what it becomes is decided by its purpose. See arrivals.

    folder: its original lies there, which becomes the picture's. purpose, subject: what it is for, such as "scene" and the scene's
    number; about: what else its purpose wants to know. became: number of the row that it is now. task: of the queue.
    """

    class State(models.TextChoices):
        WAITING = "waiting", "waiting"
        KEPT = "kept", "kept"
        REFUSED = "refused", "refused"

    folder = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    purpose = models.CharField(max_length=16)
    subject = models.PositiveBigIntegerField()
    about = models.JSONField(default=dict)
    name = models.CharField(max_length=255)
    bytes = models.PositiveBigIntegerField(default=0)
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    begun_at = models.DateTimeField(null=True)
    arrived_at = models.DateTimeField(auto_now_add=True)
    sentence = models.CharField(max_length=400, blank=True)
    became = models.PositiveBigIntegerField(null=True)
    task = models.CharField(max_length=64, blank=True)

    class Meta:
        ordering = ["pk"]
        indexes = [models.Index(fields=["owner", "purpose", "subject"], name="arrival_for")]

    def __str__(self):
        return self.name

    @property
    def path(self) -> Path:
        """Of the folder."""
        return folder_path(self.folder)

    @property
    def original(self) -> Path:
        """Of the file. Raises FileNotFoundError."""
        found = next(iter(sorted(self.path.glob("original*"))), None)
        if found is None:
            raise FileNotFoundError(self.path)
        return found


def folder_path(folder) -> Path:
    """Where the files of a picture lie. folder: its UUID."""
    return pictures_path() / folder.hex


def pictures_path() -> Path:
    """The folder of all pictures' folders."""
    return Path(settings.DIMGREY_DATA) / "pictures"
