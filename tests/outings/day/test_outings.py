"""Outings over HTTP: facts and bad input, light, order, visits, calendar, cautions, home."""

import re
from datetime import UTC, date, datetime, time, timedelta

import ephem
import icalendar
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext

from dimgrey.core.cautions.safety import Circumstances, dangers
from dimgrey.core.errors import CoreError
from dimgrey.core.sky.clock import julian_date, local_moment, parse_clock, zone_named
from dimgrey.core.sky.coordinates import Coordinates
from dimgrey.outings import actions, gpx
from dimgrey.outings.day.chainchoice import Through
from dimgrey.outings.day.home import home_of
from dimgrey.outings.day.skysheet import sky_sheet
from dimgrey.outings.day.table import light_table
from dimgrey.outings.forecast import conditions_at, hours_of
from dimgrey.outings.models import Outing
from dimgrey.outings.sky_over_scene import hours_around, sky_over
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from dimgrey.standins.simulated_forecast import forecast
from tests.documents import document
from tests.helpers import PageTest

FACTS = {"title": "Yard", "date": "2027-06-12", "coordinates": "51.4, -5.2", "zone": "Europe/Lisbon"}


def gpx_file(points="", head=""):
    return f'<?xml version="1.0"?>{head}<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">{points}</gpx>'.encode()


class OutingTest(PageTest):
    def setUp(self):
        super().setUp()
        self.outing = actions.create_outing(
            self.person, "Yard", date=date(2027, 6, 12), latitude_deg=51.4, longitude_deg=-5.2, zone="Europe/Lisbon"
        )
        self.url = f"/outings/{self.outing.pk}/"

    def scene(self, title="Kiln", **parts):
        return lifecycle.create_scene(self.person, document(title=title, **parts), self.outing)

    def again(self):
        return Outing.objects.get(pk=self.outing.pk)


class Facts(OutingTest):
    def test_facts_are_kept(self):
        answer = self.client.post(
            f"{self.url}change", {**FACTS, "intent": "Lime.", "tidal": "on", "bring": "tripod", "date": "21.06.2027"}
        )
        self.assertRedirects(answer, self.url)
        kept = self.again()
        self.assertEqual((kept.date, kept.tidal, kept.bring, kept.intent), (date(2027, 6, 21), True, "tripod", "Lime."))

    def test_bad_facts_are_a_sentence_and_nothing_changes(self):
        for changed, sentence in (
            (
                {"coordinates": "91, 10"},
                "Latitude runs from -90 to 90 degrees (got 91). Were latitude and longitude swapped?",
            ),
            ({"coordinates": "10, 190"}, "Longitude runs from -180 to 180 degrees (got 190)."),
            ({"coordinates": "behind the shed"}, "Write 51.4512, -2.6183"),
            ({"date": "3000-01-01"}, "The sky is computed for the years 1900 to 2100 (got 3000)."),
            ({"date": "someday"}, "“someday” is not a date. Write 2026-11-25."),
            ({"zone": "Nowhere/Land"}, "“Nowhere/Land” is not a time zone."),
            ({"title": ""}, "This field is required."),
        ):
            with self.subTest(sentence):
                answer = self.client.post(f"{self.url}change", {**FACTS, **changed})
                self.assertContains(answer, sentence, status_code=422, html=False)
                self.assertEqual((self.again().latitude_deg, self.again().date), (51.4, date(2027, 6, 12)))
                typed = next(iter(changed.values()))
                if typed:
                    self.assertContains(answer, typed, status_code=422)

    def test_an_outing_without_place_or_day_says_what_is_missing_and_works(self):
        bare = actions.create_outing(self.person, "Somewhere")
        lifecycle.create_scene(
            self.person,
            document(title="Wall", view={"heading_deg": 90, "time": "10:00"}, wanted={"lights": ["side"]}),
            bare,
        )
        answer = self.client.get(f"/outings/{bare.pk}/")
        self.assertContains(answer, "Give the outing a date and a place to see its light.")
        self.assertContains(answer, "Wall")
        self.assertEqual(self.client.get(f"/outings/{bare.pk}/at?time=10:00").status_code, 422)
        self.assertEqual(self.client.get(f"/outings/{bare.pk}/light.ics").status_code, 200)

    def test_a_new_outing_opens_its_page(self):
        answer = self.client.post("/outings/new", {"title": "Quarry", "zone": "Europe/Oslo"})
        made = Outing.objects.get(title="Quarry")
        self.assertRedirects(answer, f"/outings/{made.pk}/")
        self.assertEqual(made.zone, "Europe/Oslo")

    def test_nobody_sees_or_changes_the_outing_of_another(self):
        other = actions.create_outing(self.other(), "Secret")
        for path in ("", "at?time=10:00", "light.ics"):
            self.assertEqual(self.client.get(f"/outings/{other.pk}/{path}").status_code, 404)
        for path in ("change", "gpx", "conditions", "check", "dismiss", "order", "again", "remove", "bring-back"):
            self.assertEqual(self.client.post(f"/outings/{other.pk}/{path}", FACTS).status_code, 404)
        self.assertEqual(Outing.objects.get(pk=other.pk).title, "Secret")

    def test_removed_and_brought_back(self):
        self.client.post(f"{self.url}remove")
        self.assertContains(self.client.get("/"), "Bring it back")
        self.client.post(f"{self.url}bring-back")
        self.assertFalse(self.again().removed)


