"""In what state the data folder is, looked at without changing anything: before a start, and before a backup is trusted."""

import sqlite3
from dataclasses import dataclass
from pathlib import Path

DATABASE = "dimgrey.sqlite3"
PICTURES = "pictures"


GOOD = {
    "fine": "The data are whole.",
    "none": "There are no data yet.",
    "older": "The data are of an older version.",
}


@dataclass(frozen=True)
class State:
    """name: fine, none, empty, damaged, newer, older. sentence: what is wrong and what to do, "" when all is well."""

    name: str
    sentence: str = ""

    @property
    def good(self):
        """What is said of data that the program may use, "" of others."""
        return GOOD.get(self.name, "")

    @property
    def can_start(self):
        """Whether the program may use it, and bring an older one up to date."""
        return self.name in GOOD


def state_of(data, known):
    """State of a data folder. data: Path. known: (app, name) of every migration of this program, as `known_migrations` gives them."""
    path = Path(data) / DATABASE
    has_pictures = any((Path(data) / PICTURES).glob("*/original*"))
    if not path.exists():
        if has_pictures:
            return State("empty", f"There are pictures in {data}, but no database. {_HELP}")
        return State("none")
    if path.stat().st_size == 0:
        return State("empty", f"The database {path} is empty. {_HELP}")
    try:
        applied = _applied(path)
    except sqlite3.DatabaseError as wrong:
        return State("damaged", f"The database {path} is damaged ({wrong}). {_HELP}")
    if not applied:
        return State("empty", f"The database {path} holds no tables of this program. {_HELP}")
    unknown = sorted(applied - known)
    if unknown:
        named = ".".join(unknown[0])
        return State(
            "newer",
            f"The database {path} was written by a newer version (it knows {named}). Start that version, or restore a backup.",
        )
    return State("fine" if applied == known else "older")


_HELP = "Nothing was changed. Restore a backup: manage.py restore FOLDER."


def _applied(path):
    """(app, name) of the migrations in a database that is whole. Raises sqlite3.DatabaseError with what is wrong."""
    base = sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=20)
    try:
        found = [row[0] for row in base.execute("PRAGMA quick_check(3)")]
        if found != ["ok"]:
            raise sqlite3.DatabaseError("; ".join(found)[:200])
        tables = {row[0] for row in base.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        if "django_migrations" not in tables:
            return set()
        return set(base.execute("SELECT app, name FROM django_migrations"))
    finally:
        base.close()


def known_migrations():
    """(app, name) of every migration that this program has."""
    from django.db.migrations.loader import MigrationLoader

    return set(MigrationLoader(None, ignore_no_migrations=True).disk_migrations)
