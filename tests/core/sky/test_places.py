"""Coordinates as people write them."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import CoreError
from dimgrey.core.sky.coordinates import format_coordinates, parse_coordinates


class Coordinates(SimpleTestCase):
    def test_common_notations(self):
        for text in (
            "51.45, -2.6",
            "51.45 -2.6",
            "51.45,-2.6",
            "51.45; -2.6",
            "geo:51.45,-2.6?z=15",
            "51.45N 2.6W",
            "N 51.45 W 2.6",
            "2.6 W, 51.45 N",
            "51° 27' 0\" N, 2° 36' 0\" W",
            "51°27′N 2°36′W",
            "N51 27 0 W2 36 0",
            "51:27:00N, 2:36:00W",
            "51,45 N 2,6 W",
            "2.6W 51.45N",
        ):
            with self.subTest(text):
                found = parse_coordinates(text)
                self.assertAlmostEqual(found.latitude_deg, 51.45, places=5)
                self.assertAlmostEqual(found.longitude_deg, -2.6, places=5)

    def test_refusals(self):
        for text, sentence in (
            ("91, 10", "Latitude runs from -90 to 90 degrees (got 91). Were latitude and longitude swapped?"),
            ("10, 190", "Longitude runs from -180 to 180 degrees (got 190)."),
            ("200, 300", "Latitude runs from -90 to 90 degrees (got 200)."),
            ("by the kiln", "is not a place"),
            ("", "does not hold a latitude and a longitude"),
            ("51 N 20 N", "gives the same direction twice"),
            ("north, south", "is not a place"),
            ("51°75'N 2°W", "60 or more minutes"),
            ("1e3, nan", "is not a place"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                parse_coordinates(text)
            self.assertIn(sentence, str(caught.exception))

    @given(st.floats(-90, 90), st.floats(-180, 180))
    def test_what_is_written_is_read_back(self, latitude, longitude):
        found = parse_coordinates(format_coordinates(latitude, longitude))
        self.assertAlmostEqual(found.latitude_deg, latitude, delta=6e-5)
        self.assertAlmostEqual(found.longitude_deg, longitude, delta=6e-5)
