"""Print as JSON what an import reads of a picture file. Exit code 2 and one line when it is refused."""

import json
from pathlib import Path

from django.core.management.base import BaseCommand

from dimgrey.core.errors import CoreError
from dimgrey.pictures.opening import read_picture
from dimgrey.site.management.commands.plan import fail


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("file")

    def handle(self, *args, **options):
        path = Path(options["file"])
        try:
            picture = read_picture(path.read_bytes(), path.name)
        except CoreError as refused:
            fail([str(refused)])
        except OSError as missing:
            fail([f"{path}: {missing.strerror}"])
        self.stdout.write(json.dumps(picture.as_json(), indent=1, ensure_ascii=False))
