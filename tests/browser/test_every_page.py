"""Every page that the demo leads to by its links is accessible and fits, at the desk and on the phone."""

import re
from collections import deque

from django.urls import Resolver404, resolve

from tests.browser.story import DESK, PHONE, Story
from tests.share import many, share_of


class EveryPage(Story):
    def pages(self):
        """Name of each kind of page -> the first address of it that links lead to, from home on."""
        found, waits = {}, deque(["/"])
        while waits:
            address = waits.popleft()
            try:
                name = resolve(address.partition("?")[0]).view_name
            except Resolver404:
                continue
            if name in found:
                continue
            answer = self.client.get(address)
            if (
                answer.status_code != 200
                or "text/html" not in answer.headers.get("Content-Type", "")
                or answer.streaming
            ):
                continue
            found[name] = address
            hrefs = re.findall(r'<a [^>]*href="(/[^"#]*)', answer.content.decode())
            waits.extend(href.replace("&amp;", "&") for href in hrefs)
        return found

    @many
    def test_each_is_accessible_and_fits(self):
        self.with_demo()
        pages = self.pages()
        self.assertGreater(len(pages), 25, pages)
        names = share_of(sorted(pages), "every page", least=6)
        self.open("/", DESK)
        for name in names:
            with self.subTest(name, address=pages[name]):
                self.do(lambda page: page.set_viewport_size({"width": DESK[0], "height": DESK[1]}))
                self.go(pages[name])
                self.assert_accessible(f"{name} at the desk")
                self.do(lambda page: page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]}))
                self.assert_accessible(f"{name} on the phone")
                self.assert_fits()
