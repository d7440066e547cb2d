"""Phones that are let in: a code that is shown here and typed or scanned there, once, within ten minutes.

A code has 40 bits. Five wrong ones withdraw every open code, so that guessing finds nothing: somebody must stand at the computer
and ask for a new one. docs/decisions/027.
"""

import hashlib
import re
import secrets
from datetime import timedelta

from django.contrib.auth import login
from django.contrib.sessions.backends.db import SessionStore
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from dimgrey.people.models import Device, PairingCode

LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"
"""Without those that are taken for each other."""
LENGTH = 8
LASTS = timedelta(minutes=10)
MOST_MISSES = 5
SIGNED_IN = timedelta(days=180)
TOLD_EVERY = timedelta(minutes=5)
"""How often the last use of a device is written down."""
DEVICE = "device"
"""Key of a session that belongs to a device."""
BACKEND = "django.contrib.auth.backends.ModelBackend"


WRONG = (
    "This code pairs nothing: it was used, is older than ten minutes, or has a letter wrong. "
    "Ask for a new one on the computer, under Phone."
)


class WrongCode(ValueError):
    """A code that pairs nothing, with what to do."""


def new_code(person, now=None):
    """A fresh code of a person as text, "ABCD-EFGH"; the ones before are withdrawn."""
    now = now or timezone.now()
    text = "".join(secrets.choice(LETTERS) for _ in range(LENGTH))
    PairingCode.objects.owned_by(person).delete()
    PairingCode.objects.create(owner=person, digest=_digest(text), until=now + LASTS)
    return f"{text[:4]}-{text[4:]}"


def _digest(text):
    plain = "".join(letter for letter in text.upper() if letter in LETTERS)
    return hashlib.sha256(plain.encode()).hexdigest()


def pair(request, text, name, now=None):
    """Sign a phone in with a code. Returns its Device. Raises WrongCode for a code that is wrong, old or used."""
    now = now or timezone.now()
    PairingCode.objects.filter(until__lt=now).delete()
    with transaction.atomic():
        code = PairingCode.objects.select_related("owner").filter(digest=_digest(text)).first()
        if code:
            code.delete()
    if code is None:
        _missed()
        raise WrongCode(WRONG)
    if not code.owner.is_active:
        raise WrongCode(WRONG)
    login(request, code.owner, BACKEND)
    request.session.set_expiry(int(SIGNED_IN.total_seconds()))
    request.session.save()
    device = Device.objects.create(
        owner=code.owner, name=name.strip()[:60] or "Phone", session_key=request.session.session_key, used_at=now
    )
    request.session[DEVICE] = device.pk
    return device


def _missed():
    """A wrong code counts against every open one."""
    PairingCode.objects.update(misses=F("misses") + 1)
    PairingCode.objects.filter(misses__gte=MOST_MISSES).delete()


def devices_of(person):
    """A person's paired phones, the last used first; 1 query."""
    return Device.objects.owned_by(person).filter(kind=Device.Kind.PHONE)


def ways_in_of(person):
    """Every way in of a person, the last used first; 1 query."""
    return Device.objects.owned_by(person)


def note_sign_in(request, person, now=None):
    """Remember a browser in which somebody signed in with their password, so that it can be listed and ended."""
    if DEVICE in request.session:
        return
    request.session.save()
    name = _browser_of(request.headers.get("User-Agent", ""))
    key, now = request.session.session_key, now or timezone.now()
    device, _ = Device.objects.update_or_create(
        session_key=key, defaults={"owner": person, "name": name, "kind": Device.Kind.BROWSER, "used_at": now}
    )
    request.session[DEVICE] = device.pk


def _browser_of(agent):
    """What a browser says of the system it runs on, in a few words."""
    found = re.search(r"\(([^)]{1,200})\)", agent)
    words = [part.strip() for part in found[1].split(";")] if found else []
    return ", ".join(words[:2])[:60] or "Browser"


def drop_all(person):
    """End every way in of a person, now."""
    for device in Device.objects.owned_by(person):
        drop(person, device.pk)


def drop(person, pk):
    """End a device's way in, now. Returns whether there was one."""
    device = ways_in_of(person).filter(pk=pk).first()
    if device is None:
        return False
    SessionStore(session_key=device.session_key).delete()
    device.delete()
    return True


def is_let_in(session, now=None):
    """Whether a session that belongs to a device still may, and writes down that it was used; 1 query, 2 every five minutes."""
    now = now or timezone.now()
    device = Device.objects.filter(
        pk=session.get(DEVICE), session_key=session.session_key, owner__is_active=True
    ).first()
    if device is None:
        return False
    if now - device.used_at > TOLD_EVERY:
        Device.objects.filter(pk=device.pk).update(used_at=now)
    return True
