"""A picture file on its way in: bytes in memory, or a file that lies somewhere already."""

import shutil
import tempfile
from contextlib import contextmanager
from pathlib import Path

from dimgrey.pictures.ondisk import write_whole


@contextmanager
def lying(source):
    """The path where a file lies while it is read. source: bytes, which lie in a temporary file meanwhile, or a path."""
    if isinstance(source, Path):
        yield source
        return
    with tempfile.NamedTemporaryFile(prefix="dimgrey-") as file:
        file.write(source)
        file.flush()
        yield Path(file.name)


def source_of(uploaded):
    """The source of an uploaded file: where it lies, if it was too large for memory; else its bytes."""
    lies = getattr(uploaded, "temporary_file_path", None)
    return Path(lies()) if lies else uploaded.read()


def copied(source, path):
    """Write a source to a path, on the disk when this returns. Raises OSError."""

    def write(file):
        if isinstance(source, Path):
            with source.open("rb") as there:
                shutil.copyfileobj(there, file, 1 << 20)
        else:
            file.write(source)

    write_whole(path, write)


def size_of(source):
    """Bytes of a source."""
    return source.stat().st_size if isinstance(source, Path) else len(source)


def head_of(source, count=64):
    """The first bytes of a source."""
    if isinstance(source, Path):
        with source.open("rb") as file:
            return file.read(count)
    return source[:count]
