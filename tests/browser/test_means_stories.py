"""Choosing the means: a filter that parts, a setup that protects, another camera, a calibration, a shot against the plan."""

from dimgrey.frames.models import Frame
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.scenes.models import Scene
from tests.browser.story import PHONE, Story


class Means(Story):
    def setUp(self):
        super().setUp()
        self.with_demo()
        self.kiln = Scene.objects.get(title="Bottle kiln and sky")
        self.yard = Scene.objects.get(title="Drying yard, noon")

    def test_the_filter_that_parts_brick_from_ivy(self):
        self.open(f"/scenes/{self.kiln.pk}/")
        self.click("#edit-filter > summary")
        self.click("text=Filter bench")
        self.do(lambda page: page.locator(".way img").first.wait_for())
        self.shot("bench")
        self.assertIn("kiln brick, sun / ivy at the foot", self.text(".bench"))
        self.assert_accessible("bench")
        self.click("[aria-label='Use red']")
        self.until_kept(lambda: Scene.objects.get(pk=self.kiln.pk).kept["filters"][0]["name"], "red")
        self.wait(".way.current", "red")
        self.until("document.querySelector('.bench-view canvas.painted')?.hidden === false")
        self.do(lambda page: page.hover(".way[data-name=green]"))
        self.until("document.querySelector('.view-names').textContent.includes('green')")
        self.open(f"/scenes/{self.kiln.pk}/filters", PHONE)
        self.assert_fits()
        self.assert_silent()

    def test_the_lime_wall_is_protected_by_a_setup_that_is_carried_and_printed(self):
        self.open(f"/scenes/{self.yard.pk}/compare")
        self.assert_accessible("compare")
        self.shot("compare")
        self.click("section[aria-label='Lime wall'] a:has-text('Change it')")
        self.wait("#preview", "Lost ends")
        before = self.do(lambda page: page.get_attribute("#preview img", "src"))
        self.until("!document.querySelector('#preview canvas.painted')?.hidden")
        curve = self.do(lambda page: page.get_attribute("#preview .line", "d"))
        self.do(lambda page: page.focus("[name=highlights]"))
        for _ in range(4):
            self.do(lambda page: page.keyboard.press("ArrowLeft"))
        self.until(f"document.querySelector('#preview .line').getAttribute('d') !== {curve!r}")
        self.assertEqual(self.text(".slider:has([name=highlights]) output"), "−0.70")
        self.until(f"document.querySelector('#preview img').src.indexOf({before!r}) < 0")
        self.until("!document.querySelector('#preview canvas.painted').hidden")
        self.assert_accessible("setup")
        mirrorless = Item.objects.get(name="Mirrorless 24")
        self.do(lambda page: page.select_option("[name=camera]", str(mirrorless.pk)))
        self.click("text=Keep it")
        row = KeptSetup.objects.get(name="Lime wall")
        self.assertEqual(
            (row.revision, row.camera.name, row.values["effects"]["highlights"]), (2, "Mirrorless 24", -0.7)
        )
        phone = Item.objects.get(name="Phone")
        self.do(lambda page: page.select_option("#to", str(phone.pk)))
        self.click("button:has-text('Show')")
        self.assertIn("Highlights -0.70 cannot be carried", self.text("main"))
        self.click("text=Keep it as a setup of Phone")
        self.click("text=Menu card")
        self.assertIn("Hardness", self.text(".menu-card"))
        self.assert_accessible("menu card")
        self.open(f"/scenes/{self.yard.pk}/compare")
        self.do(lambda page: page.fill("section[aria-label='Lime wall'] [name=reason]", "brush marks"))
        self.click("section[aria-label='Lime wall'] button")
        self.told("camera", "Setup Lime wall")
        self.assert_silent()

    def test_setups_are_compared_in_one_picture_at_an_exposure_under_the_hand(self):
        self.open(f"/scenes/{self.yard.pk}/compare")
        self.until("[...document.querySelectorAll('.choices canvas.painted')].filter(c => !c.hidden).length === 2")
        pixel = """() => { const c = document.querySelector('.choices canvas.painted'), d = document.createElement('canvas');
            d.width = d.height = 1; const x = d.getContext('2d'); x.drawImage(c, c.width / 2, c.height / 2, 1, 1, 0, 0, 1, 1);
            return x.getImageData(0, 0, 1, 1).data[0]; }"""
        before = self.do(lambda page: page.evaluate(pixel))
        brighter = "const s = document.getElementById('stops'); s.value = 1; s.dispatchEvent(new Event('input', {bubbles: true}))"
        self.do(lambda page: page.evaluate(brighter))
        self.until(f"({pixel})() > {before}")
        self.do(
            lambda page: page.evaluate(
                "document.getElementById('stops').dispatchEvent(new Event('change', {bubbles: true}))"
            )
        )
        self.wait("output", "+1 stop")
        self.assertIn("stops=1", self.do(lambda page: page.url))
        for name in ("Neutral",):
            self.do(lambda page, name=name: page.check(f"text={name}"))
        self.do(lambda page: page.locator(".choice").nth(2).wait_for())
        self.click("text=In one picture")
        self.until("document.querySelector('.one-view canvas').width > 300")
        self.assert_accessible("in one picture")
        self.do(lambda page: page.focus(".together"))
        self.do(lambda page: page.keyboard.press("ArrowRight"))
        self.until("document.querySelector('.view-names').children[1].style.left === '52%'")
        self.assert_silent()

    def test_a_camera_is_calibrated_and_shoots_what_was_planned(self):
        camera = Item.objects.get(name="Mirrorless 24")
        self.open(f"/kit/{camera.pk}/calibrate")
        self.click("text=Try it with the simulated camera")
        self.wait("figure", "residual")
        self.assert_accessible("calibrate")
        self.open(f"/scenes/{self.yard.pk}/camera")
        self.assert_accessible("camera")
        frame = lambda: self.do(lambda page: page.get_attribute("#finder img", "src"))
        was = frame()
        self.do(lambda page: page.fill("[name=shutter]", "1/40"))
        self.until(f"document.querySelector('#finder img').src !== {was!r}")
        self.assertIn("stops from it", self.text("#finder"))
        self.do(lambda page: page.reload())
        self.click("text=Release the shutter")
        self.wait("main", "Against the plan")
        self.assertEqual(Frame.objects.get().note, "simulated camera")
        self.assert_accessible("shot")
        self.open(f"/scenes/{self.yard.pk}/camera", PHONE)
        self.assert_fits()
        self.assert_silent()
