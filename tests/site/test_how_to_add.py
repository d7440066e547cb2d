"""docs/how-to-add.md holds: what a table names appears everywhere else by itself."""

import re
from unittest import mock

from django.test import SimpleTestCase

from dimgrey.core.acts.filter import grey_key
from dimgrey.core.acts.verb import verb_named
from dimgrey.core.colour.filters import GREY, GreyGlass
from dimgrey.core.document import kit
from dimgrey.core.document.model import SCENE
from dimgrey.core.measure.readings import KINDS, TYPED_KINDS
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.kit.forms import ItemForm
from dimgrey.scenes.acts import form_of
from dimgrey.scenes.exports import EXPORTS
from dimgrey.scenes.sheet.registry import parts
from dimgrey.site.config import ROOT
from dimgrey.site.management.commands.acts import acts_page
from tests.documents import brief, document

SHEET = ROOT / "dimgrey" / "scenes" / "sheet"
PLACES = re.compile(r"`((?:core|scenes|pictures|card|secondlook)/[\w/.]+\.(?:py|json|html))`")


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
        for kind, fields in kit.FIELDS.items():
            self.assertEqual(set(ItemForm(kind).fields) - {"name"}, {each.name for each in fields})

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

    def test_exports_are_one_table(self):
        self.assertTrue(all(len(row) == 2 and callable(row[1]) for row in EXPORTS.values()))


class Places(SimpleTestCase):
    def test_the_page_of_acts_is_what_the_verbs_say(self):
        kept = (ROOT / "docs" / "acts.md").read_text(encoding="utf-8")
        self.assertEqual(kept, acts_page(), "write it anew: manage.py acts > docs/acts.md")

    def test_every_file_that_the_page_names_is_there(self):
        named = PLACES.findall((ROOT / "docs" / "how-to-add.md").read_text(encoding="utf-8"))
        self.assertGreater(len(named), 20)
        for path in named:
            self.assertTrue((ROOT / "dimgrey" / path).is_file(), path)
