"""Numbers and words that the core gives for a few hundred made-up cases, room by room, to notice a change nobody meant.

They are not truth: whether a rule is right is tested against tables, hand calculation and full spectra beside it. When a rule
is meant to change, make the file anew and look at what moved: python -m tests.reference.pins
"""

import dataclasses
import json
import math
import random
import zlib
from datetime import UTC, date, datetime
from pathlib import Path

import numpy as np

from dimgrey.core.camera import calibration, setups
from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.colour import chain, chainterms, chromaticity, curves, encoding, filters, greys, spectra
from dimgrey.core.colour import luminance as colour_light
from dimgrey.core.document import edits, kit, kitnotation, kituse, lightscale, meansedits, wishing
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.changes import changed
from dimgrey.core.document.means import GlassPart, SetupPart
from dimgrey.core.document.model import View
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.tones import Reading
from dimgrey.core.errors import CoreError
from dimgrey.core.measure import brackets, exposure, handheld, longexposure, metering, notation, optics, readings, stops
from dimgrey.core.picture import contours, crop, cube, detail, display, measures, tonescales, twins
from dimgrey.core.picture.parttwins import part_twins
from dimgrey.core.picture.spot import read_spot
from dimgrey.core.picture.tonemap import ToneMap, reduced
from dimgrey.core.planning import choosing, development, explain, prints, separation, tonenames, zones
from dimgrey.core.planning.brief import ROLES, Brief, PlacingChoice, Tone
from dimgrey.core.planning.media import limits_at, medium, texture
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.sky import clock, coordinates, daylight, dome, moon, skytone, sun, sunlight, wants
from dimgrey.core.sky.conditions import Conditions, require_conditions
from dimgrey.core.sky.framesky import frame_sky, planned_moment
from tests.reference.random_scenes import random_scene

FILE = Path(__file__).with_name("pins.json")
COLOURS = ((0.3, 0.1, 0.06), (0.06, 0.11, 0.04), (0.1, 0.2, 0.5), (0.6, 0.55, 0.5), (0.02, 0.02, 0.03), (0.5, 0.4, 0.1))
JDS = tuple(2461000.5 + 36.6 * k + 0.11 * k * k for k in range(9))
PLACES = ((51.4, -5.2), (0.5, 100.0), (-33.9, 18.4), (69.6, 18.9))


