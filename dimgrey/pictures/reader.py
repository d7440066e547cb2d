"""The process that reads what came in: whether it lives. It holds a lock as long as it does, so that no clock is asked."""

import fcntl
from pathlib import Path

from django.conf import settings


def lock_path():
    """Of the file that the process holds."""
    return Path(settings.DIMGREY_DATA) / "reader.lock"


def is_alive():
    """Whether a process reads the files of this house."""
    try:
        with lock_path().open("r") as asked:
            fcntl.flock(asked, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except FileNotFoundError:
        return False
    except BlockingIOError:
        return True
    return False
