"""Large sets of cases: the suite runs a seeded tenth of each, `script/judge` all of them (DIMGREY_WHOLE=1, tests tagged "many")."""

import os
import random
import zlib

from django.test import tag

WHOLE = bool(os.environ.get("DIMGREY_WHOLE"))
TENTH = 0.1
many = tag("many")
"""Marks a test of which the suite runs a share."""


def count_of(whole, least=1):
    """How many of `whole` cases to run."""
    return whole if WHOLE else max(round(whole * TENTH), least)


def share_of(cases, *seed, least=1):
    """The cases to run, in their order: all, or a tenth that the seed draws. seed: anything that prints."""
    cases = list(cases)
    drawn = random.Random(zlib.crc32(repr(seed).encode())).sample(
        range(len(cases)), min(count_of(len(cases), least), len(cases))
    )
    return [cases[k] for k in sorted(drawn)]
