"""What a clause says of two things: one lighter than the other, before it, parted from it, or merging with it."""

from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.clauses import Clauses
from dimgrey.core.planning.intent.findings import AGAINST_ZONES, JUST_ZONES, PARTED_ZONES, TOGETHER_ZONES
from dimgrey.core.planning.intent.groups import Group, is_allowed


class Relations(Clauses):
    """Reads what is said of two things."""

    def _is_compared(self, items, groups, at, begins):
        """Whether a word of light is one side of a comparison, which is then kept."""
        than = next((k for k in range(at + 1, len(items)) if items[k].kind == "than"), None)
        as_as = (
            items[at].kind == "tint"
            and at
            and items[at - 1].kind == "as"
            and any(i.kind == "as" for i in items[at + 1 :])
        )
        if as_as:
            than = next(k for k in range(at + 1, len(items)) if items[k].kind == "as")
        if than is None or any(item.kind == "tint" for item in items[at + 1 : than]):
            return False
        right = next((group for group in groups if group.first > than), None) or self._other(items, than)
        if right is None or right.kind in ("whole", "shape"):
            return False
        between = [group for group in groups if at < group.first < than]
        back = [group for group in groups if group.last < at]
        left = between[-1] if between else back[-1] if back else self._same(begins, items, None)
        if left is None or not self._both(left, right):
            return True
        self._compare(items, at, left, right, as_as)
        return True

    def _other(self, items, than):
        """What "than it" means after a clause about two things: the second of them."""
        is_said = any(item.kind == "pron" for item in items[than:])
        return Group("tones", self.both[1:], than, than) if is_said and len(self.both) == 2 else None

    def _compare(self, items, at, left, right, as_as):
        pole = items[at].value[0]
        before = items[:at]
        less = any(item.kind == "neg" and item.value == "less" for item in before)
        negated = any(item.kind == "neg" and item.value != "less" for item in before)
        zones = next((item.value for item in items if item.kind == "number"), PARTED_ZONES)
        if less:
            pole = -pole
        if is_allowed(items, at) and not negated:
            return  # "may be darker than": it is not wanted
        if left.kind in ("others", "all"):  # "everything else darker than the kiln"; "nothing lighter than the gable"
            self._extreme(right.tones, *((pole, 0.0) if negated else (-pole, max(zones, JUST_ZONES))))
        elif as_as and not negated:
            self._relate("together", left.tones, right.tones, TOGETHER_ZONES)
        elif right.kind in ("others", "all"):
            if not negated:
                self._extreme(left.tones, pole, max(zones, JUST_ZONES))
        elif negated:  # "no lighter than": at most alike
            self._relate("order", *((right.tones, left.tones) if pole > 0 else (left.tones, right.tones)), 0.0)
        else:
            self._relate("order", *((left.tones, right.tones) if pole > 0 else (right.tones, left.tones)), zones)

    def _relations(self, items, groups, begins):
        for at, item in enumerate(items):
            back = [group for group in groups if group.last < at and group.kind not in ("whole", "shape")]
            ahead = [group for group in groups if group.first > at and group.kind != "whole"]
            left = back[-1] if back else self._same(begins, items, None)
            right = ahead[0] if ahead else None
            if item.kind == "rel" and left is not None and right is not None:
                self._stand(items, at, left, right)
            elif item.kind in ("merge", "part"):
                self._meet(items, at, left, right, groups)

    def _stand(self, items, at, left, right):
        """One thing before another, or so many zones over it."""
        word = items[at].value
        zones = next((item.value for item in items if item.kind == "number"), None)
        if word in w.OVER | w.UNDER and zones is not None:
            if any(item.kind in ("neg", "most") for item in items[:at]):
                self.found.ask("zones", f"{left.word} and {right.word}: by how many zones at least?")
            elif self._both(left, right):
                pair = (left.tones, right.tones) if word in w.OVER else (right.tones, left.tones)
                if right.kind == "others":
                    self._extreme(left.tones, 1 if word in w.OVER else -1, zones)
                else:
                    self._relate("order", *pair, zones)
            return
        if left.kind != "tones" or right.kind != "tones":
            return
        if any(item.kind in ("merge", "part") for item in items):
            return
        if word in w.AGAINST and any(item.kind == "losing" for item in items[:at]):
            if any(item.kind == "neg" for item in items[:at]):
                self._relate("part", left.tones, right.tones, PARTED_ZONES)
            else:
                self.found.ask("merge", f"{left.tones[0].name} and {right.tones[0].name}: shall they merge, or part?")
            return
        if word in w.BEHIND:
            left, right = right, left
        zones = next((item.value for item in items if item.kind == "number"), AGAINST_ZONES)
        for one in left.tones:
            for other in right.tones:
                self._pair_of(one, other, word, zones)

    def _pair_of(self, one, other, word, zones):
        if one is other:
            return
        here, there = (self._pole_of(tone.name) for tone in (one, other))
        both_needed = word not in w.AGAINST
        if both_needed and (word in w.OVER | w.UNDER and here * there != -1):
            return
        lighter = here > 0 or there < 0
        darker = here < 0 or there > 0
        if lighter and not darker:
            self._relate("order", (one,), (other,), zones)
        elif darker and not lighter:
            self._relate("order", (other,), (one,), zones)
        elif word in w.AGAINST:
            self._relate("part", (one,), (other,), PARTED_ZONES)

    def _meet(self, items, at, left, right, groups):
        """Two tones that shall part, or become one grey."""
        pair = self._pair_that_meets(items, at, left, right, groups)
        if pair is None:
            return
        ones, others = pair
        is_parting = items[at].kind == "part"
        kind = "part" if is_parting else self._merging(items, at)
        if is_parting and any(item.kind == "neg" for item in items[:at]):
            kind = "together"
        if kind is None:
            what = f"{ones[0].name} and {others[0].name}: shall they merge, or part?" if ones and others else ""
            self.found.ask("merge", what or "merge: what with what?")
        elif kind:
            poles = [self._pole_of(tone.name) for tone in (*ones, *others)]
            if kind == "part" and is_parting and len(poles) == 2 and poles[0] * poles[1] <= 0 and any(poles):
                lighter, darker = (ones, others) if poles[0] > 0 or poles[1] < 0 else (others, ones)
                self._relate("order", lighter, darker, AGAINST_ZONES)
            else:
                apart = next((each.value for each in items if each.kind == "number"), PARTED_ZONES)
                self._relate(kind, ones, others, apart if kind == "part" else TOGETHER_ZONES)

    def _pair_that_meets(self, items, at, left, right, groups):
        """(tones, tones) that a word of parting or merging speaks of, None where it names no two."""
        things, rest = ("tones", "unknown"), ("tones", "unknown", "others")
        named = [group for group in groups if group.kind in things]
        if not named and len(self.both) > 1 and any(item.kind == "pron" for item in items):
            left, right = Group("tones", self.both[:2], -1, -1), None
        if len(named) > 1 and named[0].first > at:  # "separate the kiln from the sky"
            left, right = named[0], named[1]
        if right is not None and right.kind not in rest:
            right = None
        if items[at].value in w.ALONE_TOO and right is None:
            return None
        ones = left if left is not None and left.kind in things else named[0] if named else None
        if ones is None:
            return None
        if right is not None and right.first == ones.first:
            right = None  # "between the hedge and the roof"
        if right is None and (ones.kind != "tones" or len(ones.tones) < 2):
            if ones.kind == "unknown":
                self._ask_which(ones)
            elif len(named) > 1 and named[-1] is not ones:
                ones, right = named[0], named[-1]
            else:
                return None
        if right is not None and not self._both(*(group for group in (ones, right) if group.kind != "others")):
            return None
        return (ones.tones[:1], ones.tones[1:2]) if right is None else (ones.tones, right.tones)

    def _merging(self, items, at):
        """ "part" where merging is not wanted, "together" where it is, "" where it only may be, None where it is not said."""
        before = items[:at]
        if any(item.kind == "neg" for item in before) or any(item.kind == "feared" for item in before):
            return "part"
        if items[at].value in ("same_tone", "one_mass"):
            return "together"
        if any(item.kind == "may" for item in before):
            return ""
        return "together" if any(item.kind == "wished" for item in before) else None
