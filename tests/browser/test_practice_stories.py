"""Stories of practice and the book: ten cards on the phone with one thumb, the network lost in the middle; a word looked up."""

from dimgrey.book.glossary import TERMS
from dimgrey.book.views import TITLES
from dimgrey.practice.models import Answer, Assignment, Card
from dimgrey.scenes.models import Scene
from tests import hand
from tests.browser.story import DESK, PHONE, Story
from tests.documents import document
from tests.helpers import scene_with_light, scene_with_picture
from tests.results.test_results import yard_light


class TenCards(Story):
    def test_ten_cards_with_one_thumb_and_no_network(self):
        self.open("/practice/", PHONE)
        self.assert_accessible("practice")
        self.assert_fits()
        self.click("a.main-act")
        self.wait("[data-place]", "1 of 10")
        self.assert_accessible("card")
        for card in range(10):
            if card == 3:
                self.do(lambda page: page.context.set_offline(True))
            self.wait("[data-place]", f"{card + 1} of 10")
            self.assert_fits()
            self.do(lambda page: page.locator(".round-option").first.click())
            self.wait("[data-why]", ".")
            self.assertRegex(self.text("[data-why]"), r"^(Right|No)\. ")
            if self.do(lambda page: page.locator("[data-shown] svg.patches").count()):
                self.shot("practice")
            low = self.do(lambda page: page.locator("[data-next]").bounding_box())
            self.assertGreater(low["height"], 44)
            self.do(lambda page: page.click("[data-next]"))
        self.wait("[data-ask]", "of 10 right")
        self.wait("[data-why]", "kept here")
        self.assertLess(Answer.objects.count(), 10)
        self.do(lambda page: page.context.set_offline(False))
        self.until_kept(Answer.objects.count, 10)
        self.assertGreater(Card.objects.count(), 0)
        self.until(f"localStorage.getItem('dimgrey-answers-{self.person.pk}') === '[]'")
        self.click("text=Where I stand")
        self.wait("h2", "Where you stand")
        self.assert_accessible("progress")
        self.assert_silent(allowed=("ERR_INTERNET_DISCONNECTED",))


class AwayFromTheNetwork(Story):
    def test_rounds_open_without_a_network_and_their_answers_come_home(self):
        self.open("/practice/", PHONE)
        self.until("document.querySelector('[data-service-worker]').dataset.kept === '3'")
        # What a page sends while it is left goes by a way of its own, which a cut network does not always reach.
        self.do(lambda page: page.route("**/practice/answers", lambda route: route.abort()))
        self.do(lambda page: page.context.set_offline(True))
        asked = []
        for _ in range(2):
            self.do(lambda page: page.click("a.main-act"))
            for card in range(10):
                self.wait("[data-place]", f"{card + 1} of 10")
                asked.append(self.text("[data-ask]") + self.text("[data-answers]"))
                self.do(lambda page: page.locator(".round-option").first.click())
                self.do(lambda page: page.click("[data-next]"))
            self.wait("[data-ask]", "of 10 right")
            self.do(lambda page: page.click("text=Where I stand"))
            self.wait("h1", "Practice the eye")
        self.assertNotEqual(asked[:10], asked[10:], "another round the second time")
        self.assertEqual(Answer.objects.count(), 0)
        self.do(lambda page: page.unroute("**/practice/answers"))
        self.do(lambda page: page.context.set_offline(False))
        self.until_kept(Answer.objects.count, 20)
        self.assert_silent(allowed=("ERR_INTERNET_DISCONNECTED", "ERR_FAILED", "Failed to load resource"))


class Read(Story):
    def test_a_word_is_looked_up_and_the_patch_follows_the_slider(self):
        self.open("/book/", PHONE)
        self.assert_accessible("book")
        self.do(lambda page: page.fill("#book-words", "N-1"))
        self.click("text=Find >> nth=-1")
        self.click("dt a >> nth=0")
        self.assertIn("#n-1", self.do(lambda page: page.url))
        self.assert_fits()
        self.open("/book/zones/", DESK)
        self.assert_accessible("zones")
        before = self.do(lambda page: page.get_attribute("[data-grey]", "fill"))
        self.do(lambda page: page.locator("[data-patch] input").fill("2"))
        self.until(f"document.querySelector('[data-grey]').getAttribute('fill') !== '{before}'")
        self.wait("[data-patch] output", "zone VII")
        for name in TITLES:
            self.go(f"/book/{name}/")
            self.assert_accessible(name)
            self.assert_fits()
        self.assert_silent()


