"""From arriving to a logged frame on the phone, each in at most 25 taps."""

from dimgrey.frames.models import Frame
from dimgrey.kit.actions import import_items
from dimgrey.scenes.models import Scene
from dimgrey.site.config import ROOT
from tests.browser.story import DESK, PHONE, Story

MOST_TAPS = 25


class InTheField(Story):
    def setUp(self):
        super().setUp()
        import_items(self.person, (ROOT / "demo/kit.json").read_text(encoding="utf-8"))

    def arrive(self, title, kind):
        self.open("/scenes/new", PHONE)
        self.do(lambda page: page.fill("[name=title]", title))
        self.choose("[name=kind]", kind)
        self.click("text=Open the desk")

    def choose(self, selector, value):
        """Choosing from a list is two taps."""
        self.clicks += 2
        self.do(lambda page: page.select_option(selector, value))
        self.do(lambda page: page.wait_for_load_state("networkidle"))

    def edit(self, part):
        self.click(f"#edit-{part} > summary")
        self.do(lambda page: page.locator(f"#edit-{part} .edit-body > *").first.wait_for())

    def read(self, *tones):
        """Type tones with their readings; the list of tones stays open between them."""
        self.edit("tones")
        for name, reading in tones:
            self.do(lambda page, name=name: page.fill("#add-name", name))
            self.do(lambda page, reading=reading: page.fill("#add-reading", reading))
            self.clicks += 2
            self.do(lambda page: page.press("#add-reading", "Enter"))
            self.wait("#sheet .tones", name)
            self.do(lambda page: page.locator("#add-name").wait_for())

    def log(self):
        self.click("#log-more summary")
        self.click("text=Log it")
        self.assertLessEqual(self.clicks, MOST_TAPS)
        self.assert_silent()
        return Frame.objects.get()

    def test_film_with_two_steps_less_and_a_red_filter(self):
        self.arrive("Kiln wall", "film")
        self.edit("camera")
        self.choose("#kit-film", "Sheet film 125")
        self.told("camera", "Sheet film 125, ISO 80")
        self.read(("coal", "8"), ("lime wall", "14"))
        self.wait("#part-tones", "develop N-2 for 5.5 min")
        self.edit("filter")
        self.choose("#kit-filter", "Red, rim 8x")
        self.told("filter", "Red: 3 stops")
        self.assert_accessible("film plan")
        frame = self.log()
        # Coal 8 on III sets 10; red takes 3, N-2 wants two thirds more; f/8 at ISO 80.
        self.assertEqual(frame.plan["development"], "N-2")
        self.assertAlmostEqual(frame.plan["exposure_ev100"], 10 - 3 - 0.6667, places=3)

    def test_hand_held_digital_that_protects_highlights(self):
        self.arrive("Market hall", "digital raw")
        self.edit("camera")
        self.choose("#kit-camera", "Mirrorless 24")
        self.choose("#kit-lens", "24-70 zoom")
        self.told("camera", "Mirrorless 24")
        self.read(("roof light", "11"), ("stalls", "7"))
        self.told("placing", "Highlight first: roof light")
        self.edit("needs")
        self.choose("#support", "hand")
        self.click("#edit-needs button:has-text('Propose')")
        self.wait(".proposal", "Hands hold")
        self.click(".proposal button:has-text('Use it')")
        self.until_kept(lambda: "aperture" in Scene.objects.get().kept["camera"], True)
        self.do(lambda page: page.wait_for_load_state("networkidle"))
        frame = self.log()
        self.assertEqual(frame.plan["placing"]["school"], "highlight")

    def test_two_minutes_at_night_with_the_timer(self):
        self.arrive("Quay at night", "film")
        self.edit("camera")
        self.choose("#kit-film", "Sheet film 125")
        self.read(("wet stones", "-1"), ("lantern wall", "3"))
        self.wait("#part-exposure", "Give")
        self.click("#start-timer")
        self.do(lambda page: page.locator(".timer").wait_for())
        first = self.text(".timer-text")
        self.assertIn("Shutter open.", self.text(".timer"))
        self.assert_accessible("timer")
        self.do(lambda page: page.reload())
        self.do(lambda page: page.locator(".timer").wait_for())
        self.assertRegex(self.text(".timer-text"), r"^\d:\d\d$|^\d+ s$")
        self.assertRegex(first, r"^\d:\d\d$")
        # A phone that slept: the clock went on while nothing ran.
        self.do(
            lambda page: page.evaluate(
                "localStorage.setItem('dimgrey-timer', JSON.stringify({from: Date.now() - 500000, seconds: 120}))"
            )
        )
        self.wait(".timer", "Close the shutter.")
        self.click(".timer button")
        self.do(lambda page: page.locator(".timer").wait_for(state="hidden"))
        self.assertGreater(self.log().plan["corrected_seconds"], 60)

    def test_a_bracket_for_a_scene_that_exceeds_the_sensor(self):
        self.arrive("Doorway", "digital raw")
        self.read(("street in sun", "15"), ("hall", "6"))
        self.wait("#nearer", "Bracket")
        self.click("[aria-label^='Do it: Bracket']")
        self.until("document.querySelectorAll('.frame-bar').length >= 3")
        self.assertRegex(self.says("bracket"), r"1/\d+")
        frame = self.log()
        self.assertGreaterEqual(len(frame.plan["bracket"]), 3)

    def test_the_light_drops_and_one_tone_moves_all(self):
        self.arrive("Hill", "film")
        self.read(("rock", "11"), ("cloud", "15"))
        self.click("#tone-A summary")
        self.do(lambda page: page.fill("#light-change-A", "-2/3"))
        self.click("text=Move all")
        self.until_kept(
            lambda: [r["readings"][0].get("shift") for r in Scene.objects.get().kept["tones"]], [-0.6667, -0.6667]
        )
        self.log()

    def test_a_kit_item_is_made_at_the_desk(self):
        self.open("/kit/", DESK)
        self.assert_accessible("kit")
        self.click("text=Add a film")
        self.do(lambda page: page.fill("[name=name]", "Ortho 25"))
        self.choose("[name=response]", "orthochromatic")
        self.do(lambda page: page.fill("[name=development]", "N-1 9, N 8"))
        self.click("text=Keep it")
        self.assertIn("must rise from N- to N+", self.text(".problem"))
        self.assert_accessible("refused film")
        self.do(lambda page: page.fill("[name=development]", "N-1 7 +1/3, N 9"))
        self.click("text=Keep it")
        self.click("text=Ortho 25")
        self.assertEqual(self.do(lambda page: page.input_value("[name=development]")), "N-1 7 +0.33, N 9")
        self.assert_silent(allowed=("422",))
