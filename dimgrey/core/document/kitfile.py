"""The open kit format "dimgrey-kit", version 2 (1 had no surfaces): from text to checked items, and back. Prose: docs/kit-file.md."""

import json
from dataclasses import dataclass

from dimgrey.core.document.formats import parsed
from dimgrey.core.document.kit import ITEMS, KitError, item_of, said, values_of
from dimgrey.core.shapes.check import DocumentError
from dimgrey.core.shapes.declare import Shaped, many_kinds
from dimgrey.core.shapes.format import Format

MAX_BYTES = 4_000_000
MOST_MISTAKES, MOST_ITEMS = 40, 2000


@dataclass(frozen=True)
class KitFile(Shaped):
    """A kit as its file has it. items: of the classes of kit.ITEMS."""

    items: tuple = many_kinds(ITEMS, MOST_ITEMS)


KIT = Format("kit", KitFile, 2, begun=100)


def text_of(items):
    """The kit as text. items: (kind, name, values, retired)."""
    rows = [
        {"kind": kind, "name": name, **({"retired": True} if retired else {}), **values_of(item_of(kind, name, values))}
        for kind, name, values, retired in items
    ]
    return json.dumps({**KIT.write(KitFile()), "items": rows}, indent=1, ensure_ascii=False) + "\n"


def load(text):
    """Checked items of a kit file: (kind, name, values, retired). Raises KitError with every mistake and its path."""
    try:
        data = _without_empty(parsed(text, "kit", MAX_BYTES))
        KIT.check(data)
        items = KIT.read(data).items
    except DocumentError as refused:
        raise KitError(refused.mistakes[:MOST_MISTAKES]) from None
    return [(item.kind, " ".join(item.name.split()), values_of(item), item.retired) for item in items]


def _without_empty(data):
    """The file with fields that were left empty left out, and the blanks of names as one."""
    items = data.get("items") if isinstance(data, dict) else None
    if not isinstance(items, list):
        return data
    return {**data, "items": [_named(said(entry)) if isinstance(entry, dict) else entry for entry in items]}


def _named(entry):
    return {**entry, "name": " ".join(entry["name"].split())} if isinstance(entry.get("name"), str) else entry
