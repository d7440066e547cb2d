"""Made the files beside this one with the program as it was at commit c7748e7, before acts and shapes were declared once.

They show that what people have kept still opens and says what it said: `database.sql` with its pictures, `archive.zip`, `phone.json`
(an outing as a phone carries it), `plans.json.gz` (scene files with all that their plans say), `acts.json.gz` (every verb on made-up
scenes: what was sent, what became of it, the document after it) and `pages.json.gz` (the words of every page of that database).
Not run again; kept to say where they come from.

Use, in a checkout of that commit with this file in it:
DIMGREY_DATA=$(mktemp -d) .venv/bin/python -m tests.reference.version6.make OUTPUT_FOLDER
"""

import gzip
import json
import os
import random
import shutil
import sqlite3
import sys
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

os.environ["DJANGO_SETTINGS_MODULE"] = "tests.reference.version6.settings"
NOW = datetime(2026, 9, 1, 12, tzinfo=UTC)


def main(out):
    import django

    django.setup()
    from django.core.management import call_command

    with mock.patch("django.utils.timezone.now", return_value=NOW):
        call_command("migrate", verbosity=0)
        plans(out)
        acts(out)
        filled()
        database(out)
        pages(out)
        carried(out)


def packed(path, value):
    data = json.dumps(value, ensure_ascii=False, sort_keys=True, default=str).encode()
    path.write_bytes(gzip.compress(data, mtime=0))


def plans(out):
    """Scene files, what their plans say, and what a field sheet shows of them."""
    from dimgrey.core.field.acts import Carried

    from dimgrey.core.document.plainform import document_of, plain
    from dimgrey.core.field.sheet import sheet
    from tests.reference.planned import planned
    from tests.reference.random_scenes import random_scene

    kept = []
    for seed in range(150):
        file = random_scene(random.Random(9100 + seed))
        document = document_of(file)
        kept.append({"file": file, "kept": plain(document), "plan": planned(file), "sheet": sheet(document, Carried())})
    packed(out / "plans.json.gz", kept)


def scenes():
    """Made-up scenes that acts are tried on: film, raw and a file with a picture, film without one, one with lamps."""
    import numpy as np

    from dimgrey.core.document.setupfile import setup_from
    from dimgrey.kit.actions import import_items
    from dimgrey.kit.setups import import_setup
    from dimgrey.outings.actions import create_outing
    from dimgrey.people.actions import local_person
    from dimgrey.scenes import lifecycle
    from dimgrey.scenes.models import Scene
    from tests.documents import document
    from tests.helpers import scene_with_picture

    person = local_person()
    import_items(person, Path("demo/kit.json").read_text(encoding="utf-8"))
    for each in json.loads(Path("demo/setups.json").read_text(encoding="utf-8")):
        import_setup(person, setup_from(each))
    outing = create_outing(person, "Yard in September", date=datetime(2026, 9, 1).date(), place_name="Tannet Yard (made up)",
                           latitude_deg=51.4, longitude_deg=-5.2, zone="Europe/Lisbon")  # fmt: skip
    stops = np.repeat(np.arange(-5, 6), 10)
    light = np.repeat((0.18 * 2.0**stops)[None, :, None], 60, axis=0) * np.ones(3)
    light[:20] *= (0.5, 0.8, 1.9)
    light[40:] *= (1.6, 0.9, 0.3)
    light = light.astype(np.float32)
    colours = {"A": [0.2, 0.2, 0.2], "B": [0.05, 0.11, 0.3], "C": [0.4, 0.12, 0.05]}
    tones = [{"name": name, "mark": mark, "role": role, "ev100": ev, "colour": colours[mark]}
             for mark, name, role, ev in (("A", "coal", "shadow", 8), ("B", "sky", "sky", 13), ("C", "lime wall", "highlight", 14))]  # fmt: skip
    wanted = {"dark": "coal", "light": "lime wall"}
    made = {
        "film": document(title="On film", medium={"kind": "film", "iso": 100}, tones=tones, wanted=wanted,
                         view={"heading_deg": 120, "time": "16:40", "sky": True}),
        "raw": document(title="On raw", medium={"kind": "digital raw", "iso": 100}, tones=tones, wanted=wanted),
        "file": document(title="On a file", medium={"kind": "digital file", "iso": 200}, tones=tones[:2]),
        "bare": document(title="Bare", medium={"kind": "slide", "iso": 50}),
        "lamps": document(title="By lamps", medium={"kind": "film", "iso": 100}, tones=tones),
    }  # fmt: skip
    found = {}
    for name, written in made.items():
        if name in ("bare", "lamps"):
            scene = lifecycle.create_scene(person, written, outing)
        else:
            scene = scene_with_picture(person, written, light, name)
            Scene.objects.filter(pk=scene.pk).update(outing=outing)
        found[name] = Scene.objects.select_related("picture", "outing").get(pk=scene.pk)
    return person, found


