"""What the pages say: a walk over every page that a person can come to, and the words they read there."""

import re
from html.parser import HTMLParser
from urllib.parse import urljoin, urlsplit

UNREAD = {"script", "style", "title", "option", "datalist"}
VOID = {"area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"}
FILES = (".bin", ".csv", ".ics", ".jpg", ".js", ".json", ".pdf", ".png", ".svg", ".tif", ".zip", ".gpx", ".cube")
NUMBER = re.compile(r"\d+|[0-9a-f]{16,}")
MOST_OF_A_KIND = 2
"""Pages looked at whose addresses differ in their numbers alone."""


class Reader(HTMLParser):
    """Text that is read on a page, and the addresses that it leads to. links: of pages and of parts that are fetched into them."""

    def __init__(self, html):
        super().__init__()
        self.words, self.links, self._open = [], [], []
        self.feed(html)

    def handle_starttag(self, tag, attributes):
        if tag not in VOID:
            self._open.append(tag)
        for name, value in attributes:
            if name in ("href", "hx-get") and tag != "link" and value:
                self.links.append(value)
            elif name == "data-edit" and value:
                self.links.append(f"edit/{value}")

    def handle_endtag(self, tag):
        while self._open and self._open.pop() != tag:
            pass

    def handle_data(self, data):
        if not UNREAD & set(self._open) and data.strip():
            self.words.append(" ".join(data.split()))


def pages_of(client, start="/", most_of_a_kind=MOST_OF_A_KIND):
    """address -> text of each page and part that links lead to from home."""
    found, waiting, kinds = {}, [start], {}
    while waiting:
        address = waiting.pop(0)
        kind = NUMBER.sub("0", address.partition("#")[0])
        if kinds.get(kind, 0) >= most_of_a_kind:
            continue
        kinds[kind] = kinds.get(kind, 0) + 1
        answer = client.get(address, follow=True)
        if answer.status_code != 200 or not answer["Content-Type"].startswith("text/html"):
            continue
        read = Reader(answer.content.decode())
        found[address] = " \n ".join(read.words)
        for link in read.links:
            there = urlsplit(urljoin(address, link))
            if not there.scheme and not there.netloc and not there.path.endswith(FILES):
                waiting.append(there.path + (f"?{there.query}" if there.query else ""))
    return found
