"""The ZIP of an archive, read by known places: sizes, text, JSON and rows are checked before anything looks at them."""

import io
import tempfile
from collections import Counter
from contextlib import contextmanager
from pathlib import Path

from PIL import Image

from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import CoreError
from dimgrey.pictures.filekinds import MAX_BYTES
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.rows import left_out, minor, row_of

MOST_FILES, MOST_TEXT = 200_000, 200_000_000
NO_ARCHIVE = "The file is not an archive of Dimgrey, or it is cut off. Take it from where it was saved again."


class ArchiveError(CoreError):
    """An archive that cannot be brought in; says what in it is wrong. Nothing of it was kept."""

    def __init__(self, sentence, code="archive"):
        super().__init__(sentence, parameter="file", code=code)


class Unpacked:
    """An open ZIP that is an archive. count: what came in -> how many. Raises ArchiveError for one that is none."""

    def __init__(self, archive):
        self.archive = archive
        self.names = {info.filename: info for info in archive.infolist()}
        self.count = Counter()
        if len(self.names) > MOST_FILES:
            raise ArchiveError(f"The archive has more than {MOST_FILES} files.")
        head = self.json(layout.HEAD)
        said = head.get if isinstance(head, dict) else {}.get
        if said("format") != layout.FORMAT:
            raise ArchiveError(NO_ARCHIVE)
        if said("version") != layout.VERSION:
            raise ArchiveError(
                f"The archive is of version {said('version')!s:.20}; this program reads version {layout.VERSION}."
            )
        newest = said("minor", 0)
        self.is_newer = type(newest) is int and newest > minor()

    def read(self, name, most=MOST_TEXT):
        """Bytes of a file, b"" where there is none. Raises ArchiveError for one that unpacks to too much."""
        info = self.names.get(name)
        if info is None:
            return b""
        with self.archive.open(info) as entry:
            data = entry.read(most + 1)
        if len(data) > most:
            raise ArchiveError(f"{name} holds more than {most / 1e6:.0f} MB.")
        return data

    def text(self, name):
        try:
            return self.read(name).decode("utf-8")
        except UnicodeDecodeError:
            raise ArchiveError(f"{name} is not text.") from None

    def json(self, name):
        """What a JSON file holds, None where there is none. Raises ArchiveError."""
        text = self.text(name)
        if not text:
            return None
        try:
            return loads(text)
        except CoreError as refused:
            raise ArchiveError(f"{name}: {refused}") from None

    def rows(self, row, name):
        """Rows of a JSON file that holds a list of them, () where there is none. Raises DocumentError."""
        told = self.json(name) or ()
        if not isinstance(told, list | tuple):
            raise ArchiveError(f"{name}: must be a list.")
        return [self.checked(row, each, f"{name}[{k}]") for k, each in enumerate(told)]

    def row(self, row, name):
        """The row that a JSON file holds, None where there is none. Raises DocumentError."""
        told = self.json(name)
        return None if told is None else self.checked(row, told, name)

    def checked(self, row, told, path):
        made = row_of(row, told, path, self.is_newer)
        if self.is_newer and (beyond := left_out(made)):
            self.count["words of a newer program, left out"] += beyond
        return made

    @contextmanager
    def lying(self, name):
        """The path where a file of the archive lies while it is read."""
        with tempfile.NamedTemporaryFile(prefix="dimgrey-") as file, self.archive.open(self.names[name]) as entry:
            left = MAX_BYTES + 1
            while left > 0 and (piece := entry.read(min(1 << 20, left))):
                file.write(piece)
                left -= len(piece)
            file.flush()
            yield Path(file.name)

    def below(self, start):
        """Names of the files below a folder, in their order."""
        return sorted(name for name in self.names if name.startswith(start) and not name.endswith("/"))


def checked_jpeg(data):
    """The bytes of a small JPEG that can be read. Raises ArchiveError."""
    try:
        with Image.open(io.BytesIO(data)) as image:
            if image.format != "JPEG" or max(image.size) > 4000:
                raise ArchiveError("A small view in the archive is not a JPEG.")
            image.load()
    except (OSError, SyntaxError, ValueError) as wrong:
        if isinstance(wrong, ArchiveError):
            raise
        raise ArchiveError("A small view in the archive cannot be read.") from None
    return data
