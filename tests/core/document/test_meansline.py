"""The means in one line: nothing that makes the grey is left out, and nothing that does not."""

from django.test import SimpleTestCase

from dimgrey.core.document.meansline import means_line, mix_words
from tests.documents import document


class Line(SimpleTestCase):
    def test_film(self):
        made = document(
            medium={"kind": "film", "iso": 1600, "own_iso": 400, "name": "Yard Pan"}, lens={"focal_35mm": 85},
            filters=[{"name": "orange"}, {"name": "nd", "stops": 3}], bracket={"count": 3, "step": 1},
            needs={"support": "tripod"}, version=3,
        )  # fmt: skip
        line = means_line(made, "N+2")
        for part in (
            "85 mm",
            "Yard Pan ISO 400 rated 1600",
            "orange",
            "3",
            "develop N+2",
            "bracket of 3, 1 stop apart",
            "tripod",
        ):
            self.assertIn(part, line)

    def test_an_in_camera_filter_is_a_filter(self):
        plain = document(medium={"kind": "digital file", "iso": 100})
        self.assertEqual(mix_words(plain), "")
        chosen = document(medium={"kind": "digital raw", "iso": 100, "channel_mix": "red"})
        self.assertEqual(mix_words(chosen), "in-camera red")
        of_setup = document(
            medium={"kind": "digital file", "iso": 100}, setup={"name": "hard", "revision": 2, "filter": "green"}
        )
        self.assertEqual(mix_words(of_setup), "in-camera green")
        self.assertIn("setup hard version 2, raw and in-camera file", means_line(of_setup))
        own = document(medium={"kind": "digital raw", "iso": 100, "channel_mix": [1.2, -0.1, -0.1]})
        self.assertEqual(mix_words(own), "own mix 1.20 -0.10 -0.10")
        film = document(medium={"kind": "film", "iso": 100}, setup={"name": "left over", "filter": "red"})
        self.assertEqual((mix_words(film), means_line(film)), ("", "film ISO 100"))
