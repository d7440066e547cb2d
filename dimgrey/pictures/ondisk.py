"""Files that are confirmed are on the disk: written, flushed, and only then under their name."""

import os


def write_whole(path, write):
    """Write a file whole or not at all, and flush it. write: (open binary file) -> anything. Raises OSError."""
    fresh = path.with_name(f"{path.name}.new")
    with fresh.open("wb") as file:
        write(file)
        file.flush()
        os.fsync(file.fileno())
    fresh.replace(path)


def settle(folder):
    """Flush a folder's list of names and its own entry, so that a power cut after this loses none of them. Raises OSError."""
    for each in (folder, folder.parent):
        handle = os.open(each, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
