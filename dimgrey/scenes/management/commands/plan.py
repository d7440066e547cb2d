"""Print the plan of a scene file as JSON. Exit code 2 and one line per mistake on standard error when it is refused."""

import json
import sys
from pathlib import Path

from django.core.management.base import BaseCommand

from dimgrey.core.document.scenefile import SceneFileError, load, scene_of
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.plan import plan, plan_as_json


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("file", help="a scene file, or - for standard input")

    def handle(self, *args, **options):
        try:
            text = sys.stdin.buffer.read() if options["file"] == "-" else Path(options["file"]).read_bytes()
            result = plan(scene_of(load(text.decode("utf-8"))))
        except SceneFileError as refused:
            fail(refused.mistakes)
        except CoreError as refused:
            fail([f"{refused.parameter}: {refused}" if refused.parameter else str(refused)])
        except UnicodeDecodeError:
            fail(["The file is not text. A scene file is JSON, saved as UTF-8."])
        except OSError as missing:
            fail([f"{options['file']}: {missing.strerror}"])
        self.stdout.write(json.dumps(plan_as_json(result), indent=1, ensure_ascii=False))


def fail(mistakes):
    """Every mistake on a line of its own on standard error, then exit code 2."""
    for line in mistakes:
        print(line, file=sys.stderr)
    sys.exit(2)