class Gpx(OutingTest):
    def send(self, data):
        return self.client.post(f"{self.url}gpx", {"file": SimpleUploadedFile("p.gpx", data)})

    def test_a_waypoint_gives_place_and_name(self):
        self.send(
            gpx_file(
                '<trk><trkseg><trkpt lat="1" lon="1"/></trkseg></trk><wpt lat="51.5" lon="-5.25"><name>Gate</name></wpt>'
            )
        )
        kept = self.again()
        self.assertEqual((kept.latitude_deg, kept.longitude_deg, kept.place_name), (51.5, -5.25, "Gate"))

    def test_bad_files_are_a_sentence_and_the_place_stays(self):
        bomb = '<!DOCTYPE g [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;">]>'
        for data, sentence in (
            (gpx_file(), "The GPX file has no point."),
            (gpx_file("<wpt lat='1' lon='2'><name>&c;</name></wpt>", bomb), "The file defines entities"),
            (b"not xml", "The file is not GPX."),
            (b"", "The file is not GPX."),
            (gpx_file("<wpt lat='95' lon='2'/>"), "Latitude runs from -90 to 90 degrees (got 95)."),
            (gpx_file("<wpt lat='north' lon='2'/>"), "A point of the GPX file has the position north, 2."),
            (gpx_file("<wpt/>"), "A point of the GPX file has no position."),
            (gpx_file("<wpt lat='nan' lon='2'/>"), "Latitude runs from"),
        ):
            with self.subTest(sentence):
                self.assertContains(self.send(data), sentence, status_code=422)
                self.assertEqual(self.again().latitude_deg, 51.4)

    def test_a_hundred_thousand_points_are_read(self):
        points = "".join(f'<trkpt lat="{50 + k / 1e6:.6f}" lon="3"/>' for k in range(100_000))
        found = gpx.read(gpx_file(f"<trk><trkseg>{points}</trkseg></trk>"))
        self.assertEqual((found.coordinates.latitude_deg, found.points), (50.0, 100_000))


