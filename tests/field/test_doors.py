"""One law over all doors: an act does the same by the desk's form, by the address for programs, and on the phone, and is refused alike."""

import base64
import json
import math
import uuid

import numpy as np
from django.http import QueryDict
from django.utils import timezone

from dimgrey.core.acts.case import Elsewhere
from dimgrey.core.acts.verb import verb_named, verb_names
from dimgrey.core.colour import chainterms
from dimgrey.core.document.plainform import plain
from dimgrey.core.document.setupfile import setup_from
from dimgrey.core.field import entry
from dimgrey.core.picture import lightmap
from dimgrey.field.bundle import kit_of, scene_of
from dimgrey.kit.actions import import_items
from dimgrey.kit.setups import import_setup
from dimgrey.outings.actions import create_outing
from dimgrey.scenes import act_views, lifecycle
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from dimgrey.site.config import ROOT
from tests import hand
from tests.core.acts.madeup import seeded, values_for
from tests.documents import document
from tests.helpers import AsItRuns, PageTest, scene_with_picture, stepped_light
from tests.share import count_of, many

ACTS = count_of(7)
"""Made-up acts of each verb on each scene."""
TITLES = ("Film", "Raw", "Lamps")
"""Of the scenes, in their order."""
MOST_ACTS = 60
"""Of a verb of which none was kept so far."""
AT_THE_DESK = frozenset({"place", "frame_stops"})
"""What a phone does not carry: acts that need it are refused there with the sentence that says so."""
IN_ORDER = frozenset({"undo", "redo", "strike-out"})
"""Verbs that depend on what was done before; `History` compares those."""
TONES = [
    {
        "name": "coal",
        "mark": "A",
        "role": "shadow",
        "lit": "unlit",
        "readings": [{"ev100": 8, "calibration_stops": 0}],
        "colour": [0.05, 0.05, 0.05],
    },
    {"name": "sky", "mark": "B", "role": "sky", "ev100": 13, "colour": [0.1, 0.2, 0.5]},
    {"name": "lime wall", "mark": "C", "role": "highlight", "lit": "lit", "ev100": 15, "colour": [0.6, 0.5, 0.3]},
]


def alike(here, there):
    """Whether two documents say the same, numbers from a picture's light within what the phone's map rounds off."""
    if isinstance(here, float | int) and isinstance(there, float | int) and not isinstance(here, bool):
        return math.isclose(here, there, rel_tol=0.03, abs_tol=0.02)
    if isinstance(here, dict) and isinstance(there, dict):
        return set(here) == set(there) and all(alike(here[key], there[key]) for key in here)
    if isinstance(here, list) and isinstance(there, list):
        return len(here) == len(there) and all(map(alike, here, there))
    return here == there


SCOPE = {
    **dict.fromkeys(("add-tone", "estimate", "move-pin", "pin", "pin-area", "read", "shift", "take-guess", "take-place", "unread", "wish", "lit"), {"tones"}),
    **dict.fromkeys(("colour-choice", "edge", "filter", "kit-filter", "turn"), {"filters"}),
    **dict.fromkeys(("lamp-add", "lamp-drop", "lamp-move", "lamp-set", "lamps-again", "lamps-keep", "light-begin", "light-bind", "light-expose", "light-pattern", "light-solve", "light-subject", "light-usual", "light-wish", "light-wish-drop"), {"lighting"}),
    **dict.fromkeys(("strike", "refuse", "ask-again"), {"wanted"}),
    **dict.fromkeys(("place", "unplace"), {"placing"}),
    **dict.fromkeys(("pair", "unpair"), {"pairs"}),
    "bend": {"medium"}, "develop": {"medium"}, "bracket": {"bracket"}, "setting": {"camera"}, "crop": {"crop"}, "level": {"view"}, "needs": {"needs"},
    "order": {"orders"}, "sky": {"sky"}, "log": set(), "school": {"placing", "tones"}, "intent": {"intent", "title", "wanted"},
    # A tone that goes takes what named it along; a new name is named everywhere.
    "tone": {"tones", "placing", "orders", "pairs", "lighting"}, "drop-tone": {"tones", "placing", "orders", "pairs", "lighting"},
    "take-wishes": {"tones", "orders", "pairs"}, "drop-wishes": {"tones", "orders"},
    # The form of light and means, and what a thing of the kit says of itself.
    "camera": {"increment", "lens", "light", "light_note", "medium", "meter"}, "kit": {"camera", "kit", "lens", "medium", "meter"},
    "setup": {"kit", "notes", "setup", "medium"}, "view": {"view", "wanted"},
    # A proposal says itself what it changes; `core.judging` holds each to it.
    "take": {"camera", "filters", "medium"}, "take-proposal": {"bracket", "filters", "medium", "placing", "setup", "tones", "wanted"},
}  # fmt: skip
"""Verb -> the parts of a scene that it may change: what is chosen elsewhere stays."""