GLASS = ("orange", "yellow", "red", "green", "none", "pink")


def made_up(rng, setups):
    """A made-up act: its verb and what a page or a phone would send."""
    mark = lambda: rng.choice("AABBCDEZ")
    reading = lambda: rng.choice(
        ("9", "8⅓", "12 1/3", "1/125 f/8", "f/8 1/60", "EV 13.5", "", "soon", "1/125", "55", "14", "10", "11.5")
    )
    stops = lambda: rng.choice(("1", "-1/3", "2⅔", "0", "-0.5", "40", "x", "1/3"))
    on = lambda: rng.choice(("on", ""))
    tone = lambda: rng.choice(("coal", "sky", "lime wall", "ivy", "cloud"))
    verbs = {
        "pin": lambda: {"x": rng.choice((0.1, 0.45, 0.77, 1.5)), "y": rng.choice((0.1, 0.5, 0.9))},
        "pin-area": lambda: {"outline": rng.choice(("0.1,0.1 0.4,0.1 0.4,0.6", "0.1,0.1", "", "0.5,0.5 0.9,0.5 0.9,0.9 0.5,0.9"))},
        "move-pin": lambda: {"mark": mark(), "x": rng.choice((0.2, 0.6, 0.95, -1)), "y": rng.choice((0.2, 0.5))},
        "add-tone": lambda: {"name": rng.choice(("ivy", "cloud", "coal", "", "white wall")), "reading": reading()},
        "estimate": lambda: {"name": rng.choice(("", "guess", "cloud")), "light": rng.choice(("sun", "open shade", "soup", "moon", "heavy overcast"))},
        "read": lambda: {"mark": mark(), "reading": reading(), "kind": rng.choice(("", "spot", "incident", "grey card", "picture")),
                         "through": on(), "replace": on(), "others": rng.choice(("", "", "on")), "sure": on()},
        "wish": lambda: {"mark": mark(), "wish": rng.choice(("II-III", "at most I", "", "VII", "XX", "V½-VI½"))},
        "unread": lambda: {"mark": mark(), "index": rng.choice((0, 1, 7, "x"))},
        "tone": lambda: {"mark": mark(), "name": rng.choice(("ivy", "coal", "cloud", "", "lime")), "role": rng.choice(("", "sky", "skin", "soup", "other")),
                         "texture": rng.choice(("", "needed", "free")), "lit": rng.choice(("", "lit", "unlit")), "glare": rng.choice(("", "1", "3"))},
        "take-guess": lambda: {"mark": rng.choice(("", "A", "D", "Z"))},
        "drop-tone": lambda: {"mark": mark()},
        "shift": lambda: {"stops": stops(), "only": rng.choice(("", "", "lit", "unlit", "soup"))},
        "school": lambda: {"school": rng.choice(("shadow", "highlight", "silhouette", "known tone", "midpoint", "incident", "whole frame", "soup")),
                           "hold": rng.choice(("", "usual", "before filter", "after filter", "in the print")), "white": rng.choice(("", "pure", "textured")),
                           "shadows": rng.choice(("", "full", "empty")), "under": rng.choice(("", "0", "0.3333", "2", "2 lifted"))},
        "place": lambda: {"mark": mark(), **rng.choice(({"zone": "3"}, {"zone": "VII⅓"}, {"print": "5.25"}, {}, {"zone": "14"}, {"zone": "", "print": "7"}))},
        "unplace": dict,
        "pair": lambda: {"a": tone(), "b": tone()},
        "unpair": dict,
        "order": lambda: {"lighter": tone(), "darker": tone(), "zones": rng.choice(("2", "1½", "0", "11", "x"))},
        "take-wishes": dict,
        "drop-wishes": dict,
        "intent": lambda: {"title": rng.choice(("Kiln", "", "Yard")), "intent": "Coal must stay dark.", "mood": "calm", "subject": "lime wall",
                           "dark": "coal", "light": "", "textured": "", "empty": "", "scale": rng.choice(("", "graphic", "soup"))},
        "bracket": lambda: {"count": rng.choice(("", "3", "5", "4")), "step": rng.choice(("", "1", "1/3", "3", "⅔")), "order": rng.choice(("", "0 - +", "- 0 +", "soup"))},
        "crop": lambda: {"ratio": rng.choice(("whole", "1:1", "3:2", "free", "9:9")), "upright": on(), "guides": rng.choice(("", "none", "thirds")),
                         **rng.choice(({}, {}, {"left": 0.1, "top": 0.1, "right": 0.8, "bottom": 0.9}, {"left": 0.9, "top": 0, "right": 0.1, "bottom": 1}))},
        "setting": lambda: {"lead": rng.choice(("aperture", "shutter", "soup")), "value": rng.choice(("f/8", "1/60", "f/11", "", "2s", "30", "f/zz"))},
        "filter": lambda: {"filter": rng.choice(("", "orange", "red", "pink")), "factor": rng.choice(("", "4", "0")), "nd": rng.choice(("", "3", "0.9", "30")),
                           "polarizer": on(), "graduated": rng.choice(("", "1", "2", "9")), "edge": rng.choice(("", "40", "120"))},
        "kit-filter": lambda: {"filter": rng.choice(("Red, rim 8x", "Grey 10 stops", "pink", ""))},
        "turn": lambda: {"turned": rng.choice(("0", "20", "90", ""))},
        "edge": lambda: {"edge": rng.choice(("0.4", "0.61234", "2", ""))},
        "bend": lambda: {"tone": tone(), "stops": stops(), "follow": on()},
        "level": dict,
        "colour-choice": lambda: {"choice": rng.choice(GLASS)},
        "sky": lambda: {"area": rng.choice(("found", "none", "drawn", "soup")), "outline": rng.choice(("", "0,0 1,0 1,0.4", "x"))},
        "view": lambda: {"heading": rng.choice(("", "120", "NE", "400")), "tilt": rng.choice(("", "10", "100")), "time": rng.choice(("", "16:40", "25:00")),
                         "sky": on(), "lights": rng.choice(("low", "side", "soup"))},
        "take-place": dict,
        "develop": lambda: {"developed": rng.choice(("", "-1", "0", "2", "7"))},
        "kit": lambda: {"camera": rng.choice(("", "", "Mirrorless 24", "none such")), "lens": rng.choice(("", "24-70 zoom")),
                        "film": rng.choice(("", "", "Sheet film 125")), "meter": rng.choice(("", "Old meter"))},
        "camera": lambda: {"kind": rng.choice(("film", "slide", "digital raw", "digital file", "soup")), "iso": rng.choice(("100", "400", "", "x", "125")),
                           "increment": rng.choice(("third", "half", "full")), "light": rng.choice(("D55", "D65", "A")), "light_note": "sun",
                           "own_iso": rng.choice(("", "", "100", "x")), "response": rng.choice(("", "general panchromatic", "orthochromatic", "soup")),
                           "channel_mix": rng.choice(("none", "red", "blue")), "focal_35mm": rng.choice(("", "50", "3")), "spot_deg": rng.choice(("", "1", "5")),
                           "magnification": rng.choice(("", "0.5")), "calibration": rng.choice(("", "1/3", "5")), "reciprocity": rng.choice(("", "1.3", "9")),
                           "through_filter": on()},
        "needs": lambda: {"near": rng.choice(("", "2 m", "2")), "far": rng.choice(("", "infinity", "10 m", "1 m")), "motion": rng.choice(("", "freeze", "blur")),
                          "speed": rng.choice(("", "1.5")), "distance": rng.choice(("", "10 m", "x")), "support": rng.choice(("tripod", "hand", ""))},
        "take": lambda: {"aperture": rng.choice(("f/8", "f/11", "")), "iso": rng.choice(("100", "400", "x")), "nd": rng.choice(("", "3", "0", "30"))},
        "remedy": lambda: {"code": rng.choice(("graduated", "contrast", "bracket", "let-go", "soup"))},
        "setup": lambda: {"setup": rng.choice((*setups, 999)), "reason": rng.choice(("", "softer"))},
        "advice": lambda: {"code": rng.choice(("scale", "contrast", "filter", "parting", "soup"))},
        "log": lambda: {"shutter": rng.choice(("", "1/60", "soon")), "aperture": rng.choice(("", "f/8")), "iso": "", "note": "as made"},
        "undo": dict,
        "redo": dict,
        "light-begin": dict,
        "light-expose": dict,
        "lamp-set": lambda: {"index": rng.choice((0, 1, 9)), "name": rng.choice(("key", "edge", "")), "kind": rng.choice(("lasting", "flash", "window", "reflector")),
                             "angle_deg": rng.choice(("45", "-150", "500")), "away_m": "1.5", "height_m": "1.8", "width_m": "0.6", "face_m": "0.6",
                             "strength": rng.choice(("800", "40", "")), "stops": rng.choice(("0", "-1")), "grid_deg": "0", "is_on": on(),
                             "reading": rng.choice(("", "", "EV 9", "500 lx", "f/8", "soup"))},
        "lamp-move": lambda: {"index": rng.choice((0, 1, 9)), "angle_deg": rng.choice(("30", "120", "900")), "away_m": rng.choice(("1.2", "0")), "height_m": "1.9"},
        "lamp-add": dict,
        "lamp-drop": lambda: {"index": rng.choice((0, 1, 9))},
        "light-pattern": lambda: {"pattern": rng.choice(("loop", "butterfly", "split", "soup", "clamshell"))},
        "light-subject": lambda: {"subject": rng.choice(("sitter", "table")), "skin": "tan skin", "hair": "black hair", "clothes": "black cotton", "ground": "white paper",
                                  "ground_wish": "part", "ground_m": "1.5", "camera_m": "2", "ambient_lux": rng.choice(("", "0", "50")), "unit": "m"},
        "light-wish": lambda: {"place": rng.choice(("cheek right", "hair left", "ground left", "soup")), "zone": rng.choice(("VI", "5.5", "x")),
                               "over": rng.choice(("", "cheek right"))},
        "light-usual": dict,
        "light-wish-drop": lambda: {"place": rng.choice(("cheek right", "soup"))},
        "light-solve": dict,
        "lamps-keep": lambda: {"name": rng.choice(("soft", ""))},
        "lamps-again": lambda: {"name": rng.choice(("soft", "hard"))},
        "light-bind": lambda: {"tone": tone(), "place": rng.choice(("cheek right", "", "soup"))},
    }  # fmt: skip
    verb = rng.choice(list(verbs))
    return verb, verbs[verb]()


