"""A sentence of an intent as a row of items: tones, words of light, relations, and what is no tone."""

from dataclasses import dataclass

from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.names import pole_of
from dimgrey.core.planning.intent.words import stem


@dataclass
class Item:
    """kind: tones, unknown, shape, whole (the picture), others, all, tint, texture, empty, neg, may, rel, than, merge, part, zone, number,
    most, least, alone, pron, verb, det, prep, and, break. value: what it says."""

    kind: str
    value: object = None
    word: str = ""


class Words:
    """Reads the tokens of a sentence into Items. names: the Names of the tones."""

    def __init__(self, names):
        self.names = names

    def items_of(self, sentence):
        tokens, items, at = sentence.tokens, [], 0
        while at < len(tokens):
            made, at = self._next(tokens, at, sentence.zones, items)
            items += made
        return items

    def _next(self, tokens, at, zones, before):
        token = tokens[at]
        if token.startswith("@"):
            return [Item("zone", zones[int(token[1:])])], at + 1
        named = self._named(tokens, at)
        if named:
            return named
        if token in w.DETERMINERS:
            return self._phrase(tokens, at + 1, [Item("det", token)])
        simple = self._simple(tokens, at, before)
        if simple is not None:
            return ([simple] if simple.kind else []), at + 1
        if token in w.SCENE_NOUNS or (before and before[-1].kind == "tint" and _may_name(tokens, at, before)):
            return self._phrase(tokens, at, [])
        return [], at + 1

    def _named(self, tokens, at):
        whole = self.names.whole(tokens, at)
        if whole:
            return [Item("tones", (whole[0],), tokens[at])], at + whole[1]
        if pole_of(tokens[at]) is not None or tokens[at] in w.VERBS or tokens[at] in w.FUNCTION:
            return None
        found = self.names.by_word(tokens, at)
        if not found:
            return None
        after = at + 1
        if tokens[at] not in w.ROLE_WORDS and after < len(tokens) and _is_other_thing(tokens[after], found, self.names):
            return None  # "kiln roof", where the tone is the kiln's brick
        if len(found) == 1:
            return [Item("tones", found, tokens[at])], self.names.goes_on(tokens, after, found[0])
        names = ", ".join(tone.name for tone in found[:-1]) + f" or {found[-1].name}"
        return [Item("unknown", f"which one, {names}?", tokens[at])], after

    def _phrase(self, tokens, at, items):
        """A thing that is named by a phrase: up to the next verb, relation or break; its last word says what it is."""
        run, end = [], at
        while end < len(tokens):
            token = tokens[end]
            named = self._named(tokens, end)
            if named:
                return items + [Item("tint", pole_of(t), t) for t in run if pole_of(t)] + named[0], named[1]
            if _ends_phrase(token):
                break
            run.append(token)
            end += 1
        plain = [token for token in run if pole_of(token) is None and not token.endswith("ly") and token not in w.DULL]
        tints = [k for k, token in enumerate(run) if pole_of(token) is not None]
        if not plain:
            return items, at  # the words stand alone and are read again
        after = [token for k, token in enumerate(run) if tints and k > tints[-1] and token in plain]
        pool = (
            after or [token for k, token in enumerate(run) if token in plain and (not tints or k < tints[0])] or plain
        )
        head = next((token for token in reversed(pool) if token in w.SCENE_NOUNS), pool[-1])
        place = len(run) - 1 - run[::-1].index(head)
        made = [Item("tint", pole_of(t), t) for t in run[:place] if pole_of(t)] + [_thing(head)]
        return items + made, at + place + 1

    def _simple(self, tokens, at, before):
        """The Item of one word, one of kind "" for a word that says nothing here, None for one that may be a thing."""
        token, last = tokens[at], before[-1] if before else None
        if token == "light" and not (
            _is_adjective(tokens, at, last) or (at + 1 < len(tokens) and self._named(tokens, at + 1))
        ):
            return Item("whole", word=token)
        if token in ("-", "–", "—"):
            return Item("dash" if last is not None and last.kind == "zone" else "break", token)
        if token in w.BREAKS:
            return Item("break", token)
        if token in w.SILHOUETTES:
            return Item("tint", (-1, True), "silhouette")
        if (pole := pole_of(token)) is not None:
            return Item("tint", pole, token)
        if token == "part" and not _is_verb(tokens, at):
            return Item("")
        for kind, words in _KINDS:
            if token in words:
                return Item(kind, token, token)
        if token.startswith("#"):
            return Item("number", float(token[1:]))
        if token in w.NOT_ASKED:
            does = token in w.VERBS and last is not None and last.kind in ("wished", "may", "tones", "neg", "pron")
            return Item("verb" if does else "whole", word=token)
        if token in w.SHAPES:
            return Item("shape", token, token)
        if token in w.VERBS:
            return Item("verb", token)
        return Item("") if token in w.FUNCTION or token in ("zone", "zones", "stop", "stops") else None


