"""Stories of what came of it: a hidden miss named, corrected and gone; one of four kept; a finishing plan made and printed in the dark."""

import io
import os
import tempfile
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image
from pypdf import PdfReader
from scipy.ndimage import gaussian_filter

from dimgrey.core.document import kit as kit_rules
from dimgrey.finishing.models import Finishing
from dimgrey.frames.models import Frame
from dimgrey.judging.pick.models import Pick
from dimgrey.kit.models import Item
from dimgrey.results.models import Result
from tests import hand
from tests.browser.story import DESK, PHONE, Story
from tests.documents import document
from tests.helpers import scene_with_picture
from tests.reference.shots import DEMO, demo_plan

SHOTS = 6


def light_of(name, step=2):
    import OpenEXR

    with OpenEXR.File(str(DEMO / "linear" / f"{name}.exr")) as file:
        return np.ascontiguousarray(file.channels()["RGB"].pixels.astype(np.float32)[::step, ::step])


class WhatCameOfIt(Story):
    def setUp(self):
        super().setUp()
        values = kit_rules.check("film", {"iso": "125", "iso_rated": "125"})
        self.film = Item.objects.create(owner=self.person, kind="film", name="Slow sheet", values=values)

    def planned(self, name="b_drying_yard", title="Drying yard, morning", step=2):
        written = document(
            title=title,
            medium={"kind": "film", "iso": 125, "name": "Slow sheet"},
            kit={"film": "Slow sheet"},
        )
        scene = scene_with_picture(self.person, written, light_of(name, step), name, 15.0)
        tones = demo_plan(name).tones
        for tone in sorted(tones)[:6]:
            scene = hand.pin_tone(scene, None, *tones[tone][0])
        return hand.place_tone(scene, None, "A", 6.0)

    def look(self, name):
        if folder := os.environ.get("DIMGREY_LOOK"):
            self.do(lambda page: page.screenshot(path=f"{folder}/{name}.png"))

    def shoot(self):
        before = Frame.objects.count()
        self.do(lambda page: page.check("[name=fault]"))
        self.click("text=Release the shutter")
        self.wait("h2", "Against the plan")
        self.until_kept(Frame.objects.count, before + 1)

    def test_a_hidden_miss_is_seen_named_corrected_and_gone(self):
        scene = self.planned()
        self.open(f"/scenes/{scene.pk}/camera", DESK)
        for _ in range(SHOTS):
            self.shoot()
        off = Result.objects.first().found.unexplained
        self.assertGreater(abs(off), 0.5)
        way = "lighter" if off > 0 else "darker"
        self.assertIn(f"{way} than planned", self.text("section[aria-label='The shot against the plan']"))
        self.click("text=compared in full")
        self.wait(".finding", f"{way} than planned")
        self.assert_accessible("result")
        self.assert_fits()
        self.do(lambda page: page.check("[data-map]"))
        self.do(lambda page: page.locator(".difference").wait_for())
        self.shot("result")
        self.go("/frames/")
        self.assert_accessible("frames with results")
        self.shot("frames")
        self.click("text=What they teach")
        self.wait(".proposal h2", "Film Slow sheet")
        self.assert_accessible("learning")
        self.shot("learning")
        self.click("text=Correct it")
        self.wait("h2", "Corrected so far")
        self.film.refresh_from_db()
        self.assertNotEqual(self.film.values["iso"], "125")

        # The scene takes the film again as it is now, and the same fault is no miss any more.
        self.go(f"/scenes/{scene.pk}/")
        self.assertIn("ISO 125", self.says("camera"))
        self.do(lambda page: page.evaluate("document.getElementById('edit-camera').open = true"))
        self.do(lambda page: page.locator("#kit-film").wait_for())
        self.do(lambda page: page.dispatch_event("#kit-film", "change"))
        self.told("camera", f"ISO {self.film.values['iso']}")
        self.go(f"/scenes/{scene.pk}/camera")
        self.shoot()
        self.assertIn("As planned.", self.text("section[aria-label='The shot against the plan']"))
        self.assert_silent()

    def test_one_of_four_is_kept_for_a_reason(self):
        scene = self.planned()
        self.open(f"/scenes/{scene.pk}/camera", DESK)
        self.click("text=Release the shutter")
        self.wait("h2", "Against the plan")
        plain = np.asarray(Image.open(next(Result.objects.get().picture.path.glob("original*")))).astype(float)
        moved = plain.copy()
        moved[30:75, 575:640] = 30
        for k, grey in enumerate((gaussian_filter(plain, 1.4), moved, np.clip(plain * 1.25, 0, 255))):
            self.click("text=Release the shutter")
            self.until_kept(Frame.objects.count, k + 2)
            frame = Frame.objects.order_by("pk").last()
            frame.results.all().delete()
            with tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / f"shot-{k}.jpg"
                Image.fromarray(grey.astype(np.uint8)).save(path, quality=92)
                self.go(f"/frames/{frame.pk}/")
                self.do(lambda page, path=path: page.set_input_files("#result-files", str(path)))
                self.click("text=Compare with the plan")
                self.wait(".against-sheet h1", "Drying yard, morning")
            self.go(f"/scenes/{scene.pk}/camera")
        self.go("/picks/")
        self.assert_accessible("picks")
        self.click("text=Pick among them")
        self.wait("figcaption", "less sharp at the subject")
        self.assert_accessible("pick")
        self.assert_fits()
        box = self.do(lambda page: page.locator(".pick-picture").first.bounding_box())
        at = (box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.55)
        self.do(lambda page: page.mouse.move(*at))
        self.do(lambda page: page.mouse.down())
        self.until("document.querySelectorAll('.loupe:not([hidden])').length === 4")
        self.shot("pick")
        self.do(lambda page: page.mouse.up())
        self.until("document.querySelectorAll('.loupe:not([hidden])').length === 0")
        self.do(lambda page: page.locator("[name=kept]").first.check())
        self.do(lambda page: page.fill("#pick-reason", "sharper, calm edge"))
        self.click("text=Keep what is ticked")
        self.wait(".pick-foot", "sharper, calm edge")
        self.assertEqual(Pick.objects.get().candidates.filter(kept=True).count(), 1)
        self.go("/picks/?words=calm")
        self.wait("main", "Drying yard, morning")
        self.assert_silent()

    def test_a_finishing_plan_is_made_printed_on_paper_and_timed_in_the_dark(self):
        scene = self.planned("a_kiln_and_sky", "Bottle kiln and sky")
        scene = self.wished(scene)
        self.open(f"/scenes/{scene.pk}/camera", DESK)
        self.click("text=Release the shutter")
        self.click("text=compared in full")
        self.click("text=Finishing plan")
        self.wait("h1", "Finishing plan")
        self.assert_accessible("finishing")
        self.assert_fits()

        # A slider moves, and the picture answers before anything is kept.
        self.do(lambda page: page.locator("[name=edge_stops]").fill("-0.4"))
        self.until("document.querySelector('[data-finish] img').src.startsWith('blob:')")
        self.wait("[data-status]", "not kept yet")
        self.click("text=Keep the plan")
        self.until_kept(lambda: Finishing.objects.get().finish.edge_stops, -0.4)

        # An area is drawn by touching its corners.
        before = len(Finishing.objects.get().finish.areas)
        self.click("text=Draw an area")
        for x, y in ((0.05, 0.05), (0.4, 0.05), (0.4, 0.3), (0.05, 0.3)):
            at = self.point(x, y, "[data-finish]")
            self.do(lambda page, at=at: page.mouse.click(*at))
        self.do(lambda page: page.keyboard.press("Enter"))
        self.until_kept(lambda: len(Finishing.objects.get().finish.areas), before + 1)
        self.wait(".drawn-area", f"{before + 1} area")
        self.do(lambda page: page.locator(f"[name=stops-{before + 1}]").fill("-0.8"))
        self.do(lambda page: page.locator(f"[name=why-{before + 1}]").fill("a deeper corner"))
        self.click("text=Keep the plan")
        self.wait(".finding", "is noticed")
        self.shot("finishing")
        with_pdf = lambda page: self._downloaded(page, "text=Work sheet (PDF)")
        text = PdfReader(io.BytesIO(self.do(with_pdf))).pages[0].extract_text()
        self.assertIn("a deeper corner", text)
        self.assertIn("Edges: burn", text)

        # In the dark: all red on black, one key, base and burns one after the other.
        pk = Result.objects.get().pk
        self.context_to_night(f"/results/{pk}/finish/print")
        self.assert_accessible("enlarger at night")
        self.assert_fits()
        self.shot("enlarger")
        self.do(lambda page: page.fill("[name=base]", "0.6"))
        self.click("text=Reckon")
        self.wait("[data-seconds]", "0.6")
        self.do(lambda page: page.keyboard.press("Escape"))
        for _ in range(5):
            self.do(lambda page: page.evaluate("document.activeElement.blur()"))
            if self.text("[data-name]") == "Done":
                break
            self.do(lambda page: page.keyboard.press("Space"))
            self.until(
                "document.querySelector('[data-go]').textContent === 'Lamp on' || document.querySelector('[data-go]').disabled",
                8,
            )
        self.wait("[data-name]", "Done")
        self.assert_silent()

    def wished(self, scene):
        """The scene with a wish for two of its tones."""
        spans = {"blue sky": (3.5, 4.5), "stone": (6.0, 7.0)}
        wish = lambda document: replace(
            document, tones=tuple(replace(tone, wish=spans.get(tone.name, tone.wish)) for tone in document.tones)
        )
        return hand.change(scene, None, "wishes", wish)

    def _downloaded(self, page, selector):
        with page.expect_download() as waited:
            page.click(selector)
        return Path(waited.value.path()).read_bytes()

    def context_to_night(self, path):
        """The same page on a phone, in the look for the dark."""
        self.person.mode = "night"
        self.person.save()
        self.open(path, PHONE)
