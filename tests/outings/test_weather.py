"""The weather of a place: typed, chosen as simulated, or not known; never made up unasked."""

from datetime import date

from dimgrey.core.sky.clock import day_bounds, zone_named
from dimgrey.outings.actions import create_outing, type_conditions
from dimgrey.outings.forecast import conditions_at, hours_of
from tests.helpers import PageTest


class Weather(PageTest):
    def outing(self, **more):
        facts = {"date": date(2027, 6, 21), "latitude_deg": 51.5, "longitude_deg": -3.2, "zone": "Europe/Lisbon"}
        return create_outing(self.person, "Own place", **facts, **more)

    def hours(self, outing):
        start, _ = day_bounds(outing.date, zone_named(outing.zone))
        return hours_of(outing, start, 24)

    def test_nothing_is_made_up_for_a_place_of_ones_own(self):
        outing = self.outing(tidal=True)
        hours = self.hours(outing)
        self.assertEqual({(h.known, h.simulated, h.tide_m) for h in hours}, {(False, False, None)})
        self.assertIn("not known", hours[0].words())
        page = self.client.get(f"/outings/{outing.pk}/").content.decode()
        self.assertNotIn("simulated forecast)", page)
        self.assertIn("weather not known", page)

    def test_what_is_typed_is_known(self):
        outing = type_conditions(self.outing(), 14, cloud_percent=60.0, wind_m_s=4.0)
        hours = self.hours(outing)
        self.assertEqual([k for k, hour in enumerate(hours) if hour.known], [14])
        self.assertEqual((hours[14].cloud_percent, hours[14].typed), (60.0, True))

    def test_a_simulated_forecast_is_shown_where_it_was_chosen_and_says_so(self):
        outing = self.outing(forecast=True)
        self.assertTrue(all(hour.simulated and hour.known for hour in self.hours(outing)))
        start, _ = day_bounds(outing.date, zone_named(outing.zone))
        self.assertTrue(conditions_at(outing, start).simulated)
        self.assertContains(self.client.get(f"/outings/{outing.pk}/"), "simulated forecast")
