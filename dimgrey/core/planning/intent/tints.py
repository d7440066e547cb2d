"""How dark or light a clause says that its things shall be, in words and in zones, and what shall keep texture."""

from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.clauses import Clauses
from dimgrey.core.planning.intent.findings import ALONE_ZONES, JUST_ZONES, Tint
from dimgrey.core.planning.intent.groups import (
    bound_before,
    figure,
    is_allowed,
    is_alone,
    is_negated,
    is_too,
    joins,
    preposed,
    zone_of,
)


class Tints(Clauses):
    """Reads what is said of one thing at a time."""

    def _tints(self, items, groups, begins):
        used = set()
        for at, item in enumerate(items):
            if item.kind != "tint" or self._is_compared(items, groups, at, begins):
                continue
            group = self._about(items, groups, at, begins)
            if group is None or group.kind == "whole":
                continue
            if item.word in w.COMPARED and at and items[at - 1].kind == "number":
                self.found.ask(item.word, f"{item.word} by so much: than what?")
                continue
            negated, too = is_negated(items, at, used), is_too(items, at)
            if group.kind in ("unknown", "shape"):
                if negated or not is_allowed(items, at):
                    self._ask_which(group)
                continue
            for tone in self._meant(group):
                if group.kind != "others" or self._pole_of(tone.name) in (0, item.value[0]):
                    self._tint(tone, item, items, at, negated, too)

    def _tint(self, tone, item, items, at, negated, too):
        if item.word in self.names.words.get(tone.name, ()) and any(
            each.kind == "tones" and tone in each.value for each in items[at + 1 : at + 2]
        ):
            return  # the name says so, not the wish
        pole, full = item.value
        if is_allowed(items, at) and not negated:
            self.found.textures[tone.name] = "free"
            return
        if too and not negated:
            self.found.ask(
                tone.name, f"{tone.name}: how light shall it be? “too {item.word}” says only what it is now."
            )
            return
        if pole == 0 and negated:
            self.found.ask(tone.name, f"{tone.name}: lighter or darker than grey?")
            return
        self.found.said.setdefault(tone.name, []).append(Tint(pole, full and not too, negated, too))
        if pole < 0 and full and not negated:
            self.found.textures.setdefault(
                tone.name, "free"
            )  # a black is a shape, unless the words ask for its texture
        if not negated and pole and (item.word in w.EXTREME or is_alone(items)):
            zones = JUST_ZONES if item.word in w.EXTREME else ALONE_ZONES
            self._extreme((tone,), pole, zones)
            if item.word in w.EXTREME:
                self.found.said[tone.name].pop()

    def _figures(self, items, groups, begins):
        """Zones in figures: "on VII", "II to III", "at most I"."""
        at = 0
        while at < len(items):
            if items[at].kind != "zone":
                at += 1
                continue
            low = high = zone_of(items[at].value)
            end, sign = at + 1, bound_before(items, at)
            if end + 1 < len(items) and items[end].kind in ("dash", "and", "to") and items[end + 1].kind == "zone":
                high = zone_of(items[end + 1].value)
                end += 2
            span = figure(low, high, sign)
            back = [group for group in groups if group.last < at]
            ahead = [group for group in groups if group.first >= end]
            group = (
                back[-1]
                if back
                else ahead[0]
                if ahead and not begins
                else self._same(begins, items, ahead[0] if ahead else None)
            )
            if group is not None and span is not None:
                if is_negated(items, at, set()):
                    self.found.ask(group.word or "zone", f"{group.word or 'a tone'}: which zone, if not that one?")
                elif group.kind in ("unknown", "shape"):
                    self._ask_which(group)
                else:
                    for tone in self._meant(group):
                        self.found.zone(tone.name, span)
            at = end

    def _textures(self, items, groups, begins):
        for at, item in enumerate(items):
            if item.kind not in ("texture", "empty"):
                continue
            back = [group for group in groups if group.last < at and group.kind not in ("shape", "whole")]
            ahead = [group for group in groups if group.first > at and group.kind not in ("shape", "whole")]
            placed = ahead and (preposed(items, at, ahead[0].first) or joins(items, at, ahead[0].first, ""))
            group = ahead[0] if placed else back[-1] if back else self._same(begins, items, None)
            if group is not None and group.kind == "unknown" and items[group.first - 1].value in ("its", "their"):
                group = self._same(False, items, None)  # "with its folds readable"
            if group is None:
                continue
            if group.kind == "unknown":
                self._ask_which(group)
                continue
            losing = sum(each.kind == "neg" for each in items[:at]) + any(each.kind == "losing" for each in items[:at])
            keeps = (item.kind == "texture") == (losing % 2 == 0)
            for tone in self._meant(group):
                self.found.textures[tone.name] = "needed" if keeps else "free"
                ends = {"burns_out": 1, "blows_out": 1, "blocks_up": -1}
                if item.word in ends and keeps and not is_allowed(items, at):  # it shall not
                    self.found.said.setdefault(tone.name, []).append(Tint(ends[item.word], True, True))

    def _dull(self, items, groups, begins):
        """ "the snow must not go grey": said of what is light, it wants light; of anything else it is asked about."""
        for at, item in enumerate(items):
            if item.kind != "dull" or not is_negated(items, at, set()):
                continue
            back = [group for group in groups if group.last < at and group.tones]
            group = back[-1] if back else self._same(begins, items, None)
            for tone in group.tones if group else ():
                if tone.role == "highlight":
                    self.found.said.setdefault(tone.name, []).append(Tint(1))
                else:
                    self.found.ask(tone.name, f"{tone.name}: lighter or darker than grey?")
