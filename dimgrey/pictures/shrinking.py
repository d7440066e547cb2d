"""Making a picture small while it is read, a few rows at a time: light is averaged, whatever the file encodes it with."""

from collections import deque
from concurrent.futures import ThreadPoolExecutor

import numpy as np
from PIL import Image

LONG_SIDE = 1600
ROWS = 32
"""Rows at once: few enough to stay in the processor's cache."""


class Shrinker:
    """Takes a picture's rows from the top and averages their light to at most 1600 pixels on the long side.

    width, height: of the whole picture. channels: of its rows. Values without a number count as black and are counted in `wrong`.
    """

    def __init__(self, width, height, channels=3):
        scale = min(LONG_SIDE / max(width, height), 1)
        self.size = max(1, round(width * scale)), max(1, round(height * scale))
        self.width, self.height, self.channels = width, height, channels
        self.wrong = 0
        self._step = height / self.size[1]
        self._at = 0
        self._sums = np.zeros((self.size[1], width * channels), np.float32)

    def add(self, rows, exact=True):
        """The next rows as linear light, shape (n, width, channels), float32. exact: no value is without a number."""
        if not exact:
            bad = ~np.isfinite(rows)
            if bad.any():
                self.wrong += int(bad.any(axis=-1).sum())
                rows = np.where(bad, np.float32(0), rows)
        count = len(rows)
        flat, start, end = rows.reshape(count, -1), self._at, self._at + count
        for row in range(int(start / self._step), min(int(np.ceil(end / self._step)), self.size[1])):
            low, high = max(row * self._step, start), min((row + 1) * self._step, end)
            first, last = int(low), min(int(np.ceil(high - 1e-9)), end)
            if last <= first:
                continue
            at = np.arange(first, last)
            share = (np.minimum(at + 1, high) - np.maximum(at, low)) / self._step
            self._sums[row] += share.astype(np.float32) @ flat[first - start : last - start]
        self._at = end

    def picture(self):
        """The small picture as linear light, shape (h, w, channels), float32. Rows that never came are black."""
        width, height = self.size
        high = self._sums.reshape(height, self.width, self.channels)
        if width == self.width:
            return high
        planes = [Image.fromarray(np.ascontiguousarray(high[..., k])) for k in range(self.channels)]
        return np.stack([np.asarray(p.resize((width, height), Image.Resampling.BOX)) for p in planes], axis=-1)


def shrunk(pixels, tables=None, exact=True):
    """(small linear picture, how many pixels held no number) of a whole array, taken a few rows at a time.

    pixels: shape (h, w, c); of whole numbers with `tables`, the linear light of each code, one for each channel or one for all;
    else linear light. exact: as `Shrinker.add` has it.
    """
    height, width, channels = pixels.shape
    made = Shrinker(width, height, channels)
    for top in range(0, height, ROWS):
        rows = pixels[top : top + ROWS]
        made.add(rows.astype(np.float32) if tables is None else looked_up(rows, tables), exact)
    return made.picture(), made.wrong


def looked_up(rows, tables):
    """Linear light of whole numbers, float32, shape kept. tables: one for each channel or one for all, float32."""
    out = np.empty(rows.shape, np.float32)
    if len(tables) == 1:
        return np.take(tables[0], rows, out=out, mode="clip")
    for k, table in enumerate(tables):
        out[..., k] = np.take(table, rows[..., k], mode="clip")
    return out


def ahead(make, items, most=6):
    """What `make` gives for each item, in their order, made by two threads a little ahead of whoever takes it.

    make: item -> anything. items: a sequence. most: how many may lie ready.
    """
    waiting = deque()
    with ThreadPoolExecutor(2) as pool:
        for item in items:
            waiting.append(pool.submit(make, item))
            if len(waiting) >= most:
                yield waiting.popleft().result()
        while waiting:
            yield waiting.popleft().result()
