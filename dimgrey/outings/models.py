"""Outings: one walk with a camera, and the scenes met on it."""

from django.db import models

from dimgrey.people.models import Owned


class Outing(Owned):
    title = models.CharField(max_length=120)
    notes = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created_at", "-pk"]

    def __str__(self):
        return self.title
