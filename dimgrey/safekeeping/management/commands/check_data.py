"""Say in what state the data are, and change nothing. Exit code 1 for a database that is damaged, empty or newer than this program."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from dimgrey.safekeeping.state import known_migrations, state_of


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = ()

    def handle(self, *args, **options):
        state = state_of(Path(settings.DIMGREY_DATA), known_migrations())
        if not state.can_start:
            raise CommandError(state.sentence)
        if options["verbosity"] > 0:
            self.stdout.write(state.good)
