"""Stories of practice and the book: ten cards on the phone with one thumb, the network lost in the middle; a word looked up."""

from dimgrey.book.views import TITLES
from dimgrey.practice.models import Answer, Card
from tests.browser.story import DESK, PHONE, Story


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
            low = self.do(lambda page: page.locator("[data-next]").bounding_box())
            self.assertGreater(low["height"], 44)
            self.do(lambda page: page.click("[data-next]"))
        self.wait("[data-ask]", "of 10 right")
        self.wait("[data-why]", "kept here")
        self.assertLess(Answer.objects.count(), 10)
        self.do(lambda page: page.context.set_offline(False))
        self.until_kept(Answer.objects.count, 10)
        self.assertGreater(Card.objects.count(), 0)
        self.until("localStorage.getItem('dimgrey-answers') === '[]'")
        self.click("text=Where I stand")
        self.wait("h2", "Where you stand")
        self.assert_accessible("progress")
        self.assert_silent(allowed=("ERR_INTERNET_DISCONNECTED",))


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
