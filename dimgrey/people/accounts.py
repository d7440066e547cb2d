"""Accounts of a hosted house: invited, joined, suspended, changed, deleted. The only place that writes them."""

import hashlib
import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.tokens import default_token_generator
from django.db import transaction
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode

from dimgrey.core.errors import CoreError
from dimgrey.people import pairing
from dimgrey.people.events import tell
from dimgrey.people.models import Device, Invitation, Person

LASTS = timedelta(days=7)
MOST_OPEN = 50
GONE = "This invitation is used, withdrawn, or older than seven days. Ask for a new one."
ONE_OWNER = "A house needs an owner who can sign in. Make somebody else one first."


def invite(owner, note="", role=Person.Role.MEMBER, request=None, now=None):
    """A fresh invitation of an owner. Returns its secret, which is shown once and not kept. Raises CoreError for too many."""
    now = now or timezone.now()
    Invitation.objects.filter(until__lt=now).delete()
    if Invitation.objects.count() >= MOST_OPEN:
        raise CoreError(f"There are {MOST_OPEN} open invitations. Withdraw some first.", code="invitations")
    secret = secrets.token_urlsafe(24)
    Invitation.objects.create(
        owner=owner, digest=_digest(secret), role=role, note=note.strip()[:120], until=now + LASTS
    )
    tell("invited", owner, note or role, request)
    return secret


def _digest(secret):
    return hashlib.sha256(secret.encode()).hexdigest()


def invitation_of(secret, now=None):
    """The open invitation of a secret, or None; 1 query."""
    return Invitation.objects.filter(digest=_digest(secret), until__gte=now or timezone.now()).first()


@transaction.atomic
def join(secret, name, password, request=None, email=""):
    """Make an account of an invitation, which is used up by it. Returns the Person. Raises CoreError."""
    invitation = invitation_of(secret)
    if invitation is None:
        raise CoreError(GONE, code="invitation")
    person = make(name, password, invitation.role, email)
    invitation.delete()
    tell("joined", person, invitation.note, request)
    return person


def make(name, password, role=Person.Role.MEMBER, email=""):
    """A new account. password: None for one that is set by a link. Returns the Person. Raises CoreError for a name that is taken."""
    if Person.objects.filter(username__iexact=name).exists():
        raise CoreError(
            f"There is somebody called {name} already. Take another name.", parameter="name", code="name-taken"
        )
    return Person.objects.create_user(name, email, password, role=role)


def withdraw(pk, owner, request=None):
    """Withdraw an invitation. Returns whether there was one."""
    found = Invitation.objects.filter(pk=pk).first()
    if found:
        tell("withdrew an invitation", owner, found.note, request)
        found.delete()
    return found is not None


def set_active(person, active, by, request=None):
    """Suspend an account, which ends all its sign-ins now, or let it in again. Raises CoreError for the last owner."""
    if not active:
        _require_another_owner(person)
    person.is_active = active
    person.save(update_fields=["is_active"])
    if not active:
        pairing.drop_all(person)
    tell("resumed" if active else "suspended", by, person, request)


def change(person, by, role=None, quota_mb=None, request=None):
    """Another role or room. role: None to leave it. quota_mb: None for what the house gives. Raises CoreError for the last owner."""
    if role is not None and role != person.role:
        if role != Person.Role.OWNER:
            _require_another_owner(person)
        tell(f"made {role}", by, person, request)
        person.role = role
    if quota_mb != person.quota_mb:
        tell("gave room", by, f"{person}: {quota_mb or 'the usual'} MB", request)
        person.quota_mb = quota_mb
    person.save(update_fields=["role", "quota_mb"])


def delete(person, by, request=None):
    """Delete an account with everything of it: scenes, log, kit, and the files of all pictures. Raises CoreError for the last owner."""
    _require_another_owner(person)
    pairing.drop_all(person)
    tell("deleted", by, person, request)
    person.delete()


def _require_another_owner(person):
    others = Person.objects.filter(role=Person.Role.OWNER, is_active=True).exclude(pk=person.pk)
    if person.is_owner and not others.exists():
        raise CoreError(ONE_OWNER, code="last-owner")


def password_path(person):
    """Path of a link that sets a new password, once, within the time that settings say. It holds until it is used or they sign in."""
    uid = urlsafe_base64_encode(force_bytes(person.pk))
    return reverse("new-password", args=[uid, default_token_generator.make_token(person)])


def mail_link(person, link, owner):
    """Send a link to the one it is for, so that nobody else sees it. Returns whether it was sent: the house has mail, and their address."""
    if not settings.DIMGREY_MAIL or not person.email:
        return False
    text = render_to_string("people/link_mail.txt", {"person": person, "link": link, "owner": owner})
    try:
        person.email_user("A new password for Dimgrey", text)
    except OSError as failed:
        raise CoreError(f"The link could not be mailed ({failed}). Try again.", code="mail") from failed
    return True


def end_others(person, session_key, request=None):
    """End every sign-in of a person but the one that asks, as after a change of the password."""
    for device in Device.objects.owned_by(person).exclude(session_key=session_key):
        pairing.drop(person, device.pk)
    tell("ended other sign-ins", person, request=request)
