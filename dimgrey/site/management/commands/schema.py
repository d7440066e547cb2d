"""Print the JSON Schema of a scene, kit or setup file, for programs that write or check one."""

import json

from django.core.management.base import BaseCommand, CommandError

from dimgrey.core.document.schema import READABLE, schema


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("name", choices=READABLE, help="the kind of file")
        parser.add_argument(
            "--version-of-file", type=int, default=None, help="an older version; the present one if not said"
        )

    def handle(self, *args, **options):
        versions = READABLE[options["name"]]
        version = options["version_of_file"] or versions[-1]
        if version not in versions:
            raise CommandError(
                f"There is no version {version} of the {options['name']} file; known: {', '.join(map(str, versions))}."
            )
        self.stdout.write(json.dumps(schema(options["name"], version), indent=1))
