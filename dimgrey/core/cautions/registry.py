"""One kind of warning, and the list of all that there are.

A rule stands beside its text in the module of its subject and is declared with `rule`, which puts its codes into KINDS:
what is documented is registered, what is registered can be triggered (tests hold both). A new caution is one function.
"""

from dataclasses import dataclass

from dimgrey.core.planning.zones import format_zone

SUBJECTS = ("exposure", "picture", "sky", "safety", "lamps")
"""What a caution is about: the plan, the picture it was read from, the light of the place, harm to people, light that one makes."""


@dataclass(frozen=True)
class Caution:
    """One warning. code: for machines. about: a tone's name or None. text: for people. grave: it can hurt someone."""

    code: str
    about: str | None
    text: str
    grave: bool = False


@dataclass(frozen=True)
class Kind:
    """A code with its subject and, in one clause, when it is given."""

    code: str
    subject: str
    when: str
    grave: bool


KINDS: dict = {}
_RULES: dict = {subject: [] for subject in SUBJECTS}


def rule(subject, codes, grave=False):
    """Declare a rule: a function of what the subject's cautions are judged by, which yields Caution.

    subject: one of SUBJECTS. codes: code -> when it is given, of all that the rule yields. grave: whether they can hurt
    someone. Raises ValueError for a code that another rule has.
    """

    def declared(function):
        for code, when in codes.items():
            if code in KINDS:
                raise ValueError(f"The caution {code} is declared twice.")
            KINDS[code] = Kind(code, subject, when, grave)
        _RULES[subject].append(function)
        return function

    return declared


def caution(code, text, about=None):
    """A Caution of a declared code. about: a tone's name or None. Raises KeyError for one that no rule declares."""
    return Caution(code, about, text, KINDS[code].grave)


def raised(subject, given):
    """Every Caution of a subject, in the order of its rules. given: what the subject is judged by."""
    return tuple(each for function in _RULES[subject] for each in function(given))


def falls_on(zone):
    """ "on VII⅓", but "above X"."""
    text = format_zone(zone)
    return text if " " in text else f"on {text}"


def started(text):
    """A name at the start of a sentence."""
    return text[:1].upper() + text[1:]
