"""Orders of two tones as they are set, and those that cannot all hold."""

import itertools
import random

from django.test import SimpleTestCase

from dimgrey.core.document.edits import Refused
from dimgrey.core.document.wishing import with_order
from dimgrey.core.planning.wishes import circle_in
from tests.documents import document

NAMES = ("kiln", "sky", "ivy", "path", "door")


class Orders(SimpleTestCase):
    def scene(self):
        return document(tones=[{"name": name, "ev100": 10 + k} for k, name in enumerate(NAMES)])

    def test_an_order_that_closes_a_circle_is_refused_by_name(self):
        made = with_order(with_order(self.scene(), "kiln", "sky", 2), "sky", "ivy", 1)
        with self.assertRaisesMessage(Refused, "runs in a circle"):
            with_order(made, "ivy", "kiln", 1)
        turned = with_order(made, "sky", "kiln", 1)  # the same two turned round is a change of mind, no circle
        self.assertIn(("sky", "kiln"), [(order.lighter, order.darker) for order in turned.orders])

    def test_whatever_is_set_never_runs_in_a_circle_and_what_fits_is_never_refused(self):
        """Law: an order is refused exactly when the darker one stands over the lighter one by those that are set."""
        rng = random.Random(28)
        for _ in range(60):
            made, pairs = self.scene(), list(itertools.permutations(NAMES, 2))
            rng.shuffle(pairs)
            for lighter, darker in pairs[:8]:
                kept = [order for order in made.orders if {order.lighter, order.darker} != {lighter, darker}]
                over = _below(darker, kept)
                try:
                    made = with_order(made, lighter, darker, 1)
                except Refused:
                    self.assertIn(lighter, over)
                else:
                    self.assertNotIn(lighter, over)
                    self.assertEqual(circle_in([(order.lighter, order.darker) for order in made.orders]), ())


def _below(name, orders):
    found, fresh = set(), {name}
    while fresh:
        fresh = {order.darker for order in orders if order.lighter in fresh} - found
        found |= fresh
    return found
