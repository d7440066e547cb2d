"""What a sentence wishes of which tone: read clause by clause, and asked about where it does not say.

A clause falls into groups of tones, words of dark and light that belong to one of them, and relations between two. Nothing is
guessed: a thing that is no tone, a word that fits several, and words that contradict become questions. Source: HANDBOOK 17, 21.
"""

import re
from functools import lru_cache

from dimgrey.core.planning.intent.findings import Named
from dimgrey.core.planning.intent.groups import groups_of, only_names
from dimgrey.core.planning.intent.items import Item, Words
from dimgrey.core.planning.intent.relations import Relations
from dimgrey.core.planning.intent.tints import Tints
from dimgrey.core.planning.intent.words import sentences_of


class Reader(Tints, Relations):
    """Reads sentences one after the other."""

    def read(self, text):
        for sentence in sentences_of(text):
            items = Words(self.names).items_of(sentence)
            clause, begun = [], True
            for item in [*items, Item("break")]:
                if item.kind != "break":
                    clause.append(item)
                    continue
                if only_names(clause) and item.value == ",":
                    clause.append(Item("and"))  # "sky, roofs and doorway dark"
                    continue
                if clause:
                    self._clause(clause, begun)
                    begun = False
                clause = []
        return self.found

    def _clause(self, items, begins):
        cut = next((k for k, item in enumerate(items) if item.kind == "except"), len(items))
        self.spared = tuple(tone for item in items[cut:] if item.kind == "tones" for tone in item.value)
        items = items[:cut]
        groups = groups_of(items)
        self._tints(items, groups, begins)
        self._dull(items, groups, begins)
        self._figures(items, groups, begins)
        self._textures(items, groups, begins)
        self._relations(items, groups, begins)
        first = next((group for group in groups if group.tones), None)
        if first is not None:
            self.subject = first.tones
            self.both = tuple(dict.fromkeys(tone for group in groups for tone in group.tones))


LISTS = {
    "dark": "the {} dark.",
    "light": "the {} bright.",
    "textured": "the {} keeps texture.",
    "empty": "the {} may be empty.",
}
"""The lists beside an intent, each with what it says of a thing that it names."""


def read_intent(text, tones):
    """Findings in a text about tones. tones: with `name`, `role` and `named`; a guessed name names nothing."""
    return read_all(text, (), tuple(Named(tone.name, tone.role, tone.named) for tone in tones))


def read_all(intent, lists, tones):
    """Findings in the sentence of an intent and in the lists beside it.

    lists: (one of LISTS, text) each. tones: Named each.
    """
    return _read(intent, lists, tuple((tone.name, tone.role, tone.named) for tone in tones))


@lru_cache(maxsize=512)
def _read(intent, lists, tones):
    reader = Reader([Named(*tone) for tone in tones])
    reader.read(intent)
    for kind, text in lists:
        for thing in re.split(r"[,;\n]|\band\b", text):
            named = re.sub(r"^(the|a|an)\s+", "", thing.strip().strip(".").lower())
            if named:
                reader.subject = ()
                reader.read(LISTS[kind].format(named))
    found = reader.found
    if any(kind in ("part", "together") for kind, *_ in found.relations):
        found.asked = [question for question in found.asked if question.word != "merge"]
    for name in found.torn:
        found.ask(name, f"{name}: dark or light? The words say both.")
    return found
