"""Outings: one walk with a camera to one place on one day, and the scenes met on it."""

import uuid

from django.db import models

from dimgrey.core.document.model import PlacePart
from dimgrey.people.models import Owned


class Outing(Owned):
    """An outing. Date and place may be missing; what can be said without them is said.

    terrain: [azimuth, altitude] of each point of the line of hills around the place, in degrees.
    series: the same for all visits to one place. uid: what it is known by in archives. zone: IANA time zone of the place. checked: codes of the leaving list.
    forecast: the simulated forecast was
    chosen; without it only typed weather is known. typed_conditions: hour of the day -> values that a person typed over the forecast. dismissed: caution codes.
    """

    title = models.CharField(max_length=120)
    intent = models.TextField(blank=True)
    notes = models.TextField(blank=True)
    bring = models.TextField(blank=True)
    date = models.DateField(null=True, blank=True)
    place_name = models.CharField(max_length=120, blank=True)
    latitude_deg = models.FloatField(null=True, blank=True)
    longitude_deg = models.FloatField(null=True, blank=True)
    zone = models.CharField(max_length=60, default="UTC")
    tidal = models.BooleanField(default=False)
    forecast = models.BooleanField(default=False)
    terrain = models.JSONField(default=list)
    checked = models.JSONField(default=list)
    typed_conditions = models.JSONField(default=dict)
    dismissed = models.JSONField(default=list)
    series = models.UUIDField(default=uuid.uuid4, db_index=True)
    uid = models.UUIDField(default=uuid.uuid4, editable=False)
    removed = models.BooleanField(default=False)
    removed_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created_at", "-pk"]
        constraints = [models.UniqueConstraint(fields=["owner", "uid"], name="outing_once_per_owner")]

    def __str__(self):
        return self.title

    @property
    def has_place(self):
        return self.latitude_deg is not None and self.longitude_deg is not None

    @property
    def place(self):
        """Where and when, as a scene takes it along; None without coordinates."""
        if not self.has_place:
            return None
        day = self.date if isinstance(self.date, str) else self.date.isoformat() if self.date else ""
        hills = tuple(map(tuple, self.terrain))
        return PlacePart(self.latitude_deg, self.longitude_deg, self.place_name, day, self.zone, hills=hills)
