"""Backups that are whole or not there, made while people write, proved by reading them again.

One backup is a folder `dimgrey-YYYYMMDD-HHMMSS` with the database, every picture that it names, and a manifest with the digest of each
file. It grows under another name and gets its own as the last step. Pictures never change, so a file that an earlier backup beside it
holds is linked, not copied. Decision 030.
"""

import hashlib
import json
import os
import shutil
import sqlite3
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import Shaped, by_name, key, number, several, text
from dimgrey.core.shapes.plain import checked_part
from dimgrey.safekeeping.state import DATABASE, PICTURES

MANIFEST = "manifest.json"
FORMAT, VERSION = "dimgrey-backup", 1
NAME = "dimgrey-%Y%m%d-%H%M%S"
GROWING = ".growing-"
KEPT_OF_A_PICTURE = ("original*", "working.npy", "colour.jpg", "grey.jpg")
"""What can be made again, small views and light maps, stays where it is."""
MOST_TRIES = 8
DEAD_AFTER_S = 24 * 3600
MOST_LOST = 1_000_000


PICTURE_TABLES = ("pictures_picture", "scenes_picture")
"""Of the present version and of the first."""
WAITING_TABLE = "pictures_arrival"
"""Of files that came and are not read yet."""


class BackupFailed(Exception):
    """A backup that cannot be made, trusted or restored; says why, and what is there instead."""


@dataclass(frozen=True)
class Made:
    """What a backup holds. path: its folder. pictures, files: how many. size: bytes. linked: bytes that an earlier one shares.

    gone: names of pictures whose files the house has lost; lost: of those the ones that no earlier backup has either.
    """

    path: Path
    pictures: int
    files: int
    size: int
    linked: int
    gone: tuple = ()
    lost: tuple = ()


def back_up(data, target, now=None, keep=None):
    """Make a backup of a data folder and prove it. Returns Made. Raises BackupFailed; then nothing is left of it.

    data: Path of the data folder. target: Path of the folder of backups. keep: how many stay, the newest; None for all.
    """
    name = (now or datetime.now()).strftime(NAME)
    growing, whole = target / f"{GROWING}{name}", target / name
    if whole.exists():
        raise BackupFailed(f"There is a backup {whole} already. Wait a second.")
    _sweep(target, now or datetime.now())
    try:
        growing.mkdir(parents=True, mode=0o700)
        made = _grow(data, growing, _newest(target))
        _settle_all(growing)
        growing.rename(whole)
        flush(target)
    except (OSError, sqlite3.Error) as failed:
        raise BackupFailed(
            f"The backup could not be made ({failed}). Nothing is left of it; earlier ones are whole."
        ) from failed
    finally:
        shutil.rmtree(growing, ignore_errors=True)
    verify(whole)
    for old in backups_in(target)[:-keep] if keep else ():
        shutil.rmtree(old)
    return Made(whole, *made)


def _sweep(target, now):
    """Remove what a killed backup left growing; one that still runs is younger than that."""
    for left in target.glob(f"{GROWING}*"):
        if now.timestamp() - left.stat().st_mtime > DEAD_AFTER_S:
            shutil.rmtree(left, ignore_errors=True)


def backups_in(target):
    """Folders of the whole backups in a folder, the oldest first."""
    return sorted(path.parent for path in Path(target).glob(f"dimgrey-*/{MANIFEST}"))


def _newest(target):
    found = backups_in(target)
    return found[-1] if found else None


