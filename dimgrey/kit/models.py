"""What a person owns. The values are checked by core.kit; scenes copy what they use, so that the log never changes."""

from django.db import models

from dimgrey.core.camera.calibration import Measured, measured_of
from dimgrey.core.camera.setups import parse_controls
from dimgrey.core.document.kit import KINDS, item_of
from dimgrey.core.document.setupfile import setup_from
from dimgrey.people.models import Owned


class Item(Owned):
    """A camera, lens, film, filter or meter. A retired one stays for old plans and is no longer offered.

    calibration: of a camera, what its card series and chart gave, with the day: see kit.actions.calibrate.
    """

    kind = models.CharField(max_length=8, choices=[(kind, kind) for kind in KINDS])
    name = models.CharField(max_length=60)
    values = models.JSONField()
    retired = models.BooleanField(default=False)
    calibration = models.JSONField(default=dict)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["kind", "name"]
        constraints = [models.UniqueConstraint(fields=["owner", "kind", "name"], name="item_name_once_per_kind")]

    def __str__(self):
        return self.name

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


class KeptSetup(Owned):
    """A named in-camera black-and-white setup in its present revision; `values` is the open setup format."""

    name = models.CharField(max_length=60)
    camera = models.ForeignKey(Item, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    values = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="setup_name_once")]

    def __str__(self):
        return self.name

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
