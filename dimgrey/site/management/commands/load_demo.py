"""Load the made-up outing "Tannet Yard" for the local person, once; with --again a fresh one, beside what was made of the old."""

import json
from dataclasses import dataclass
from datetime import date

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from dimgrey.core.document import edits
from dimgrey.core.document.means import LensPart
from dimgrey.core.document.model import SCENE, PlacingPart
from dimgrey.core.document.plainform import document_of
from dimgrey.core.document.setupfile import setup_from
from dimgrey.core.measure.sidecar import Sidecar
from dimgrey.core.shapes.declare import Shaped, exactly, key, many, maybe, needed, number, text
from dimgrey.core.shapes.plain import read_part
from dimgrey.core.sky.terrain import parse_terrain
from dimgrey.kit.actions import import_items
from dimgrey.kit.models import KeptSetup
from dimgrey.kit.setups import import_setup
from dimgrey.outings.actions import change_outing, create_outing
from dimgrey.outings.models import Outing
from dimgrey.people.actions import local_person
from dimgrey.pictures.actions import keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes import actions, lifecycle
from dimgrey.site.config import ROOT

DEMO = ROOT / "demo"
OBJECT = {"type": "object"}


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument(
            "--again", action="store_true", help="put the demo back; the old outing stays under another title"
        )

    def handle(self, *args, **options):
        person = local_person()
        plan = _read(DemoOuting, DEMO / "outing.json")
        old = Outing.objects.owned_by(person).filter(title=plan.title)
        if old and not options["again"]:
            self.stdout.write("The demo outing is there already. “load_demo --again” puts a fresh one beside it.")
            return
        for outing in old:
            change_outing(outing, title=f"{plan.title}, until {timezone.localdate():%-d %B %Y}")
        load_outing(person, plan, timezone.now().date())
        self.stdout.write(f"Loaded {len(plan.scenes)} scenes of “{plan.title}”.")


@dataclass(frozen=True)
class DemoTone(Shaped):
    """px: where it lies in the picture, in pixels."""

    name: str = needed(text(60))
    role: str = needed(text(20))
    px: tuple = needed(exactly(2, number()))
    texture: str | None = key(text(10))


@dataclass(frozen=True)
class DemoScene(Shaped):
    """picture: name of its files. scene: of a scene file. tones: that the meter reads."""

    picture: str = needed(text(60))
    scene: dict = needed(OBJECT)
    tones: tuple = many(DemoTone, 40)
    placing: PlacingPart | None = maybe(PlacingPart)


@dataclass(frozen=True)
class DemoPlace(Shaped):
    name: str = needed(text(120))
    latitude_deg: float = needed(number())
    longitude_deg: float = needed(number())
    zone: str = needed(text(60))
    terrain: str = needed(text(400))


@dataclass(frozen=True)
class DemoOuting(Shaped):
    """month_day: of its day, the next one."""

    title: str = needed(text(120))
    intent: str = needed(text(0))
    bring: str = needed(text(0))
    notes: str = needed(text(0))
    month_day: tuple = needed(exactly(2, number()))
    place: DemoPlace | None = maybe(DemoPlace)
    scenes: tuple = many(DemoScene, 40)


def _read(of, path):
    return read_part(of, json.loads(path.read_text(encoding="utf-8")))


@transaction.atomic
def load_outing(person, plan, today):
    """The outing with its scenes: every tone is read by the simulated meter, so that the numbers are measured.

    Its day is the next one with the plan's month and day, because the pictures' sun belongs to that season.
    """
    place = plan.place
    day = date(today.year, *plan.month_day)
    outing = create_outing(
        person,
        plan.title,
        notes=plan.notes,
        intent=plan.intent,
        bring=plan.bring,
        date=day if day >= today else day.replace(year=today.year + 1),
        place_name=place.name,
        latitude_deg=place.latitude_deg,
        longitude_deg=place.longitude_deg,
        zone=place.zone,
        forecast=True,
        terrain=[list(point) for point in parse_terrain(place.terrain)],
    )
    import_items(person, (DEMO / "kit.json").read_text(encoding="utf-8"))
    known = set(KeptSetup.objects.owned_by(person).values_list("name", flat=True))
    for made in map(setup_from, json.loads((DEMO / "setups.json").read_text(encoding="utf-8"))):
        if made.name not in known:
            import_setup(person, made)
    return [_load_scene(person, outing, entry) for entry in plan.scenes]


def _load_scene(person, outing, entry):
    name = entry.picture
    data = (DEMO / "linear" / f"{name}.exr").read_bytes()
    snapshot = (DEMO / "snapshots" / f"{name}.jpg").read_bytes()
    meta = _read(Sidecar, DEMO / "meta" / f"{name}.json")
    document = document_of({"format": SCENE.format, "version": SCENE.version, **entry.scene})
    document = document.with_(lens=LensPart(focal_35mm=meta.camera.focal_length_35mm))
    with keeping():
        scene = lifecycle.create_scene(person, document, outing, "demo scene")
        decoded = read_picture(data, f"{name}.exr")
        lifecycle.attach_picture(scene, decoded, data, f"{name}.exr", snapshot=snapshot, simulated_light=True)
    width, height = meta.size
    for tone in entry.tones:
        scene = actions.do(scene, None, "pin", x=tone.px[0] / width, y=tone.px[1] / height)
        texture = tone.texture or ("free" if tone.role == "other" else "needed")
        mark = scene.document.tones[-1].mark
        scene = actions.change(
            scene,
            None,
            f"describe {mark}",
            lambda document, mark=mark, tone=tone, texture=texture: edits.taken(
                edits.described(document, mark, name=tone.name, role=tone.role, texture=texture), mark
            ),
        )
    if placing := entry.placing:
        scene = actions.change(scene, None, "placing", lambda document: document.with_(placing=placing))
    return scene