class Light(OutingTest):
    def test_the_page_shows_sun_scenes_and_windows(self):
        self.scene(
            view={"heading_deg": 4, "time": "15:50", "sky": True},
            wanted={"lights": ["front"]},
            filters=[{"name": "orange"}],
        )
        actions.type_conditions(self.outing, 15, cloud_percent=10, visibility_km=40)
        page = self.client.get(self.url).content.decode()
        there = ephem.Observer()
        there.lat, there.lon, there.pressure, there.horizon, there.date = "51.4", "-5.2", 0, "-0:50", "2027/06/12 00:00"
        rise = there.next_rising(ephem.Sun(), use_center=True).datetime() + timedelta(hours=1)
        self.assertRegex(
            page, rf"({rise:%H:%M}|{rise - timedelta(minutes=1):%H:%M}|{rise + timedelta(minutes=1):%H:%M}) to 2\d:\d\d"
        )
        self.assertRegex(page, r"15:50: sun \d+° high in the W?SW, (side light|sun behind the camera)")
        self.assertRegex(page, r"Sky on (IV|V|VI)")
        self.assertIn("sun behind me", page)

    def test_the_moment_follows_the_slider(self):
        self.scene(view={"heading_deg": 90, "tilt_deg": 10, "sky": True})
        morning = self.client.get(f"{self.url}at?time=07:30").content.decode()
        evening = self.client.get(f"{self.url}at?time=19:30").content.decode()
        self.assertIn("back light", morning)
        self.assertIn("front light", evening)
        self.assertContains(self.client.get(f"{self.url}at?time=99"), "is not a time of day", status_code=422)

    def test_the_chosen_scene_says_what_its_frame_on_the_sky_sheet_says(self):
        facts = {
            "view": {"heading_deg": 4, "tilt_deg": 12, "time": "15:50", "sky": True},
            "filters": [{"name": "orange"}],
        }
        tones = [{"name": "wall", "role": "highlight", "ev100": 14.5}, {"name": "yard", "role": "shadow", "ev100": 10}]
        first, other = (self.scene(title, tones=tones, **facts) for title in ("Kiln", "Shed"))
        page = self.client.get(f"{self.url}?time=11:00&through={other.pk}&filter=blue").content.decode()
        chosen = re.search(
            r'class="sky-frame chosen" data-scene="(\d+)".*?on-sky strong[^>]*>2 sky ([^ <]+)<', page, re.DOTALL
        )
        self.assertEqual(int(chosen[1]), other.pk)
        line = re.search(r'class="chosen">.*?<span>([^<]*)</span>', page, re.DOTALL)[1]
        self.assertIn(f"sky on {chosen[2]} ", f"{line} ")
        self.assertIn("Shed: film, blue.", page)
        self.assertIn(">11:00<", page)
        own = self.client.get(f"{self.url}at?time=11:00&through={other.pk}").content.decode()
        self.assertIn("Shed: film, orange.", own)
        self.assertNotIn(chosen[0], own, "blue prints another sky than orange")

    def test_a_scene_or_filter_that_is_not_there_is_passed_over(self):
        mine = self.scene(tones=[{"name": "wall", "role": "highlight", "ev100": 14.5}], view={"heading_deg": 4})
        for said in ("through=999999", f"through={mine.pk}&filter=kettle", "through=none&time=noon"):
            self.assertContains(self.client.get(f"{self.url}?{said}"), "Kiln")

    def test_at_another_hour_the_sky_is_placed_as_at_the_planned_one(self):
        """A sky that was read at its hour is not said to be read at another, and the night's setting is not kept for the day."""
        tones = [{"name": "sky", "role": "sky", "ev100": 13.5}, {"name": "yard", "role": "shadow", "ev100": 10}]
        self.scene(view={"heading_deg": 4, "tilt_deg": 12, "time": "15:50", "sky": True}, tones=tones)
        self.scene("Night", view={"heading_deg": 4, "tilt_deg": 12, "time": "23:50", "sky": True}, tones=tones[1:])
        at = lambda clock: re.findall(
            r"<span>([^<]*sky[^<]*)</span>", self.client.get(f"{self.url}at?time={clock}").content.decode()
        )
        self.assertIn("as read", at("15:50")[0])
        self.assertNotIn("as read", at("10:00")[0])
        night = at("15:50")[1]
        self.assertRegex(night, r"sky on (III|IV|V)", "sunlit middle grey is on V")

    def test_hills_are_typed_drawn_and_hide_the_sun(self):
        self.scene(view={"heading_deg": 4, "time": "15:50"})
        bad = self.client.post(f"{self.url}change", {**FACTS, "terrain": "N high"})
        self.assertContains(bad, "not a height in degrees", status_code=422)
        self.client.post(f"{self.url}change", {**FACTS, "terrain": "N 4, SW 75, NW 9"})
        self.assertEqual(self.again().terrain, [[0.0, 4.0], [225.0, 75.0], [315.0, 9.0]])
        page = self.client.get(self.url).content.decode()
        self.assertIn("is behind the hills", page)
        self.assertIn("Over the hills", page)
        self.assertIn('value="N 4, SW 75, NW 9"', page)
        self.assertEqual(self.client.post(f"{self.url}again").status_code, 302)
        self.assertEqual(Outing.objects.latest("pk").terrain, self.again().terrain, "the hills stay where they are")

    def test_in_the_south_the_noon_sun_stands_in_the_middle_too(self):
        actions.change_outing(self.outing, latitude_deg=-40.0)
        table = light_table(self.again(), [])
        sheet = sky_sheet(self.again(), [], table.day, time(12, 30), Through())
        self.assertTrue(400 < sheet.sun[0] < 680, sheet.sun)
        self.assertEqual([name for _, name, _ in sheet.points][0], "S")
        self.assertIn("Add a scene", sheet.through.words)

    def test_a_frame_over_north_is_drawn_on_both_sides(self):
        self.scene(view={"heading_deg": 2, "tilt_deg": 12})
        scenes = list(Scene.objects.all())
        sheet = sky_sheet(self.again(), scenes, light_table(self.again(), scenes).day, time(12, 0), Through())
        self.assertEqual(len(sheet.frames[0].paths), 2)

    def test_a_skipped_hour_is_said(self):
        actions.change_outing(self.outing, date=date(2027, 3, 28))
        self.assertContains(
            self.client.get(f"{self.url}at?time=01:30"), "Clocks skip 01:30 on this day; 02:30 is meant."
        )
        self.assertEqual(light_table(self.again(), []).hours[-1][1], "24")
        self.assertEqual(len(light_table(self.again(), []).hours), 24)

    def test_where_the_sun_does_not_rise_the_page_says_so(self):
        actions.change_outing(self.outing, latitude_deg=78.2, longitude_deg=15.6, date=date(2027, 12, 20))
        self.scene(view={"heading_deg": 180, "time": "12:00"}, wanted={"lights": ["side", "low"]})
        page = self.client.get(self.url).content.decode()
        self.assertIn("does not rise", page)
        self.assertIn("the sun is", page)
        actions.change_outing(self.outing, date=date(2027, 6, 20))
        self.assertIn("does not set", self.client.get(self.url).content.decode())

    def test_more_scenes_cost_no_more_queries(self):
        """How long the page takes is measured by script/bench."""

        def counted():
            with CaptureQueriesContext(connection) as queries:
                self.client.get(self.url)
            return len(queries)

        self.scene("First")
        self.client.get(self.url)
        before = counted()
        for k in range(6):
            self.scene(
                f"Scene {k}",
                view={"heading_deg": 40 * k, "time": "12:00", "sky": True},
                wanted={"lights": ["side", "cloud"]},
            )
        self.assertEqual(counted(), before)

    def test_a_dark_subject_against_a_sky_that_goes_dark_is_warned_of(self):
        scene = self.scene(view={"heading_deg": 4, "tilt_deg": 12, "time": "15:50", "sky": True}, filters=[{"name": "red"}],
                           placing={"school": "known tone", "tone": "kiln", "zone": 3}, lens={"focal_35mm": 35},
                           tones=[{"name": "kiln", "role": "subject", "ev100": 13}])  # fmt: skip
        actions.type_conditions(self.outing, 15, cloud_percent=0, visibility_km=40)
        answer = self.client.get(f"/scenes/{scene.pk}/")
        self.assertContains(answer, "Kiln is as dark as this sky will be")
        actions.type_conditions(self.outing, 15, cloud_percent=100)
        answer = self.client.get(f"/scenes/{scene.pk}/")
        self.assertNotContains(answer, "Kiln is as dark as this sky will be")
        self.assertContains(answer, "blank grey-white")

    def test_wind_on_a_long_lens_is_warned_of(self):
        scene = self.scene(view={"time": "12:00"}, lens={"focal_35mm": 200}, placing={"school": "known tone", "tone": "wall", "zone": 5},
                           tones=[{"name": "wall", "role": "subject", "ev100": 8}])  # fmt: skip
        actions.type_conditions(self.outing, 12, wind_m_s=9)
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "Wind moves a tripod")
        actions.type_conditions(self.outing, 12, wind_m_s=2)
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/"), "Wind moves a tripod")

    def test_the_calendar_file_is_read_by_another_program(self):
        self.scene("Lime wall", view={"heading_deg": 4}, wanted={"lights": ["front", "low"]})
        self.scene("Moon", wanted={"lights": ["night"]})
        data = self.client.get(f"{self.url}light.ics").content
        events = icalendar.Calendar.from_ical(data).walk("VEVENT")
        self.assertGreaterEqual(len(events), 10)
        first = events[0]
        self.assertIn("night", str(first["SUMMARY"]))
        self.assertLess(first.decoded("DTSTART"), first.decoded("DTEND"))
        self.assertEqual(len({str(event["UID"]) for event in events}), len(events))
        self.assertTrue(
            all(
                event.decoded("DTSTART").tzinfo is UTC or event.decoded("DTSTART").utcoffset() == timedelta(0)
                for event in events
            )
        )

    def test_heading_and_tilt_are_refused_by_name(self):
        scene = self.scene()
        for values, sentence in (
            ({"heading": "400"}, "A heading is 0 to 360 degrees (got 400). Write 250 or WSW."),
            ({"heading": "left"}, "“left” is not a number of degrees."),
            ({"tilt": "-95"}, "A tilt is -90 to 90 degrees (got -95)."),
            ({"time": "soon"}, "“soon” is not a time of day."),
        ):
            with self.subTest(sentence):
                answer = self.act(scene, "view", **values)
                self.assertContains(answer, sentence, status_code=422)
        answer = self.act(scene, "view", heading="WSW", time="1640", lights=["side"])
        self.assertEqual(self.fresh(scene).kept["view"], {"heading_deg": 247.5, "time": "16:40"})
        self.assertContains(answer, "16:40, sun")

    def test_the_intent_keeps_its_parts(self):
        scene = self.scene()
        self.act(scene, "intent", title="Kiln", mood="proud", dark="sky", scale="low-key")
        self.assertEqual(self.fresh(scene).kept["wanted"], {"mood": "proud", "dark": "sky", "scale": "low-key"})
        self.act(scene, "view", lights=["mist"])
        self.act(scene, "intent", title="Kiln")
        self.assertEqual(self.fresh(scene).kept["wanted"], {"lights": ["mist"]})


