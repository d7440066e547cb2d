"""Forms alone read requests: nothing else looks into what was sent."""

import re

from django.test import SimpleTestCase

from dimgrey.site.config import ROOT

READS = re.compile(r"request\.(?:POST|GET|FILES)\b(?P<after>.{0,12})")


class Requests(SimpleTestCase):
    def test_what_was_sent_goes_into_a_form_whole(self):
        for path in (ROOT / "dimgrey").rglob("*.py"):
            for line in path.read_text(encoding="utf-8").splitlines():
                for found in READS.finditer(line):
                    with self.subTest(f"{path.relative_to(ROOT)}: {line.strip()}"):
                        self.assertNotRegex(found["after"], r"^(?:\[|\.get|\.getlist|\.items|\.dict)")
