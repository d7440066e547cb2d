"""Made the files beside this one with the program as it was at commit 78ff3c8, before scene files had a version 2.

They show that what people have kept still opens: `database.sql` (with the pictures' folders in `pictures/`), scene files
and their plans, a kit file, a setup file and a log. Not run again; kept to say where they come from.

Use, in a checkout of that commit: DIMGREY_DATA=$(mktemp -d) python make.py OUTPUT_FOLDER
"""

import json
import os
import random
import shutil
import sqlite3
import sys
from datetime import UTC, datetime
from pathlib import Path

sys.path[:0] = [os.getcwd(), str(Path(__file__).resolve().parents[1])]
os.environ["DJANGO_SETTINGS_MODULE"] = "dimgrey.site.settings"
import django  # noqa: E402

django.setup()
from dimgrey.core.kit import export_text  # noqa: E402
from dimgrey.core.plan import plan, plan_as_json  # noqa: E402
from dimgrey.core.scenefile import scene_of  # noqa: E402
from dimgrey.secondlook.actions import add_picture, create_batch, decide  # noqa: E402
from django.conf import settings  # noqa: E402
from django.core.management import call_command  # noqa: E402
from random_scenes import random_scene  # noqa: E402

from dimgrey.frames.actions import frames_as_csv, log_frame, new_token  # noqa: E402
from dimgrey.frames.queries import frames_of  # noqa: E402
from dimgrey.kit import setups  # noqa: E402
from dimgrey.kit.actions import import_items  # noqa: E402
from dimgrey.kit.queries import items_of  # noqa: E402
from dimgrey.outings.actions import create_outing  # noqa: E402
from dimgrey.people.actions import local_person  # noqa: E402
from dimgrey.scenes import actions, making, meansactions  # noqa: E402


def small_jpeg():
    import io

    import numpy as np
    from PIL import Image

    ramp = np.linspace(20, 235, 96).astype(np.uint8)
    picture = np.stack([np.tile(ramp, (64, 1)), np.tile(ramp[::-1], (64, 1)), np.full((64, 96), 90, np.uint8)], axis=-1)
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "JPEG", quality=90)
    return out.getvalue()


def make(out):
    call_command("migrate", verbosity=0)
    person, demo = local_person(), Path("demo")
    import_items(person, (demo / "kit.json").read_text())
    for entry in json.loads((demo / "setups.json").read_text()):
        setups.import_setup(person, entry)
    outing = create_outing(
        person, "Yard in September", date=datetime(2026, 9, 1).date(), place_name="Tannet Yard (made up)",
        latitude_deg=51.4, longitude_deg=-5.2, zone="Europe/Lisbon",
    )  # fmt: skip
    scene = making.new_scene(person, "Ramp", outing, "digital file", small_jpeg(), "ramp.jpg")
    scene = actions.pin_tone(scene, None, 0.2, 0.5)
    scene = actions.pin_tone(scene, None, 0.8, 0.4)
    scene = actions.type_reading(scene, None, "A", {"ev100": 9.3333})
    scene = actions.type_reading(scene, None, "B", {"shutter": "1/125", "aperture": "f/11", "iso": "100"})
    scene = actions.describe_tone(scene, None, "A", name="kiln wall", role="highlight")
    scene = actions.place_tone(scene, None, "A", 7)
    scene = meansactions.use_setup(scene, None, setups.scene_part(setups.setups_of(person.pk).first()), "softer")
    scene = actions.shift_light(scene, None, -0.3333)
    scene = actions.undo(scene, None)
    log_frame(person, scene.pk, new_token(), note="as kept", exposed_at=datetime(2026, 9, 1, 10, tzinfo=UTC))
    plans = []
    for seed in range(120):
        document = random_scene(random.Random(seed))
        try:
            result = plan_as_json(plan(scene_of(document)))
        except ValueError:
            continue
        plans.append({"scene": document, "plan": result})
        if len(plans) % 12 == 0:
            marked = [{**tone, "mark": chr(65 + k)} for k, tone in enumerate(document["tones"])]
            made = making.import_scene(person, json.dumps({**document, "tones": marked}), outing)
            log_frame(person, made.pk, new_token(), exposed_at=datetime(2026, 9, 1, 11, len(plans) % 60, tzinfo=UTC))
    batch = create_batch(person, "Old ones")
    picture, _ = add_picture(batch, small_jpeg(), "old.jpg")
    decide(person, picture.pk, "keep", "light")
    add_picture(batch, b"not a picture", "broken.jpg")
    write(out, person, plans)


def write(out, person, plans):
    (out / "plans.json").write_text(json.dumps(plans[:60], separators=(",", ":")) + "\n")
    (out / "log.csv").write_text(frames_as_csv(frames_of(person)))
    items = [(item.kind, item.name, item.values, item.retired) for item in items_of(person)]
    (out / "kit.json").write_text(export_text(items))
    (out / "setup.json").write_text(json.dumps(setups.setups_of(person.pk).first().values, indent=1))
    base = sqlite3.connect(settings.DATABASES["default"]["NAME"])
    skipped = ("django_session", "auth_permission", "django_content_type")
    lines = [line for line in base.iterdump() if not any(f'INSERT INTO "{name}"' in line for name in skipped)]
    (out / "database.sql").write_text("\n".join(lines) + "\n")
    shutil.copytree(Path(settings.DIMGREY_DATA) / "pictures", out / "pictures", dirs_exist_ok=True)


if __name__ == "__main__":
    make(Path(sys.argv[1]))
