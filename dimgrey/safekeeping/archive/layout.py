"""The open format "dimgrey-archive", version 1: where each thing lies in the ZIP. Prose: docs/archive.md."""

import re

FORMAT, VERSION = "dimgrey-archive", 1
HEAD = "archive.json"
KIT, MEASURED, LOG, OUTINGS, SECOND_LOOK = "kit.json", "measured.json", "log.csv", "outings.json", "second-look.json"
AFTERWARDS = "results.json"
SETUPS, SCENES, PICTURES, WAITING = "setups/", "scenes/", "pictures/", "waiting/"
PARTS = {
    "kit": "kit and what was measured",
    "setups": "in-camera setups",
    "scenes": "outings and scenes, with their pictures",
    "log": "the log",
    "results": "results, finishing plans, picks, light studies, practice",
    "second-look": "second look",
}
"""What can be brought in by itself, in the order in which it comes."""


def slug(number, title):
    """A folder's name that people can read: "003-white-ware"."""
    plain = re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")[:40]
    return f"{number:03d}-{plain}" if plain else f"{number:03d}"