def touched(before, after):
    """The parts in which two documents, as plain values, differ."""
    return {key for key in before.keys() | after.keys() if before.get(key) != after.get(key)}


class Doors(AsItRuns, PageTest):
    """Three scenes with all that acts ask for: a kit, setups, a picture, a place and a day."""

    def setUp(self):
        super().setUp()
        self.addCleanup(chainterms.drop)
        import_items(self.person, (ROOT / "demo/kit.json").read_text(encoding="utf-8"))
        for each in json.loads((ROOT / "demo/setups.json").read_text(encoding="utf-8")):
            import_setup(self.person, setup_from(each))
        self.outing = create_outing(
            self.person, "Yard", date="2026-09-01", latitude_deg=51.4, longitude_deg=-5.2, zone="UTC"
        )
        view = {"heading_deg": 120, "time": "12:00"}
        wanted = {"dark": "coal", "light": "lime wall"}
        film = document(title="Film", medium={"kind": "film", "iso": 100}, tones=TONES, view=view, wanted=wanted)
        raw = document(title="Raw", medium={"kind": "digital raw", "iso": 100}, tones=TONES, view=view,
                       placing={"school": "highlight", "tone": "lime wall"}, filters=[{"name": "polarizer"}, {"name": "graduated", "stops": 2, "edge": 0.4}])  # fmt: skip
        lit = document(title="Lamps", medium={"kind": "film", "iso": 100}, tones=TONES, view=view)
        self.scenes = [scene_with_picture(self.person, each, stepped_light(), each.title) for each in (film, raw)]
        self.scenes.append(lifecycle.create_scene(self.person, lit, self.outing))
        Scene.objects.all().update(outing=self.outing)
        for verb, said in (
            ("light-begin", {}),
            ("lamps-keep", {"name": "Kiln"}),
            ("light-wish", {"place": "cheek right", "zone": "VI"}),
        ):
            hand.do(self.fresh(self.scenes[2]), None, verb, **said)

    def fresh(self, scene):
        return Scene.objects.select_related("picture", "outing", "head").get(pk=scene.pk)

    def start(self, scene):
        """The scene as the phone takes it along, and its state to go back to."""
        scene = self.fresh(scene)
        situation = Situation(scene)
        entry.lay_in(json.dumps(kit_of(self.person, [situation])))
        entry.open_scene("1", json.dumps(scene_of(situation), default=str))
        return scene

    def back(self, scene):
        """Every door meets the scene as it was."""
        Scene.objects.filter(pk=scene.pk).update(kept=scene.kept, head=scene.head, stamp=scene.stamp, title=scene.title)
        return self.fresh(scene)

    def spot(self, values):
        """What a phone sends beside a pin: a piece of its light map, of the band that the place lies in."""
        x = float(values["x"]) if isinstance(values.get("x"), float | int) and 0 <= values["x"] <= 1 else 0.5
        band = min(int(x * 11), 10)
        grey = lightmap.unpacked(lightmap.packed(np.full((3, 8, 8), 0.18 * 2.0 ** (band - 5), np.float32)))
        codes = base64.b64encode(np.moveaxis(grey, 0, -1).tobytes()).decode()
        return {"codes": codes, "width": 8, "column": 4, "row": 4, "radius": 2}

    def by_form(self, scene, act):
        """(document or None, sentence) by the desk's form."""
        data = QueryDict(mutable=True)
        for name, value in act.items():
            if isinstance(value, list):
                data.setlist(name, value)
            elif value is not False and name != "verb":
                data[name] = "on" if value is True else str(value)
        after, problem, _ = act_views._posted(scene, verb_named(act["verb"]), data)
        return (plain(after.document), "") if problem is None else (None, problem.message)

    def by_address(self, scene, act):
        """The same by the address for programs."""
        answer = self.client.post(f"/scenes/{scene.pk}/do", json.dumps([act]), content_type="application/json")
        (told,) = answer.json()["acts"]
        kept = told["state"] == "kept"
        return (plain(self.fresh(scene).document), "") if kept else (None, told["sentence"])

    def on_the_phone(self, act):
        """The same on the phone."""
        spot = {"spot": self.spot(act)} if "meter" in verb_named(act["verb"]).needs else {}
        answer = json.loads(entry.told("1", json.dumps({"acts": [{**act, **spot}]})))
        sentence = answer["refused"].get(act["act"], "")
        return (None, sentence) if sentence else (answer["document"], "")


