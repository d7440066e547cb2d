"""One truth: the grey of the rail at a tone's print is the grey of the picture under its pin, whatever it is taken with."""

import random
import re
from io import StringIO
from types import SimpleNamespace

import numpy as np
from django.core.management import call_command
from django.test import SimpleTestCase

from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance
from dimgrey.core.colour.greys import fine_gains
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.lightscale import Facts, rescaled, ring_radius
from dimgrey.core.document.model import Document
from dimgrey.core.document.plainform import document_of
from dimgrey.core.picture.display import display_table, grey_picture
from dimgrey.core.planning.placing import usual_hold
from dimgrey.core.planning.prints import curve_for, shown_lightness
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.pictures import store
from dimgrey.scenes.models import Scene
from dimgrey.scenes.rail import rail_of
from dimgrey.scenes.situation import Situation
from tests.helpers import PageTest, band, scene_with_light

NAMED = re.compile("(" + "|".join(school.name for school in SCHOOLS.values()) + "):")
LEVELS = 2
EVEN_STOPS = 1 / 3
"""A spot whose 10th and 90th percentile lie within this is one tone, so that its median is its mean."""
FILTERS = ("yellow", "orange", "red", "deep red", "green", "blue", "yellow-green", "light yellow")


def rail_grey(tone):
    """8-bit grey of the rail at a planned tone's print."""
    return int(grey8_of_lightness(shown_lightness(tone.printed - 5)))


def shown(rendering, linear, sky=None):
    """8-bit greys of linear colours, shape (n, 3), as the picture shows them. sky: how much they are sky, 0..1."""
    table = display_table(
        rendering.stops, rendering.slope, curve_for(rendering.kind), rendering.development, "grey", rendering.tone
    )
    light, places = light_and_places(np.asarray(linear, np.float32).T.copy())
    share = (
        None
        if sky is None
        else (np.full(light.size, round(255 * sky), np.uint8), fine_gains(rendering.chain, sky=True))
    )
    return grey_picture(light, places, fine_gains(rendering.chain), table, share)[0].astype(int)


def made_up(rng):
    """(a scene, the colours at its pins) of a document with everything that moves a grey."""
    kind = rng.choice(("film", "film", "slide", "digital raw", "digital file"))
    film = kind in ("film", "slide")
    count = rng.randint(2, 6)
    colours = [tuple(round(2.0 ** rng.uniform(-7, 0.5), 5) for _ in range(3)) for _ in range(count)]
    medium = {"kind": kind, "iso": rng.choice((100, 400))}
    if film:
        medium["response"] = rng.choice(("general panchromatic", "extended red", "monochrome sensor"))
    elif rng.random() < 0.5:
        medium["channel_mix"] = rng.choice(("yellow", "red", "green", "blue"))
    if kind == "film" and rng.random() < 0.4:
        medium["developed"] = rng.randint(-2, 2)
    if kind == "film" and rng.random() < 0.3:
        medium["own_iso"] = rng.choice((100, 200, 800))
    data = {
        "format": "dimgrey-scene", "version": 3, "light": rng.choice(("D55", "D65", "A")), "medium": medium,
        "tones": [
            {"name": f"t{k}", "mark": "ABCDEF"[k], "role": rng.choice(("shadow", "highlight", "subject", "background")),
             "texture": "needed", "colour": list(c), "at": [0.1 * k, 0.5],
             "readings": [{"kind": "picture", "stops": round(float(np.log2(luminance(c) / 0.18)), 4)}]}
            for k, c in enumerate(colours)
        ],
        "placing": {"school": rng.choice(("shadow", "highlight", "known tone", "midpoint", "silhouette"))},
    }  # fmt: skip
    placing = data["placing"]
    if placing["school"] in ("known tone", "silhouette"):
        placing |= {"tone": "t0", "zone": rng.choice((3, 4.5, 6, 7))}
    if rng.random() < 0.6:
        placing["hold"] = rng.choice(("before filter", "after filter", "in the print"))
    if rng.random() < 0.3:
        placing |= {"under_stops": rng.choice((0.3333, 2)), "lifted": rng.random() < 0.5}
    if film and rng.random() < 0.6:
        data["filters"] = [{"name": rng.choice(FILTERS)}]
    if kind == "digital file" and rng.random() < 0.7:
        effects = {name: round(rng.uniform(-1, 1), 2) for name in ("contrast", "highlights", "shadows")}
        data["setup"] = {"name": "made up", "effects": effects}
    facts = Facts(100, 100, middle_grey_ev100=rng.uniform(3, 15))
    document = rescaled(document_of(data), facts)
    scene = SimpleNamespace(
        document=document,
        brief=brief_of(document),
        facts=facts,
        picture=None,
        stamp=1,
        outing=None,
        polarized=lambda document: None,
        as_exposed=lambda document: document,
        rolls=(),
    )
    return scene, colours


