"""Scenes: one picture-to-be. The open scene document is the data; the database keeps every revision of it."""

import logging
import uuid
from functools import cached_property
from types import SimpleNamespace

from django.db import models

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.meansline import film_of
from dimgrey.core.document.onroll import on_roll
from dimgrey.core.document.plainform import document_of
from dimgrey.core.document.sighting import sky_outline
from dimgrey.outings.models import Outing
from dimgrey.outings.sky_over_scene import polarized_over
from dimgrey.people.models import Owned
from dimgrey.pictures.models import Picture
from dimgrey.pictures.store import sky_covers
from dimgrey.scenes.onroll import rolls_in_cameras


class Scene(Owned):
    """A scene. kept: its present document as JSON (docs/scene-file.md). `stamp` grows with every write, undo included.
    came_as: id that a phone gave it which began it, so that it comes home once. uid: what it is known by in archives."""

    outing = models.ForeignKey(Outing, on_delete=models.CASCADE, related_name="scenes", null=True, blank=True)
    picture = models.OneToOneField(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    title = models.CharField(max_length=120)
    position = models.PositiveIntegerField(default=0)
    kept = models.JSONField(db_column="document")
    stamp = models.PositiveIntegerField(default=1)
    head = models.ForeignKey("Revision", on_delete=models.SET_NULL, null=True, related_name="+")
    uid = models.UUIDField(default=uuid.uuid4, editable=False)
    removed = models.BooleanField(default=False)
    removed_at = models.DateTimeField(null=True)
    came_as = models.UUIDField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)
    updated_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "came_as"], name="scene_comes_home_once"),
            models.UniqueConstraint(fields=["owner", "uid"], name="scene_once_per_owner"),
        ]

    def __str__(self):
        return self.title

    @property
    def document(self):
        """The Document, whatever version was kept; read once for each state."""
        if self._read.document is None:
            self._read.document = document_of(self.kept)
        return self._read.document

    @property
    def brief(self):
        """The Brief of the document, read once for each state. Raises DocumentError where an older version kept what
        cannot be read any more."""
        if self._read.brief is None:
            self._read.brief = self.read_as(self.document)
        return self._read.brief

    @property
    def is_sound(self):
        """Whether it can be read at all. One that cannot, of whatever cause, must not take the pages around it down."""
        try:
            return self.brief is not None
        except Exception:  # nobody knows what an older version or another program left in it
            logging.getLogger(__name__).exception("Scene %s cannot be read.", self.pk)
            return False

    @cached_property
    def rolls(self):
        """RollInUse of each roll that is in a camera of its owner; 1 query."""
        return rolls_in_cameras(self.owner_id)

    def as_exposed(self, document):
        """A Document as if it were this scene's, on its roll; 1 query at most, none for what is not on film."""
        return on_roll(document, self.rolls) if film_of(document) else document

    def read_as(self, document):
        """The Brief of a Document as if it were this scene's: on its roll, under its sky, through its polarizer. Raises
        DocumentError."""
        return brief_of(self.as_exposed(document), self.polarized(document), self.in_sky(document))

    def in_sky(self, document):
        """From fractions x, y of its picture to whether the sky of a Document is there; None without a picture."""
        if self.picture is None:
            return None
        path, outline = self.picture.path, sky_outline(document)
        return lambda x, y: sky_covers(path, outline, x, y)

    def polarized(self, document):
        """overhead.Polarized of a Document as if it were this scene's, or None."""
        return polarized_over(document, self.facts, self.outing)

    @property
    def _read(self):
        """What was read of the present state; empty when `kept` is another object than the one it was read of."""
        known = getattr(self, "_known", None)
        if known is None or known.kept is not self.kept:
            known = self._known = SimpleNamespace(kept=self.kept, document=None, brief=None)
        return known

    def become(self, kept, **read):
        """Take a state. read: its document and brief, where they are at hand."""
        self.kept = kept
        vars(self._read).update(read)

    @property
    def facts(self):
        """What is known of its picture, or None without one."""
        return self.picture.facts if self.picture else None


class Revision(models.Model):
    """One state of a scene's document. Undo walks to the parent, redo to the newest child; none is ever deleted.

    picture: the one that the scene had then. act: id of the act that made it, so that one sent twice is done once. line: of
    an act that strikes another out, what that one is known by. done_at: when it was done, where the act says so.
    """

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="children")
    label = models.CharField(max_length=160)
    kept = models.JSONField(db_column="document")
    at = models.DateTimeField(auto_now_add=True)
    picture = models.ForeignKey(Picture, on_delete=models.SET_NULL, related_name="+", null=True)
    act = models.UUIDField(null=True)
    line = models.CharField(max_length=36, blank=True)
    done_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["scene", "act"], name="act_once_in_a_scene")]

    def __str__(self):
        return self.label


class Turn(models.Model):
    """A step back or forward in a scene's history. act: id of the act that took it, so that one sent twice is taken once."""

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="turns")
    act = models.UUIDField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["scene", "act"], name="turn_once_in_a_scene")]

    def __str__(self):
        return f"step in {self.scene_id}"
