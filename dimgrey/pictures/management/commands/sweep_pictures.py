"""Remove picture folders that no picture owns, such as a killed upload leaves. script/demo runs it before each start."""

from django.core.management.base import BaseCommand

from dimgrey.pictures.actions import SWEPT_AFTER_S, sweep


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        text = "leave folders alone that changed within so many seconds (default: %(default)s)"
        parser.add_argument("--older-than", type=float, default=SWEPT_AFTER_S, metavar="S", help=text)

    def handle(self, *args, **options):
        count, size = sweep(options["older_than"])
        if count:
            self.stdout.write(f"Removed {count} folder{'s' if count > 1 else ''} of no picture ({size / 1e6:.1f} MB).")