class Weather(OutingTest):
    def test_the_stand_in_says_the_same_when_asked_again_and_is_marked(self):
        place = Coordinates(51.4, -5.2)
        day = julian_date(datetime(2027, 6, 12, tzinfo=UTC))
        one, two = forecast().hours(place, day, 72, True), forecast().hours(place, day, 72, True)
        self.assertEqual(one, two)
        self.assertEqual(one[24:48], forecast().hours(place, day + 1, 24, True))
        self.assertTrue(all(hour.simulated for hour in one))
        self.assertIsNone(forecast().hours(place, day, 1)[0].tide_m)

    def test_tides_turn_four_times_a_day_and_swing_most_at_new_and_full_moon(self):
        levels = [
            h.tide_m
            for h in forecast().hours(
                Coordinates(51.4, -5.2), julian_date(datetime(2027, 6, 1, tzinfo=UTC)), 24 * 30, True
            )
        ]
        crossings = sum((a < 0) != (b < 0) for a, b in zip(levels, levels[1:], strict=False))
        self.assertAlmostEqual(crossings / 30, 4 / 1.035, delta=0.15)
        daily = [max(levels[k : k + 25]) for k in range(0, 24 * 29, 24)]
        self.assertGreater(max(daily) - min(daily), 1.0)

    def test_typed_weather_wins_for_its_hour_and_goes_with_the_day(self):
        moment = julian_date(datetime(2027, 6, 12, 13, 30, tzinfo=UTC))  # 14:30 in Lisbon
        answer = self.client.post(f"{self.url}conditions", {"hour": "14", "cloud_percent": "95"})
        self.assertRedirects(answer, self.url)
        self.assertEqual(conditions_at(self.again(), moment).air, "overcast")
        self.assertTrue(conditions_at(self.again(), moment).typed)
        self.assertFalse(hours_of(self.again(), moment + 1 / 24, 1)[0].typed)
        actions.change_outing(self.again(), date=date(2027, 6, 13))
        self.assertEqual(self.again().typed_conditions, {})

    def test_impossible_weather_is_refused(self):
        for values, sentence in (({"cloud_percent": "140"}, "Cloud cover is 0 to 100 % (got 140)."), ({"wind_m_s": "-3"}, "Wind is 0 to 60 m/s (got -3)."), ({"hour": "25"}, "less than or equal to 23")):  # fmt: skip
            with self.subTest(sentence):
                answer = self.client.post(f"{self.url}conditions", {"hour": "14", **values})
                self.assertContains(answer, sentence, status_code=422)
        self.assertEqual(self.again().typed_conditions, {})


