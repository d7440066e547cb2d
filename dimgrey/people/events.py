"""What was done to accounts and ways in, by whom and from where: written here, read by the owners of the house."""

from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.db.models import Q

from dimgrey.people.models import Event

KEPT = 5000
"""How many stay, the newest."""
SHOWN = 100


def tell(what, person=None, about="", request=None):
    """Write an event down. what: in a word or two. person: who did it. about: of whom or what. request: where it came from."""
    address = request.META.get("REMOTE_ADDR", "") if request else ""
    known = person if person is not None and person.pk else None
    row = Event.objects.create(
        person=known, who=str(person or ""), what=what, about=str(about)[:200], address=address[:45]
    )
    if row.pk % 100 == 0:
        oldest = Event.objects.values_list("pk", flat=True)[KEPT:][:1]
        if oldest:
            Event.objects.filter(pk__lte=oldest[0]).delete()
    return row


def recent():
    """The newest events; 1 query."""
    return Event.objects.all()[:SHOWN]


MINE = 20


def done_to(person):
    """What others did to a person's account, the newest first; 1 query."""
    known = Event.objects.exclude(person=person).filter(what__in=TOLD_TO_MEMBERS)
    return known.filter(Q(about=str(person)) | Q(about__startswith=f"{person}: "))[:MINE]


TOLD_TO_MEMBERS = (
    "made a password link",
    "suspended",
    "resumed",
    "made owner",
    "made member",
    "gave room",
    "sign-in failed",
    "locked out",
)
"""What the person themselves is told of on their account page."""


def connect():
    """Write sign-ins, sign-outs and failed ones down."""
    user_logged_in.connect(lambda request, user, **kwargs: tell("signed in", user, request=request), weak=False)
    user_logged_out.connect(
        lambda request, user, **kwargs: user and tell("signed out", user, request=request), weak=False
    )
    user_login_failed.connect(_failed, weak=False)


def _failed(credentials, request=None, **kwargs):
    tell("sign-in failed", None, credentials.get("username", ""), request)
