"""Each view of the grey picture, used for a decision."""

from dimgrey.judging.secondlook.models import OldPicture
from dimgrey.scenes.models import Scene
from dimgrey.site.config import ROOT
from tests import picturefiles as pictures
from tests.browser.story import PHONE, Story


class Seeing(Story):
    def setUp(self):
        super().setUp()
        self.with_demo()
        self.yard = Scene.objects.get(title="Drying yard, noon")

    def source(self):
        """Address of the view that is to be seen, painted or sent."""
        return self.do(lambda page: page.get_attribute("#frame", "data-shown"))

    def press(self, key):
        self.do(lambda page: page.keyboard.press(key))

    def kept(self):
        return Scene.objects.get(pk=self.yard.pk).kept

    def test_views_answer_to_their_keys(self):
        self.open(f"/scenes/{self.yard.pk}/")
        grey = self.source()
        for key, words in (("s", "contrast to the end"), ("s", "two tones"), ("s", "three tones"), ("s", "a squint")):
            self.press(key)
            self.until(f"document.getElementById('view').alt.endsWith('seen in {words}')")
            self.assertNotEqual(self.source(), grey)
        self.press("m")
        self.until(
            "document.getElementById('over').src.includes('contours-') && !document.getElementById('over').hidden"
        )
        self.until("document.getElementById('over').naturalWidth > 0")
        self.press("e")
        self.until("document.getElementById('over').src.includes('eye-over')")
        self.press("t")
        self.until("document.getElementById('over').src.includes('twins-over')")
        self.press("g")
        self.until("document.getElementById('over').hidden")
        self.assert_accessible("views")
        self.assert_silent()

    def test_a_merging_pair_is_found_compared_and_parted(self):
        self.open(f"/scenes/{self.yard.pk}/")
        self.click("#edit-seeing summary")
        self.wait("#edit-seeing", "Parting")
        self.assertIn("Balance", self.text("#edit-seeing"))
        self.shot("greys")
        self.assert_accessible("greys")
        best = self.do(lambda page: page.inner_text(".ways tbody tr:first-child th"))
        # Compare it under the divider before taking it.
        self.do(lambda page: page.select_option("#compare", best))
        self.until("document.getElementById('frame').dataset.beside.includes('grey-')")
        self.do(lambda page: page.fill("#divide", "30"))
        at = "getComputedStyle(document.getElementById('divider')).getPropertyValue('--at')"
        self.assertIn("30%", self.do(lambda page: page.evaluate(at)))
        self.click(f".ways [aria-label='Use {best}']")
        self.until_kept(lambda: self.kept()["medium"].get("channel_mix"), best)
        self.wait(".ways .current th", best)
        self.press("u")
        self.until_kept(lambda: self.kept()["medium"].get("channel_mix"), None)
        self.assert_silent()

    def test_the_crop_is_chosen_dragged_and_kept(self):
        self.open(f"/scenes/{self.yard.pk}/")
        self.click("#edit-crop summary")
        self.do(lambda page: page.locator("#crop-ratio").wait_for())
        self.do(lambda page: page.select_option("#crop-ratio", "1:1"))
        self.told("crop", "1:1, 67 × 100 %")
        self.do(lambda page: page.locator("[data-handle='move']").wait_for())
        x, y = self.point(0.5, 0.5, "[data-handle='move']")
        width = self.do(lambda page: page.locator("#frame").bounding_box())["width"]

        def drag(page):
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x - width * 0.05, y)
            page.mouse.move(x - width * 0.1, y)
            page.mouse.up()

        before = self.kept()["crop"]["box"][0]
        self.do(drag)
        self.until_kept(lambda: round(before - self.kept()["crop"]["box"][0], 2), 0.1)
        self.assertEqual(self.kept()["crop"]["ratio"], "1:1")
        self.assertEqual(len(self.kept()["tones"]), 8, "dragging a crop pins nothing")
        self.assert_accessible("crop")
        self.open(f"/scenes/{self.yard.pk}/", PHONE)
        self.assert_fits()
        self.assert_accessible("phone with crop")
        self.assert_silent()


class SecondLook(Story):
    def test_old_pictures_lie_on_the_proof_board(self):
        self.open("/second-look/")
        self.do(lambda page: page.fill("#batch-title", "Tannet Yard, last year"))
        self.click("text=Begin")
        snapshots = sorted((ROOT / "demo" / "snapshots").glob("*.jpg"))
        self.do(lambda page: page.set_input_files("#files", snapshots))
        self.until(f"document.getElementById('progress-text').textContent === '{len(snapshots)} added.'", seconds=60)
        for key in ("p", "1", "ArrowRight", "p", "4", "ArrowRight", "w", "ArrowRight", "p", "ArrowRight", "l", "6"):
            self.do(lambda page, key=key: page.keyboard.press(key))
        self.wait("#common", "prints")
        self.until("[...document.querySelectorAll('.proof img')].every(each => each.complete && each.naturalWidth)")
        self.do(lambda page: page.hover(".proof:nth-child(1) img"))
        self.shot("second-look")
        self.assert_accessible("proofs")
        self.assert_silent()

    def test_a_batch_is_added_decided_by_keys_and_summed_up(self):
        self.open("/second-look/")
        self.assert_accessible("no batch")
        self.do(lambda page: page.fill("#batch-title", "Old yard"))
        self.click("text=Begin")
        files = [
            {"name": f"{k}.jpg", "mimeType": "image/jpeg", "buffer": pictures.jpeg(240 + k, 160)} for k in range(4)
        ]
        files.insert(2, {"name": "broken.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"})
        self.do(lambda page: page.set_input_files("#files", files))
        self.wait("#progress-text", "4 added, 1 could not be read.")
        self.assertIn("broken.jpg", self.text("#broken"))
        for key in ("p", "1", "ArrowRight", "p", "ArrowRight", "p", "ArrowRight", "l", "6"):
            self.do(lambda page, key=key: page.keyboard.press(key))
        decided = lambda: list(OldPicture.objects.filter(problem="").values_list("decision", "reason"))
        self.until_kept(decided, [("print", "light"), ("print", ""), ("print", ""), ("leave", "clutter")])
        self.wait("#common", "The prints hold")
        self.do(lambda page: page.hover(".proof:nth-child(2) img"))
        self.until("document.getElementById('loupe-words').textContent === '1.jpg'")
        self.do(lambda page: page.keyboard.press("c"))
        self.until("document.querySelector('.proof img').src.includes('colour')")
        self.assert_accessible("proof board")
        self.do(lambda page: page.set_input_files("#files", files[:2]))
        self.wait("#progress-text", "0 added, 2 were in already.")
        self.open(f"/second-look/{OldPicture.objects.first().batch_id}/", PHONE)
        self.assert_fits()
        self.assert_silent()
