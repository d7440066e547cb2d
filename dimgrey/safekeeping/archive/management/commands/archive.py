"""Everything of one person as an archive, or an archive brought in, from the command line: for archives of many gigabytes."""

import os
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from dimgrey.core.errors import CoreError
from dimgrey.people.actions import LOCAL_NAME
from dimgrey.people.models import Person
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.bringing import told_of
from dimgrey.safekeeping.archive.restoring import restore_archive
from dimgrey.safekeeping.archive.writing import pieces
from dimgrey.safekeeping.backup import flush


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("act", choices=("save", "take"))
        parser.add_argument("file", type=Path)
        parser.add_argument("--person", default=LOCAL_NAME, help="whose (default: the person of this machine)")
        parser.add_argument(
            "--part", action="append", choices=tuple(layout.PARTS), help="only this part; more than one may be said"
        )

    def handle(self, *args, act, file, person, part, **options):
        who = Person.objects.filter(username=person).first()
        if who is None:
            raise CommandError(f"There is nobody called {person}.")
        if act == "save":
            growing = file.with_name(f"{file.name}.growing")
            with growing.open("wb") as out:
                for piece in pieces(who):
                    out.write(piece)
                out.flush()
                os.fsync(out.fileno())
            growing.replace(file)
            flush(file.parent)
            self.stdout.write(f"{file}: {file.stat().st_size / 1e6:.1f} MB.")
            return
        try:
            count = restore_archive(who, file, part or tuple(layout.PARTS))
        except (CoreError, OSError) as refused:
            raise CommandError(f"{refused} Nothing was kept.") from None
        self.stdout.write(f"{told_of(count).capitalize()}.")
