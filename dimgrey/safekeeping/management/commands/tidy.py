"""What a daily run does: free what was removed thirty days ago, sweep folders that no picture owns, forget ended sign-ins."""

from django.core.management.base import BaseCommand

from dimgrey.safekeeping.freeing import tidy


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args, **options):
        freed = tidy()
        if any((freed.scenes, freed.outings, freed.pictures, freed.folders)):
            self.stdout.write(
                f"Freed {freed.scenes} scenes, {freed.outings} outings, {freed.pictures} pictures that were removed, "
                f"and {freed.folders} folders of no picture ({freed.bytes / 1e6:.1f} MB)."
            )
