"""Print the plan of a scene file as JSON. Exit code 2 and one line per mistake on standard error when it is refused.

It says all that the desk says: a file that carries its place and day is warned of sun and sky too.
"""

import json
import sys
from dataclasses import replace
from pathlib import Path

from django.core.management.base import BaseCommand

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.lightplan import lamp_case
from dimgrey.core.document.scenefile import load
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.around import around_sky
from dimgrey.core.judging.judgedfile import as_json
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.planning.wishes import wanted_of
from dimgrey.core.shapes.check import DocumentError
from dimgrey.outings.sky_over_scene import hours_around, polarized_over, sky_over


def planned(text):
    """The plan of a scene file's text as plain values. Raises CoreError."""
    document = load(text)
    read = lambda each: brief_of(each, polarized_over(each, None, None))
    result = plan(read(document))
    sky = sky_over(document, None, None, result)
    wanted = wanted_of(result.brief)
    around = replace(around_sky(document, sky and sky.seen), hours=lambda: hours_around(document, None, None, result))
    judged = proposals_of(document, result, read, around, _warned, deeply=True)
    line = intent_line(wanted, result, judged)
    told = as_json(judged.found, judged.proposals, wanted, result)
    return plan_as_json(result, _warned(document, result), told, line)


def _warned(document, result):
    sky = sky_over(document, None, None, result)
    return cautions_of(result, sky.seen if sky else None, lamp_case(document, result))


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("file", help="a scene file, or - for standard input")

    def handle(self, *args, **options):
        try:
            text = sys.stdin.buffer.read() if options["file"] == "-" else Path(options["file"]).read_bytes()
            answer = planned(text.decode("utf-8"))
        except DocumentError as refused:
            fail(refused.mistakes)
        except CoreError as refused:
            fail([f"{refused.parameter}: {refused}" if refused.parameter else str(refused)])
        except UnicodeDecodeError:
            fail(["The file is not text. A scene file is JSON, saved as UTF-8."])
        except OSError as missing:
            fail([f"{options['file']}: {missing.strerror}"])
        self.stdout.write(json.dumps(answer, indent=1, ensure_ascii=False))


def fail(mistakes):
    """Every mistake on a line of its own on standard error, then exit code 2."""
    for line in mistakes:
        print(line, file=sys.stderr)
    sys.exit(2)