class OrderAndVisits(OutingTest):
    def test_scenes_are_put_in_order(self):
        pks = [self.scene(f"S{k}").pk for k in range(3)]
        self.client.post(f"{self.url}order", {"scene": [pks[2], pks[0], 999999, pks[2]]})
        self.assertEqual(
            list(Scene.objects.filter(outing=self.outing).values_list("pk", flat=True)), [pks[2], pks[0], pks[1]]
        )

    def test_another_visit_carries_intents_and_no_readings_and_is_compared(self):
        self.scene(view={"heading_deg": 4, "time": "15:50"}, intent="Glow.", placing={"school": "known tone", "tone": "wall", "zone": 7},
                   tones=[{"name": "wall", "mark": "A", "role": "highlight", "at": [0.5, 0.5], "readings": [{"kind": "spot", "ev100": 14}]}])  # fmt: skip
        answer = self.client.post(f"{self.url}again")
        second = Outing.objects.exclude(pk=self.outing.pk).get()
        self.assertRedirects(answer, f"/outings/{second.pk}/")
        self.assertEqual((second.series, second.date, second.latitude_deg), (self.outing.series, None, 51.4))
        copy = Scene.objects.get(outing=second).kept
        self.assertEqual((copy["intent"], copy["view"]["heading_deg"]), ("Glow.", 4))
        self.assertEqual(copy["tones"], [{"name": "wall", "mark": "A", "role": "highlight"}])
        self.assertNotIn("placing", copy)
        page = self.client.get(self.url).content.decode()
        self.assertIn("Visits to this place", page)
        self.assertIn("1/60 f/8", page.replace("</b>", ""))
        self.assertIn("not planned", page)

    def test_the_leaving_list_is_kept(self):
        self.client.post(f"{self.url}check", {"code": "told", "checked": "on"})
        self.client.post(f"{self.url}check", {"code": "battery", "checked": "on"})
        self.assertEqual(self.again().checked, ["battery", "told"])
        self.client.post(f"{self.url}check", {"code": "told"})
        self.assertEqual(self.again().checked, ["battery"])
        self.assertEqual(self.client.post(f"{self.url}check", {"code": "x"}).status_code, 422)


