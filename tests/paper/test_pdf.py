"""The card as PDF: whatever is written on it stands there, in any script, and every frame of a bracket."""

import io

from pypdf import PdfReader

from dimgrey.outings.actions import create_outing
from dimgrey.paper import letters
from dimgrey.scenes import lifecycle
from tests import hand
from tests.documents import document
from tests.helpers import PageTest

TONE = {"name": "wall", "readings": [{"ev100": 12}]}
PLACED = {"tone": "wall", "zone": 7, "school": "highlight"}


class Letters(PageTest):
    def test_each_letter_comes_from_a_font_that_has_it(self):
        texts = {"Kiln": "text", "Őrláng Škoda": "other", "Ωμέγα": "other", "Кирпич": "other", "ქვა": "other", "אבן": "other",
                 "陶窯": "STSong", "かまど": "Heisei", "가마": "HY"}  # fmt: skip
        for text, font in texts.items():
            used = {name for name, _ in letters.runs(text, 800)}
            self.assertTrue(any(name.startswith(font) for name in used), (text, used))
            self.assertNotIn(letters.UNKNOWN, "".join(piece for _, piece in letters.runs(text, 800)))
        self.assertEqual(letters.runs("a\u0301", 400), [("text-400", "á")], "accents that come apart are joined")
        self.assertIn(letters.UNKNOWN, "".join(piece for _, piece in letters.runs("\U00012000", 400)))

    def test_lines_keep_their_width_whatever_is_in_them(self):
        for text in ("word " * 60, "x" * 400, "陶" * 200, "a" * 30 + " " + "b" * 300):
            made = letters.lines(text, 400, 9, 200, 4)
            self.assertLessEqual(len(made), 4)
            self.assertTrue(all(letters.width(line, 400, 9) <= 200 for line in made))
            self.assertTrue(made[-1].endswith("…"))
        self.assertEqual(letters.lines("one two", 400, 9, 200, 4), ["one two"])


class Cards(PageTest):
    def text(self, address, page=0):
        reader = PdfReader(io.BytesIO(self.client.get(address).content))
        return " ".join(reader.pages[page].extract_text().split()), len(reader.pages)

    def scene(self, outing=None, **parts):
        return lifecycle.create_scene(
            self.person, document(**{"title": "Kiln", "tones": [TONE], "placing": PLACED, **parts}), outing
        )

    def test_a_bracket_of_seven_has_all_its_frames(self):
        scene = self.scene(bracket={"count": 7, "step": 1.0, "order": "- 0 +"})
        text, pages = self.text(f"/scenes/{scene.pk}/card.pdf")
        self.assertEqual(pages, 1)
        for offset in ("−3", "−2", "−1", "+1", "+2", "+3"):
            self.assertIn(f"({offset})", text)

    def test_titles_are_whole_and_in_their_script(self):
        title = "Őszi kemence, Кирпич und Straße, ein sehr langer Titel einer Szene, der bis zum Ende lesbar bleibt, ja ganz"
        scene = self.scene(title=title)
        text = self.text(f"/scenes/{scene.pk}/card.pdf")[0]
        # Between two fonts the reader of PDF sees a blank.
        self.assertIn(title.replace(" ", ""), text.replace(" ", ""))

    def test_all_cards_of_an_outing_are_one_file_in_order(self):
        outing = create_outing(self.person, "Yard")
        self.assertEqual(self.client.get(f"/outings/{outing.pk}/cards.pdf").status_code, 404)
        first, second = self.scene(outing, title="First"), self.scene(outing, title="Second")
        lifecycle.order_scenes(outing, [second.pk, first.pk])
        address = f"/outings/{outing.pk}/cards.pdf?size=a5"
        self.assertEqual([self.text(address, k)[0].split()[0] for k in range(2)], ["Second", "First"])
        self.assertContains(self.client.get(f"/outings/{outing.pk}/"), "All cards")
        other = create_outing(self.other(), "Theirs")
        self.assertEqual(self.client.get(f"/outings/{other.pk}/cards.pdf").status_code, 404)

    def test_an_unplaced_scene_has_a_card_too(self):
        scene = self.scene(placing={})
        hand.unplace(scene, None)
        self.assertIn("Kiln", self.text(f"/scenes/{scene.pk}/card.pdf")[0])