def told(value):
    """A value as plain numbers and words; of a large array its size and two sums that any change moves."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        return [told(getattr(value, each.name)) for each in dataclasses.fields(value) if each.name != "beyond"]
    if isinstance(value, np.ndarray):
        if value.size > 24:
            flat = np.nan_to_num(value.astype(float).ravel(), posinf=1e6, neginf=-1e6)
            return [list(value.shape), told(flat.sum()), told(float(flat @ np.cos(np.arange(flat.size) * 0.37)))]
        return told(value.tolist())
    if isinstance(value, dict):
        return {str(key): told(each) for key, each in value.items()}
    if isinstance(value, list | tuple | set | frozenset):
        return [told(each) for each in value]
    if isinstance(value, bool | str | int) or value is None:
        return value
    if isinstance(value, float | np.floating):
        return float(f"{float(value):.7g}") if math.isfinite(value) else str(float(value))
    if isinstance(value, np.generic):
        return value.item()
    return str(value)


def asked(function, *args, **kwargs):
    """What a function gives, or the sentence with which it refuses."""
    try:
        return told(function(*args, **kwargs))
    except CoreError as refused:
        return f"{type(refused).__name__}: {refused}"


def digested(function, *args):
    """A number that stands for what a function gives, where that is long and holds only what was put in."""
    return zlib.crc32(json.dumps(asked(function, *args), sort_keys=True).encode())


def over(function, *columns):
    """What a function gives for each row of cases."""
    return [asked(function, *(row if isinstance(row, tuple) else (row,))) for row in columns]


def random_plans(count):
    for seed in range(count):
        document = document_of(random_scene(random.Random(7000 + seed)))
        try:
            yield document, plan(brief_of(document))
        except CoreError:
            continue


def picture(height=60, width=90):
    """A made-up linear picture with edges, gradients and colour, shape (h, w, 3)."""
    y, x = np.mgrid[0:height, 0:width] / np.array([height, width]).reshape(2, 1, 1)
    base = 0.18 * 2.0 ** (6 * x - 3 + np.sin(9 * y))
    made = np.stack([base * (1 + 0.6 * np.sin(7 * x)), base, base * (1 + 0.6 * np.cos(5 * y))], axis=-1)
    made[10:25, 15:35], made[30:50, 55:80], made[5:12, 70:88] = COLOURS[0], COLOURS[1], (3.0, 3.0, 3.0)
    return made.astype(np.float32)


def planning():
    for k, (_, result) in enumerate(random_plans(45)):
        yield f"plan {k}", told(plan_as_json(result, cautions_of(result)))
        yield f"why {k}", [explain.why_setting(result), explain.why_filter(result), explain.why_exposure(result),
                           explain.why_range(result), *(explain.why_tone(tone, result) for tone in result.tones)]  # fmt: skip
        yield f"others {k}", told(other_schools(result))
        yield (
            f"choices {k}",
            [
                [c.name, told(c.stops), told(c.noise_gain), told(c.parted), told(c.merges), told(c.lost)]
                for c in (separation.colour_choices(result) if len(result.tones) > 1 else ())
            ],
        )
    yield (
        "names",
        [
            asked(tonenames.suggestions, colour, shift, high, lit, note)
            for colour in COLOURS
            for shift in (-4.1, -2.2, -0.4, 1.3, 2.6, 4.2)
            for high, lit, note in ((0.1, "D55", ""), (0.5, "A", "a room"), (0.9, "D55", "snow"))
        ],
    )
    wheel = [
        tuple(float(v) for v in 0.2 * (1 + 0.98 * pale * np.cos(hue + np.array([0, -2.1, 2.1]))))
        for hue in np.arange(0, 6.28, 0.21)
        for pale in (0.12, 0.3, 0.6, 1.0)
    ]
    yield (
        "names round the wheel",
        [
            asked(tonenames.suggestions, colour, shift, high, "D55", note)
            for colour in wheel
            for shift, high, note in ((0.2, 0.6, ""), (1.5, 0.3, ""), (-2.6, 0.44, "a room"))
        ],
    )
    rng = random.Random(11)
    for k in range(60):
        evs = [round(rng.uniform(6, 17), 2) for _ in range(rng.choice((2, 3, 5)))]
        tones = tuple(
            Tone(f"t{n}", rng.choice(ROLES), (ev,), rng.choice((None, *COLOURS)), rng.random() < 0.8)
            for n, ev in enumerate(evs)
        )
        kind = rng.choice(("digital file", "digital file", "digital raw", "slide", "film"))
        tone = tuple(rng.choice((0.0, -0.3, 0.55)) for _ in range(3)) if kind == "digital file" else (0.0, 0.0, 0.0)
        brief = Brief(
            medium=medium(kind, tone=tone),
            tones=tones,
            choice=PlacingChoice(rng.choice(tuple(SCHOOLS)), "t0", rng.choice((None, 3.0, 6.3))),
        )
        try:
            result = plan(brief)
        except CoreError as refused:
            yield f"wide {k}", str(refused)
            continue
        yield (
            f"wide {k}",
            told(
                [
                    cautions_of(result),
                    other_schools(result),
                    result.development,
                    result.range_stops,
                ]
            ),
        )
    yield (
        "development",
        [
            [
                development.contraction_for(b),
                development.expansion_for(a),
                development.developed_zone(a, s),
                development.format_development(s),
            ]
            for a in (3.1, 4.6, 6.2, 8.9)
            for b in (2.2, 5.0, 7.4)
            for s in (-2, 0, 1)
        ],
    )
    yield "zones", [over(zones.parse_zone, "III", "VII⅓", "7.5", "XI", "VI 1/2"), over(zones.format_zone, *np.arange(-1, 11.5, 0.31))]  # fmt: skip
    yield "media", [asked(medium, kind, headroom=h, footroom=f) for kind in ("digital raw", "digital file") for h in (2, 3.4) for f in (3, 5)]  # fmt: skip
    yield "limits", [asked(limits_at, [[100, 3.3, 5], [800, 3.1, 4.2], [6400, 2.6, 3]], iso) for iso in (50, 100, 300, 800, 2000, 12800)]  # fmt: skip
    yield "texture", [texture(zone, medium(kind)) for kind in ("film", "slide", "digital raw") for zone in np.arange(-1, 11, 0.37)]  # fmt: skip


def choosing_settings():
    rng = random.Random(5)
    for k in range(260):
        near = rng.choice((None, round(rng.uniform(0.3, 6), 2)))
        far = None if near is None else rng.choice((math.inf, round(near * rng.uniform(0.9, 9), 2)))
        motion = rng.choice(("", "freeze", "blur"))
        needs = choosing.Needs(
            near, far, round(rng.uniform(0.1, 9), 2) if motion else 0.0, round(rng.uniform(1, 40), 1), motion,
            rng.choice(("hand", "tripod", "")), rng.choice((0.0, 4.9, 5.1, 9.0)),
        )  # fmt: skip
        focal = rng.choice((20.0, 35.0, 50.0, 90.0, 110.0, 300.0))
        means = choosing.Means(
            focal_mm=focal, focal_35mm=focal * rng.choice((1.0, 1.5)), f_min=rng.choice((1.4, 4.0)),
            f_max=rng.choice((16.0, 64.0)), iso=rng.choice((50.0, 400.0)), iso_max=rng.choice((400.0, 6400.0)),
            increment=rng.choice(("third", "half")), hand_factor=rng.choice((1.0, 2.0)), stabiliser_stops=rng.choice((0.0, 3.0)),
        )  # fmt: skip
        yield f"{k}", asked(choosing.propose, round(rng.uniform(-3, 17), 2), needs, means)


def measuring():
    texts = (
        "1/125",
        "0.5",
        '2"',
        "1m30",
        "4 s",
        "1/3",
        "f/8",
        "f5.6",
        "11",
        "100",
        "ISO 400",
        "2⅔",
        "-1/3",
        "12 1/3",
        "x",
        "0",
    )
    for increment in ("full", "half", "third"):
        for parse in (notation.parse_time, notation.parse_aperture, notation.parse_speed):
            yield f"{parse.__name__} {increment}", [asked(parse, text, increment) for text in texts]
        yield f"marked {increment}", [
            [asked(exposure.marked_time, 2.0**s, increment), asked(exposure.marked_aperture, 1.03 * 2 ** (abs(s) / 3), increment)]
            for s in np.arange(-12.4, 7, 0.83)
        ]  # fmt: skip
        yield f"pairs {increment}", told(exposure.combinations(11.37, 160.0, increment))
    yield "stops", [over(notation.parse_stops, *texts), [stops.format_stops(s, d, g) for s in np.arange(-3, 3, 0.29) for d in (2, 3) for g in (True, False)]]  # fmt: skip
    yield "seconds", over(stops.format_seconds, *(2.0 ** np.arange(-11, 14, 0.77)))
    yield "ev", [told((exposure.ev100(f, t, i), exposure.luminance_cd_m2(f), exposure.illuminance_lux(f), exposure.f_number_for(f, t, i)))
                 for f, t, i in ((8.0, 1 / 60, 100.0), (2.8, 4.0, 1600.0), (16.0, 0.01, 50.0))]  # fmt: skip
    yield (
        "readings",
        [
            asked(readings.parse_reading, text, "400", "third")
            for text in ("12⅓", "1/125 f/8", "EV 40", "8s f/11", "f/8")
        ],
    )
    yield "distances", over(readings.parse_distance, "2.5 m", "80 cm", "infinity", "0", "close", "3 km")
    now = datetime(2027, 6, 1, 12, tzinfo=UTC)
    yield "ages", [readings.reading_age(f"2027-05-{d:02d}T{h:02d}:{m:02d}:00+00:00", now, low) for d, h, m in ((31, 11, 0), (31, 23, 40), (30, 2, 0)) for low in (True, False)]  # fmt: skip
    yield "ages today", [readings.reading_age(f"2027-06-01T{h:02d}:{m:02d}:30+00:00", now, low) for h, m in ((11, 59), (11, 57), (11, 50), (11, 30), (10, 15), (3, 0)) for low in (True, False)]  # fmt: skip
    table = longexposure.reciprocity(table=[[1, 1.5], [10, 25], [60, 240]])
    yield "long", [told(longexposure.corrected_seconds(s, film)) for s in (0.3, 1.2, 4.0, 33.0, 200.0) for film in (None, table, longexposure.Reciprocity(1.31, 1.0))]  # fmt: skip
    for focal in (24.0, 80.0, 210.0):
        coc = optics.circle_of_confusion_mm(36.0, 24.0 + focal / 10)
        yield f"optics {focal}", told([
            coc, optics.hyperfocal_mm(focal, 11.0, coc), optics.depth_of_field(focal, 8.0, 3.7, coc),
            optics.depth_of_field(focal, 22.0, 400.0, coc), optics.focus_for(focal, 1.9, 7.0, coc),
            optics.focus_for(focal, 1.9, math.inf, coc), optics.airy_mm(focal / 5), optics.best_f_number(focal / 90),
            optics.motion_blur_mm(1.4, 0.02, focal, 6.0), optics.freezing_time_s(1.4, focal, 6.0, coc),
            optics.bellows_stops(focal / 100), handheld.handheld_limit_s(focal, 1.3, 2.0),
        ])  # fmt: skip
    yield "wind", [handheld.wind_shakes(w, f, t) for w in (4.9, 5.1) for f in (90, 120) for t in (0.01, 0.1, 3.0)]
    yield "angles", told([[metering.hfov_deg(f), metering.picture_hfov_deg(f, 90, 60), metering.picture_hfov_deg(f, 60, 90), metering.spot_radius_px(1600, f, 1.3)] for f in (20.0, 50.0, 135.0)])  # fmt: skip
    seen = picture()
    yield "spots", told([read_spot(seen, c, r, radius, clip) for c, r in ((5, 5), (40, 30), (88, 58)) for radius in (1.0, 6.3) for clip in (None, 1.0)])  # fmt: skip
    yield "scales", [asked(metering.fit_light_scale, s, e, k) for s, e, k in (((0.0,), (9.0,), None), ((-2.0, 1.0, 3.0), (7.0, 11.5, 14.0), None), ((-2.0, 1.0), (7.0, 11.5), 9.2), ((0.1, 0.2), (5.0, 15.0), None))]  # fmt: skip
    yield "brackets", [
        [told(brackets.suggested(zs, (3.0, 7.0), u)), told(brackets.uncovered(brackets.Bracket(3, 1.5), zs, (3.0, 7.0))),
         told(brackets.frames(brackets.Bracket(5, 2 / 3, "- 0 +"), 0.013, [(str(z), z) for z in zs], (3.0, 7.0)))]
        for zs in ((4.0, 6.0), (2.1, 8.3), (0.2, 10.9), (1.0, 7.2), (0.5, 6.0)) for u in (0.0, 0.7)
    ]  # fmt: skip


def camera():
    for tone in ((0, 0, 0), (0.6, -0.4, 0.3), (-0.8, 0.7, -0.5), (1, 1, 1)):
        yield (
            f"tone {tone}",
            told([[setups.toned_stops(s, tone), setups.plain_stops(s, tone)] for s in np.arange(-6, 6, 0.73)]),
        )
    menu = setups.parse_controls(
        "Contrast: contrast -4..4 step 1\nHighlight: highlights -2..4 step 0.5\nGrain: grain 0..3 step 1"
    )
    for effects in ({"contrast": 0.4}, {"highlights": -0.62, "shadows": 0.3, "grain": 0.5}, {"clarity": -0.9}):
        made = setups.setup("A", effects, "red", 1.0)
        yield f"carry {effects}", told(setups.carry(made, menu, ("none", "yellow"), 0.5))
        yield f"changed {effects}", setups.what_changed(setups.setup("B", {"contrast": 0.1}), made)
    steps = np.arange(-7, 5)
    rise = 100 / (1 + np.exp(-0.75 * (steps + 0.4)))
    for name, light_seen in (
        ("soft", rise),
        ("clipped", np.minimum(rise * 1.25, 100)),
        ("flat foot", np.maximum(rise, 9)),
    ):
        series = [calibration.CardFrame(float(s), float(v)) for s, v in zip(steps, light_seen, strict=True)]
        yield f"curve {name}", asked(calibration.curve_from_series, series)
        yield f"curve {name}, a gap", asked(calibration.curve_from_series, series[:5] + series[6:])
        yield f"curve {name}, short", asked(calibration.curve_from_series, series[:5])
        yield (
            f"curve {name}, shuffled",
            asked(calibration.curve_from_series, [*series[:-1], calibration.CardFrame(4.0, 20.0)]),
        )
    patches = picture(80, 120)
    yield "patches", [told(calibration.chart_patches(patches)), told(calibration.card_lightness(patches))]
    colours = np.abs(np.sin(np.arange(72).reshape(24, 3) * 1.7)) * 0.8 + 0.02
    yield "mix", told(calibration.mix_from_chart(colours, colours @ np.array([0.31, 0.52, 0.17]) * 1.01))


def colour():
    level = np.linspace(0, 1, 23)
    yield "encodings", told([encoding.linear_of_srgb(level), encoding.srgb_of_linear(level), encoding.lightness_of_luminance(level), encoding.luminance_of_lightness(level * 100), encoding.grey8_of_lightness(level * 100), colour_light.linear_of_hex("#7a4a32"), encoding.mean_lightness((level * 255).astype(np.uint8))])  # fmt: skip
    yield "places", told([[chromaticity.places(np.array(c)), chromaticity.light_of(np.array(c))] for c in COLOURS])
    yield "spectra", told([spectra.illuminant(lit) for lit in chain.LIGHTS] + [spectra.photopic(), spectra.srgb_basis(), spectra.sigmoid(level), spectra.gaussian(540.0, 33.0)])  # fmt: skip
    for response in ("general panchromatic", "extended red", "orthochromatic", "blue-sensitive", "monochrome sensor"):
        for lit in ("D55", "A"):
            for glass in ((), ("yellow",), ("deep red",), ("green", "light yellow"), ("blue",)):
                made = chain.glass_chain(response, lit, glass)
                yield f"{response} {lit} {glass}", told([made.weights, made.factor, chainterms.terms_of(made.through).sky] + [[greys.grey_of(made, np.array(c)), greys.plain_grey_of(made, np.array(c)), chain.error_stops(made, c), chain.tone_shift_stops(made, c), chain.tone_shift_stops(made, c, sky=True)] for c in COLOURS])  # fmt: skip
    own = filters.own_spectrum([(nm, min(max((nm - 440) / 200, 0.02), 0.9)) for nm in range(380, 731, 25)])
    yield (
        "own glass",
        told([curves.transmittance((own,)), *(curves.transmittance((name,)) for name in filters.COLOURED)]),
    )
    for mix in ("none", "red", "green", (0.5, 0.6, -0.1)):
        yield f"mix {mix}", told(chain.mixed_chain(mix))


def pictures():
    linear, small = picture(), reduced(np.moveaxis(picture(123, 187), -1, 0), 80)
    yield "reduced", told(small)
    for kind in ("film", "slide", "digital raw", "digital file"):
        tone_map = ToneMap(chain.glass_chain("general panchromatic", "D55", ("orange",)), -0.6, 1.1, kind, 1 if kind == "film" else 0, (0.3, -0.2, 0.4) if kind == "digital file" else (0, 0, 0))  # fmt: skip
        zoned, shown = tone_map.zones(linear), tone_map.lightness(linear)
        found = measures.balance(zoned)
        yield f"{kind} map", told([zoned, shown, found, measures.lost_shares(shown)])
        yield f"{kind} verdicts", [told(measures.verdict(found, scale)) for scale in tonescales.SCALES]
        pulls, edges = measures.pulls(shown), measures.bright_edges(shown)
        yield f"{kind} eye", told([pulls, edges, measures.pull_words(pulls), measures.pull_words(pulls, ("wall", 0.3, 0.4)), measures.edge_words(edges), measures.place_of(pulls, 0.3, 0.3)])  # fmt: skip
        yield f"{kind} contours", told([[(each.border, len(each.points), each.closed, np.array(each.points)) for each in drawn.lines] + [told(drawn.labels), told(drawn.lost_shadows), told(drawn.lost_highlights)] for drawn in (contours.contours(zoned, (1.5, 8.0)),)])  # fmt: skip
        for look in display.LOOKS:
            yield (
                f"{kind} {look}",
                told(display.display_table(-0.4, 1.2, prints.curve_for(kind), 1, look, (0.2, -0.3, 0.1))),
            )
    for made in (chain.glass_chain("extended red", "D55", ("red",)),):
        yield (
            "grey",
            told(
                display.grey_picture(
                    *chromaticity.light_and_places(np.moveaxis(linear, -1, 0).reshape(3, -1)),
                    greys.fine_gains(made),
                    display.display_table(),
                )
            ),
        )
    yield "squinted", told(display.squinted(np.arange(6000, dtype=np.uint16).reshape(60, 100).astype(np.uint8)))
    yield "in colour", told(display.colour_picture(linear, -0.3))
    areas = twins.areas_of(small, 60)
    light_of = ToneMap(chain.glass_chain("general panchromatic", "D55", ())).lightness(areas.colours)
    pairs = twins.twins(areas, light_of)
    yield (
        "twins",
        told([areas.pairs, areas.borders, areas.colours, pairs, [twins.outline(areas, (p.a, p.b)) for p in pairs[:2]]]),
    )
    yield "crops", told([crop.largest_crop(ratio, shape, up, (0.3, 0.6)) for ratio in ("1:1", "5:4", "4:3", "3:2", "16:9") for shape in (0.7, 1.5) for up in (True, False)] + [crop.guide_lines(kind) for kind in ("thirds", "golden")] + [asked(crop.require_crop, 0.2, 0.2, 0.2, 0.9)])  # fmt: skip
    yield "cube", cube.cube_text(ToneMap(chain.mixed_chain("red"), 0.2, 1.0, "digital file", 0, (0.3, 0, 0)), "t", "c", 5)[:4000]  # fmt: skip
    made = setups.setup(
        "x", {"grain": 0.6, "grain size": 0.4, "sharpening": 0.5, "clarity": -0.4, "noise reduction": 0.3}
    )
    yield "finished", told(detail.finished(display.lightness(np.log2(encoding.luminance(linear) / 0.18)), made, np.random.default_rng(3)))  # fmt: skip
    yield "twins parted", told(part_twins(np.array(COLOURS[:2]), separation.candidate_chains(medium("film"), "D55"), "film", 0.3, 1.1))  # fmt: skip


def skies():
    for latitude, longitude in PLACES:
        yield f"sun {latitude}", told([sun.sun_position(jd, latitude, longitude) for jd in JDS])
        yield f"moon {latitude}", told([moon.moon_at(jd, latitude, longitude) for jd in JDS])
        day = sun.sun_day(JDS[2], JDS[2] + 1, latitude, longitude)
        yield f"day {latitude}", told([day.crossings, day.low, day.noon])
    yield (
        "phases",
        [moon.phase_name(share, waxing) for share in (0.0, 0.04, 0.3, 0.5, 0.8, 0.97, 1.0) for waxing in (True, False)],
    )
    yield "guide", [asked(daylight.daylight_ev100, kind, height) for kind in daylight.KINDS for height in (-3.0, 2.0, 7.0, 14.0, 36.0, 80.0)]  # fmt: skip
    yield (
        "named",
        [
            told(daylight.light_named(note))
            for note in ("noon sun", "a room with lamp light", "foggy shade", "moonlit", "x")
        ],
    )
    directions = {name: dome.Direction(a, b) for name, (a, b) in {"top": (50.0, 190.0), "upper": (30.0, 200.0), "left": (22.0, 150.0), "right": (22.0, 250.0), "centre": (10.0, 200.0), "low": (-5.0, 200.0)}.items()}  # fmt: skip
    yield (
        "frame",
        told(
            [
                dome.frame_directions(h, t, f)
                for h, t, f in ((10.0, 0.0, 35.0), (200.0, 22.0, 85.0), (300.0, -10.0, 24.0))
            ]
        ),
    )
    for height in (4.0, 17.0, 55.0):
        yield f"dome {height}", told([[dome.angle_between_deg(a, b, height, 130.0), dome.relative_luminance(a, 35.0 + a, height), dome.polarization(a + 30, 0.7), dome.polarizer_stops(a + 30, 0.7)] for a, b in ((5.0, 20.0), (40.0, 210.0), (80.0, 300.0))] + [dome.zenith_luminance_cd_m2(height, air) for air in ("clear", "hazy")])  # fmt: skip
        for air in ("clear", "hazy"):
            for polarizer in (True, False):
                through = chain.glass_chain("general panchromatic", "D55", ("red",))
                yield f"sky {height} {air} {polarizer}", asked(skytone.sky_tone, dome.Direction(height, 120.0), directions, air, through, "D55", polarizer)  # fmt: skip
    yield "overcast", told([skytone.overcast_stops(a) for a in (0.0, 12.0, 45.0, 90.0)])
    yield "light", told([[sunlight.light_from(h, a, e), sunlight.turn_deg(h, a), wants.compass_point(h), sunlight.shadow_length(1.7, e), sunlight.shadow_azimuth_deg(a)] for h, a, e in ((10.0, 12.0, 30.0), (10.0, 60.0, 5.0), (10.0, 150.0, 60.0), (350.0, 240.0, -2.0), (123.0, 80.0, 80.0))])  # fmt: skip
    texts = (
        "12",
        "-12",
        "95",
        "-95",
        "NNE",
        "wsw",
        "x",
        "",
        "359.9",
        "400",
        "12:30",
        "24:00",
        "7.15",
        "0730",
        "2027-02-30",
        "1.7.2027",
        "3000-01-01",
    )
    for parse in (wants.parse_heading, wants.parse_tilt, clock.parse_clock, clock.parse_day):
        yield parse.__name__, over(parse, *texts)
    yield (
        "coordinates",
        over(
            coordinates.parse_coordinates,
            "51.4, -5.2",
            "51°24'N 5°12'W",
            "91, 10",
            "10, 181",
            "120, 60",
            "x",
            "51.4 5.2",
        ),
    )
    yield (
        "coordinates checked",
        over(
            coordinates.require_coordinates, (91.0, 10.0), (200.0, 10.0), (91.0, 100.0), (10.0, 181.0), (-90.0, 180.0)
        ),
    )
    yield "coordinates written", over(coordinates.format_coordinates, (51.4, -5.2), (-33.9, 18.4), (0.0, 0.0))
    zone = clock.zone_named("Europe/Lisbon")
    yield (
        "clock",
        told(
            [
                [
                    clock.julian_date(datetime(2027, m, 28, 3 * m, tzinfo=UTC)),
                    str(clock.moment_of(2461000.3 + m, zone)),
                    clock.day_bounds(date(2027, m, 28), zone),
                    clock.local_moment(date(2027, m, 28), clock.parse_clock("01:30"), zone),
                ]
                for m in (1, 3, 7)
            ]
        ),
    )
    yield (
        "near",
        told([sunlight.sun_near_frame(a, g, 30.0) for a in (-1.0, 5.0) for g in (10.0, 32.0, 44.9, 45.1, 90.0)]),
    )
    jd = np.linspace(JDS[1], JDS[1] + 1, 300)
    heights = 40 * np.sin((jd - jd[0]) * 6.3)
    sample = sunlight.Sample(
        heights,
        (jd - jd[0]) * 360 - 180,
        np.linspace(0, 100, 300),
        np.linspace(0.2, 40, 300),
        -heights,
        np.full(300, 0.8),
    )
    for code in wants.WANTS:
        yield f"windows {code}", asked(sunlight.windows, (code,), jd, sample)
    for k, heading in enumerate((0.0, 95.0, 230.0)):
        view = View(heading, 8.0 + k, ("07:30", "12:10", "18:40")[k], True)
        given = {"format": "dimgrey-scene", "version": 1, "filters": [{"name": "polarizer"}, {"name": "orange"}][: k + 1],
                 "place": {"latitude_deg": 51.4, "longitude_deg": -5.2, "date": str(date(2027, 6, 12 + k)), "zone": "Europe/Lisbon"}}  # fmt: skip
        document = document_of({**given, "version": 2}).with_(view=view)
        through = chain.glass_chain("general panchromatic", "D55", ())
        conditions = Conditions(cloud_percent=(5, 40, 95)[k], visibility_km=(40, 12, 30)[k])
        yield f"over the frame {heading}", [asked(planned_moment, document.place, view), asked(frame_sky, document, document.place, conditions, 35.0, k == 1, through)]  # fmt: skip


def _edits_of(document, mark):
    """Edits of one tone and of the means, each from document to document."""
    first, last, typed = document.tones[0].name, document.tones[-1].name, Reading(ev100=9.7)
    return (
        lambda d: edits.with_reading(d, mark, typed),
        lambda d: edits.with_reading(d, mark, typed, True),
        lambda d: edits.with_light_from(d, mark, typed),
        lambda d: edits.without_reading(d, mark, 0),
        lambda d: edits.without_reading(d, mark, 9),
        lambda d: edits.described(d, mark, name="another", role="skin"),
        lambda d: edits.described(d, mark, name=first),
        lambda d: edits.described(d, mark, name="x" * 61),
        lambda d: edits.with_named_tone(d, "", typed),
        lambda d: edits.with_named_tone(d, first),
        lambda d: wishing.with_pair(d, first, last),
        lambda d: wishing.with_pair(d, first, "nobody"),
        lambda d: meansedits.with_glass(d, GlassPart("nd", stops=3.0)),
        lambda d: meansedits.with_glass(d, GlassPart("red")),
        lambda d: edits.with_school(d, "highlight", {"white": "pure", "under_stops": 0.5}),
        lambda d: edits.with_school(d, "known tone"),
        lambda d: edits.unplaced(d),
        lambda d: meansedits.with_setup(d, SetupPart("hard", 2, {"contrast": 0.4}), "why"),
        lambda d: edits.pinned(d, 0.3, 0.7, read_spot(picture(), 40, 30, 4.0), Reading("picture", 8.0, stops=-1.0)),
    )  # fmt: skip


def documents():
    for seed in range(24):
        document = document_of(random_scene(random.Random(9000 + seed)))
        made = [digested(lambda d=document: plain(edits.unmeasured(d)))]
        facts = lightscale.Facts(1600, 1067, None, 9.3, seed % 3 == 0, 0.98)
        made.append(asked(lightscale.light_scale, document, facts))
        made.append(asked(lightscale.ring_radius, document, facts))
        made.append(asked(lightscale.focal_35mm, document, facts))
        made.append(digested(lambda d=document: plain(edits.with_light_shifted(d, -0.4))))
        if document.tones:
            mark = document.tones[-1].mark
            made.append(digested(lambda d=document, m=mark: plain(edits.placed(d, m, 4.3))))
            made += [digested(lambda e=edit, d=document: plain(e(d))) for edit in _edits_of(document, mark)]
            made.append(
                digested(lambda d=document, m=mark, f=facts: plain(lightscale.rescaled(edits.without_tone(d, m), f)))
            )
        for name in ("red", "none", "green"):
            made.append(digested(lambda d=document, n=name: plain(meansedits.with_colour_choice(d, n))))
        made.append(digested(lambda d=document: plain(meansedits.setup_moved(d, {"contrast": 0.7, "grain": -0.5}))))
        for code in ("graduated=2@0.4", "effects=contrast:0.5", "bracket=3x1", "let-go=A", "polarizer=0;glass=red"):
            made.append(digested(lambda d=document, c=code: plain(changed(d, c))))
        yield f"edits {seed}", told(made)
    for kind in kit.KINDS:
        fields = kit.FIELDS[kind]
        yield (
            f"kit {kind}",
            [asked(kit.check, kind, {each.name: text}) for each in fields for text in ("-5", "3", "x", "100000")],
        )
    yield "colours", told([edits.kept_colour(np.array(c)) for c in COLOURS])


def kits():
    """What items of the kit make of a scene, and what is refused of them."""
    rng = random.Random(23)
    film = {"iso": "100", "development": "N-1 7 +1/3, N 9, N+1 12", "exponent": "1.3"}
    for k in range(40):
        bodies = {
            "frame_width_mm": rng.choice((36, 22.3, 56, 121)), "frame_height_mm": rng.choice((24, 14.9, 56)),
            "senses": rng.choice(("film", "colour sensor", "grey sensor")), "protection_stops": rng.choice((0, 1)),
            "spot_percent": rng.choice((1.5, 4, 40)), "headroom": rng.choice((None, 3.2)), "footroom": rng.choice((None, 5.1)),
        }  # fmt: skip
        lens = {"focal_min_mm": rng.choice((24, 90)), "focal_max_mm": 210, "f_min": "f/4", "f_max": "f/32"}
        meter = {
            "measures": rng.choice(("spot", "incident")),
            "calibration": rng.choice(("0", "1/3", "-2/3")),
            "spot_deg": 1.5,
        }
        items = {}
        for kind, values, share in (
            ("camera", bodies, 0.8),
            ("lens", lens, 0.6),
            ("film", film, 0.4),
            ("meter", meter, 0.5),
        ):
            if rng.random() < share:
                known = {each.name for each in kit.FIELDS[kind]}
                values = {name: value for name, value in values.items() if name in known and value is not None}
                made = asked(lambda kind=kind, values=values: kit.check(kind, values))
                yield f"checked {k} {kind}", made
                if isinstance(made, dict):
                    items[kind] = kit.item_of(kind, f"my {kind}", kit.check(kind, values))
        before = document_of(random_scene(random.Random(9500 + k)))
        yield f"taken {k}", asked(lambda items=items, before=before: plain(kituse.with_kit(before, **items)))
    for glass in kit.GLASS:
        for values in (
            {},
            {"factor": "4"},
            {"stops": "2"},
            {"points": "380 0.1\n420 0.1\n460 0.2\n500 0.5\n550 0.7\n600 0.9\n650 0.9\n700 0.9"},
        ):
            made = asked(lambda glass=glass, values=values: kit.check("filter", {"glass": glass, **values}))
            yield f"glass {glass} {sorted(values)}", made
            if isinstance(made, dict):
                yield (
                    f"on the lens {glass} {sorted(values)}",
                    asked(lambda made=made: kituse.glass_of(kit.item_of("filter", "g", made))),
                )


def edges():
    """Cases at and around the limits that the core names."""
    weights = ((1.9, -0.5, -0.4), (0.3, 0.6, 0.1), (2.0, -0.6, -0.4))
    yield (
        "noise",
        told(
            [
                chain.noise_gain(w, sigma, base)
                for w in weights
                for sigma in ((1.0, 1.0, 1.0), (1.6, 1.0, 2.1))
                for base in ((0.21, 0.72, 0.07), (0.4, 0.4, 0.2))
            ]
        ),
    )
    patches = np.abs(np.sin(np.arange(30).reshape(10, 3) * 1.3)) * 0.7 + 0.05
    greys = patches @ np.array([0.2, 0.7, 0.1])
    for count in (5, 6, 10):
        yield f"chart of {count}", asked(calibration.mix_from_chart, patches[:count], greys[:count])
    flat = np.repeat(greys[:, None], 3, axis=1)
    yield (
        "grey chart",
        [asked(calibration.mix_from_chart, flat, greys), asked(calibration.mix_from_chart, patches, greys[:7])],
    )
    steps = np.arange(-4.0, 2.0)
    for name, values in (
        ("black", np.full(6, 0.9)),
        ("white", np.full(6, 99.2)),
        ("falling", np.array([5, 20, 18, 40, 60, 80.0])),
        ("level", np.array([5, 20, 19, 40, 60, 80.0])),
    ):
        yield (
            f"series {name}",
            asked(
                calibration.curve_from_series, [calibration.CardFrame(s, v) for s, v in zip(steps, values, strict=True)]
            ),
        )
    yield (
        "setups refused",
        [
            asked(setups.setup, *case)
            for case in (
                ("x" * 80, {"contrast": 1.01}),
                ("", {}),
                ("a", {"glow": 1}),
                ("a", {}, "pink"),
                ("a", {}, "none", 9.0),
                ("a", {}, "none", 1.0, "tape"),
                ("a", {"grain": -0.1}),
            )
        ],
    )
    yield (
        "controls refused",
        [
            asked(setups.control, *case)
            for case in (
                ("", "contrast", -1, 1, 1),
                ("A", "glow", -1, 1, 1),
                ("A", "contrast", 1, -1, 1),
                ("A", "contrast", -1, 1, 0),
                ("A", "contrast", -1, 1, 3),
            )
        ],
    )
    yield "filters refused", [asked(filters.require_filter, name) for name in ("red", "pink", "nd")]
    for points in (
        [(400, 0.5)],
        [(380, 0.1), (450, 2.0), (700, 0.1)],
        [(nm, 0.0) for nm in range(380, 731, 25)],
        [(nm, 0.5) for nm in range(450, 731, 25)],
    ):
        yield f"spectrum {points[:2]}", asked(filters.own_spectrum, points)
    for given in (
        {"exponent": 0.9},
        {"exponent": 2.6},
        {"exponent": 1.3, "onset_s": 0},
        {"table": [[1, 2]]},
        {"table": [[1, 2], [1, 3]]},
        {"table": [[1, 0.5], [10, 20]]},
    ):
        yield f"reciprocity {given}", asked(lambda given=given: longexposure.reciprocity(**given))
    yield (
        "brackets refused",
        [
            asked(brackets.require_bracket, *case)
            for case in ((2, 1.0), (3, 0.3), (3, 0.34), (5, 2.0), (5, 2.01), (7, 1.0, "x"))
        ],
    )
    yield (
        "media refused",
        [
            asked(lambda given=given: medium(**given))
            for given in (
                {"kind": "film", "dependable": (7, 3)},
                {"kind": "film", "outer": (4, 6)},
                {"kind": "digital raw", "headroom": 0.2},
                {"kind": "digital raw", "channel_mix": (1.0, 0.2, 0.1)},
                {"kind": "film", "response": "x"},
                {"kind": "film", "iso": 0},
            )
        ],
    )
    yield "evs", [asked(notation.require_ev, value) for value in (-8.1, -7.9, 0.0, 20.9, 24.0, 30.0)]
    yield "measured light", [asked(exposure.ev100_of_luminance, value) for value in (0.0, -1.0, 4000.0)]
    yield "scene light", [asked(lambda n=n: kept_conditions(n)) for n in range(8)]
    for texts, parse in (
        (("N-1 7 +1/3, N 9", "N 9, N-1 7", "N-9 1", "x", "N"), kitnotation.development_rows),
        (("1 1.5, 10 25", "1, 2", "x"), kitnotation.table_rows),
        (("100 3.3 5, 800 3 4", "100", "x"), kitnotation.limit_rows),
    ):
        yield parse.__name__, [asked(parse, text) for text in texts]
    yield "moments", [asked(clock.require_day, date(year, 1, 1)) for year in (1899, 1900, 2100, 2101)]
    yield "ages of light", [asked(daylight.sunlit_ev100, height) for height in (0.5, 3.0, 9.9, 10.0, 25.0, 80.0)]


def defaults():
    """What stands where nothing is said."""
    yield (
        "parts",
        told(
            [
                choosing.Needs(),
                choosing.Means(),
                exposure.Limits(),
                longexposure.Reciprocity(1.3),
                Brief(),
                Conditions(),
                crop.Crop(),
            ]
        ),
    )
    yield "document", told(document_of({"format": "dimgrey-scene", "version": 2}))
    yield "media", told([medium(kind) for kind in ("film", "slide", "digital raw", "digital file")])
    base = {
        "format": "dimgrey-scene",
        "version": 2,
        "tones": [{"name": "a", "mark": "A", "ev100": 9}],
        "placing": {"school": "shadow"},
    }
    for kind in ("film", "digital raw", "digital file"):
        for extra in (
            {},
            {"headroom": 3.1, "footroom": 4.4},
            {"limits_per_iso": [[100, 3.3, 5], [3200, 3.0, 3.2]]},
            {"dependable": [3, 7], "outer": [1, 8]},
        ):
            for setup in (
                None,
                {"name": "s", "effects": {"contrast": 0.4, "shadows": -0.3}, "protection_stops": 1.0, "filter": "red"},
            ):
                written = {**base, "medium": {"kind": kind, **extra}, **({"setup": setup} if setup else {})}
                yield (
                    f"{kind} {sorted(extra)} {bool(setup)}",
                    asked(lambda written=written: brief_of(document_of(written)).medium),
                )
    for written in (
        {"tones": [{"name": "a", "mark": "A", "ev100": "x"}]},
        {"filters": [{"name": "nd"}]},
        {"camera": {"aperture": "f/7.5", "shutter": "soon"}},
        {"placing": {"school": "known tone", "tone": "b"}},
        {"lens": {"magnification": 30}},
        {"camera": {"apertures": ["f/16", "f/2"]}},
        {
            "tones": [
                {
                    "name": "a",
                    "mark": "A",
                    "readings": [
                        {"shutter": "1/60", "aperture": "f/8", "calibration_stops": 0.5, "shift": -1},
                        {"ev100": 12},
                    ],
                }
            ]
        },
    ):
        yield f"read {written}", asked(lambda written=written: brief_of(document_of({**base, **written})))
    for shape in ((3, 4, 900), (3, 700, 5), (3, 900, 1300), (3, 30, 40)):
        planes = np.abs(np.sin(np.arange(np.prod(shape)).reshape(shape) * 0.013)).astype(np.float32)
        yield f"reduced {shape}", told(reduced(planes, 80))


def words():
    """Sentences and small lists that pages take as they are."""
    weathers = [
        Conditions(cloud_percent=c, visibility_km=v, wind_m_s=w, rain_mm_h=r)
        for c in (5, 40, 70, 95)
        for v in (0.5, 4, 30)
        for w, r in ((0.0, 0.0), (3.4, 0.09), (9.0, 0.105), (12.0, 2.0))
    ]
    yield "weathers", [[each.words(), each.air, each.is_misty] for each in weathers]
    yield "days", told([clock.next_days(date(2027, m, 27), 4) for m in (2, 10, 12)])
    yield (
        "hexadecimal",
        [asked(colour_light.linear_of_hex, text) for text in ("#7a4a32", "#ffffff", "#7A4A32")],
    )
    points = {
        name: skytone.SkyPoint(30.0 * k, 13.0 + k, 0.3 * k, 0.1 * k, 0.6 * k * k)
        for k, name in enumerate(("top", "upper", "left"))
    }
    for seen in (points, {**points, "upper": None}, {**points, "upper": None, "top": None}):
        made = skytone.SkyTone(seen, "clear", 14.8)
        yield (
            f"spread {sorted(name for name, point in seen.items() if point)}",
            told([made.polarizer_spread_stops, made.main, [made.zone(point, 13.3) for point in made.seen.values()]]),
        )


def kept_conditions(number):
    """One of some weathers, checked."""
    return require_conditions(**(
        {"cloud_percent": 101.0}, {"cloud_percent": 100.0}, {"visibility_km": 0.0}, {"visibility_km": 0.9}, {"wind_m_s": 60.1},
        {"rain_mm_h": -1.0}, {"cloud_percent": 34.0, "visibility_km": 8.0}, {"cloud_percent": 80.0},
    )[number])  # fmt: skip


ROOMS = {
    "words": words,
    "defaults": defaults, "edges": edges, "kits": kits,
    "camera": camera, "colour": colour, "documents": documents, "measuring": measuring, "pictures": pictures,
    "planning": planning, "settings": choosing_settings, "skies": skies,
}  # fmt: skip


def pins(room):
    """name -> what the core gives now."""
    return json.loads(json.dumps(dict(ROOMS[room]())))


if __name__ == "__main__":
    FILE.write_text(json.dumps({room: pins(room) for room in ROOMS}, separators=(",", ":"), ensure_ascii=False) + "\n")
