"""Print the JSON Schema of an open file, for programs that write or check one."""

import json

from django.core.management.base import BaseCommand, CommandError

from dimgrey.core.document.kitfile import KIT
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.setupfile import SETUP
from dimgrey.core.finishing.finishingplan import FINISH

FORMATS = {each.name: each for each in (SCENE, KIT, SETUP, FINISH)}


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("name", choices=FORMATS, help="the kind of file")
        parser.add_argument(
            "--version-of-file", type=int, default=None, help="an older version; the present one if not said"
        )

    def handle(self, *args, **options):
        found = FORMATS[options["name"]]
        version = options["version_of_file"] or found.version
        if version not in found.versions:
            known = ", ".join(map(str, found.versions))
            raise CommandError(f"There is no version {version} of the {found.name} file; known: {known}.")
        self.stdout.write(json.dumps(found.schema(version), indent=1))
