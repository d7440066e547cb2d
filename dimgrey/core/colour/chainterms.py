"""The terms of a chain: the few numbers to which light, glass and film come down, all that a plan needs of them.

At the desk they are made from spectra with NumPy. Where that is not to be had, on the phone, they are carried: a table of those of
the kit, made at the desk, laid in with `carry`, and no other is known. docs/decisions/025.
"""

import base64
import sys
from array import array
from dataclasses import dataclass
from functools import lru_cache

from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import ANYTHING, Shaped, key, many
from dimgrey.core.shapes.plain import read_part, whole_part


@dataclass(frozen=True)
class Terms:
    """weights: of red, green and blue, sum 1. factor: the light that the glass costs. nodes: stops over the luminance at each
    place of chromaticity, 33 * 33 numbers, x by y. missed: stops by which each measured object would be missed, 194 numbers.
    sky: three weights for skies."""

    weights: tuple
    factor: float
    nodes: array
    missed: array
    sky: tuple


class NotCarried(CoreError):
    """A chain whose terms are not at hand."""


_carried = {}
"""through -> Terms, and OBJECTS -> features of the measured objects; empty at the desk."""
OBJECTS = "objects"


@lru_cache(maxsize=512)
def terms_of(through):
    """Terms of a chain. through: (response, light, filters) as `Chain` has it. Raises NotCarried where they cannot be made."""
    if _carried:
        if through not in _carried:
            raise NotCarried(
                "What this filter does with this film and light was not taken along. Choose another, or take the scene along "
                "again.",
                parameter="filters",
                code="chain-not-carried",
            )
        return _carried[through]
    # NumPy begins behind this line, so that it is crossed only when terms are really made.
    from dimgrey.core.colour.spectral import made_terms

    return Terms(*made_terms(through))


@lru_cache(maxsize=1)
def objects():
    """Features of the measured objects that tell how sure a colour is, two numbers each in one row."""
    if _carried:
        return _carried[OBJECTS]
    from dimgrey.core.colour.spectral import object_features

    return object_features()


@dataclass(frozen=True)
class PackedTerms(Shaped):
    """The Terms of one chain as a file has them. through: of the chain. nodes, missed: numbers in letters."""

    through: tuple = key(ANYTHING, ())
    weights: tuple = key(ANYTHING, ())
    factor: float = key(ANYTHING, 1.0)
    nodes: str = key(ANYTHING, "")
    missed: str = key(ANYTHING, "")
    sky: tuple = key(ANYTHING, ())


@dataclass(frozen=True)
class Packed(Shaped):
    """What `carry` lays in. objects: as `objects` gives them, numbers in letters."""

    objects: str = key(ANYTHING, "")
    chains: tuple = many(PackedTerms, 100_000)


def packed(chains):
    """Terms as plain data for a file: what `carry` lays in elsewhere. chains: `through` of each."""
    rows = tuple(_packed_row(through, terms_of(through)) for through in dict.fromkeys(chains))
    return whole_part(Packed(_text(objects()), rows))


def _packed_row(through, terms):
    return PackedTerms(through, terms.weights, terms.factor, _text(terms.nodes), _text(terms.missed), terms.sky)


def carry(data):
    """Lay in what `packed` made, in place of what was carried before: from here on no other chain is known."""
    given = read_part(Packed, data)
    drop()
    _carried[OBJECTS] = _numbers(given.objects)
    for row in given.chains:
        _carried[row.through] = Terms(row.weights, row.factor, _numbers(row.nodes), _numbers(row.missed), row.sky)


def drop():
    """Forget what was carried: the desk's own way again."""
    _carried.clear()
    terms_of.cache_clear()
    objects.cache_clear()


def _text(numbers):
    """Numbers as they are, eight bytes each, the low byte first, in letters."""
    return base64.b64encode(_low_first(array("d", numbers)).tobytes()).decode("ascii")


def _numbers(text):
    return _low_first(array("d", base64.b64decode(text)))


def _low_first(numbers):
    if sys.byteorder == "big":
        numbers.byteswap()
    return numbers
