"""The book: every page stands, says the core's figures, is found by its words, and links to what is there."""

import re

from dimgrey.book import contents
from dimgrey.book.glossary import TERMS
from dimgrey.book.views import TITLES
from dimgrey.core.document import kit
from dimgrey.core.measure.surfaces import SURFACES
from dimgrey.core.planning.media import Medium
from dimgrey.kit.models import Item
from tests.helpers import PageTest


class Book(PageTest):
    def test_every_page_stands_and_another_is_not_there(self):
        for name, title in TITLES.items():
            self.assertContains(self.client.get(f"/book/{name}/"), f"<h1>{title}</h1>")
        self.assertEqual(self.client.get("/book/soup/").status_code, 404)
        self.assertContains(self.client.get("/practice/"), "The book")

    def test_zones_have_every_surface_with_its_compensation_and_ones_own(self):
        Item.objects.create(
            owner=self.person, kind="surface", name="Slipware", values=kit.check("surface", {"zone": 9.0})
        )
        page = self.client.get("/book/zones/").content.decode()
        for surface in SURFACES:
            self.assertIn(surface.name, page)
        self.assertIn("Slipware", page)
        self.assertIn("+4", page)
        self.assertIn("yours", page)

    def test_filters_say_what_the_core_says(self):
        rows = {row[0]: row for row in contents.filters()}
        self.assertEqual(rows["orange"][1], f"{Medium().glass_factor('D55', ('orange',)):.1f}")
        self.assertEqual(rows["orange"][1:3], ("2.9", "1.8"), "as the table of makers' factors has it computed")
        sky, leaves, *_ = rows["red"][3]
        self.assertTrue(sky.startswith("−"))
        self.assertTrue(rows["blue"][3][0].startswith("+"))

    def test_schools_come_from_the_one_document(self):
        page = self.client.get("/book/schools/").content.decode()
        self.assertIn("<table>", page)
        self.assertIn("the darkest texture decides", page)

    def test_words_are_found_those_in_titles_first(self):
        found = self.client.get("/book/?q=twins").context["found"]
        self.assertEqual(found[0].title, "twins")
        self.assertContains(self.client.get("/book/?q=orange filter"), "factor 2.9 by day")
        self.assertContains(self.client.get("/book/?q=snow"), "compensation")
        self.assertContains(self.client.get("/book/?q=zebra"), "Nothing in the book has that.")
        self.assertContains(self.client.get("/book/?q=%3Cscript%3E"), "&lt;script&gt;")
        self.assertEqual(self.client.get("/book/?q=" + "x" * 500).status_code, 200)

    def test_every_entry_leads_to_a_place_that_is_there(self):
        html = {name: self.client.get(f"/book/{name}/").content.decode() for name in TITLES}
        for entry in contents.entries():
            self.assertIn(f'id="{entry.anchor}"', html[entry.page], entry)

    def test_terms_are_sentences_and_in_order(self):
        names = [term for term, _, _ in contents.glossary()]
        self.assertEqual(names, sorted(names, key=str.lower))
        for term, text in TERMS.items():
            self.assertTrue(text.endswith(".") and len(text) > 20, term)
        self.assertEqual(len({anchor for _, anchor, _ in contents.glossary()}), len(TERMS))

    def test_the_live_figure_answers_with_the_cores_grey(self):
        answer = self.client.get("/book/patch.json?compensation=2").json()
        self.assertEqual((answer["zone"], answer["stops"]), ("VII", "+2"))
        self.assertTrue(re.fullmatch(r"#([0-9a-f]{2})\1\1", answer["grey"]))
        self.assertEqual(self.client.get("/book/patch.json?compensation=soup").status_code, 422)
        self.assertEqual(self.client.get("/book/patch.json?compensation=99").status_code, 422)
