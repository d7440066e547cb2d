"""docs/how-to-add.md holds: what a table names appears everywhere else by itself."""

import re
from dataclasses import fields
from pathlib import Path
from unittest import mock

from django.test import SimpleTestCase

from dimgrey.core.acts import lamp_set
from dimgrey.core.acts.filter import grey_key
from dimgrey.core.acts.verb import verb_named
from dimgrey.core.colour import curves
from dimgrey.core.colour.filters import GREY, GreyGlass
from dimgrey.core.colour.responses import OF_MEDIA
from dimgrey.core.document import kit
from dimgrey.core.document.lighting import LampPart
from dimgrey.core.document.model import SCENE
from dimgrey.core.lamps.lamp import Lamp
from dimgrey.core.measure.readings import KINDS, TYPED_KINDS
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.results.causes.cause import every_cause
from dimgrey.core.shapes.declare import known_keys
from dimgrey.kit.forms import ItemForm
from dimgrey.scenes import lifecycle
from dimgrey.scenes.acts import form_of
from dimgrey.scenes.exports import EXPORTS
from dimgrey.scenes.sheet.registry import parts
from dimgrey.site.config import ROOT
from dimgrey.site.management.commands.acts import acts_page
from tests import picturefiles
from tests.documents import brief, document
from tests.helpers import PageTest

SHEET = ROOT / "dimgrey" / "scenes" / "sheet"
PLACES = re.compile(r"`((?!docs/|tests/)(?:[a-z]\w*/)+\w+\.(?:py|json|html))`")
SET_OTHERWISE = {"least_stops", "most_stops"}
"""Fields of a lamp that its form does not have: what its maker says of its power."""


def enums(name):
    """Every enum of the scene schema that holds a name."""

    def walk(node):
        if isinstance(node, dict):
            if name in node.get("enum", ()):
                yield node["enum"]
            for each in node.values():
                yield from walk(each)
        elif isinstance(node, list):
            for each in node:
                yield from walk(each)

    return list(walk(SCENE.schema()))


def words_of(verb, name):
    """word -> how it is named, of a key that is one of some words."""
    return verb_named(verb).keys.__dataclass_fields__[name].metadata["rule"].named(None)


class Tables(SimpleTestCase):
    def test_kinds_of_readings(self):
        self.assertEqual([set(found) for found in enums("grey card")], [set(KINDS)])
        self.assertEqual(list(words_of("read", "kind")), list(TYPED_KINDS))

    def test_schools(self):
        self.assertEqual([set(found) for found in enums("silhouette")], [set(SCHOOLS)])
        self.assertEqual(list(words_of("school", "school")), list(SCHOOLS))

    def test_a_new_kind_of_grey_glass_is_planned_shown_and_owned(self):
        soft = GreyGlass("Soft net", "soft net", "soft net", 0.5, (0.5,))
        with mock.patch.dict(GREY, {"soft net": soft}):
            tones = (Tone("mouth", "shadow", (9.0,)), Tone("wall", "highlight", (13.0,)))
            made = plan(Brief(tones=tones, choice=PlacingChoice("shadow"), filters=(Glass("soft net", stops=0.5),)))
            self.assertEqual(made.filter_cost.stops, 0.5)
            said = grey_key(soft).metadata
            self.assertEqual((said["label"], said["rule"].read("on", "Soft net", None)), ("Soft net", True))
        self.assertEqual([name for name in form_of("filter").base_fields if name in GREY], list(GREY))
        self.assertLess(set(GREY), set(kit.GLASS))

    def test_what_is_not_said_of_grey_glass_is_what_its_row_says(self):
        for name, glass in GREY.items():
            if glass.usual_stops is not None:
                tones = [{"name": "a", "ev100": 9}]
                made = document(tones=tones, filters=[{"name": name}], placing={"school": "shadow"})
                from dimgrey.core.document.plainform import plain

                self.assertEqual(brief(plain(made)).filters[0].grey_stops, glass.usual_stops)

    def test_fields_of_the_kit(self):
        for kind, known in kit.FIELDS.items():
            self.assertEqual(set(ItemForm(kind).fields) - {"name"}, {each.name for each in known})

    def test_every_part_is_a_module_and_a_template_of_its_key(self):
        for part in parts():
            self.assertTrue((SHEET / f"{part.key}.py").is_file(), part.key)
            self.assertTrue((ROOT / f"dimgrey/scenes/templates/scenes/sheet/{part.key}.html").is_file(), part.key)

    def test_a_part_is_named_in_its_own_files_only(self):
        """No list of parts stands anywhere: the loop of the sheet and the registry find them."""
        sheet = (ROOT / "dimgrey/scenes/templates/scenes/_sheet.html").read_text(encoding="utf-8")
        registry = (SHEET / "registry.py").read_text(encoding="utf-8")
        for part in parts():
            self.assertNotIn(f'"{part.key}"', registry)
            self.assertNotIn(f"part-{part.key}", sheet)

    def test_a_field_of_a_lamp_is_kept_and_can_be_set(self):
        known = {each.name for each in fields(Lamp)}
        self.assertEqual({each.name for each in known_keys(LampPart)}, known)
        self.assertEqual({*lamp_set.AS_SAID, *lamp_set.LENGTHS.values()}, known - SET_OTHERWISE)

    def test_how_a_film_sees_is_made_shown_and_owned(self):
        for name in OF_MEDIA:
            self.assertGreater(curves.response(name).max(), 0, name)
        self.assertEqual([set(found) for found in enums("orthochromatic")], [set(OF_MEDIA)])
        (field,) = (each for each in kit.FIELDS["film"] if each.name == "response")
        self.assertEqual(set(field.choices), set(OF_MEDIA) - {"monochrome sensor"})

    def test_every_cause_is_tried_on_a_miss_that_is_known(self):
        tried = "".join(path.read_text(encoding="utf-8") for path in (ROOT / "tests/core/results").glob("test_*.py"))
        for each in every_cause():
            self.assertIn(f'"{each.kind}"', tried)


class Exports(PageTest):
    def test_every_export_is_a_file_of_its_kind(self):
        starts = {
            ".png": b"\x89PNG",
            ".jpg": b"\xff\xd8",
            ".tif": b"II*\0",
            ".svg": b"<",
            ".json": b"{",
            ".csv": b"\xef\xbb\xbf",
        }
        scene = lifecycle.new_scene(self.person, "Yard", data=picturefiles.jpeg(), filename="yard.jpg")
        for name in EXPORTS:
            with self.subTest(name):
                answer = self.client.get(f"/scenes/{scene.pk}/export/{name}")
                self.assertEqual(answer.status_code, 200)
                self.assertTrue(answer.content.startswith(starts.get(Path(name).suffix, b"")), answer.content[:20])
                self.assertGreater(len(answer.content), 50)


class Places(SimpleTestCase):
    def test_the_page_of_acts_is_what_the_verbs_say(self):
        kept = (ROOT / "docs" / "acts.md").read_text(encoding="utf-8")
        self.assertEqual(kept, acts_page(), "write it anew: manage.py acts > docs/acts.md")

    def test_every_file_that_the_page_names_is_there(self):
        named = PLACES.findall((ROOT / "docs" / "how-to-add.md").read_text(encoding="utf-8"))
        self.assertGreater(len(named), 20)
        for path in named:
            self.assertTrue((ROOT / "dimgrey" / path).is_file(), path)
