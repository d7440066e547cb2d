"""What a clause of an intent is about, and what is kept of it from one clause to the next."""

from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.findings import Findings
from dimgrey.core.planning.intent.groups import Group, is_alone, is_negated, joins, preposed
from dimgrey.core.planning.intent.names import Names


class Clauses:
    """What the clauses so far were about; a pronoun means what the one before spoke of."""

    def __init__(self, tones):
        self.tones, self.names, self.found = tuple(tones), Names(tones), Findings()
        self.subject, self.spared, self.both = (), (), ()

    def _about(self, items, groups, at, begins):
        """The Group that a word at a place of a clause speaks of, by what stands before it; None for the picture as a whole."""
        ahead = [group for group in groups if group.first > at]
        back = [group for group in groups if group.last < at]
        item = items[at]
        if ahead and joins(items, at, ahead[0].first, item.word):
            near = ahead[0]
            if near.kind != "shape":
                return near
            later = (
                next((group for group in ahead if group.tones), None)
                if item.word in w.EXTREME or is_alone(items)
                else None
            )
            return back[-1] if back else later or self._same(begins, items, near)
        last = at
        while last + 1 < len(items) and items[last + 1].kind in ("and", "neg", "tint"):
            last += 1
        if not back and ahead and preposed(items, last, ahead[0].first):
            return ahead[0]
        if back:
            return self._subject_of(items, back, at) or self._same(begins, items, back[-1])
        if item.word in w.EXTREME and ahead:
            return next((group for group in ahead if group.tones), None)
        if not ahead and is_negated(items, at, set()) and any(i.kind == "neg" and i.value == "no" for i in items[:at]):
            return Group("all", (), at, at)  # "no pure black"
        return self._same(begins, items, None)

    def _subject_of(self, items, back, at):
        """Of the things before a word the one that it is said of: not what stands behind "in" or "behind" within its name."""
        things = [group for group in back if group.kind != "shape"]
        while len(things) > 1:
            own = things[-1]
            before = next((item for item in reversed(items[: own.first]) if item.kind != "det"), None)
            has_verb = any(item.kind in ("verb", "may", "wished") for item in items[own.last : at])
            if before is None or not (before.kind == "prep" or (before.kind == "rel" and has_verb)):
                break
            things.pop()
        return things[-1] if things else None

    def _same(self, begins, items, shape):
        """The Group that the clause before was about, where this one goes on with it."""
        goes_on = not begins or any(item.kind == "pron" for item in items)
        if self.subject and goes_on:
            return Group("tones", self.subject, -1, -1)
        if any(item.kind == "pron" and item.value in ("he", "she") for item in items):
            people = [tone for tone in self.names.tones if tone.role in ("subject", "skin")]
            if len(people) == 1:
                return Group("tones", tuple(people), -1, -1)
            self.found.ask("she or he", "she or he: which tone is that?")
        return shape

    def _meant(self, group):
        if group.kind == "all":
            return [tone for tone in self.tones if tone not in self.spared]
        if group.kind == "others":
            return [tone for tone in self.tones if tone not in self.subject]
        return group.tones

    def _ask_which(self, group):
        for word, text in group.unknown:
            self.found.ask(word, f"{word}: {text}")

    def _both(self, *groups):
        """Whether all groups are tones, or the rest; those that are not are asked about."""
        for group in groups:
            if group.kind in ("unknown", "shape"):
                self._ask_which(group)
        return all(group.kind in ("tones", "others", "all") for group in groups)

    def _pole_of(self, name):
        poles = {tint.pole for tint in self.found.said.get(name, ()) if not tint.negated}
        return poles.pop() if len(poles) == 1 else 0

    def _extreme(self, tones, pole, zones):
        """Tones are to be the lightest or darkest of all, those left out that "except" names."""
        spared = tuple(tone.name for tone in self.spared)
        self.found.extremes += [(tone.name, pole, zones, spared) for tone in tones]

    def _relate(self, kind, ones, others, zones):
        made = [(kind, a.name, b.name, zones) for a in ones for b in others if a is not b]
        self.found.relations += [each for each in made if each not in self.found.relations]
