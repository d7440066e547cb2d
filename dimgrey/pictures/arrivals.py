"""Files come in and are read later, in the order of who looks, by a process of their own: nobody waits for pixels. Decision 048.

An upload is answered as soon as its original is on the disk and its row in the database. The queue then hands the row's number to
`read`, which decodes the file, measures what its purpose needs, and last writes every row of it in one transaction. The row says how
far it is, whatever happens to the queue: what waits and has no task gets one again, and what was kept is not kept twice.
"""

import logging
from collections.abc import Callable
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import timedelta
from inspect import signature
from pathlib import PurePath

from django.db import DatabaseError, transaction
from django.db.models import Q
from django.utils import timezone
from django_tasks import task
from django_tasks_db.models import DBTaskResult

from dimgrey.core.errors import CoreError
from dimgrey.pictures import reader, store, writing
from dimgrey.pictures.actions import keeping, require_room, suffix_of
from dimgrey.pictures.filekinds import kind_of
from dimgrey.pictures.models import Arrival, Picture
from dimgrey.pictures.opening import read_picture, require_size
from dimgrey.pictures.upload import head_of

MOST_WAITING = 400
"""Files of one person: two cards full of a long day."""
FORGOTTEN_AFTER = timedelta(days=1)
"""What was kept is told for so long; what was refused thirty times as long."""
LOOKED_AT, AFTER_OTHERS = 10, -20
"""Priority of what somebody has a page open of, and of the rest of what takes long."""
NOT_ITS_FAULT = (writing.NOT_KEPT, "picture-busy")
"""Codes of refusals that say nothing of the file: it waits on."""
MOST_TRIES = 12
"""A file at which the process died so often is refused; after each time all others go before it."""
BROKE = "The program broke off at this file. The house's log says where; the file itself was not kept."
FULL = f"{MOST_WAITING} of your files wait to be read already. Wait until some are."
_log = logging.getLogger("dimgrey.pictures")
_purposes = {}


@dataclass(frozen=True)
class _Purpose:
    handler: Callable
    broken: Callable | None
    is_picture: bool


def reads(purpose, broken=None, is_picture=True):
    """Says what becomes of files that come for a purpose.

    The function gets (arrival, decoded, what else was said of it), works out all that takes time, and hands back what writes the rows:
    it is called in a transaction and gives the number of what the file became. Both may raise CoreError, which is told of the file.
    broken: (arrival, sentence) -> number, writes what stays of a file that cannot be read; without it the sentence does.
    is_picture: else the file is not decoded, the function gets (arrival, what else was said), and it may hand back None when it has
    done a part: others go first, and it is called again.
    """

    def register(handler):
        _purposes[purpose] = _Purpose(handler, broken, is_picture)
        return handler

    return register


def said_of(purpose):
    """Names of what else may be said of files that come for a purpose."""
    known = signature(_purposes[purpose].handler).parameters.values()
    return [each.name for each in known if each.default is not each.empty]


@contextmanager
def laid_down(person, source, name, is_picture=True):
    """A file that lies safely on the disk, as an Arrival that is not kept yet; `send` it within, in a transaction of one's own if need be.

    source: bytes, or the path where it lies. is_picture: else it takes no room of a person's, because it goes once it was read.
    Raises PictureError for what is plainly no picture or has no room, PictureGone when it cannot be written, CoreError when too many
    wait. What goes wrong within leaves nothing of the file.
    """
    size = require_size(source) if is_picture else 0
    if is_picture:
        kind_of(head_of(source))
        require_room(person.pk, size)
    if waiting(person).count() >= MOST_WAITING:
        raise CoreError(FULL, code="arrivals-many")
    row = Arrival(owner_id=person.pk, name=PurePath(name or "picture").name[:255], bytes=size)
    writing.keep_original(row.path, source, suffix_of(row.name))
    try:
        yield row
    except BaseException:
        store.drop_files(row.path)
        raise


@transaction.atomic
def send(row, purpose, subject, **about):
    """Keep what a file is for, and put it into the queue. Where that does its work at once, the row says what became of it."""
    row.purpose, row.subject, row.about = purpose, subject, about
    row.save()
    _queue(row)
    row.refresh_from_db()


def take_in(person, purpose, subject, source, name, **about):
    """Take a file in for a purpose: `laid_down` and sent. Returns its Arrival. Raises CoreError for one of which it is known that it is not kept."""
    with laid_down(person, source, name) as row, transaction.atomic():
        send(row, purpose, subject, **about)
        refused(row)
    return row


def _queue(row, priority=0):
    """Put a file into the queue."""
    told = read.using(priority=priority).enqueue(row.pk)
    Arrival.objects.filter(pk=row.pk).update(task=told.id)


def waiting(person):
    """A person's files that wait to be read."""
    return Arrival.objects.owned_by(person).filter(state=Arrival.State.WAITING)


@task()
def read(pk):
    """Read one file and keep what it is for, once. What fails is told of it; what is not its own fault leaves it waiting."""
    row = Arrival.objects.select_related("owner").filter(pk=pk, state=Arrival.State.WAITING).first()
    if row is None:
        return
    Arrival.objects.filter(pk=pk).update(begun_at=timezone.now())
    try:
        keep = _worked_out(row)
        if keep is None:
            _queue(row, AFTER_OTHERS)
            return
        with keeping():
            if _become(pk, Arrival.State.KEPT):
                Arrival.objects.filter(pk=pk).update(became=keep())
    except CoreError as refused:
        if refused.code in NOT_ITS_FAULT:
            Arrival.objects.filter(pk=pk).update(sentence=f"{str(refused)[:350]} It waits, and is tried again.")
            return
        _refuse(row, str(refused))
    except (DatabaseError, OSError) as failed:
        # The house has no room or is being moved, not the file's fault; but a file that is gone does not come back.
        _log.exception("reading a file for %s failed", row.purpose)
        if not isinstance(failed, FileNotFoundError):
            return
        _refuse(row, BROKE)
    except Exception:
        _log.exception("reading a file for %s failed", row.purpose)
        _refuse(row, BROKE)
    _tidy(row)


