"""Back up the database and every picture while people work: whole or not at all, and read again. With --prove it is restored apart and planned in."""

import json
from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from dimgrey.safekeeping.backup import BackupFailed, back_up, verify
from dimgrey.safekeeping.proof import plans, prove

MOST_NAMED = 5


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("folder", type=Path, help="folder of the backups; with --verify, one backup")
        parser.add_argument("--keep", type=int, metavar="N", help="how many stay, the newest (default: all)")
        parser.add_argument("--verify", action="store_true", help="read a backup again instead of making one")

        parser.add_argument(
            "--prove", action="store_true", help="restore it apart, plan in it, and compare with the live house"
        )
        parser.add_argument(
            "--plans",
            action="store_true",
            help="only tell the plans of this house, as JSON; a proof asks that of a restored one",
        )

    def handle(self, *args, **options):
        if options["plans"]:
            self.stdout.write(json.dumps(plans()))
            return
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
        if options["prove"]:
            proof = prove(made.path, Path(settings.DIMGREY_DATA), made.lost)
            self.stdout.write(proof.sentence)
            if not proof.is_good and not made.gone:
                raise CommandError(proof.sentence)
        if made.gone:
            raise CommandError(
                f"{len(made.gone)} pictures of this house have no files any more: {', '.join(made.gone[:MOST_NAMED])}. "
                f"{len(made.gone) - len(made.lost)} of them are in the backup, from the one before: restore it, or take the pictures in again."
            )