class MadeUp(SimpleTestCase):
    def test_two_hundred_scenes(self):
        rng = random.Random(11)
        compared, kinds, holds = 0, set(), set()
        for k in range(200):
            scene, colours = made_up(rng)
            situation = Situation(scene)
            plan = situation.plan
            greys = dict(zip((t.name for t in scene.document.tones), shown(situation.rendering, colours), strict=True))
            for tone in plan.tones:
                if tone.print.beyond:  # marked < or >: the paper has no such grey, a screen may have
                    continue
                compared += 1
                with self.subTest(k, tone=tone.name):
                    self.assertLessEqual(abs(int(greys[tone.name]) - rail_grey(tone)), LEVELS)
            kinds.add((plan.brief.medium.kind, plan.printing.step, any(plan.printing.tone)))
            holds.add((plan.placement.hold, plan.placement.school))
        self.assertGreater(compared, 450)
        self.assertGreater(len(kinds), 8)
        self.assertGreater(len(holds), 9)

    def test_the_headline_is_where_the_placed_tone_stands(self):
        """What the sheet says of the placing, the rail shows: in the print the flag stands there, else the fall or the light."""
        rng = random.Random(12)
        for k in range(150):
            scene, _ = made_up(rng)
            plan = Situation(scene).plan
            placed, under = plan.placed, plan.brief.choice.under_stops
            if placed is None:
                continue
            with self.subTest(k):
                self.assertAlmostEqual(plan.kept_zone(placed), plan.placement.zone, places=5)
                if plan.placement.hold == "in the print" and (not under or plan.printing.lift):
                    self.assertAlmostEqual(placed.printed, plan.placement.zone, places=5)
                elif plan.placement.hold == "before filter":
                    self.assertAlmostEqual(placed.zone + under, plan.placement.zone, places=9)

    def test_a_drag_moves_the_print_under_the_finger(self):
        from dimgrey.core.document import edits

        rng = random.Random(13)
        for k in range(150):
            scene, _ = made_up(rng)
            wanted = rng.choice((2.0, 4.3333, 5.0, 6.6667, 8.0))
            with self.subTest(k, wanted=wanted):
                document = edits.placed(scene.document, "B", printed=wanted)
                scene.document, scene.brief = document, brief_of(document)
                plan = Situation(scene).plan
                tone = next(t for t in plan.tones if t.name == "t1")
                if 0 < document.placing.zone < 10:  # a tone can be placed on 0 to X only
                    self.assertAlmostEqual(tone.printed, wanted, places=3)

    def test_the_usual_hold(self):
        medium = Document().medium
        for kind, step, school, hold in (
            ("film", -1, "highlight", "in the print"), ("film", -1, "known tone", "in the print"),
            ("film", 1, "midpoint", "in the print"), ("film", -1, "shadow", "before filter"),
            ("film", 0, "highlight", "before filter"), ("slide", 0, "known tone", "before filter"),
        ):  # fmt: skip
            made = SimpleNamespace(kind=kind, tone=(0.0, 0.0, 0.0))
            self.assertEqual(usual_hold(school, made, step), hold, (kind, step, school))
        self.assertEqual(
            usual_hold("shadow", SimpleNamespace(kind="digital file", tone=(0.1, 0, 0)), 0), "in the print"
        )
        self.assertEqual(medium.kind, "film")