def _worked_out(row):
    """What a file's purpose makes of it: what writes the rows, or None when there is more to do."""
    purpose = _purposes[row.purpose]
    if purpose.is_picture:
        return purpose.handler(row, read_picture(row.original, row.name), **row.about)
    return purpose.handler(row, **row.about)


def _refuse(row, sentence):
    """Say why a file was not kept; where its purpose keeps something of it all the same, that."""
    broken = _purposes[row.purpose].broken
    with transaction.atomic():
        if not broken:
            _become(row.pk, Arrival.State.REFUSED, sentence)
        elif _become(row.pk, Arrival.State.KEPT, sentence):
            try:
                Arrival.objects.filter(pk=row.pk).update(became=broken(row, sentence))
            except CoreError as gone:
                Arrival.objects.filter(pk=row.pk).update(state=Arrival.State.REFUSED, sentence=str(gone)[:400])


def _tidy(row):
    """Of a file that is read stays what a picture holds: its whole folder, or its views alone."""
    picture = Picture.objects.filter(folder=row.folder).first()
    if picture is None:
        store.drop_files(row.path)
    elif not (row.path / store.WORKING).exists():
        row.original.unlink(missing_ok=True)


def _become(pk, state, sentence=""):
    """Let a file that waits be kept or refused. Returns whether it still waited."""
    return Arrival.objects.filter(pk=pk, state=Arrival.State.WAITING).update(state=state, sentence=sentence[:400])


def refused(row):
    """Raise CoreError with the sentence of a file of which it is known already that it was not kept."""
    if row.state != Arrival.State.KEPT and row.sentence:
        raise CoreError(row.sentence, parameter="picture", code="picture-refused")


# --- what pages show ---------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Arriving:
    """Files of a person for one subject. rows: those that wait or were refused, the oldest first. kept: how many were lately."""

    purpose: str
    subject: int
    rows: tuple = ()
    kept: int = 0

    @property
    def waiting(self):
        return [row for row in self.rows if row.state == Arrival.State.WAITING]

    @property
    def count(self):
        """Of all that came."""
        return self.kept + len(self.rows)

    @property
    def is_read(self):
        """Whether somebody reads them at all."""
        return reader.is_alive()


def arriving(person, purpose, subject):
    """Arriving of a subject; 1 query, 2 when something waits. What is looked at is read before what nobody looks at."""
    known = list(Arrival.objects.owned_by(person).filter(purpose=purpose, subject=subject))
    rows = tuple(row for row in known if row.state != Arrival.State.KEPT)
    found = Arriving(purpose, subject, rows, len(known) - len(rows))
    tasks = [row.task for row in found.waiting if row.task]
    later = DBTaskResult.objects.ready().filter(pk__in=tasks, priority__lt=LOOKED_AT)
    if tasks and later.exists():
        later.update(priority=LOOKED_AT)
    return found


def last_kept(person, purpose):
    """The file of a person that was kept last for a purpose, None when that is long ago."""
    return Arrival.objects.owned_by(person).filter(purpose=purpose, state=Arrival.State.KEPT).last()


def put_away(person, pk):
    """Let a file go that waits or was refused. Returns it, None where there is none."""
    row = Arrival.objects.owned_by(person).filter(pk=pk).exclude(state=Arrival.State.KEPT).first()
    if row is None or not Arrival.objects.filter(pk=pk, state=row.state).delete()[0]:
        return None
    store.drop_files(row.path)
    return row


# --- what the process does that reads them -----------------------------------------------------------------------------------


def resume():
    """After a start: what a killed process was at is taken up again; a file at which it died too often is refused. Returns how many wait."""
    running = DBTaskResult.objects.running()
    for died in running:
        tries = len(died.worker_ids)
        if tries >= MOST_TRIES and (row := Arrival.objects.filter(task=died.pk, state=Arrival.State.WAITING).first()):
            _refuse(row, BROKE)
            _tidy(row)
        running.filter(pk=died.pk).update(status="READY", started_at=None, priority=-tries)
    return queue_what_waits()


def queue_what_waits(older_than=timedelta(0)):
    """Give every file that waits and has no task in the queue one. Returns how many wait."""
    rows = list(Arrival.objects.filter(state=Arrival.State.WAITING, arrived_at__lte=timezone.now() - older_than))
    alive = {
        str(pk) for pk in DBTaskResult.objects.exclude(status__in=("FAILED", "SUCCESSFUL")).values_list("pk", flat=True)
    }
    for row in rows:
        if row.task not in alive:
            _queue(row)
    return len(rows)


def forget():
    """Drop what was told of files that were kept or refused long ago, and finished tasks. Returns how many files were forgotten."""
    now = timezone.now()
    DBTaskResult.objects.finished().filter(finished_at__lt=now - FORGOTTEN_AFTER).delete()
    old = Q(state=Arrival.State.KEPT, arrived_at__lt=now - FORGOTTEN_AFTER)
    old |= Q(state=Arrival.State.REFUSED, arrived_at__lt=now - 30 * FORGOTTEN_AFTER)
    return Arrival.objects.filter(old).delete()[0]
