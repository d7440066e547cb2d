"""Show a code, as a square and in letters, that pairs one phone with the local person, once, within ten minutes."""

from io import StringIO

import segno
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.urls import reverse

from dimgrey.people.actions import local_person
from dimgrey.people.pairing import new_code
from dimgrey.site.config import HELP


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("--port", default=HELP["DIMGREY_PORT"][0], help="that the server listens on")

    def handle(self, *args, **options):
        if not settings.DIMGREY_LAN:
            raise CommandError(
                "No address on the local network is known: start with script/demo phone, or set DIMGREY_LAN."
            )
        code = new_code(local_person())
        place = f"http://{settings.DIMGREY_LAN[0]}:{options['port']}"
        self.stdout.write(f"\nOn the phone, in the same network: {place}{reverse('pair', args=[code])}\n")
        square = StringIO()
        segno.make(place + reverse("pair", args=[code]), error="m").terminal(out=square, compact=True)
        self.stdout.write(
            f"{square.getvalue()}or type {code} at {place}{reverse('pair-typed')}. It works once, within ten minutes; the page Phone shows new "
            "codes.\nA plain address is for your own network only: whoever else is on it can read along.\n"
        )
