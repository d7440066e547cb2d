"""A backup proved: restored into a scratch folder, where one scene of each person is planned and compared with the live one.

What came of it lies beside the data as `proven.json`, for home and for whoever watches the house.
"""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from dimgrey.core.errors import CoreError
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.core.shapes.declare import Shaped, key, number, several, text
from dimgrey.core.shapes.plain import checked_part, whole_part
from dimgrey.people.models import Person
from dimgrey.safekeeping.backup import BackupFailed, flush, restore, verify
from dimgrey.safekeeping.state import known_migrations
from dimgrey.scenes.models import Scene

TOLD = "proven.json"
MOST_NAMED = 5
MINUTES = 20
"""How long the plans of a restored house may take."""


@dataclass(frozen=True)
class Proof(Shaped):
    """What a proof found. at: when, ISO 8601. pictures: how many the backup holds. missing: names of pictures that it lost. scenes: how many
    plans were compared. differ: titles of those that came out otherwise. failed: why it could not be proved, "" when it could."""

    at: str = key(text(40), "")
    backup: str = key(text(400), "")
    pictures: int = key(number(0, kind="integer"), 0)
    missing: tuple = key(several(text(255), most=100_000), ())
    scenes: int = key(number(0, kind="integer"), 0)
    differ: tuple = key(several(text(200), most=100_000), ())
    failed: str = key(text(1000), "")

    @property
    def is_good(self):
        return not (self.failed or self.differ or self.missing)

    @property
    def sentence(self):
        """In one line, for people."""
        when = f"{datetime.fromisoformat(self.at):%d %b %H:%M}".lstrip("0")
        if self.failed:
            return f"The backup of {when} could not be proved: {self.failed}"
        pictures, compared = _counted(self.pictures, "picture"), _counted(self.scenes, "plan")
        parts = [f"Backup last proven {when}: {pictures}, {compared} compared"]
        if self.missing:
            parts.append(f"{_counted(len(self.missing), 'picture')} missing: {_few(self.missing)}")
        if self.differ:
            parts.append(f"{_counted(len(self.differ), 'plan')} otherwise: {_few(self.differ)}")
        return ", ".join(parts) + "."


def _counted(count, name):
    return f"{count:,} {name}{'' if count == 1 else 's'}"


def _few(names):
    return ", ".join(names[:MOST_NAMED]) + (" …" if len(names) > MOST_NAMED else "")


def plans():
    """{uid of a scene: [state, title, its plan as JSON, or why it waits]} of the last scene of each person in this house."""
    found = {}
    for person in Person.objects.order_by("pk"):
        scene = Scene.objects.owned_by(person).filter(removed=False).order_by("-updated_at", "-pk").first()
        if scene is None:
            continue
        try:
            result, wait = plan_or_wait(scene.brief)
            told = plan_as_json(result) if result else wait
        except CoreError as refused:
            told = str(refused)
        found[str(scene.uid)] = [scene.stamp, scene.title, told]
    return found


def prove(backup, data, missing=()):
    """Restore a backup apart, plan in it, and compare. Returns the Proof, which is kept beside the data. missing: names of lost pictures.

    backup: Path of one backup. data: Path of the live data folder. Nothing of the scratch folder stays.
    """
    at = timezone.localtime().isoformat(timespec="seconds")
    scratch = Path(tempfile.mkdtemp(prefix="dimgrey-proof-", dir=backup.parent))
    try:
        told = verify(backup)
        restore(backup, scratch, known_migrations())
        differ, count = _compared(_comparedin(scratch), plans())
        proof = Proof(at, str(backup), told.pictures, tuple(missing), count, tuple(differ))
    except (BackupFailed, OSError, ValueError, subprocess.SubprocessError) as failed:
        proof = Proof(at, str(backup), missing=tuple(missing), failed=str(failed)[:1000] or type(failed).__name__)
    finally:
        shutil.rmtree(scratch, ignore_errors=True)
    _keep(proof, data)
    return proof


def _comparedin(folder):
    """`plans` of a house in another folder, made by a process of its own."""
    done = subprocess.run(
        [sys.executable, "manage.py", "backup", "--plans", str(folder)],
        cwd=settings.BASE_DIR,
        env={**os.environ, "DIMGREY_DATA": str(folder)},
        capture_output=True,
        text=True,
        timeout=MINUTES * 60,
        check=False,
    )
    if done.returncode:
        raise BackupFailed(f"The restored house does not plan: {done.stderr.strip().splitlines()[-1:]}")
    return json.loads(done.stdout)


def _compared(there, here):
    """(titles of scenes whose plan differs, how many were compared). What was changed since the backup is no difference."""
    here = json.loads(json.dumps(here))
    same = [uid for uid, (stamp, _, _) in there.items() if uid in here and here[uid][0] == stamp]
    return [here[uid][1] for uid in same if there[uid][2] != here[uid][2]], len(same)


def _keep(proof, data):
    growing = data / f".{TOLD}"
    growing.write_text(json.dumps(whole_part(proof)), encoding="utf-8")
    flush(growing)
    growing.replace(data / TOLD)


def last_proof(data):
    """The Proof that lies beside the data, None where none does or nobody can read it."""
    try:
        return checked_part(Proof, json.loads((Path(data) / TOLD).read_text(encoding="utf-8")), TOLD, lenient=True)
    except (OSError, ValueError, CoreError):
        return None
