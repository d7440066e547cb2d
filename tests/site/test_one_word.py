"""One truth in words: what any page, card, PDF, table or bundle says of a scene with a number, no other says otherwise."""

import csv
import io
import json
import re
import uuid
from io import StringIO
from itertools import combinations

from django.core.management import call_command
from django.test import SimpleTestCase
from pypdf import PdfReader

from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.field.bundle import scene_of
from dimgrey.frames.actions import log_frame
from dimgrey.results.models import Result
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests.book.shown import Reader
from tests.documents import document
from tests.helpers import PageTest, scene_with_picture, stepped_light
from tests.results.test_results import ResultTest, file_of

NUMBER = re.compile(r"(?<![A-Za-z])[−+±-]?\d+(?:[.,:/]\d+)*[½⅓⅔]?|[½⅓⅔]|\b(?:[IVX]+|0)[½⅓⅔]?(?![A-Za-z])")
SENTENCE = re.compile(r"(?<=[.;:])\s+|\n+")
LEAST_WORDS = 4
LISTS = ("bundle", "plan", "frames.csv", "filters", "nearer")
"""What says each thing in a place of its own, and not in a line; of filters and ways nearer each with a setting of its own."""
TONES = [
    {"name": "coal", "role": "shadow", "ev100": 9, "colour": [0.02, 0.02, 0.02]},
    {"name": "sky", "role": "sky", "ev100": 14, "colour": [0.1, 0.2, 0.5]},
    {"name": "lime wall", "role": "highlight", "ev100": 15, "colour": [0.6, 0.58, 0.5]},
]
MADE_UP = (
    {"medium": {"kind": "slide", "iso": 100}, "placing": {"school": "highlight"}},
    {"medium": {"kind": "digital raw", "iso": 200}, "filters": [{"name": "graduated", "stops": 2, "edge": 0.4}]},
    {"medium": {"kind": "digital file", "channel_mix": "orange"}, "intent": "The sky dark over a bright wall."},
    {"medium": {"kind": "film", "iso": 400, "own_iso": 100}, "filters": [{"name": "nd", "stops": 10}]},
    {"medium": {"kind": "film", "developed": -1}, "placing": {"school": "shadow"}, "sky": {"area": "none"}},
)


class OneWord(PageTest):
    def said(self, scene):
        """place -> text of all that speaks of the scene as it stands."""
        situation = Situation(scene)
        frame = log_frame(self.person, scene, uuid.uuid4())
        addresses = (f"/scenes/{scene.pk}/", f"/scenes/{scene.pk}/card", f"/frames/{frame.pk}/")
        shown = {**{address: address for address in addresses}, "filters": f"/scenes/{scene.pk}/filters"}
        shown["nearer"] = f"/scenes/{scene.pk}/nearer"
        told = {
            place: "\n".join(Reader(self.client.get(address).content.decode()).words)
            for place, address in shown.items()
        }
        pdf = PdfReader(io.BytesIO(self.client.get(f"/scenes/{scene.pk}/card.pdf").content))
        sheet = json.loads(json.dumps(scene_of(situation), default=str))["sheet"]
        row = list(csv.DictReader(io.StringIO(self.client.get("/frames.csv").getvalue().decode("utf-8-sig"))))[-1]
        return sheet, {
            **told,
            "card.pdf": " ".join(" ".join(page.extract_text().split()) for page in pdf.pages),
            "bundle": "\n".join(texts_in(sheet)),
            "plan": "\n".join(texts_in(plan_as_json(situation.plan, situation.cautions, line=situation.intent_line))),
            "frames.csv": " ".join(row.values()),
        }

    def scenes(self):
        call_command("load_demo", stdout=StringIO())
        for k, parts in enumerate(MADE_UP):
            made = document(**{"title": f"Made up {k}", "tones": TONES, **parts})
            scene_with_picture(self.person, made, stepped_light(), f"m{k}")
        scenes = Scene.objects.exclude(removed=True).select_related("picture", "outing", "head").order_by("pk")
        return [scene for scene in scenes if Situation(scene).plan is not None]

    def test_no_two_places_say_different_numbers_of_the_same_matter(self):
        scenes = self.scenes()
        self.assertGreaterEqual(len(scenes), 10)
        for scene in scenes:
            sheet, told = self.said(scene)
            with self.subTest(scene.title):
                self.assertEqual(apart_in(told), {})
                self.settings(sheet, told)
                self.prints(sheet, told)

    def settings(self, sheet, told):
        """The exposure is the same on card, PDF, frame and bundle, and there is no other on them."""
        said, given = sheet["exposure"], sheet["exposure"]["corrected"] or sheet["exposure"]["shutter"]
        for place in (place for place in told if place not in LISTS):
            flat = " ".join(told[place].split())
            self.assertIn(
                f"{given if place.startswith('/frames') else said['shutter']} {said['aperture']}", flat, place
            )
            self.assertIn(given, flat, place)

    def prints(self, sheet, told):
        """Each tone stands on one zone wherever it is listed."""
        for tone in sheet["tones"]:
            for place in (place for place in told if place not in LISTS):
                flat = " ".join(told[place].split())
                self.assertRegex(flat, rf"{re.escape(tone['name'])} .{{0,40}}?{re.escape(tone['printed'])}", place)


def apart_in(told):
    """matter -> place -> sentences, of sentences that differ in their numbers alone from one place to another.

    told: place -> text. A place that tells of several things alike, such as two tones, may have more of them than another.
    """
    found = {}
    for place, text in told.items():
        for sentence in SENTENCE.split(text):
            plain = " ".join(sentence.split()).strip(" .;:")
            if NUMBER.search(plain) and len(plain.split()) >= LEAST_WORDS:
                found.setdefault(NUMBER.sub("#", plain).lower(), {}).setdefault(place, set()).add(plain.lower())
    return {
        matter: places
        for matter, places in found.items()
        if any(not (a <= b or b <= a) for a, b in combinations(places.values(), 2))
    }


class OneWordOfAResult(ResultTest):
    def test_result_frame_and_scene_say_the_same(self):
        for off in (0.0, 2 / 3, -1.0):
            frame = self.logged()
            self.add(file_of(self.shot(off, frame)), frame=frame)
            result = Result.objects.order_by("pk").last()
            shown = {
                "result": f"/results/{result.pk}/",
                "frame": f"/frames/{frame.pk}/",
                "desk": f"/scenes/{self.scene.pk}/",
            }
            told = {
                place: "\n".join(Reader(self.client.get(address).content.decode()).words)
                for place, address in shown.items()
            }
            with self.subTest(off):
                self.assertEqual(apart_in(told), {})


class Collecting(SimpleTestCase):
    def test_sentences_that_differ_in_a_number_are_found(self):
        one = "Range 6⅓ stops, develop N-1."
        self.assertEqual(apart_in({"card": one, "desk": f"Kiln. {one}"}), {})
        self.assertTrue(apart_in({"card": one, "desk": one.replace("⅓", "½")}))
        self.assertTrue(apart_in({"card": "The kiln prints on VI½", "desk": "The kiln prints on VII"}))


def texts_in(value):
    """Every text within plain values."""
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list):
        return [text for each in value for text in texts_in(each)]
    return [value] if isinstance(value, str) else []
