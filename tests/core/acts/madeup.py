"""Made-up acts of any verb, from nothing but its keys: good words, bad words, and none."""

import random
from dataclasses import fields

from dimgrey.core.acts.keys import As, Named, Number, OneOf, Several, Text, Whole, YesNo, read_key
from dimgrey.core.errors import CoreError

WORDS = (
    "9", "12⅓", "1/125 f/8", "EV 13", "II-III", "VII⅓", "-1", "1/3", "16:40", "f/8", "1/60", "100", "NE", "2 m", "infinity",
    "0.1 0.1,0.4 0.1,0.4 0.6", "VI", "soon", "at most I", "00000000-0000-4000-8000-000000000001",
)  # fmt: skip
"""What one of the core's notations might read, and what none does."""
NAMES = {
    "tone": ("coal", "sky", "lime wall", "ivy"),
    "camera": ("Mirrorless 24", "none such"),
    "lens": ("24-70 zoom",),
    "film": ("Sheet film 125",),
    "meter": ("One-degree spot meter", "none such"),
    "filter": ("Red, rim 8x", "Grey 10 stops", "pink"),
}
SAID_AS = {
    "iso": ("100", "400", "x"),
    "own_iso": ("", "100"),
    "lead": ("aperture", "shutter"),
    "away": ("1.5", "3"),
    "height": ("1.8", "2"),
    "width": ("0.6", "0"),
    "face": ("0.6", "x"),
    "strength": ("800", "40"),
}
LAMP = {"reading": ("", "", "EV 9", "f/8", "soup"), "stops": ("0", "-1", "9")}
"""Keys whose text is read later, with what else was said."""
CODES = (
    "zone=4",
    "let-go=A",
    "bracket=3x1",
    "graduated=2@0.4",
    "effects=contrast:0.5",
    "glass=orange",
    "develop=-1",
    "print=B:4",
    "glow",
    "zone=x",
)
MARKS = ("A", "A", "B", "C", "D", "Z")
TEXTS = ("ivy", "Kiln", "orange", "cheek right", "hair left", "f/8", "1/60", "EV 9", "100", "x" * 700)


def words_for(each, document, rng):
    """What a hand or a program might send under a key; None leaves it out."""
    rule = each.metadata["rule"]
    if each.name == "mark":
        return rng.choice(MARKS)
    if each.name == "code":
        return rng.choice(CODES)
    if each.name in SAID_AS:
        return rng.choice(SAID_AS[each.name])
    if each.name in LAMP and not isinstance(rule, As):
        return rng.choice(LAMP[each.name])
    if rng.random() < 0.12:
        return rng.choice((None, ""))
    if isinstance(rule, YesNo):
        return rng.choice(("on", "", True, False))
    if isinstance(rule, Whole):
        return rng.choice((rule.low, rule.low + 1, 1, "x", rule.high + 1))
    if isinstance(rule, Number):
        low, high = max(rule.low, -1000), min(rule.high, 1000)
        return rng.choice(
            (low, high, round(low + (high - low) * rng.random(), 3), round(low + (high - low) * 0.1, 3), "x")
        )
    if isinstance(rule, OneOf):
        return rng.choice((*rule.named(document), *rule.named(document), "soup"))
    if isinstance(rule, Several):
        return [rng.choice(tuple(rule.of.named(document)))]
    if isinstance(rule, Named):
        return rng.choice(NAMES[rule.kind])
    if isinstance(rule, As):
        return rng.choice(WORDS)
    if isinstance(rule, Text):
        return rng.choice(TEXTS)
    raise TypeError(f"No words are made up for {type(rule).__name__}: add them here, so that its verbs are compared.")


def good_words_for(each, document, rng):
    """Words under a key that its rule takes, or None where none were found and none are needed."""
    for _ in range(60):
        words = words_for(each, document, rng)
        try:
            read_key(each, words, document)
        except CoreError:
            continue
        if words not in (None, "") or rng.random() < 0.2:
            return words
    return None


def values_for(verb, document, rng, good=False):
    """Values of an act of a Verb. good: each by itself is what its key takes."""
    words = good_words_for if good else words_for
    made = {each.name: words(each, document, rng) for each in fields(verb.keys)}
    return {name: value for name, value in made.items() if value is not None}


def seeded(*words):
    """A random generator for words, the same every time."""
    return random.Random(" ".join(map(str, words)))
