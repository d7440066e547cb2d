"""What other light would do: told where it serves what is wanted, silent where it does not or where nothing is missed."""

from django.test import SimpleTestCase

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.judging.around import Around
from dimgrey.core.judging.otherways import Hour
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.wishes import wanted_of
from tests.documents import document

GREY = [0.3, 0.3, 0.3]
AGAINST_A_DARK_SKY = "The wall stands bright against a dark sky."


def told(around=Around(), **parts):  # noqa: B008, an Around is frozen
    """(what is told of other light, the intent line)."""
    made = document(**parts)
    result = plan(brief_of(made))
    judged = proposals_of(made, result, brief_of, around)
    return judged.otherwise, intent_line(wanted_of(result.brief), result, judged)


def wall_and_sky(wall, sky, **more):
    tones = [
        {"name": "wall", "role": "subject", "ev100": wall, "colour": GREY},
        {"name": "sky", "role": "sky", "ev100": sky, "colour": GREY},
        {"name": "door", "role": "shadow", "ev100": 9},
    ]
    return {"tones": tones, "intent": AGAINST_A_DARK_SKY, "placing": {"school": "shadow"}, **more}


class Hours(SimpleTestCase):
    def at(self, *hours):
        return Around(hours=lambda: tuple(Hour(*hour) for hour in hours))

    def test_the_hour_that_serves_best_is_told_and_taken_by_nobody(self):
        around = self.at(("08:00", -1.0), ("12:00", 0.8), ("17:00", -3.5))
        said, line = told(around, **wall_and_sky(13, 14))
        self.assertEqual(
            said, "At about 17:00 a clear sky there is 3½ stops darker against what the sun lights; read it again then."
        )
        self.assertIn(said, line.nearest)

    def test_an_hour_that_makes_it_worse_or_hardly_moves_it_is_not_told(self):
        self.assertEqual(told(self.at(("12:00", 1.5)), **wall_and_sky(13, 14))[0], "")
        self.assertEqual(told(self.at(("17:00", -0.4)), **wall_and_sky(13, 14))[0], "")

    def test_as_wanted_and_without_a_sky_no_hour_is_told(self):
        self.assertEqual(told(self.at(("17:00", -3.5)), **wall_and_sky(14, 10.5))[0], "")
        tones = [{"name": "wall", "ev100": 13}, {"name": "roof", "ev100": 14}]
        self.assertEqual(told(self.at(("17:00", -3.5)), tones=tones, intent="The wall bright, the roof dark.")[0], "")

    def test_the_hour_is_the_nearest_of_any_that_the_judge_is_given(self):
        """A law over made-up days: what is told never takes the wish further away, and no other hour serves it better."""
        for now in (11.0, 12.5, 14.0, 15.0):
            hours = [(f"{hour:02d}:00", (hour - 12) * 0.7) for hour in range(6, 19)]
            said, _ = told(self.at(*hours), **wall_and_sky(13, now))
            if said:
                clock = said.split(" a clear")[0].removeprefix("At about ")
                self.assertLess(dict(hours)[clock], 0, "a dark sky is wanted")


class Fill(SimpleTestCase):
    def backlit(self, **face):
        tones = [
            {"name": "face", "role": "skin", "ev100": 11, "colour": [0.45, 0.28, 0.2], **face},
            {"name": "window", "role": "highlight", "ev100": 15, "texture": "needed"},
        ]
        return {
            "tones": tones,
            "medium": {"kind": "digital file"},
            "placing": {"school": "highlight"},
            "intent": "The face light, the window keeps texture.",
        }

    def test_a_face_against_the_light_wants_a_reflector(self):
        self.assertEqual(
            told(**self.backlit())[0], "A reflector near face gives it up to about 1 stop; read it again then."
        )

    def test_not_in_the_sun_not_for_what_shall_be_dark_and_not_far_away(self):
        self.assertNotIn("reflector", told(**self.backlit(lit="lit"))[0])
        dark = self.backlit() | {"intent": "The face dark, the window white."}
        self.assertNotIn("reflector", told(**dark)[0])
        far = self.backlit(role="subject", name="hill") | {"intent": "The hill light, the window keeps texture."}
        self.assertNotIn("reflector", told(**far)[0])


class Softer(SimpleTestCase):
    def contrasty(self, **more):
        tones = [
            {"name": "wall", "role": "subject", "ev100": 16, "lit": "lit"},
            {"name": "cellar", "role": "shadow", "ev100": 6, "lit": "unlit"},
        ]
        medium = {"kind": "slide"}
        return {
            "tones": tones,
            "medium": medium,
            "placing": {"school": "highlight"},
            "intent": "Texture everywhere.",
        } | more

    def test_cloud_before_the_sun_where_the_range_is_more_than_slide_film_holds(self):
        self.assertIn("cloud covers the sun", told(Around(in_sun=True), **self.contrasty())[0])

    def test_not_without_sun_and_not_for_what_may_go(self):
        self.assertEqual(told(**self.contrasty())[0], "")
        may_go = self.contrasty(intent="The cellar may be black.")
        self.assertEqual(told(Around(in_sun=True), **may_go)[0], "")
