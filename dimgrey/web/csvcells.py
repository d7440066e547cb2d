"""Cells of CSV files that spreadsheets open: what they would run as a formula is held by a quote, and freed again on the way in."""

import math

HELD = ("=", "@", "\t", "\r", "+", "-", "'")
"""First letters that need a quote before them: formulas, and the quote itself, so that it is told from ours."""


def disarmed(value):
    """A value as a cell that no spreadsheet runs.

    >>> disarmed("=1+1"), disarmed("-0.33"), disarmed("'tis")
    ("'=1+1", '-0.33', "''tis")
    """
    text = str(value)
    return f"'{text}" if text.startswith(HELD) and not _is_number(text) else text


def freed(cell):
    """What `disarmed` was given. A quote that holds nothing stays: other programs write it too.

    >>> freed("'=1+1"), freed("''tis"), freed("'tis")
    ('=1+1', "'tis", "'tis")
    """
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(HELD) and not _is_number(cell[1:]) else cell


def _is_number(text):
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False
