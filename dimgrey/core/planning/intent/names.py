"""Which tone a word of an intent means: a whole name, its noun, one of its words, or its role."""

import re

from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.words import stem


class Names:
    """The tones of a scene by the words of their names. tones: with `name`, `role`, `named`."""

    def __init__(self, tones):
        self.tones = [tone for tone in tones if tone.named]
        self.words = {tone.name: _words_of(tone.name) for tone in self.tones}
        self.heads = {tone.name: _head_of(tone.name) for tone in self.tones}

    def whole(self, tokens, at):
        """(tone, tokens that it takes) where a whole name stands, else None."""
        best = None
        for tone in self.tones:
            words = self.words[tone.name]
            here = [stem(token) for token in tokens[at : at + len(words)]]
            if words and here == words and (best is None or len(words) > best[1]):
                best = tone, len(words)
        return best

    def by_word(self, tokens, at):
        """Tones that one word may mean, the likeliest only; () for none."""
        word = stem(tokens[at])
        if word in w.COLOUR_NAMES or len(word) < 2:
            return ()
        heads = [tone for tone in self.tones if self.heads[tone.name] == word]
        fitting = heads or [tone for tone in self.tones if word in self.words[tone.name] and word not in w.WHERE_WORDS]
        if not fitting and word in w.ROLE_WORDS:
            fitting = [tone for tone in self.tones if tone.role == w.ROLE_WORDS[word]]
            if not fitting and w.ROLE_WORDS[word] == "subject":
                fitting = [tone for tone in self.tones if tone.role == "skin"]
        if len(fitting) < 2:
            return tuple(fitting)
        around = {_lit(stem(token)) for token in tokens[max(at - 2, 0) : at + 4]} - {word}
        alike = {tone.name: len(around & {_lit(each) for each in self.words[tone.name]}) for tone in fitting}
        most = max(alike.values())
        fitting = [tone for tone in fitting if alike[tone.name] == most]
        subjects = [tone for tone in fitting if tone.role in ("subject", "skin")]
        return tuple(subjects if len(subjects) == 1 else fitting)

    def goes_on(self, tokens, at, tone):
        """Where a name ends that began before `at`, as "in shadow" of "brick in shadow" does."""
        end = at
        for k in range(at, min(at + 4, len(tokens))):
            if pole_of(tokens[k]) is None and _lit(stem(tokens[k])) in {_lit(each) for each in self.words[tone.name]}:
                end = k + 1
            elif tokens[k] not in w.PREPOSITIONS and tokens[k] not in w.DETERMINERS and tokens[k] != ",":
                break
        return end


def _words_of(name):
    return [stem(word) for word in re.findall(r"[a-zà-ÿ]+", name.lower()) if word not in ("the", "a", "an")]


def _head_of(name):
    """The noun that a name is about: "mouth" of "kiln mouth, shade", "ivy" of "ivy at the foot"."""
    first = re.split(r",|\(", name.lower())[0]
    words = re.findall(r"[a-zà-ÿ]+", first)
    cut = next((k for k, word in enumerate(words) if k and word in w.PREPOSITIONS), len(words))
    core = [word for word in words[:cut] if word not in ("the", "a", "an")]
    return stem(core[-1]) if core else ""


def _lit(word):
    return {"sunlit": "sun", "sunny": "sun", "shaded": "shade", "shadowed": "shadow", "shade": "shadow"}.get(word, word)


def pole_of(token):
    """(pole, black or white) of a word, None for one that says neither."""
    if token in w.GREY:
        return 0, False
    if token in w.EXTREME:
        return w.EXTREME[token], False
    if token in w.BLACK or token in w.DARK:
        return -1, token in w.BLACK
    if token in w.WHITE or token in w.LIGHT:
        return 1, token in w.WHITE
    return None
