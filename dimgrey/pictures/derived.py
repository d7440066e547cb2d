"""What is made of a picture and lies beside it, so that nobody waits for it twice. All of it can be made again, and no backup takes it."""

import hashlib
import io
import threading
from pathlib import Path

import numpy as np

KEPT_FILES = 24
"""Small views of one picture: the bench and a few placings."""


def kept_small(folder: Path, key, make):
    """Bytes of a small view for lists, kept as a file so that a list is there at once after a start.

    key: of the view's address, which says all that it depends on. make: () -> bytes, asked when there is no file yet.
    """
    kept = folder / f"small-{hashlib.sha256(key.encode()).hexdigest()[:24]}.jpg"
    try:
        return kept.read_bytes()
    except OSError:
        data = make()
    keep_beside(kept, data)
    keep_newest(folder, "small-*.jpg", KEPT_FILES)
    return data


def kept_array(kept, make):
    """An array that lies beside the picture as a file, made when there is none."""
    try:
        return np.load(kept, allow_pickle=False)
    except (OSError, ValueError, EOFError):
        made = make()
    written = io.BytesIO()
    np.save(written, made)
    keep_beside(kept, written.getvalue())
    return made


def keep_newest(folder, pattern, most):
    """Remove all but the newest files of a kind that can be made again."""
    for old in sorted(folder.glob(pattern), key=lambda file: file.stat().st_mtime)[:-most]:
        old.unlink(missing_ok=True)


def keep_beside(kept, data):
    """Write a file that can be made again, whole or not at all; without room on the disk it is not."""
    try:
        fresh = kept.with_suffix(f".{threading.get_ident()}.new")
        fresh.write_bytes(data)
        fresh.replace(kept)
    except OSError:
        pass
