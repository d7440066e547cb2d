"""What a person owns. The values are checked by core.kit; scenes copy what they use, so that the log never changes."""

from django.db import models

from dimgrey.core.kit import KINDS
from dimgrey.people.models import Owned


class Item(Owned):
    """A camera, lens, film, filter or meter. A retired one stays for old plans and is no longer offered."""

    kind = models.CharField(max_length=8, choices=[(kind, kind) for kind in KINDS])
    name = models.CharField(max_length=60)
    values = models.JSONField()
    retired = models.BooleanField(default=False)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["kind", "name"]
        constraints = [models.UniqueConstraint(fields=["owner", "kind", "name"], name="item_name_once_per_kind")]

    def __str__(self):
        return self.name

    @property
    def named(self):
        """The values with the name, as core.kit wants them."""
        return {"name": self.name, **self.values}
