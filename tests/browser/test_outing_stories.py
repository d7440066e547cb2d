"""An outing in the browser: from nothing to a light table on paper and a calendar another program reads."""

from pathlib import Path

import icalendar

from dimgrey.outings.models import Outing
from dimgrey.scenes.models import Scene
from tests.browser.story import DESK, PHONE, Story


class PlanningAnOuting(Story):
    def add_scene(self, title, heading, wants):
        self.click("text=Add a scene")
        self.do(lambda page: page.fill("[name=title]", title))
        self.click("text=Open the desk")
        self.click("#edit-view summary")
        self.do(lambda page: page.locator("#heading").wait_for())
        self.do(lambda page: page.fill("#heading", heading))
        self.do(lambda page: page.fill("#planned-time", "1540"))
        for want in wants:
            self.do(lambda page, want=want: page.check(f"[name=lights][value={want}]"))
        self.do(lambda page: page.check("#has-sky"))
        self.click("#edit-view button.act")
        self.told("view", "15:40, sun")
        outing = Outing.objects.get()
        self.go(f"/outings/{outing.pk}/")

    @staticmethod
    def order():
        return list(Scene.objects.order_by("position").values_list("title", flat=True))

    def test_from_nothing_to_a_light_table_and_a_calendar(self):
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                Scene.objects.all().delete()
                Outing.objects.all().delete()
                self.open("/", size)
                self.do(lambda page: page.fill("#outing-title", "Salt works"))
                self.click("text=Make it")
                self.assertIn("Give the outing a date and a place", self.text("#no-light"))
                self.assert_accessible("outing without a place")
                self.do(lambda page: page.fill("[name=date]", "2027-06-12"))
                self.do(lambda page: page.fill("[name=coordinates]", "91, 10"))
                self.click("text=Keep it")
                self.assertIn("Latitude runs from -90 to 90", self.text(".facts .problem"))
                self.do(lambda page: page.fill("[name=coordinates]", "51°24'N 5°12'W"))
                self.do(lambda page: page.fill("[name=zone]", "Europe/Lisbon"))
                self.click("text=Keep it")
                self.assertRegex(self.text(".sun-facts"), r"0\d:\d\d to 2\d:\d\d, highest 62°")
                self.add_scene("Lime wall", "NNE", ["front"])
                self.add_scene("Brine pans", "250", ["side", "low"])

                # The slider, with the keys.
                before = self.text("#now")
                self.do(lambda page: page.focus("#minutes"))
                for _ in range(3):
                    self.do(lambda page: page.keyboard.press("PageUp"))
                self.until(f"document.getElementById('now').innerText !== {before!r}")
                self.assertRegex(self.text("#clock-text"), r"\d\d:\d\d")

                # The order, by keys and by button.
                self.do(lambda page: page.focus("#order li:nth-child(2)"))
                self.do(lambda page: page.keyboard.press("Alt+ArrowUp"))
                self.until("document.querySelector('#order a').textContent === 'Brine pans'")
                self.click("#order li:nth-child(1) [data-move='1']")
                self.until_kept(self.order, ["Lime wall", "Brine pans"])
                self.do(lambda page: page.check("[data-check=told]"))
                self.until_kept(lambda: Outing.objects.get().checked, ["told"])
                self.assert_accessible("outing")
                self.assert_fits()

                def calendar(page):
                    with page.expect_download() as waiting:
                        page.click("a:has-text('Calendar file')")
                    return Path(waiting.value.path()).read_bytes()

                events = icalendar.Calendar.from_ical(self.do(calendar)).walk("VEVENT")
                self.assertIn("Lime wall: sun behind me", {str(event["SUMMARY"]) for event in events})
                paper = self.do(lambda page: page.pdf(prefer_css_page_size=True))
                self.assertEqual(paper[:4], b"%PDF")
                self.assert_silent(allowed=("422",))

    def test_the_sky_sheet_answers_to_time_scene_and_filter_and_stays_after_a_reload(self):
        self.with_demo()
        outing = Outing.objects.get()
        for size in (DESK, PHONE):
            with self.subTest(size=size):
                self.open(f"/outings/{outing.pk}/", size)
                was = self.picture()
                self.do(lambda page: page.focus("#see-through"))
                self.do(lambda page: page.select_option("#see-through", "red"))
                self.until("document.querySelector('#now').innerText.includes('film, red')")
                self.assertNotEqual(self.picture(), was)
                self.assertEqual(self.do(lambda page: page.evaluate("document.activeElement.id")), "see-through")
                self.click(".now-lines button[data-scene]:has-text('Drying yard')")
                self.until("document.querySelector('#now').innerText.includes('in Drying yard')")
                self.do(lambda page: page.click(".sky-sheet", position={"x": 400, "y": 60}))
                self.until("document.getElementById('clock-text').textContent !== '15:50'")
                self.until("now.innerText.includes(document.getElementById('clock-text').textContent + ':')")
                said = self.text("#now")
                self.do(lambda page: page.reload())
                self.wait("#now", "in Drying yard")
                self.assertEqual(self.text("#now"), said)
                self.assert_accessible("sky sheet")
                self.assert_fits()
                self.assert_silent()

    def picture(self):
        return self.do(lambda page: page.get_attribute(".sky-sheet image", "href"))

    def test_scenes_are_dragged_into_order(self):
        self.with_demo()
        outing = Outing.objects.get()
        self.open(f"/outings/{outing.pk}/")
        self.shot("outing")

        def drag(page):
            page.locator("#order").scroll_into_view_if_needed()
            first, third = (page.locator(f"#order li:nth-child({k}) .grip").bounding_box() for k in (1, 3))
            page.mouse.move(first["x"] + 8, first["y"] + 8)
            page.mouse.down()
            page.mouse.move(third["x"] + 8, third["y"] + 10)
            page.mouse.move(third["x"] + 8, third["y"] + third["height"] + 30)
            page.mouse.up()

        was = self.order()
        self.do(drag)
        self.until_kept(self.order, [was[1], was[2], was[0], *was[3:]])
        self.open(f"/outings/{outing.pk}/", PHONE)
        self.assert_accessible("demo outing on the phone")
        self.assert_fits()
        self.assert_silent()
