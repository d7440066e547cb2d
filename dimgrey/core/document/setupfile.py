"""The open setup format "dimgrey-setup", version 1: from plain values to a checked Setup, and back."""

from dimgrey.core.camera.setups import setup
from dimgrey.core.document.schema import check_shape, parsed

FORMAT, VERSION = "dimgrey-setup", 1
MAX_BYTES = 200_000


def plain(wanted, revision=1):
    """A wanted Setup as plain values. revision: which one of a kept setup it is."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "name": wanted.name,
        "revision": revision,
        "effects": dict(wanted.effects),
        "filter": wanted.filter,
        "protection_stops": wanted.protection_stops,
        "file": wanted.file,
        "notes": wanted.notes,
        "tags": list(wanted.tags),
    }


def setup_from(data):
    """A checked Setup from plain values. Raises DocumentError with every mistake of shape, CoreError for one of meaning."""
    check_shape(data, "setup")
    return setup(
        data["name"],
        data.get("effects"),
        data.get("filter", "none"),
        data.get("protection_stops", 0.0),
        data.get("file", "both"),
        data.get("notes", ""),
        data.get("tags", ()),
    )


def load(text):
    """A checked Setup from a setup file's text. Raises DocumentError or CoreError."""
    return setup_from(parsed(text, "setup", MAX_BYTES))