class Cautions(OutingTest):
    def test_dangers_come_with_their_situation_only(self):
        codes = lambda **facts: [danger.code for danger in dangers(Circumstances(**facts))]
        self.assertEqual(codes(), [])
        for facts, code in (({"sun": "frame"}, "sun"), ({"tidal": True}, "water"), ({"night": True}, "night"), ({"words": "Old railway"}, "roads"),
                            ({"words": "Kiln at work"}, "heat"), ({"wind_m_s": 12}, "weather"), ({"rain": True}, "weather"), ({"words": "portrait of a potter"}, "people")):  # fmt: skip
            with self.subTest(code):
                self.assertIn(code, codes(**facts))
        self.assertEqual(codes(words="Season of seals, broadly trailing"), [])

    def test_a_caution_is_put_away_for_this_outing_and_comes_back(self):
        actions.change_outing(self.outing, tidal=True)
        self.assertContains(self.client.get(self.url), "do not turn your back to the sea")
        self.client.post(f"{self.url}dismiss", {"code": "water"})
        self.assertContains(self.client.get(self.url), "1 put away")
        self.client.post(f"{self.url}dismiss", {"code": "water", "back": "yes"})
        self.assertEqual(self.again().dismissed, [])

    def test_the_sun_in_the_frame_is_warned_of(self):
        scene = self.scene(view={"heading_deg": 250, "tilt_deg": 20, "time": "18:00", "sky": True})
        answer = self.client.get(f"/scenes/{scene.pk}/")
        self.assertContains(answer, "burns eyes and sensors")
        self.assertContains(self.client.get(self.url), "never look at it through an optical finder")


