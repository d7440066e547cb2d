"""From a snapshot and a sentence to a plan that does what was wanted, or says why not in this light."""

from pathlib import Path

from dimgrey.core.planning.plan import plan
from dimgrey.scenes.models import Scene
from tests.browser.story import Story

SNAPSHOTS = Path(__file__).resolve().parents[2] / "demo" / "snapshots"
MOST_CLICKS = 8


class Wishes(Story):
    def begin(self, snapshot):
        self.open("/scenes/new")
        self.do(lambda page: page.fill("[name=title]", "Shape"))
        self.do(lambda page: page.set_input_files("[name=picture]", SNAPSHOTS / snapshot))
        self.click("text=Open the desk")
        self.told("picture", "exposure data")
        self.do(lambda page: page.wait_for_load_state("networkidle"))

    def pin(self, mark, name, x, y, zone=""):
        """Touch a place in the picture, say its grey perhaps, and type what it is: two clicks."""
        at = self.point(x, y)
        self.do(lambda page: page.mouse.click(*at))
        self.clicks += 1
        self.do(lambda page: page.locator("#strip").wait_for())
        if zone:
            self.do(lambda page: page.keyboard.press(zone))
            self.until(f"document.querySelector('#flag-{mark}')?.classList.contains('placed')")
        self.click("#strip-more")
        self.do(lambda page: page.locator(f"#name-{mark}").wait_for())
        self.do(lambda page: page.fill(f"#name-{mark}", name))
        self.do(lambda page: page.press(f"#name-{mark}", "Tab"))
        self.wait(f"#flag-{mark} .name" if Scene.objects.get().document.placing.tone else f"#tone-{mark}", name)

    def say(self, sentence):
        self.click("#edit-intent summary")
        self.do(lambda page: page.fill("#edit-intent [name=intent]", sentence))
        self.click("#edit-intent form:has([name=intent]) button")
        self.until_kept(lambda: Scene.objects.get().document.intent, sentence)

    def prints(self):
        return {tone.name: tone.printed for tone in plan(Scene.objects.get().brief).tones}

    def test_a_stand_black_on_a_bright_window_becomes_so(self):
        self.begin("c_glaze_room_window.jpg")
        self.pin("A", "stand", 0.2147, 0.54)
        self.pin("B", "window", 0.15, 0.36, "5")
        self.say("The stand black against the bright window.")
        self.wait("#part-intent", "window")
        self.do(lambda page: page.locator("#nearer button:has-text('Do it')").first.wait_for())
        self.click("#nearer button:has-text('Do it') >> nth=0")
        self.wait("#part-intent", "Now: as wanted.")
        self.assertLessEqual(self.clicks, MOST_CLICKS)
        prints = self.prints()
        self.assertLessEqual(prints["stand"], 1.5 + 1 / 6)
        self.assertGreaterEqual(prints["window"], 20 / 3 - 1 / 6)
        self.assert_silent()

    def test_a_tower_black_on_a_bright_sky_is_told_why_not_with_the_sun_behind_the_camera(self):
        self.begin("a_kiln_and_sky.jpg")
        self.pin("A", "tower", 880 / 1500, 0.48)
        self.pin("B", "sky", 450 / 1500, 0.06, "7")
        self.say("The tower black on a bright sky.")
        self.wait("#part-intent", "tower ")
        self.do(lambda page: page.locator("#nearer").wait_for())
        self.until("document.querySelector('#nearer').textContent.trim()")
        self.assertLessEqual(self.clicks, MOST_CLICKS)
        self.assertRegex(self.text("#nearer"), r"(Then still|Nothing at hand).* tower .*\. (Other light|Wait)")
        self.assert_silent()
