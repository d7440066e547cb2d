"""Pure edits of what is wished: spans of tones, orders of two, pairs that must part."""

from dataclasses import replace

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused, require_tone, with_tone
from dimgrey.core.document.model import MAX_PAIRS, OrderPart
from dimgrey.core.planning.separation import require_pairs
from dimgrey.core.planning.wishes import circle_in, wishes_of


def with_wish(document, mark, span):
    """A wished print for a tone. span: (low, high) zones; None takes the wish back."""
    return with_tone(document, replace(require_tone(document, mark), wish=span))


def with_wishes_taken(document):
    """Every wish that words and roles suggest, taken as the photographer's own."""
    taken = [wish for wish in wishes_of(brief_of(document)) if wish.guessed]
    if not taken:
        raise Refused("There is no wish to take: the intent names no tone, and no tone has a role.", code="no-wish")
    spans = {wish.tones[0]: wish.span for wish in taken if wish.kind == "span"}
    tones = tuple(replace(tone, wish=spans.get(tone.name, tone.wish)) for tone in document.tones)
    orders = tuple(
        OrderPart(*wish.tones, round(wish.zones, 4)) for wish in taken if wish.kind == "order" and wish.zones
    )
    refuse_a_circle([(order.lighter, order.darker) for order in (*document.orders, *orders)])
    pairs = tuple(wish.tones for wish in taken if wish.kind == "part")
    return replace(
        document,
        tones=tones,
        orders=(*document.orders, *orders)[:MAX_PAIRS],
        pairs=(*document.pairs, *(pair for pair in pairs if pair not in document.pairs))[:MAX_PAIRS],
    )


def with_order(document, lighter, darker, zones):
    """One tone is to print lighter than another, in front of the orders set before.

    lighter, darker: names of tones. zones: by how much. Raises CoreError for a name that is not there, or twice the same, and Refused
    for orders that would run in a circle.
    """
    require_pairs(document.names, [(lighter, darker)])
    kept = [order for order in document.orders if {order.lighter, order.darker} != {lighter, darker}]
    refuse_a_circle([(lighter, darker), *((order.lighter, order.darker) for order in kept)])
    return replace(document, orders=(OrderPart(lighter, darker, round(zones, 4)), *kept)[:MAX_PAIRS])


def refuse_a_circle(orders):
    """Raises Refused for orders that run in a circle. orders: (lighter, darker) each."""
    names = circle_in(orders)
    if names:
        raise Refused(
            f"{' over '.join((*names, names[0]))}: that runs in a circle. Take one of these orders back first.",
            parameter="lighter",
            code="orders-in-a-circle",
        )


def without_wishes(document):
    """No wish of tones or orders any more; those that words suggest are suggested again."""
    tones = tuple(replace(tone, wish=None) for tone in document.tones)
    return replace(document, tones=tones, orders=())


def with_pair(document, a, b):
    """Two tones that must part, in front of those chosen before."""
    require_pairs(document.names, [(a, b)])
    kept = [pair for pair in document.pairs if set(pair) != {a, b}]
    return replace(document, pairs=((a, b), *kept)[:MAX_PAIRS])