class Alike(Doors):
    maxDiff = None

    @many
    def test_every_verb_does_the_same_by_every_door(self):
        """A verb that no made-up act of its keys brings through every door fails here by itself: widen `madeup`."""
        kept, elsewhere = set(), set()
        for scene in self.scenes:
            scene = self.start(scene)
            for name in verb_names():
                if name not in IN_ORDER:
                    self.compare(scene, name, kept, elsewhere, range(ACTS))
            for name in set(verb_names()) - kept - elsewhere - IN_ORDER:
                self.compare(scene, name, kept, elsewhere, range(ACTS, MOST_ACTS))
        needing = {name for name in verb_names() if AT_THE_DESK & set(verb_named(name).needs)}
        # The phone's map has no area, and the whole frame is metered from the picture itself.
        self.assertLessEqual(elsewhere, needing | {"pin-area", "school"})
        self.assertEqual(set(verb_names()) - kept - elsewhere - IN_ORDER, set(), "compared by no act that was kept")

    def compare(self, scene, name, kept, elsewhere, numbers):
        verb, rng = verb_named(name), seeded("doors", scene.title, name)
        for k in numbers:
            if k >= ACTS and name in kept:
                break
            # Of the first acts of all verbs those on two scenes are meant to be kept, those on the third to be refused.
            values = values_for(verb, scene.document, rng, good=(k + 1 + TITLES.index(scene.title)) % 3 > 0)
            at = timezone.now().replace(microsecond=0).isoformat()
            act = {"verb": name, "act": str(uuid.UUID(int=rng.getrandbits(128), version=4)), "at": at, **values}
            by_form = self.by_form(self.back(scene), act)
            by_address = self.by_address(self.back(scene), {**act, "act": str(uuid.uuid4())})
            phone = self.on_the_phone(act)
            with self.subTest(name, values=values, scene=scene.title, number=k):
                self.assertEqual(by_form, by_address)
                if phone[1].endswith("which only the desk has. Do it there."):
                    elsewhere.add(name)
                    continue
                self.assertEqual(phone[1], by_form[1])
                self.assertTrue(alike(phone[0], by_form[0]), f"{phone[0]}\n{by_form[0]}")
                if by_form[0] is not None:
                    self.assertLessEqual(touched(plain(scene.document), by_form[0]), SCOPE[name])
            if by_form[0] is not None:
                kept.add(name)
        self.back(scene)


class History(Doors):
    def test_steps_back_and_forward_lead_to_the_same_document_at_the_desk_and_on_the_phone(self):
        """A made-up day of acts, undone, struck out and done again at random, also past where the phone took the scene along."""
        scene = self.fresh(self.scenes[0])
        for verb, values in (("shift", {"stops": "-1/3"}), ("wish", {"mark": "A", "wish": "II"}), ("level", {})):
            scene = hand.do(scene, None, verb, **values)
        scene = hand.undo(scene, None)
        scene, rng, acts = self.start(scene), seeded("history"), []
        day = (
            ("shift", {"stops": "1/3"}),
            ("place", {"mark": "A", "zone": "3"}),
            ("add-tone", {"name": "", "reading": "9"}),
            ("strike-out", {}),
            ("strike-out", {}),
        )
        for k in range(40):
            verb, values = rng.choice((*day, ("undo", {}), ("undo", {}), ("redo", {})))
            if verb == "strike-out":
                values = {"line": rng.choice([act["act"] for act in acts] or [str(scene.head_id)])}
            made = {"verb": verb, "act": str(uuid.UUID(int=rng.getrandbits(128), version=4)), **values}
            acts.append({**made, "at": timezone.now().replace(microsecond=0).isoformat()})
            answer = json.loads(entry.told("1", json.dumps({"acts": acts})))
            there, sentence = self.by_address(self.fresh(scene), acts[-1])
            with self.subTest(k, verb=verb):
                refused = answer["refused"].get(acts[-1]["act"], "")
                if refused != str(Elsewhere("the scene's history")):
                    self.assertEqual(refused, sentence)
                    self.assertEqual(answer["document"], plain(self.fresh(scene).document) if sentence else there)
                else:
                    acts.pop()
