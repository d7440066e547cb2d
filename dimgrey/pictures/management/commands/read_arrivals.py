"""Read the files that have come in, one after another, until it is stopped. script/demo and script/serve start it; one for each house."""

import fcntl
import os
import signal
import time
from contextlib import contextmanager
from datetime import timedelta

from django.core.management.base import BaseCommand, CommandError
from django.db import OperationalError, close_old_connections
from django_tasks_db.management.commands.db_worker import Worker
from django_tasks_db.models import DBTaskResult

from dimgrey.pictures import arrivals, reader

LOOKS_EVERY_S = 0.05
"""A file is begun so soon after it came, when nothing else is read."""
AGAIN_EVERY_S = 30
"""What waits without a task, such as when the disk was full, is tried again so often."""


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("--beside", type=int, metavar="PID", help="end when that process has ended")
        parser.add_argument("--until-done", action="store_true", help="end when nothing waits")

    def handle(self, *args, **options):
        self.goes_on = True
        for told in (signal.SIGTERM, signal.SIGINT):
            signal.signal(told, self._end)
        with _alone():
            arrivals.resume()
            self._read(options["beside"], options["until_done"])

    def _end(self, number, frame):
        # A file that is being read is read again by the next process.
        self.goes_on = False
        raise SystemExit(0)

    def _read(self, beside, until_done):
        again = time.monotonic() + AGAIN_EVERY_S
        while self.goes_on and (beside is None or _is_there(beside)):
            if _something_waits():
                self._drain()
            elif until_done:
                return
            elif time.monotonic() > again:
                arrivals.queue_what_waits(older_than=timedelta(seconds=AGAIN_EVERY_S))
                again = time.monotonic() + AGAIN_EVERY_S
            else:
                time.sleep(LOOKS_EVERY_S)
            close_old_connections()

    def _drain(self):
        """All that is in the queue now, by the library's own worker."""
        Worker(
            queue_names=["default"],
            interval=0,
            batch=True,
            backend_name="default",
            startup_delay=False,
            max_tasks=1,
            worker_id=f"{os.getpid()}",
            excluded_queue_names=[],
        ).run()


def _something_waits():
    try:
        return DBTaskResult.objects.ready().exists()
    except OperationalError:  # the database is locked or being moved: look again
        return False


def _is_there(pid):
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


@contextmanager
def _alone():
    """Only one process reads for a house, and whoever asks sees that it lives. Raises CommandError for a second one."""
    path = reader.lock_path()
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise CommandError("Another process reads the files of this house already.") from None
        held.write(str(os.getpid()))
        held.flush()
        yield
