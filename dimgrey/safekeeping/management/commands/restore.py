"""Restore a backup into the data folder, after reading all of it. What is there is put aside with --replace; stop the server first."""

from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connections

from dimgrey.safekeeping.backup import BackupFailed, restore
from dimgrey.safekeeping.state import known_migrations


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("backup", type=Path, help="folder of one backup")
        parser.add_argument("--replace", action="store_true", help="put aside what is there")

    def handle(self, *args, **options):
        connections.close_all()
        try:
            aside = restore(options["backup"], Path(settings.DIMGREY_DATA), known_migrations(), options["replace"])
        except BackupFailed as failed:
            raise CommandError(str(failed)) from None
        call_command("migrate", verbosity=0)
        before = f" What was there before is in {aside}." if aside else ""
        self.stdout.write(f"Restored from {options['backup']}.{before}")
