"""Who uses Dimgrey, and how they like to look at it."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Person(AbstractUser):
    """One photographer. Everything else in the database belongs to one of them.

    role: an owner of the house invites and looks after people, and sees nothing of their work. quota_mb: room for pictures, None for what
    the house gives. explains_words: words of the job open a note where they first stand on a page.
    """

    class Surround(models.TextChoices):
        DARK = "dark", "dark"
        MIDDLE = "middle", "middle"
        LIGHT = "light", "light"

    class Mode(models.TextChoices):
        AUTO = "auto", "as the device"
        PLAIN = "plain", "plain"
        DARK = "dark", "dark"
        SUN = "sun", "sun"
        NIGHT = "night", "night"

    class Labels(models.TextChoices):
        ZONES = "zones", "zones 0–X"
        STOPS = "stops", "stops −5–+5"

    class Role(models.TextChoices):
        MEMBER = "member", "member"
        OWNER = "owner", "owner of the house"

    role = models.CharField(max_length=8, choices=Role, default=Role.MEMBER)
    quota_mb = models.PositiveIntegerField(null=True, blank=True)
    surround = models.CharField(max_length=8, choices=Surround, default=Surround.MIDDLE)
    mode = models.CharField(max_length=8, choices=Mode, default=Mode.AUTO)
    tone_labels = models.CharField(max_length=8, choices=Labels, default=Labels.ZONES)
    explains_words = models.BooleanField(default=True)

    @property
    def is_owner(self):
        """Whether they look after the house."""
        return self.role == self.Role.OWNER and self.is_active


class OwnedQuerySet(models.QuerySet):
    """Rows of one person; every query of the application starts here."""

    def owned_by(self, person):
        return self.filter(owner_id=person.pk)


class Owned(models.Model):
    """A row that belongs to a person."""

    owner = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True


class Device(Owned):
    """A way in: a phone that was paired, or a browser in which somebody signed in. Dropping it ends its session."""

    class Kind(models.TextChoices):
        PHONE = "phone", "phone"
        BROWSER = "browser", "browser"

    kind = models.CharField(max_length=8, choices=Kind, default=Kind.PHONE)
    name = models.CharField(max_length=60)
    session_key = models.CharField(max_length=40, unique=True)
    paired_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField()

    class Meta:
        ordering = ["-used_at"]

    def __str__(self):
        return self.name


class PairingCode(Owned):
    """A code that one phone may be paired with, once, for a few minutes. digest: what is kept of it. misses: wrong codes typed since."""

    digest = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    misses = models.PositiveIntegerField(default=0)

    def __str__(self):
        return f"until {self.until:%H:%M}"


class Invitation(Owned):
    """A link that makes one account, once. owner: who invites. digest: what is kept of the link. note: for whom it is."""

    digest = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=8, choices=Person.Role, default=Person.Role.MEMBER)
    note = models.CharField(max_length=120, blank=True)
    until = models.DateTimeField()

    def __str__(self):
        return self.note or f"until {self.until:%d %b}"


class Event(models.Model):
    """Who did what to accounts and ways in, and when. person: who did it, None where nobody was signed in. about: of whom or what."""

    person = models.ForeignKey(Person, on_delete=models.SET_NULL, null=True, related_name="+")
    who = models.CharField(max_length=150, blank=True)
    what = models.CharField(max_length=40)
    about = models.CharField(max_length=200, blank=True)
    address = models.CharField(max_length=45, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self):
        return f"{self.at:%d %b %H:%M} {self.who}: {self.what} {self.about}"
