"""What is said when the machine fails and not the person: a full disk, a disk that only reads, a database that is busy."""

import errno

from django.db import OperationalError

KEPT = "Everything that was confirmed before is kept; this last step was not taken. "
FULL = "The disk is full. " + KEPT + "Free some room, then do it again."
READ_ONLY = "The disk cannot be written to. " + KEPT + "Look after the disk, then do it again."
BUSY = (
    "The database is busy with something long, such as a backup of another program. "
    + KEPT
    + "Do it again in a moment."
)
UNREADABLE = "The database cannot be read. " + KEPT + "Whoever looks after this machine runs manage.py check_data."
OURS = "Something went wrong on our side. Every confirmed reading is kept; go back and try again."
_OF_THE_DATABASE = (
    ("disk is full", FULL),
    ("readonly", READ_ONLY),
    ("read-only", READ_ONLY),
    ("locked", BUSY),
    ("unable to open", READ_ONLY),
    ("disk i/o", READ_ONLY),
    ("malformed", UNREADABLE),
    ("not a database", UNREADABLE),
)
_OF_FILES = {
    errno.ENOSPC: FULL,
    errno.EDQUOT: FULL,
    errno.EROFS: READ_ONLY,
    errno.EACCES: READ_ONLY,
    errno.EIO: READ_ONLY,
}


def sentence_for(failed):
    """(status, sentence) of an exception that nothing caught. failed: the exception, or None."""
    while failed is not None:
        if isinstance(failed, OperationalError):
            text = str(failed).lower()
            found = next((sentence for part, sentence in _OF_THE_DATABASE if part in text), None)
            if found:
                return 503, found
        if isinstance(failed, OSError) and failed.errno in _OF_FILES:
            return 503, _OF_FILES[failed.errno]
        failed = failed.__cause__ or failed.__context__
    return 500, OURS