def acts(out, rounds=14, length=60):
    """Made-up acts through the JSON address, and what each made of its scene's document."""
    from django.test import Client

    from dimgrey.kit.queries import setups_of
    from dimgrey.scenes.models import Scene

    person, found = scenes()
    setups = [row.pk for row in setups_of(person)]
    client = Client(raise_request_exception=False, REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
    kept = {"setups": setups, "scenes": {}}
    for name, scene in found.items():
        rng, rows = random.Random(f"acts {name}"), []
        for _ in range(rounds):
            start = Scene.objects.get(pk=scene.pk).kept
            rows.append({"start": start})
            for _ in range(length):
                verb, values = made_up(rng, setups)
                if verb.startswith(("lamp", "light")) and name != "lamps":
                    continue
                at = (NOW - timedelta(minutes=len(rows) % 500)).isoformat()
                act = {"verb": verb, "act": str(uuid.UUID(int=rng.getrandbits(128))), "at": at, **values}
                answer = client.post(f"/scenes/{scene.pk}/do", json.dumps([act]), content_type="application/json")
                answer = answer.json()["acts"][0] if answer.status_code == 200 else {"state": "crashed"}
                row = {"sent": act, "state": answer["state"], "sentence": answer.get("sentence", "")}
                now = Scene.objects.get(pk=scene.pk).kept
                if now != start:
                    row["document"] = now
                rows.append(row)
                start = now
        kept["scenes"][name] = rows
    states = {}
    for rows in kept["scenes"].values():
        for row in rows:
            if "sent" in row:
                states.setdefault(row["sent"]["verb"], []).append(row["state"][0])
    for verb, told in sorted(states.items()):
        print(verb, "".join(told)[:80])
    packed(out / "acts.json.gz", kept)
    Scene.objects.all().delete()


def filled():
    """A person with something of everything, as the tests of archives make it."""
    from django.test import Client

    from tests.safekeeping.archive import test_afterwards, test_archive

    made = test_afterwards.Afterwards("test_a_round_trip_after_everything_is_lost")
    made.client = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
    made.client.defaults = {"REMOTE_ADDR": "127.0.0.1", "HTTP_HOST": "127.0.0.1"}
    from tests.results import test_results

    light = test_results.yard_light()[::3, ::3].copy()
    random.seed(6)
    with (
        mock.patch.object(test_results, "yard_light", return_value=light),
        mock.patch.object(test_afterwards, "yard_light", return_value=light),
    ):
        made.setUp()
    from dimgrey.kit.models import Item
    from dimgrey.outings.models import Outing
    from dimgrey.people.actions import local_person
    from dimgrey.scenes.models import Scene

    test_archive.filled(local_person())
    Scene.objects.filter(outing=None).update(outing=Outing.objects.get(title="Tannet Yard"))
    print(Scene.objects.count(), "scenes", Item.objects.count(), "items")


def database(out):
    from django.conf import settings

    base = sqlite3.connect(settings.DATABASES["default"]["NAME"])
    skipped = ("django_session", "auth_permission", "django_content_type")
    lines = [line for line in base.iterdump() if not any(f'INSERT INTO "{name}"' in line for name in skipped)]
    packed_text = gzip.compress(("\n".join(lines) + "\n").encode(), mtime=0)
    (out / "database.sql.gz").write_bytes(packed_text)
    shutil.copytree(Path(settings.DIMGREY_DATA) / "pictures", out / "pictures", dirs_exist_ok=True)
    from dimgrey.people.actions import local_person
    from dimgrey.safekeeping.archive.writing import pieces

    (out / "archive.zip").write_bytes(b"".join(pieces(local_person())))


def pages(out):
    from tests.reference.version6.words import visited

    packed(out / "pages.json.gz", visited())


def carried(out):
    from django.test import Client

    from dimgrey.outings.models import Outing

    client = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
    outing = Outing.objects.get(title="Tannet Yard")
    packed(out / "phone.json.gz", client.get(f"/field/outings/{outing.pk}.json").json())


if __name__ == "__main__":
    main(Path(sys.argv[1]))