def _grow(data, growing, earlier):
    """Copy everything into a folder. Returns the fields of Made after its path.

    A picture may be added or deleted while we copy. So the database is taken after the pictures that were there, then those that it
    names and we lack; one that is gone by then was deleted since, and a later state of the database does not name it any more. What
    is named twice and has no files is gone: the rest is backed up all the same, and it is taken from the backup before.
    """
    known = _digests(earlier)
    digests, linked, before = {}, 0, None
    for _ in range(MOST_TRIES):
        _copy_database(data / DATABASE, growing / DATABASE)
        wanted, gone = _folders_named(growing / DATABASE), set()
        for folder in sorted(wanted):
            try:
                linked += _copy_picture(data / PICTURES / folder, growing / PICTURES / folder, earlier, known, digests)
            except FileNotFoundError:
                gone.add(folder)
        if not gone or gone == before:
            break
        before = gone
    lost = set()
    for folder in gone:
        try:
            there = (earlier or data) / PICTURES / folder
            linked += _copy_picture(there, growing / PICTURES / folder, earlier, known, digests)
        except FileNotFoundError:
            lost.add(folder)
    for folder in (growing / PICTURES).iterdir() if (growing / PICTURES).is_dir() else ():
        if folder.name not in wanted:
            shutil.rmtree(folder)
    files = {name: told for name, told in digests.items() if (growing / name).exists()}
    files[DATABASE] = _digest(growing / DATABASE)
    told = {
        "format": FORMAT,
        "version": VERSION,
        "made_at": datetime.now().astimezone().isoformat(timespec="seconds"),
        "pictures": len(wanted) - len(lost),
        "lost": sorted(lost),
        "files": files,
    }
    (growing / MANIFEST).write_text(json.dumps(told, indent=1, sort_keys=True), encoding="utf-8")
    size = sum((growing / name).stat().st_size for name in files)
    named = lambda folders: _names_of(growing / DATABASE, folders)
    return len(wanted) - len(lost), len(files), size, linked, named(gone), named(lost)


def _copy_database(source, target):
    """A consistent copy of a database that others write to (SQLite's own backup)."""
    target.unlink(missing_ok=True)
    reading, writing = sqlite3.connect(source, timeout=20), sqlite3.connect(target)
    try:
        reading.backup(writing)
        # One file, without a log beside it that could be forgotten.
        writing.execute("PRAGMA journal_mode=DELETE")
        found = writing.execute("PRAGMA integrity_check(1)").fetchone()[0]
    finally:
        reading.close()
        writing.close()
    if found != "ok":
        raise BackupFailed(f"The database is damaged ({found}), so no backup was made of it. Restore an earlier one.")


