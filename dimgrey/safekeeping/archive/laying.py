"""Pictures of an archive on their way in: decoded before anything of it is written into the database, which nobody waits for meanwhile.

Each lies whole in a folder of its own below one that belongs to the archive, and moves out of it when its row is written. A process that
is killed goes on with those that are not there yet.
"""

import json
import uuid
from pathlib import Path

from dimgrey.pictures.actions import laid_aside, take_laid
from dimgrey.pictures.models import Picture
from dimgrey.pictures.ondisk import write_whole
from dimgrey.pictures.store import drop_files

WANTED, ROW = "wanted.json", "row.json"


class Laying:
    """folder: Path below which the pictures lie; it exists."""

    def __init__(self, folder):
        self.folder = Path(folder)
        self.bytes = sum(_row(path).bytes for path in self.folder.glob(f"*/{ROW}"))

    def wanted(self, find):
        """Names of the pictures that are to come, found once. find: () -> names."""
        known = self.folder / WANTED
        if not known.exists():
            text = json.dumps(sorted(set(find())))
            write_whole(known, lambda file: file.write(text.encode()))
        return json.loads(known.read_bytes())

    def has(self, name):
        return (self.folder / name / ROW).exists()

    def lay(self, name, owner_id, decoded, path, filename, snapshot, simulated_light):
        """Write the files of a picture. Raises PictureError, PictureGone."""
        drop_files(self.folder / name)  # what a killed process left of it
        row = laid_aside(
            self.folder / name, owner_id, decoded, path, filename, snapshot, simulated_light, others_bytes=self.bytes
        )
        self.bytes += row.bytes
        fields = [field.attname for field in Picture._meta.concrete_fields if not field.primary_key]
        text = json.dumps({name: getattr(row, name) for name in fields}, default=str)
        write_whole(self.folder / name / ROW, lambda file: file.write(text.encode()))

    def take(self, name):
        """The picture's row, saved, its files in their place; None for one that was not laid. Within `keeping`."""
        if not self.has(name):
            return None
        row = _row(self.folder / name / ROW)
        (self.folder / name / ROW).unlink()
        return take_laid(row, self.folder / name)


def _row(path):
    """The row of a picture that was laid aside."""
    row = Picture(**json.loads(path.read_bytes()))
    row.folder = uuid.UUID(row.folder)
    return row