class OtherHours(OutingTest):
    """The other hours of a scene's day: what its sky does against what the sun lights, from the same sky as the outing's page."""

    def hours(self, heading, time="12:00", tilt=20):
        view = {"heading_deg": heading, "tilt_deg": tilt, "time": time, "sky": True}
        situation = Situation(self.scene(view=view))
        document, outing = situation.document, situation.scene.outing
        now = sky_over(document, None, outing, None)
        return document, outing, now, hours_around(document, None, outing, None)

    def test_each_is_of_the_same_day_and_side_and_says_what_the_sky_there_does(self):
        document, outing, now, found = self.hours(heading=0)
        self.assertGreater(len(found), 3)
        for hour in found:
            moment = local_moment(outing.date, parse_clock(hour.clock), zone_named(outing.zone))[0]
            there = sky_over(document, None, outing, None, jd=julian_date(moment)).seen
            with self.subTest(hour.clock):
                self.assertEqual(there.light, now.seen.light)
                self.assertGreater(there.sun_altitude_deg, 0)
                moved = there.tone.main.stops - now.seen.tone.main.stops
                self.assertAlmostEqual(hour.sky_stops, moved, delta=0.02)

    def test_none_after_dark_or_where_no_sky_is_in_the_frame(self):
        self.assertEqual(self.hours(heading=0, time="23:30")[3], ())
        self.assertEqual(self.hours(heading=0, tilt=-60)[3], ())


class Home(OutingTest):
    def test_the_next_outing_and_the_last_scene_come_first(self):
        actions.create_outing(self.person, "Later", date=date(2028, 1, 1))
        actions.create_outing(self.person, "Past", date=date(2020, 1, 1))
        self.scene("Older"), self.scene("Newer")
        home = home_of(self.person, datetime(2027, 6, 10, tzinfo=UTC))
        self.assertEqual((home.next.title, home.next_in, home.resume.title), ("Yard", "in 2 days", "Newer"))
        self.assertEqual(home.next_light[0][0], "Sun")
        self.assertContains(self.client.get("/"), "Where you left off")


class Reading(SimpleTestCase):
    def test_a_core_error_says_what_is_wrong_with_a_checklist(self):
        with self.assertRaises(CoreError):
            actions.set_checked(Outing(), "nothing", True)
