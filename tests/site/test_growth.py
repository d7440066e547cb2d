"""Pages do not grow with all that a person has: each costs of thousands of scenes what it costs of fifty."""

import re
from unittest import mock

from django.db import connection, models
from django.test.utils import CaptureQueriesContext
from django.urls import get_resolver, reverse

from dimgrey.frames.models import Frame
from dimgrey.outings.models import Outing
from dimgrey.results.models import Result
from dimgrey.scenes.models import Scene
from tests.grown import grow
from tests.helpers import PageTest
from tests.share import WHOLE, many

FEW = (50, 50, 50)
ALL = (5000, 2000, 500) if WHOLE else (600, 300, 120)
"""Scenes, frames, results."""
TIMES = 2
A_LIST = 60
"""Rows of one page of a list: what a list may grow to."""
LEAST_BYTES, MOST_BYTES = 8_000, 60_000
WHOLE_FILES = frozenset({"save-archive", "frames-csv", "export-kit"})
"""What gives everything out as a file, as it is asked to."""


def addresses(patterns, before=""):
    """(address, name) of each page that is asked for by nothing but its address."""
    for each in patterns:
        here = before + str(each.pattern)
        if hasattr(each, "url_patterns"):
            yield from addresses(each.url_patterns, here)
        elif not re.search(r"[<^$]", here) and each.name not in WHOLE_FILES:
            yield f"/{here}", each.name


class Growth(PageTest):
    def cost(self, address):
        """(queries, rows read, bytes) of a page that was opened before; None for what is no page."""
        self.client.get(address)
        rows, real = [], models.Model.from_db.__func__
        counted = classmethod(lambda cls, *given: rows.append(1) or real(cls, *given))
        with mock.patch.object(models.Model, "from_db", counted), CaptureQueriesContext(connection) as queries:
            answer = self.client.get(address)
        if answer.status_code != 200 or answer.streaming:
            return None
        return len(queries), len(rows), len(answer.content)

    def costs(self):
        """address with its numbers left out -> cost, of every page by itself and of one of each kind of thing."""
        pages = {address: address for address, _ in addresses(get_resolver().url_patterns)}
        for name, of in (("outing", Outing), ("desk", Scene), ("frame", Frame), ("result", Result), ("bench", Scene)):
            # The newest of each kind: those of its own account.
            pages[name] = reverse(name, args=[of.objects.order_by("-pk").values_list("pk", flat=True)[0]])
        pages["a year"] = f"{reverse('outings')}?of={Outing.objects.latest('date').date.year}"
        pages["single scenes"] = f"{reverse('outings')}?of=single"
        return {name: cost for name, address in pages.items() if (cost := self.cost(address))}

    @many
    def test_no_page_costs_more_than_twice_what_it_costs_of_fifty(self):
        grow(self.person, *FEW)
        few = self.costs()
        self.assertGreater(len(few), 25)
        grow(self.person, *(much - little for much, little in zip(ALL, FEW, strict=True)))
        for name, (queries, rows, size) in self.costs().items():
            with self.subTest(name):
                before = few[name]
                self.assertLessEqual(queries, TIMES * before[0])
                self.assertLessEqual(rows, max(TIMES * before[1], before[1] + A_LIST))
                self.assertLessEqual(size, max(TIMES * before[2], LEAST_BYTES))
                self.assertLess(size, MOST_BYTES)