_KINDS = (
    ("neg", w.NEGATIONS),
    ("may", w.ALLOWED),
    ("dull", w.DULL),
    ("texture", w.TEXTURE),
    ("empty", w.EMPTY),
    ("losing", w.LOSING),
    ("merge", w.MERGING),
    ("part", w.PARTING),
    ("feared", w.FEARED),
    ("wished", w.WISHED - {"to"}),
    ("rel", w.AGAINST | w.BEHIND | w.UPON | w.OVER | w.UNDER),
    ("than", frozenset({"than"})),
    ("as", frozenset({"as"})),
    ("most", frozenset({"at_most"})),
    ("least", frozenset({"at_least"})),
    ("alone", w.ALONE),
    ("pron", w.PRONOUNS),
    ("others", w.OTHERS),
    ("all", w.ALL),
    ("except", w.EXCEPT),
    ("to", frozenset({"to"})),
    ("and", frozenset({"and", "or"})),
    ("prep", frozenset(["in", "of", "at", "into", "from", "for", "by", "with", "between", "on", "within"])),
)


def _thing(word):
    if word in w.NOT_ASKED or stem(word) in w.NOT_ASKED:
        return Item("whole", word=word)
    if word in w.SILHOUETTES:
        return Item("tint", (-1, True), "silhouette")
    if word in w.SHAPES:
        return Item("shape", word, word)
    return Item("unknown", "which tone?", word)


def _ends_phrase(token):
    stops = (
        w.VERBS,
        w.FUNCTION,
        w.BREAKS,
        w.NEGATIONS,
        w.ALLOWED,
        w.MERGING,
        w.TEXTURE,
        w.EMPTY,
        w.PRONOUNS,
        w.OTHERS,
        w.ALL,
        w.DETERMINERS,
    )
    return (
        token.startswith("@")
        or any(token in words for words in stops)
        or token in ("-", "–", "—", "at_most", "at_least")
        or token in w.PARTING
    )


def _is_other_thing(token, found, names):
    """Whether the word after a name makes another thing of it, as "roof" does of "kiln roof"."""
    return (
        token in w.SCENE_NOUNS
        and not names.by_word([token], 0)
        and all(stem(token) not in names.words[tone.name] for tone in found)
    )


def _may_name(tokens, at, before):
    """Whether a word after one of light is the thing that it speaks of: "black gate" at the start of a clause."""
    return (
        not tokens[at].endswith("ly")
        and tokens[at] not in ("enough", "against")
        and (len(before) < 2 or before[-2].kind in ("break", "and", "rel", "prep", "neg", "det", "tint"))
    )


def _is_adjective(tokens, at, last):
    """Whether "light" is how a thing is, and not the light."""
    before = tokens[at - 1] if at else ""
    after = tokens[at + 1] if at + 1 < len(tokens) else ""
    if (
        before in w.DETERMINERS
        or before in w.COLOUR_NAMES
        or before in ("raking", "side", "back", "window", "soft", "hard", "low", "flat")
    ):
        return after in w.SCENE_NOUNS
    if last is not None and last.kind == "tones":
        ends = not after or after in w.BREAKS or after in ("and", "or")
        if after in w.AGAINST:
            return True
        goes_on = after in ("and", "or") and any(pole_of(token) for token in tokens[at + 2 : at + 3])
        if before in w.SHINING and not goes_on:
            return before == "sky" and ends and after not in ("and", "or")
        return ends or any(token in w.SETTING for token in tokens[:at])
    if before == "more":
        return False
    if before in w.PARTING or after in w.AGAINST:
        return True
    return (
        before in w.VERBS
        or before in w.SOFTENERS
        or before in w.ALL | w.OTHERS
        or before in w.ALONE
        or before in ("too", "not", "and", "or", "as", "print")
        or after in w.SCENE_NOUNS
    )


def _is_verb(tokens, at):
    before = tokens[at - 1] if at else ""
    after = tokens[at + 1] if at + 1 < len(tokens) else ""
    return (
        before in ("", ":", ";", "must", "shall", "should", "to", "not", "will", "clearly", "and", ",")
        or after == "from"
    )