class Explained(Story):
    def test_the_first_use_of_a_word_opens_its_note_in_place(self):
        scene = scene_with_light(self.person)
        hand.place_tone(hand.pin_tone(scene, None, 0.3, 0.5), None, "A", 6.0)
        for path in (f"/scenes/{scene.pk}/", f"/scenes/{scene.pk}/filters", "/practice/week", "/book/schools/"):
            self.open(path, DESK)
            self.until("document.querySelectorAll('.word').length > 0")
            terms = self.do(
                lambda page: page.eval_on_selector_all(".word", "all => all.map(each => each.dataset.term)")
            )
            self.assertEqual(len(terms), len(set(terms)), f"{path}: each at its first use alone")
            self.assertLessEqual(set(terms), set(TERMS))
            self.assert_accessible(path)
        self.open(f"/scenes/{scene.pk}/", PHONE)
        self.until("document.querySelectorAll('.word').length > 0")
        word = "#part-exposure .word >> nth=0"
        term = self.do(lambda page: page.get_attribute(word, "data-term"))
        self.do(lambda page: page.click(word))
        self.wait("#word-note", TERMS[term])
        self.assert_accessible("note")
        self.do(lambda page: page.keyboard.press("Escape"))
        self.until("!document.querySelector('#word-note').matches(':popover-open')")
        self.do(lambda page: page.focus(word))
        self.do(lambda page: page.keyboard.press("Enter"))
        self.until("document.querySelector('#word-note').matches(':popover-open')")
        self.click("#word-note a")
        self.assertIn("/book/glossary/#", self.do(lambda page: page.url))
        place = self.do(lambda page: page.evaluate("location.hash"))
        self.assertIn(term.lower(), self.text(place).lower())
        self.open("/practice/week", DESK)
        self.click("details.look > summary")
        self.click("button[name=explains_words][value=false]")
        self.assertEqual(self.do(lambda page: page.locator(".word").count()), 0)
        self.assert_silent()

    def test_why_this_leads_to_its_page_of_the_book(self):
        scene = scene_with_light(self.person)
        hand.place_tone(hand.pin_tone(scene, None, 0.3, 0.5), None, "A", 6.0)
        for why in ("why-placing", "why-exposure", "why-filter"):
            part = f"edit-{why.removeprefix('why-')}"
            self.open(f"/scenes/{scene.pk}/" + ("" if "exposure" in why else f"?open={part}"), DESK)
            self.do(lambda page, why=why: page.click(f"#{why} > summary"))
            self.click(f"#{why} .book-link")
            place = self.do(lambda page: page.evaluate("location.hash"))
            self.assertEqual(self.do(lambda page, place=place: page.locator(place).count()), 1, why)
        self.assert_silent()


class AWeek(Story):
    def test_an_assignment_goes_from_its_text_to_its_check(self):
        light = yard_light()
        written = document(title="Yard", medium={"kind": "digital file", "iso": 100})
        scene = scene_with_picture(self.person, written, light, "yard", 15.0)
        scene = hand.place_tone(hand.pin_tone(scene, None, 0.3, 0.5), None, "A", 6.0)
        self.open(f"/scenes/{scene.pk}/camera", DESK)
        self.click("text=Release the shutter")
        self.wait("h2", "Against the plan")
        self.go("/practice/")
        self.click("text=A week in grey")
        self.assert_accessible("week")
        self.click("text=Look at it >> nth=0")
        self.wait(".verdict", ".")
        self.until_kept(Assignment.objects.exclude(text="").count, 1)
        self.go("/practice/patterns")
        self.assert_accessible("patterns")
        self.open("/practice/week", PHONE)
        self.assert_fits()
        self.go("/practice/patterns")
        self.assert_fits()
        self.assert_silent()


class Newcomer(Story):
    """The notes lead from a picture to a filter by what they say, and move nothing."""

    def boxes(self):
        return self.do(
            lambda page: page.evaluate(
                "['#frame', '#rail', '#sheet', '#foot'].map((s) => JSON.stringify(document.querySelector(s).getBoundingClientRect()))"
            )
        )

    def inside(self):
        """Whether the note lies within the window."""
        return self.do(
            lambda page: page.evaluate(
                "(() => { const b = document.querySelector('.beside-note').getBoundingClientRect();"
                "return b.left >= 0 && b.top >= 0 && b.right <= innerWidth && b.bottom <= innerHeight; })()"
            )
        )

    def test_three_notes_lead_to_an_exposure_and_a_filter(self):
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                Scene.objects.all().delete()
                written = document(title="Clay pit", medium={"kind": "digital file", "iso": 100})
                scene = scene_with_picture(self.person, written, yard_light(), "yard", 15.0)
                self.open(f"/scenes/{scene.pk}/", size)
                self.wait(".beside-note", "Touch a dark place")
                self.assertTrue(self.inside())
                before = self.boxes()
                self.do(lambda page: page.evaluate("document.querySelector('.beside-note').style.display = 'none'"))
                self.assertEqual(self.boxes(), before, "the note takes no room")
                self.do(lambda page: page.reload())
                self.wait(".beside-note", "Touch a dark place")
                self.assert_accessible("the first note")
                at = self.point(0.62, 0.66)
                if size == DESK:
                    self.do(lambda page, at=at: page.mouse.click(*at))
                else:
                    self.do(lambda page, at=at: page.touchscreen.tap(*at))
                    self.click("#pin-here")
                self.wait(".beside-note", "Say its grey")
                self.assertTrue(self.inside())
                self.click("#strip-greys [data-print='3']")
                self.wait(".beside-note", "Choose the glass")
                self.assertTrue(self.inside())
                self.do(lambda page: page.keyboard.press("Escape"))
                self.click("#edit-filter > summary")
                self.do(lambda page: page.locator("#edit-filter select[name=filter]").wait_for())
                self.do(lambda page: page.select_option("#edit-filter select[name=filter]", "orange"))
                self.until("!document.querySelector('.beside-note')")
                self.assertEqual(Scene.objects.get().document.filters[0].name, "orange")
        self.assert_silent()

    def test_they_are_put_away_and_come_back_from_the_keys(self):
        written = document(title="Clay pit", medium={"kind": "digital file", "iso": 100})
        scene = scene_with_picture(self.person, written, yard_light(), "yard", 15.0)
        self.open(f"/scenes/{scene.pk}/", DESK)
        self.click(".beside-note button")
        self.until("!document.querySelector('.beside-note')")
        self.click("#keys-button")
        self.click("text=First steps again")
        self.wait(".beside-note", "Touch a dark place")
        self.assert_silent()