class Demo(PageTest):
    def test_every_demo_scene(self):
        call_command("load_demo", stdout=StringIO())
        seen = 0
        for scene in Scene.objects.exclude(picture=None):
            situation = Situation(scene)
            if situation.plan is None:
                continue
            planes = store.linear_of(situation.picture.path)
            made = situation.rendering
            table = display_table(made.stops, made.slope, curve_for(made.kind), made.development, "grey", made.tone)
            picture = store.grey(situation.picture.path, made.chain, table, made.overhead).astype(int)
            _, height, width = planes.shape
            radius = max(ring_radius(situation.document, situation.facts) * width, 1.5)
            rows, columns = np.ogrid[:height, :width]
            planned = {tone.name: tone for tone in situation.plan.tones}
            for entry in situation.document.tones:
                tone = planned.get(entry.name)
                if tone is None or entry.at is None or tone.print.beyond:
                    continue
                x, y = entry.at[0] * width, entry.at[1] * height
                there = (columns + 0.5 - x) ** 2 + (rows + 0.5 - y) ** 2 <= radius**2
                spot = planes[:, there].astype(np.float32).T
                light = np.log2(np.maximum(luminance(spot), 1e-6))
                low, high = np.percentile(light, (10, 90))
                with self.subTest(scene.title, tone=entry.name):
                    if high - low < 2 * EVEN_STOPS:
                        seen += 1
                        sky = 1.0 if tone.role == "sky" else None
                        of_mean = shown(made, spot.mean(axis=0)[None], sky)[0]
                        self.assertLessEqual(abs(int(of_mean) - rail_grey(tone)), LEVELS)
                    if high - low < EVEN_STOPS:
                        self.assertLessEqual(abs(np.median(picture[there]) - rail_grey(tone)), LEVELS)
        self.assertGreater(seen, 12)


class Flags(SimpleTestCase):
    def test_fall_and_print_stand_on_the_rail_where_they_differ(self):
        scene, _ = made_up(random.Random(3))
        situation = Situation(scene)
        rail = rail_of(situation.plan, situation.document.marks, situation.words)
        for flag in rail.flags:
            tone = next(t for t in situation.plan.tones if t.name == flag.name)
            self.assertEqual(flag.fall_x != "", abs(min(max(tone.fall, -0.45), 10.45) - tone.printed) > 0.165)
            self.assertEqual(float(flag.printed), round(tone.printed, 4))


class OnePlacing(PageTest):
    """Home, sheet, its editor, card and command call a placing by one name."""

    def test_a_tone_that_is_not_the_schools_is_a_known_tone_everywhere(self):
        scene = scene_with_light(self.person)
        for zone in (2, 8):
            self.act(scene, "pin", x=band(zone), y=0.5)
        self.act(scene, "school", school="shadow")
        self.assertEqual(self.named(scene), {"Shadow first"})
        self.act(scene, "place", mark="B", print="7")
        self.assertEqual(self.named(scene), {"Known tone"})
        self.act(scene, "school", school="shadow")
        self.assertEqual(self.named(scene), {"Shadow first"})

    def named(self, scene):
        """The names that the screens have for how a scene is placed."""
        sheet = self.client.get(f"/scenes/{scene.pk}/edit/placing").content.decode()
        chosen = re.search(r'<option value="[^"]+"\s+selected[^>]*>([^<]+)</option>', sheet)[1]
        pages = ["/", f"/scenes/{scene.pk}/", f"/scenes/{scene.pk}/card"]
        names = {name for page in pages for name in NAMED.findall(self.client.get(page).content.decode())}
        return names | {chosen}
