"""Scenes: one picture-to-be. The open scene document is the data; the database keeps every revision of it."""

import uuid
from pathlib import Path

from django.conf import settings
from django.db import models

from dimgrey.outings.models import Outing
from dimgrey.people.models import Owned


class Scene(Owned):
    """A scene with its current document (docs/scene-file.md). `stamp` grows with every write, undo included."""

    outing = models.ForeignKey(Outing, on_delete=models.CASCADE, related_name="scenes", null=True, blank=True)
    title = models.CharField(max_length=120)
    position = models.PositiveIntegerField(default=0)
    document = models.JSONField()
    stamp = models.PositiveIntegerField(default=1)
    head = models.ForeignKey("Revision", on_delete=models.SET_NULL, null=True, related_name="+")
    removed = models.BooleanField(default=False)
    created_at = models.DateTimeField(auto_now_add=True)
    updated_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["position", "pk"]

    def __str__(self):
        return self.title


class Revision(models.Model):
    """One state of a scene's document. Undo walks to the parent, redo to the newest child; none is ever deleted."""

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="children")
    label = models.CharField(max_length=160)
    document = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self):
        return self.label


class Picture(Owned):
    """The picture of a scene: facts about the original, and a folder with original, working copy and colour view."""

    scene = models.OneToOneField(Scene, on_delete=models.CASCADE, related_name="picture")
    folder = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    original_name = models.CharField(max_length=255)
    kind = models.CharField(max_length=16)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    view_width = models.PositiveIntegerField()
    view_height = models.PositiveIntegerField()
    profile = models.CharField(max_length=120, blank=True)
    exposure = models.JSONField(default=dict)
    middle_grey_ev100 = models.FloatField(null=True)
    scene_linear = models.BooleanField(default=False)
    absolute = models.BooleanField(default=False)
    clip = models.FloatField(null=True)
    simulated_light = models.BooleanField(default=False)
    warnings = models.JSONField(default=list)

    def __str__(self):
        return self.original_name

    @property
    def path(self) -> Path:
        return folder_path(self.folder)


def folder_path(folder) -> Path:
    """Where the files of a picture lie. folder: its UUID."""
    return Path(settings.DIMGREY_DATA) / "pictures" / folder.hex
