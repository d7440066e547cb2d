"""Cautions of a plan: each on both sides of its limit, in the values that it is judged by."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.cautions import exposure as rules
from dimgrey.core.cautions.glass import STACK_VIGNETTES
from dimgrey.core.cautions.registry import raised
from dimgrey.core.measure.exposure import Limits
from dimgrey.core.measure.longexposure import Reciprocity
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.development import Development
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import FilterCost, plan
from dimgrey.core.planning.prints import Print
from dimgrey.core.planning.zones import format_zone

SHADOW, WALL = Tone("mouth", "shadow", (9.0,)), Tone("wall", "highlight", (13.0,))
MAN, WOOD = Tone("man", "subject", (12.0,)), Tone("wood", "background", (12.0,))
EPSILON = 1e-6


def planned(*tones, **parts):
    """Plan of the shadow on III at f/8 on film, with other tones or parts of the brief."""
    values = {"medium": medium("film"), "choice": PlacingChoice("shadow"), "aperture": parse_aperture("8")}
    return plan(Brief(**{**values, "tones": tones or (SHADOW, WALL), **parts}))


def with_tone(result, name, **values):
    """The Plan with values of one planned tone replaced."""
    tones = tuple(replace(tone, **values) if tone.name == name else tone for tone in result.tones)
    return replace(result, tones=tones)


def with_brief(result, **values):
    return replace(result, brief=replace(result.brief, **values))


def found(result):
    """code -> Caution of the exposure."""
    return {each.code: each for each in raised("exposure", result)}


class Boundaries(SimpleTestCase):
    """Each code with plans just past its limit and just short of it; `about` is the tone or None."""

    def both(self, code, past, short, about=None):
        with self.subTest(code=code):
            self.assertIn(code, found(past))
            self.assertEqual(found(past)[code].about, about)
            self.assertRegex(found(past)[code].text, r"^[“A-Z0-9(].*[.?]$")
            self.assertNotIn(code, found(short))

    def test_lost_ends(self):
        result = planned()
        low, high = result.brief.medium.outer
        lost = lambda name, zone: with_tone(result, name, texture="lost", held=zone)
        self.both("highlight-lost", lost("wall", high + EPSILON), lost("wall", high), "wall")
        self.both("shadow-lost", lost("mouth", high), lost("mouth", high + EPSILON), "mouth")
        for changed in (
            with_tone(result, "wall", texture="faint", held=high + 1),
            with_tone(result, "wall", texture="lost", held=high + 1, needs_texture=False),
        ):
            self.assertEqual(found(changed), {})
        self.assertIn("compresses to blank white", found(lost("wall", high + 1))["highlight-lost"].text)
        digital = planned(SHADOW, Tone("sky", "sky", (14.0,)), medium=medium("digital file"))
        self.assertIn("clips to white", found(digital)["highlight-lost"].text)
        beyond = with_tone(result, "wall", texture="lost", held=11.0, fall=11.0)
        self.assertIn("falls above X", found(beyond)["highlight-lost"].text)
        pressed = planned(SHADOW, Tone("cloud", "highlight", (16.0,)), medium=medium("film", developed=-1))
        cloud = next(tone for tone in pressed.tones if tone.name == "cloud")
        self.assertIn(
            f"Cloud falls on {format_zone(cloud.fall)}, which N-1 brings to {format_zone(cloud.held)},",
            found(pressed)["highlight-lost"].text,
        )

    def test_range(self):
        for kind in ("slide", "digital raw", "digital file"):
            result = planned(medium=medium(kind))
            held = result.brief.medium.dependable[1] - result.brief.medium.dependable[0]
            over = lambda stops, result=result: replace(result, range_stops=stops)
            self.both("range-exceeds-medium", over(held + 0.5 + EPSILON), over(held + 0.5), "wall")
            self.assertRegex(
                found(over(held + 2))["range-exceeds-medium"].text, r"holds \(.+\)\.$", "a fact, and no way out"
            )
        film = planned()
        self.assertNotIn("range-exceeds-medium", found(replace(film, range_stops=None)))
        far = replace(film, range_stops=9.0)
        self.assertIn(
            "N-2 takes it in",
            found(replace(far, development="N-2", development_step=-2, asked_step=-2))["range-exceeds-medium"].text,
        )
        self.assertIn("alone does not", found(replace(far, development=None))["range-exceeds-medium"].text)
        self.assertIn("alone does not", found(replace(far, development="N"))["range-exceeds-medium"].text)
        roll = planned(Tone("mouth", "shadow", (6.0,)), WALL, medium=medium("film", developed=-1))
        self.assertIn("Development N-1, as it is held, does not take it in", found(roll)["range-exceeds-medium"].text)

    def test_development_beyond_the_table(self):
        result = planned()
        soft, hard = (replace(result, development_step=step, development=None) for step in (-4, 4))
        short = with_brief(soft, medium=medium("film", developments=(Development(-1), Development(0))))
        self.assertIn("ends at N-1.", found(short)["development-out-of-reach"].text)
        self.both("development-out-of-reach", soft, replace(soft, development="N-4"))
        self.both("development-out-of-reach", hard, replace(hard, development_step=None))
        softest, hardest = (found(each)["development-out-of-reach"].text for each in (soft, hard))
        self.assertIn("asks for N-4; the film's table ends at N-2.", softest)
        self.assertIn("asks for N+4; the film's table ends at N+2.", hardest)

    def test_a_silhouette_that_is_not_black(self):
        man = Tone("man", "subject", (9.0,), needs_texture=False)
        result = planned(man, Tone("sky", "sky", (14.0,)), choice=PlacingChoice("silhouette"))
        prints = lambda zone: with_tone(result, "man", print=Print(zone))
        self.both("silhouette-not-black", prints(1.05 + EPSILON), prints(1.05), "man")
        self.assertNotIn("silhouette-not-black", found(with_tone(prints(4.0), "man", role="background")))
        self.assertNotIn("silhouette-not-black", found(with_tone(planned(man, WALL), "man", print=Print(4.0))))

    def test_a_silhouette_without_roles_starts_from_the_tones_at_hand_and_says_what_is_missing(self):
        tones = lambda figure, behind: (Tone("man", figure, (8.0,)), Tone("window", behind, (13.0,)))
        made = lambda *roles: planned(*tones(*roles), choice=PlacingChoice("silhouette"))
        self.assertEqual(made("other", "other").placement.tone, "window")
        self.assertIn("silhouette-unsaid", found(made("other", "other")))
        self.assertIn("silhouette-unsaid", found(made("other", "background")))
        self.assertIn("silhouette-unsaid", found(made("subject", "other")))
        self.assertNotIn("silhouette-unsaid", found(made("subject", "background")))
        self.assertNotIn(
            "silhouette-unsaid", found(planned(*tones("other", "other"), choice=PlacingChoice("midpoint")))
        )

    def test_tones_that_merge(self):
        result = planned(SHADOW, MAN, WOOD)
        apart = lambda zones: with_tone(with_tone(result, "man", print=Print(5.0)), "wood", print=Print(5.0 + zones))
        for sign in (1, -1):
            self.both("tones-merge", apart(sign * (1 / 3 - EPSILON)), apart(sign * (1 / 3 + EPSILON)), "man")
        for role in ("subject", "skin"):
            for behind in ("background", "sky"):
                merged = with_tone(with_tone(apart(0.1), "man", role=role), "wood", role=behind)
                self.assertIn("tones-merge", found(merged))
        self.assertNotIn("tones-merge", found(with_tone(apart(0.1), "wood", role="subject")))
        self.assertNotIn("tones-merge", found(with_tone(apart(0.1), "man", role="highlight")))
        self.assertIn("within a sixth of a zone", found(apart(1 / 6 - 0.01))["tones-merge"].text)
        self.assertIn("within ⅓ of a zone", found(apart(0.3))["tones-merge"].text)

    def test_readings(self):
        self.both("tone-unread", planned(SHADOW, WALL, Tone("door")), planned(), "door")
        twice = lambda apart: planned(Tone("mouth", "shadow", (9.0, 9.0 + apart)), WALL)
        self.both("readings-differ", twice(1.0 + EPSILON), twice(1.0), "mouth")
        self.assertIn("differ by 4 stops", found(twice(4.0))["readings-differ"].text)

    def test_readings_outside_the_light_that_is_named(self):
        sun = lambda ev, role="subject", **more: planned(
            SHADOW, Tone("door", role, (ev,), **more), light_note="noon sun"
        )
        self.both("light-contradicts", sun(8.0 - EPSILON), sun(8.0), "door")
        self.both("light-contradicts", sun(20.0 + EPSILON), sun(20.0), "door")
        self.assertNotIn("light-contradicts", found(sun(6.0, "shadow")))
        self.assertIn("light-contradicts", found(sun(21.0, "shadow")))
        self.assertNotIn("light-contradicts", found(sun(6.0, needs_texture=False)))
        self.assertNotIn("light-contradicts", found(planned(SHADOW, Tone("door", "subject", (3.0,)))))
        self.assertIn("is 4 stops outside sunlight (EV 11 to 17)", found(sun(7.0))["light-contradicts"].text)

    def test_mushrooms_are_not_a_room(self):
        dim = Tone("cap", "subject", (-2.0,))
        for note, named in (("mushrooms on a log", False), ("a room with one lamp", True), ("rooms", True)):
            with self.subTest(note):
                self.assertEqual("light-contradicts" in found(planned(SHADOW, dim, light_note=note)), named)

    def test_a_window_may_be_as_bright_as_the_day_outside(self):
        window = lambda ev: found(planned(SHADOW, Tone("window", "highlight", (ev,)), light_note="a room"))
        self.assertNotIn("light-contradicts", window(15.0))
        self.assertIn("light-contradicts", window(20.1))

    def test_dense_on_purpose(self):
        result = planned()
        under = lambda stops: with_brief(result, choice=PlacingChoice("shadow", under_stops=stops))
        self.both("dense-on-purpose", under(1.0), under(1.0 - EPSILON))
        self.assertIn("2 stops under on purpose: lifting it later brings the noise of ISO 400",
                      found(under(2.0))["dense-on-purpose"].text)  # fmt: skip

    def test_holding_on_the_other_side_of_the_filter(self):
        result = planned()
        differs = lambda stops: replace(result, hold_difference_stops=stops)
        for sign in (1, -1):
            self.both("hold-differs", differs(sign * (1 / 3 + EPSILON)), differs(sign / 3), "mouth")
        other = replace(differs(1.0), placement=replace(result.placement, hold="after filter"))
        self.assertIn(
            "zone after the filter would change the setting by +1 EV", found(differs(1.0))["hold-differs"].text
        )
        self.assertIn("zone before the filter", found(other)["hold-differs"].text)

    def test_a_printed_factor_that_is_far_from_the_computed_one(self):
        result = planned()
        costs = lambda printed: replace(result, filter_cost=FilterCost(2.0, 2.0, 2.0, printed))
        for sign in (1, -1):
            self.both("factor-differs", costs(2 + sign * (2 / 3 + EPSILON)), costs(2 + sign * (2 / 3 - EPSILON)))
        self.assertNotIn("factor-differs", found(costs(None)))

    def test_glass(self):
        red, grey = (Glass("red"),), (Glass("nd", stops=3.0),)
        raw = lambda glass, **parts: planned(medium=medium("digital raw", **parts), filters=glass)
        self.both("glass-on-colour-sensor", raw(red), raw(grey))
        self.assertNotIn("glass-on-colour-sensor", found(raw(red, response="monochrome sensor")))
        blind = lambda glass: planned(medium=medium("film", response="orthochromatic"), filters=(Glass(glass),))
        self.both("filter-blocks-film", blind("deep red"), blind("yellow"))
        self.assertNotIn("filter-blocks-film", found(planned(filters=(Glass("deep red"),))))

    def test_a_stack_of_filters(self):
        stack = lambda count: planned(filters=(Glass("nd", stops=1.0),) * count)
        self.both("filters-stacked", stack(3), stack(2))
        self.assertIn("3 filters in front of the lens", found(stack(3))["filters-stacked"].text)

    def test_long_times(self):
        result = planned(medium=medium("film"))
        lasts = lambda seconds: replace(result, shutter_seconds=seconds, corrected_seconds=seconds)
        self.both("reciprocity-unknown", lasts(1.05 + EPSILON), lasts(1.05))
        known = with_brief(lasts(4.0), medium=medium("film", reciprocity=Reciprocity(1.3, 1.0)))
        self.assertNotIn("reciprocity-unknown", found(known))
        given = lambda seconds: replace(result, corrected_seconds=seconds)
        self.both("contrast-rises", given(10.0 + EPSILON), given(10.0))
        sensor = with_brief(replace(result, shutter_seconds=20.0, corrected_seconds=20.0), medium=medium("digital raw"))
        self.assertFalse({"contrast-rises", "reciprocity-unknown"} & set(found(sensor)))
        self.both("needs-support", lasts(1 / 25 + EPSILON), lasts(1 / 25 - EPSILON))
        marked = replace(lasts(1.0), shutter=parse_time("1 s"))
        self.assertIn("1 s wants a tripod", found(marked)["needs-support"].text)

    def test_a_hand_with_a_long_lens(self):
        long = planned(hand_limit_s=1 / 200)
        lasts = lambda seconds, **parts: with_brief(replace(long, shutter_seconds=seconds), **parts)
        self.both("needs-support", lasts(1.2 / 200 + EPSILON), lasts(1.2 / 200 - EPSILON))
        self.assertIn("is longer than a hand holds this lens (1/200 s)", found(lasts(1 / 100))["needs-support"].text)
        self.assertNotIn("needs-support", found(lasts(2.0, support="tripod")))
        self.assertNotIn("needs-support", found(lasts(1 / 9, hand_limit_s=1 / 8)), "a stabiliser holds it")
        self.assertIn(
            "1/8 s wants a tripod", found(replace(lasts(1 / 8), shutter=parse_time("1/8")))["needs-support"].text
        )

    def test_both_chosen(self):
        result = planned(shutter=parse_time("1/60"))
        off = lambda stops: replace(result, rounding_stops=stops)
        for sign, word in ((1, "over"), (-1, "under")):
            self.both("manual-differs", off(sign * (0.5 + EPSILON)), off(sign * 0.5))
            self.assertIn(f"2 stops {word} the plan", found(off(sign * 2.0))["manual-differs"].text)
        self.assertNotIn("manual-differs", found(with_brief(off(2.0), shutter=None)))
        self.assertNotIn("manual-differs", found(with_brief(off(2.0), aperture=None)))

    def test_what_the_camera_lacks(self):
        result = planned(limits=Limits(f_min=2.0, f_max=16.0, time_min_s=1 / 4096, time_max_s=32.0))
        lasts = lambda seconds: replace(result, shutter_seconds=seconds, corrected_seconds=seconds)
        quarter = 2**0.25
        self.both("shutter-too-short", lasts(1 / 4096 / quarter - 1e-9), lasts(1 / 4096 / quarter + 1e-9))
        self.both("shutter-too-long", lasts(32 * quarter + EPSILON), lasts(32 * quarter - EPSILON))
        self.assertIn("shorter than the camera's 1/4000", found(lasts(1 / 9000))["shutter-too-short"].text)
        self.assertIn("longer than the camera's 30 s", found(lasts(100.0))["shutter-too-long"].text)
        self.assertIn("shutter-too-long", found(replace(lasts(30.0), corrected_seconds=79.0)), "film that loses speed")
        opened = lambda f: replace(result, aperture=replace(result.aperture, exact=f))
        self.both("aperture-out-of-limits", opened(2.0 * 0.95 - EPSILON), opened(2.0 * 0.95 + EPSILON))
        self.both("aperture-out-of-limits", opened(16.0 * 1.05 + EPSILON), opened(16.0 * 1.05 - EPSILON))
        self.assertIn("from f/2 to f/16; nearest is f/2,", found(opened(1.0))["aperture-out-of-limits"].text)
        self.assertIn("nearest is f/16,", found(opened(45.0))["aperture-out-of-limits"].text)
        timed = lambda stops: with_brief(
            replace(result, rounding_stops=stops), shutter=parse_time("1/60"), aperture=None
        )
        for sign in (1, -1):
            self.both("aperture-out-of-limits", timed(sign * (0.5 + EPSILON)), timed(sign * 0.5))
        self.assertNotIn("aperture-out-of-limits", found(with_brief(timed(2.0), aperture=parse_aperture("8"))))
        self.assertNotIn("aperture-out-of-limits", found(with_brief(timed(2.0), shutter=None)))


class Whole(SimpleTestCase):
    def test_a_quiet_scene_has_none(self):
        self.assertEqual(found(planned(aperture=parse_aperture("4"))), {})

    def test_scenes_from_the_field_have_the_caution_that_belongs_to_them(self):
        dim = (Tone("mouth", "shadow", (2.0,)), Tone("wall", "highlight", (6.0,)))
        for code, result in (
            ("shadow-lost", planned(choice=PlacingChoice("known tone", "wall", 3.0))),
            ("tones-merge", planned(SHADOW, MAN, Tone("wood", "background", (12.2,)))),
            ("needs-support", planned(*dim)),
            ("shutter-too-long", planned(*dim, aperture=parse_aperture("22"), filters=(Glass("nd", stops=6.0),))),
            ("shutter-too-short", planned(Tone("a", "shadow", (18.0,)), aperture=parse_aperture("2"))),
            ("aperture-out-of-limits", planned(aperture=parse_aperture("64"))),
        ):
            with self.subTest(code):
                self.assertIn(code, found(result))

    def test_limits_are_what_the_handbook_gives(self):
        self.assertEqual(
            (rules.RECIPROCITY_ONSET_S, rules.TRIPOD_S, rules.CONTRAST_RISES_S, STACK_VIGNETTES),
            (1.0, 1 / 30, 10.0, 3),
        )


class OnTheLens(SimpleTestCase):
    """What a polarizer, a graduated filter and a push are warned of, and where they are not."""

    def has(self, code, **parts):
        return code in found(planned(SHADOW, WALL, **parts))

    def test_a_polarizer_is_turned_in_manual(self):
        on = (Glass("polarizer", stops=4 / 3),)
        self.assertTrue(self.has("polarizer-manual", filters=on))
        self.assertFalse(self.has("polarizer-manual"))
        self.assertFalse(self.has("polarizer-manual", filters=on, through_filter=True))

    def test_a_polarizer_under_full_cloud_and_through_an_aircrafts_window(self):
        on = (Glass("polarizer", stops=4 / 3),)
        self.assertTrue(self.has("polarizer-under-cloud", filters=on, light_note="overcast"))
        self.assertFalse(self.has("polarizer-under-cloud", filters=on, light_note="sun and clouds"))
        self.assertTrue(self.has("polarizer-through-window", filters=on, title="From the aircraft"))
        self.assertFalse(self.has("polarizer-through-window", title="From the aircraft"))

    def test_a_subject_in_the_graduated_filter(self):
        tower = lambda height: Tone("tower", "subject", (12.0,), height=height)
        held = lambda height: found(planned(SHADOW, tower(height), filters=(Glass("graduated", stops=2.0, edge=0.5),)))
        self.assertIn("subject-in-graduated", held(0.3))
        self.assertEqual(held(0.3)["subject-in-graduated"].about, "tower")
        self.assertNotIn("subject-in-graduated", held(0.6))

    def test_against_the_light(self):
        self.assertTrue(self.has("against-the-light", light_note="against the light"))
        self.assertTrue(self.has("against-the-light", light_note="backlit mist"))
        self.assertFalse(self.has("against-the-light", light_note="sun from behind left"))
        red = found(planned(SHADOW, WALL, light_note="into the sun", filters=(Glass("red"),)))["against-the-light"].text
        self.assertIn("take red off", red)

    def test_a_setup_beside_a_raw_file(self):
        raw = medium("digital raw")
        self.assertTrue(self.has("setup-not-in-raw", medium=raw, setup_toned=True))
        self.assertFalse(self.has("setup-not-in-raw", medium=raw))
        self.assertFalse(self.has("setup-not-in-raw", medium=medium("digital file"), setup_toned=True))

    def test_a_push_is_named_as_the_cause(self):
        pushed = medium("film", iso=400, developed=0, push_stops=2.0)
        self.assertTrue(self.has("pushed", medium=pushed))
        self.assertFalse(self.has("pushed", medium=medium("film", iso=400)))
        lost = found(planned(Tone("mouth", "shadow", (9.0,)), WALL, medium=pushed))
        self.assertIn("The push of 2 stops took it", lost["shadow-lost"].text)
        self.assertIn("Rated at ISO 400, 2 stops over its own 100", lost["pushed"].text)
