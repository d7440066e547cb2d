"""The open kit format "dimgrey-kit", version 2 (1 had no surfaces): from text to checked items, and back. Prose: docs/kit-file.md."""

import json

from dimgrey.core.document.kit import KitError, check
from dimgrey.core.document.schema import DocumentError, check_shape, parsed

FORMAT, VERSION = "dimgrey-kit", 2
MAX_BYTES = 4_000_000
MOST_MISTAKES = 40
OF_THE_ITEM = ("kind", "name", "retired")


def text_of(items):
    """The kit as text. items: (kind, name, values, retired)."""
    rows = [
        {"kind": kind, "name": name, **({"retired": True} if retired else {}), **values}
        for kind, name, values, retired in items
    ]
    return json.dumps({"format": FORMAT, "version": VERSION, "items": rows}, indent=1, ensure_ascii=False) + "\n"


def load(text):
    """Checked items of a kit file: (kind, name, values, retired). Raises KitError with every mistake and its path."""
    try:
        data = parsed(text, "kit", MAX_BYTES)
        check_shape(data, "kit")
    except DocumentError as refused:
        raise KitError(refused.mistakes) from None
    items, mistakes = [], []
    for k, entry in enumerate(data["items"]):
        values = {key: value for key, value in entry.items() if key not in OF_THE_ITEM}
        name = " ".join(entry["name"].split())
        if not name:
            mistakes.append(f"items[{k}].name: is empty.")
            continue
        try:
            items.append((entry["kind"], name, check(entry["kind"], values), entry.get("retired", False)))
        except KitError as refused:
            mistakes += [f"items[{k}].{line}" for line in refused.mistakes]
    if mistakes:
        raise KitError(mistakes[:MOST_MISTAKES])
    return items
