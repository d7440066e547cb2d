"""Text of any script on a PDF: each letter in the first font that has it, lines broken by their real width.

The text's own font holds Western letters; DejaVu Sans Latin, Greek, Cyrillic, Armenian, Georgian, Hebrew and Arabic; the standard fonts
that every reader of PDF brings have Chinese, Japanese and Korean. What none of them has becomes a white square.
"""

import unicodedata
from functools import lru_cache

from dimgrey.site.config import ROOT

FONTS = ROOT / "dimgrey" / "site" / "static" / "vendor"
WEIGHTS = (400, 600, 800)
KANA, HANGUL = ((0x3040, 0x30FF), (0x31F0, 0x31FF)), ((0x1100, 0x11FF), (0x3130, 0x318F), (0xAC00, 0xD7AF))
HAN = ((0x2E80, 0x303F), (0x3400, 0x4DBF), (0x4E00, 0x9FFF), (0xF900, 0xFAFF), (0xFF00, 0xFFEF))
CID = (("HeiseiKakuGo-W5", KANA), ("HYGothic-Medium", HANGUL), ("STSong-Light", HAN))
UNKNOWN = "□"


@lru_cache(maxsize=1)
def fonts():
    """(weight -> names of fonts in their order, name -> letters that it has). Registers them with the library on first use."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.cidfonts import UnicodeCIDFont
    from reportlab.pdfbase.ttfonts import TTFont

    has = {}
    for kind, weights in (("text", WEIGHTS), ("other", (400, 800))):
        for weight in weights:
            font = TTFont(f"{kind}-{weight}", FONTS / f"{kind}-{weight}.ttf")
            pdfmetrics.registerFont(font)
            has[font.fontName] = frozenset(font.face.charToGlyph)
    for name, _ in CID:
        pdfmetrics.registerFont(UnicodeCIDFont(name))
    order = {weight: (f"text-{weight}", "other-800" if weight == 800 else "other-400") for weight in WEIGHTS}
    return order, has


def runs(text, weight):
    """(font, piece) of a text, in reading order. weight: 400, 600 or 800."""
    order, has = fonts()
    made = []
    for letter in unicodedata.normalize("NFC", str(text)):
        name, shown = _font_of(letter, order[weight], has)
        if made and made[-1][0] == name:
            made[-1][1] += shown
        else:
            made.append([name, shown])
    return [(name, piece) for name, piece in made]


def _font_of(letter, names, has):
    code = ord(letter)
    if unicodedata.category(letter) in ("Cc", "Cf"):
        return names[0], ""
    found = next((name for name in names if code in has[name]), None)
    if found:
        return found, letter
    cid = next((name for name, spans in CID if any(low <= code <= high for low, high in spans)), None)
    return (cid, letter) if cid else (names[1], UNKNOWN)


def width(text, weight, points):
    """Width of a text in points."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    return sum(stringWidth(piece, name, points) for name, piece in runs(text, weight))


def lines(text, weight, points, most_width, most):
    """A text in at most so many lines of a width in points; what does not fit ends in an ellipsis."""
    made, line = [], ""
    for word in str(text).split():
        tried = f"{line} {word}".strip()
        if width(tried, weight, points) <= most_width:
            line = tried
            continue
        if line:
            made.append(line)
        line = word
        while width(line, weight, points) > most_width:  # one long word, or a script without blanks
            cut = next(k for k in range(len(line), 0, -1) if k == 1 or width(line[:k], weight, points) <= most_width)
            made.append(line[:cut])
            line = line[cut:]
    made += [line] if line else []
    if len(made) <= most:
        return made
    last = made[most - 1]
    while last and width(f"{last}…", weight, points) > most_width:
        last = last[:-1]
    return [*made[: most - 1], f"{last}…"]