def _folders_named(database):
    base = sqlite3.connect(f"file:{database}?mode=ro", uri=True)
    try:
        tables = {row[0] for row in base.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        asked = [f"SELECT folder FROM {next(name for name in PICTURE_TABLES if name in tables)}"]
        if WAITING_TABLE in tables:
            asked.append(f"SELECT folder FROM {WAITING_TABLE} WHERE state = 'waiting'")
        return {row[0].replace("-", "") for each in asked for row in base.execute(each)}
    finally:
        base.close()


def _names_of(database, folders):
    """Names that people gave the files of some picture folders, in their order; the folder's own where the first version kept none."""
    base = sqlite3.connect(f"file:{database}?mode=ro", uri=True)
    try:
        names = dict(base.execute("SELECT folder, original_name FROM pictures_picture"))
    except sqlite3.OperationalError:
        names = {}
    finally:
        base.close()
    plain = {folder.replace("-", ""): name for folder, name in names.items()}
    return tuple(sorted(plain.get(folder, folder) for folder in folders))


def _copy_picture(source, target, earlier, known, digests):
    """Copy the files of one picture, or link those of an earlier backup. Returns bytes linked. Raises FileNotFoundError."""
    if target.is_dir():
        return 0
    names = [file for pattern in KEPT_OF_A_PICTURE for file in source.glob(pattern)]
    if not names:
        raise FileNotFoundError(source)
    linked = 0
    target.mkdir(parents=True)
    try:
        for file in names:
            name = f"{PICTURES}/{target.name}/{file.name}"
            linked += _copy_file(file, target / file.name, earlier and earlier / name, known.get(name))
            digests[name] = (
                known[name] if linked and (target / file.name).stat().st_nlink > 1 else _digest(target / file.name)
            )
    except FileNotFoundError:
        shutil.rmtree(target)
        raise
    return linked


def _copy_file(source, target, there, digest):
    """Copy a file, or link the one of an earlier backup when it is as large and as old. Returns bytes linked."""
    if digest and there.is_file():
        a, b = source.stat(), there.stat()
        if a.st_size == b.st_size and int(a.st_mtime) == int(b.st_mtime):
            try:
                os.link(there, target)
                return a.st_size
            except OSError:
                pass
    shutil.copy2(source, target)
    return 0


def _digests(backup):
    return _manifest(backup).files if backup else {}


@dataclass(frozen=True)
class Manifest(Shaped):
    """What a backup says of itself. files: name -> SHA-256. pictures: how many. lost: folders of pictures whose files were gone then."""

    format: str = key(text(40), "")
    version: int = key(number(), 0)
    pictures: int = key(number(), 0)
    files: dict = by_name(text(64))
    lost: tuple = key(several(text(64), most=MOST_LOST), ())


def _manifest(backup):
    try:
        told = checked_part(
            Manifest, json.loads((backup / MANIFEST).read_text(encoding="utf-8")), MANIFEST, lenient=True
        )
        if (told.format, told.version) != (FORMAT, VERSION) or DATABASE not in told.files:
            raise ValueError("another format")
        return told
    except FileNotFoundError:
        raise BackupFailed(f"{backup} is not a whole backup: it has no {MANIFEST}.") from None
    except (OSError, ValueError, CoreError) as wrong:
        raise BackupFailed(f"The manifest of {backup} cannot be read ({wrong}).") from None


def _digest(path):
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _settle_all(folder):
    for path in [*folder.rglob("*"), folder]:
        flush(path)


def flush(path):
    """Wait until a file or folder is on the disk."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def verify(backup):
    """Read a whole backup again: every file, the database, every picture that it names. Returns its manifest. Raises BackupFailed."""
    told = _manifest(backup)
    for name, digest in told.files.items():
        try:
            found = _digest(backup / name)
        except OSError as wrong:
            raise BackupFailed(f"{backup / name} cannot be read ({wrong.strerror}). Take another backup.") from None
        if found != digest:
            raise BackupFailed(f"{backup / name} is not what was backed up. Take another backup.")
    base = sqlite3.connect(f"file:{backup / DATABASE}?mode=ro&immutable=1", uri=True)
    try:
        found = base.execute("PRAGMA integrity_check(1)").fetchone()[0]
        broken = base.execute("PRAGMA foreign_key_check").fetchone()
    except sqlite3.DatabaseError as wrong:
        raise BackupFailed(f"The database of {backup} is damaged ({wrong}).") from None
    finally:
        base.close()
    if found != "ok" or broken:
        raise BackupFailed(f"The database of {backup} is damaged ({found if found != 'ok' else broken}).")
    named = _folders_named(backup / DATABASE) - set(told.lost)
    lost = [each for each in named if not (backup / PICTURES / each).is_dir()]
    if lost:
        raise BackupFailed(f"{len(lost)} pictures that the database of {backup} names are not in it.")
    return told


def restore(backup, data, known, replace=False, now=None):
    """Put a backup in the place of a data folder. Returns where the data before lie now, or None. Raises BackupFailed.

    known: migrations of this program. replace: what is there is put aside, beside it; without it an occupied place is refused.
    """
    from dimgrey.safekeeping.state import state_of

    verify(backup)
    state = state_of(backup, known)
    if not state.can_start:
        raise BackupFailed(state.sentence)
    occupied = [
        data / name for name in (DATABASE, f"{DATABASE}-wal", f"{DATABASE}-shm", PICTURES) if (data / name).exists()
    ]
    if occupied and not replace:
        raise BackupFailed(
            f"There are data in {data}. Say --replace to put them aside and restore over them; stop the server first."
        )
    coming, aside = data / ".restoring", None
    shutil.rmtree(coming, ignore_errors=True)
    try:
        coming.mkdir(parents=True, mode=0o700)
        shutil.copy2(backup / DATABASE, coming / DATABASE)
        if (backup / PICTURES).is_dir():
            shutil.copytree(backup / PICTURES, coming / PICTURES)
        (coming / PICTURES).mkdir(exist_ok=True)
        _settle_all(coming)
        if occupied:
            aside = data / (now or datetime.now()).strftime("before-restore-%Y%m%d-%H%M%S")
            aside.mkdir(mode=0o700)
            for path in occupied:
                path.rename(aside / path.name)
        for name in (PICTURES, DATABASE):  # the database last: without it nothing starts
            (coming / name).rename(data / name)
        flush(data)
    except OSError as failed:
        raise BackupFailed(
            f"The backup could not be restored ({failed}). What was there is {'in ' + str(aside) if aside else 'untouched'}."
        ) from failed
    finally:
        shutil.rmtree(coming, ignore_errors=True)
    return aside
