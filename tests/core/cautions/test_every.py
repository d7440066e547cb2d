"""The list of cautions: what is documented is registered, and what is registered is tested on both sides."""

import re
from dataclasses import replace
from pathlib import Path

from django.test import SimpleTestCase

from dimgrey.core.cautions import every  # noqa: F401 - declares every kind
from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.cautions.registry import KINDS, SUBJECTS, caution, rule
from tests.core.cautions.test_exposure import SHADOW, WALL, planned
from tests.core.cautions.test_sky import SKY

HERE = Path(__file__).parent
DOCS = HERE.parents[2] / "docs" / "scene-file.md"


class Registry(SimpleTestCase):
    def test_documented_is_registered(self):
        rows = re.findall(
            r"^\| `([a-z-]+)` \| (\w+) \| (.+?) \|(.*)\|$", DOCS.read_text(encoding="utf-8"), re.MULTILINE
        )
        documented = {code: (subject, when, bool(grave.strip())) for code, subject, when, grave in rows}
        registered = {code: (kind.subject, kind.when, kind.grave) for code, kind in KINDS.items()}
        self.assertEqual(documented, registered)

    def test_every_code_is_triggered_in_a_test_of_its_subject(self):
        for subject in SUBJECTS:
            text = (HERE / f"test_{subject}.py").read_text(encoding="utf-8")
            for code in (code for code, kind in KINDS.items() if kind.subject == subject):
                self.assertIn(f'"{code}"', text, code)

    def test_a_code_is_declared_once_and_only_declared_codes_are_given(self):
        with self.assertRaises(ValueError):
            rule("exposure", {"tone-unread": "again"})(lambda given: ())
        with self.assertRaises(KeyError):
            caution("glow", "It glows.")


class Order(SimpleTestCase):
    def test_what_can_hurt_comes_first_and_nothing_is_dropped(self):
        sky = replace(SKY, sun_gap_deg=0.0)
        result = planned(replace(SHADOW, mixed=3.0), WALL, replace(WALL, name="door", evs=()))
        self.assertEqual(
            [each.code for each in cautions_of(result, sky)], ["sun-in-frame", "tone-unread", "mixed-tones"]
        )
        self.assertEqual([each.code for each in cautions_of(result)], ["tone-unread", "mixed-tones"])
        self.assertEqual([each.code for each in cautions_of(None, sky)], ["sun-in-frame"])
        self.assertEqual(cautions_of(None), ())
