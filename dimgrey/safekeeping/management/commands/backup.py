"""Back up the database and every picture while people work: whole or not at all, and proved. With --verify, read a backup again."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from dimgrey.safekeeping.backup import BackupFailed, back_up, verify

MOST_NAMED = 5


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("folder", type=Path, help="folder of the backups; with --verify, one backup")
        parser.add_argument("--keep", type=int, metavar="N", help="how many stay, the newest (default: all)")
        parser.add_argument("--verify", action="store_true", help="read a backup again instead of making one")

    def handle(self, *args, **options):
        folder, keep = options["folder"], options["keep"]
        if keep is not None and keep < 1:
            raise CommandError("--keep is 1 or more.")
        try:
            if options["verify"]:
                told = verify(folder)
                self.stdout.write(f"{folder} is whole: {told.pictures} pictures, {len(told.files)} files.")
                return
            made = back_up(Path(settings.DIMGREY_DATA), folder, keep=keep)
        except BackupFailed as failed:
            raise CommandError(str(failed)) from None
        shared = f", {made.linked / 1e6:.0f} MB of it shared with the one before" if made.linked else ""
        self.stdout.write(
            f"{made.path}: {made.pictures} pictures, {made.size / 1e6:.0f} MB{shared}. Read again and whole."
        )
        if made.gone:
            raise CommandError(
                f"{len(made.gone)} pictures of this house have no files any more: {', '.join(made.gone[:MOST_NAMED])}. "
                f"{len(made.gone) - len(made.lost)} of them are in the backup, from the one before: restore it, or take the pictures in again."
            )
