"""JSON as it comes from outside: what Python reads and nothing else can hold is refused here, once, for every door.

RFC 8259 leaves numbers without limit and lets half a surrogate pair be written; no database, page or float holds either.
"""

import json
import math

from dimgrey.core.errors import Unreadable

MOST_DIGITS = 30


def loads(text):
    """What JSON text holds, as plain values. text: str. Raises Unreadable with a sentence and, where JSON breaks off, its line."""
    try:
        found = json.loads(text, parse_constant=_no_constant, parse_int=_whole, parse_float=_real)
    except RecursionError:
        raise _unreadable("It holds lists within lists without end.") from None
    except json.JSONDecodeError as wrong:
        raise _unreadable(f"It is not JSON (line {wrong.lineno}).") from None
    if "\\u" in text:
        _require_whole_letters(found)
    return found


def require_letters(text):
    """`text` if it can be kept and shown; Unreadable for NUL and for half of a surrogate pair.

    >>> require_letters("kiln")
    'kiln'
    """
    if "\0" in text or any("\ud800" <= letter <= "\udfff" for letter in text):
        raise _unreadable("It holds a character that is none: half an emoji, or a NUL.")
    return text


def _require_whole_letters(found):
    waiting = [found]
    while waiting:
        value = waiting.pop()
        if isinstance(value, str):
            require_letters(value)
        elif isinstance(value, dict):
            waiting += [*value, *value.values()]
        elif isinstance(value, list):
            waiting += value


def _whole(digits):
    if len(digits) > MOST_DIGITS:
        raise _unreadable(f"It holds a number of {len(digits)} digits.")
    return int(digits)


def _real(digits):
    number = float(digits)
    if not math.isfinite(number):
        raise _unreadable(f"{digits[:24]} is not a number that can be kept.")
    return number


def _no_constant(name):
    raise _unreadable(f"{name} is not a number that a file may hold.")


def _unreadable(sentence):
    return Unreadable(sentence, parameter="file", code="json")
