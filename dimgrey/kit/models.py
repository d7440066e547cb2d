"""What a person owns. The values are checked by core.kit; scenes copy what they use, so that the log never changes."""

from dataclasses import replace

from django.db import models
from django.urls import reverse

from dimgrey.core.camera.calibration import Measured, measured_of
from dimgrey.core.camera.setups import parse_controls
from dimgrey.core.document import setupfile
from dimgrey.core.document.kit import KINDS, item_of
from dimgrey.core.document.setupfile import setup_from
from dimgrey.people.models import Owned
from dimgrey.people.removal import Removable

STANDS = models.Q(removed_at=None)


def free_name(name, rows):
    """A name as none of the rows has it: itself, or with a number behind it."""
    names = set(rows.values_list("name", flat=True))
    return next(
        each for k in range(1, len(names) + 2) if (each := name if k == 1 else f"{name[:54]} ({k})") not in names
    )


class Item(Removable, Owned):
    """A camera, lens, film, filter or meter. A retired one stays for old plans and is no longer offered.

    calibration: of a camera, what its card series and chart gave, with the day: see kit.actions.calibrate.
    """

    kind = models.CharField(max_length=8, choices=[(kind, kind) for kind in KINDS])
    name = models.CharField(max_length=60)
    values = models.JSONField()
    retired = models.BooleanField(default=False)
    calibration = models.JSONField(default=dict)
    created_at = models.DateTimeField(auto_now_add=True)

    WORDS = "item of the kit"

    class Meta:
        ordering = ["kind", "name"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "kind", "name"], condition=STANDS, name="item_name_once_per_kind")
        ]

    def __str__(self):
        return self.name

    def get_absolute_url(self):
        return reverse("kit-item", args=[self.pk])

    def make_room(self):
        self.name = free_name(self.name, Item.objects.filter(owner_id=self.owner_id, kind=self.kind))

    @property
    def item(self):
        """Its fields by name, as core.document.kit has them."""
        return item_of(self.kind, self.name, self.values)

    @property
    def measured(self) -> Measured:
        """What its card series and chart gave."""
        return measured_of(self.calibration)

    @property
    def controls(self):
        """A camera's controls in menu order; () for one that declares no menu."""
        return parse_controls(self.item.controls or "")


class ItemRevision(models.Model):
    """What an item's values were before and after a change, and why. correction: "exposure", "contrast" or "headroom" for one that its
    frames proposed, "" for another. undone_at: when it was taken back."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="revisions")
    before = models.JSONField()
    values = models.JSONField()
    change = models.CharField(max_length=300)
    correction = models.CharField(max_length=16, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self):
        return self.change


class KeptSetup(Removable, Owned):
    """A named in-camera black-and-white setup in its present revision; `values` is the open setup format."""

    name = models.CharField(max_length=60)
    camera = models.ForeignKey(Item, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    values = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)

    WORDS = "setup"

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], condition=STANDS, name="setup_name_once")]

    def __str__(self):
        return self.name

    def get_absolute_url(self):
        return reverse("setup", args=[self.pk])

    def make_room(self):
        self.name = free_name(self.name, KeptSetup.objects.filter(owner_id=self.owner_id))
        self.values = setupfile.plain(replace(self.setup, name=self.name), self.revision)

    @property
    def setup(self):
        """The core's Setup."""
        return setup_from(self.values)


class SetupRevision(models.Model):
    """What a setup was at one revision, and what changed in words."""

    setup = models.ForeignKey(KeptSetup, on_delete=models.CASCADE, related_name="revisions")
    revision = models.PositiveIntegerField()
    values = models.JSONField()
    change = models.CharField(max_length=300)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-revision"]

    def __str__(self):
        return f"{self.revision}: {self.change}"
