"""What the scene desk shows, ready for its templates: words and places, no rules of its own."""

from dataclasses import dataclass, field, replace
from functools import cached_property

from django.urls import reverse

from dimgrey.core.colour.chain import LIGHT_NAMES
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.document.scenefile import scene_of
from dimgrey.core.errors import NotPlaced
from dimgrey.core.measure.exposure import exposure_time_s, marked_time
from dimgrey.core.measure.metering import picture_hfov_deg, spot_radius_px
from dimgrey.core.measure.stops import (
    INCREMENTS,
    format_stops,
    parse_aperture,
    parse_speed,
)
from dimgrey.core.picture.crop import RATIOS, guide_lines
from dimgrey.core.picture.display import LOOKS
from dimgrey.core.planning.media import KINDS
from dimgrey.core.planning.placing import SCHOOLS, default_zone
from dimgrey.core.planning.plan import ROLES, Plan, plan
from dimgrey.core.planning.separation import candidate_chains
from dimgrey.core.planning.zones import ZONES, format_tone
from dimgrey.core.sky.daylight import KINDS as DAYLIGHT
from dimgrey.core.sky.light import WANTS, compass_point
from dimgrey.kit.queries import offered
from dimgrey.scenes import light, lines, parts, rendering
from dimgrey.scenes.forms import SCALES, WANTED_PARTS
from dimgrey.scenes.queries import can_undo, newest_child, picture_of
from dimgrey.scenes.rail import Rail, Words, empty_rail, rail_of
from dimgrey.scenes.sky import scene_sky, wants_words
from dimgrey.scenes.tonerows import tone_row


@dataclass(frozen=True)
class Problem:
    """A refused act: the sentence, which form it belongs to, and what was typed, so that nothing is lost."""

    message: str
    part: str = ""
    mark: str = ""
    typed: dict = field(default_factory=dict)
    notice: bool = False


@dataclass(frozen=True)
class Desk:
    """Everything the desk's fragments need. `plan` is None before something is placed; `wait` then says what to do."""

    scene: object
    document: dict
    stamp: int
    picture: object
    plan: Plan | None
    wait: str
    rail: Rail
    tones: tuple
    labels: str
    school: object
    school_key: str
    placed_line: str
    default_zone: str
    hold_line: str
    filter_line: str
    filter_names: tuple
    polarizer: bool
    fields: dict
    exposure: dict
    range_line: str
    camera_line: str
    light_line: str
    scale_line: str
    whys: dict
    combinations: tuple
    cautions: tuple
    can_undo: bool
    can_redo: bool
    undo_label: str
    redo_label: str
    view_key: str
    ring: str
    view_line: str = ""
    sky: object = None
    bracket: tuple = ()
    ways_out: tuple = ()
    core_scene: object = None
    problem: Problem | None = None
    opened: frozenset = frozenset()

    @property
    def notice(self):
        """A sentence that belongs to no part of the sheet, shown on top."""
        return self.problem.message if self.problem and (self.problem.notice or not self.problem.part) else ""

    @property
    def intent(self):
        return self.document.get("intent", "")

    @property
    def choices(self):
        return CHOICES

    @property
    def words(self):
        return Words(self.labels, divisions_of(self.document))

    @property
    def placing(self):
        return self.document.get("placing", {})

    @property
    def under(self):
        return f"{self.placing.get('under_stops', 0):.2f}".rstrip("0").rstrip(".")

    @property
    def others(self):
        """Other schools side by side; computed when the Placing part is open."""
        return parts.others_of(self.plan, self.words)

    @property
    def graduated(self):
        return next(
            (f"{g.get('stops', 2):g}" for g in self.document.get("filters", []) if g["name"] == "graduated"), ""
        )

    @property
    def bracket_count(self):
        return str(self.document.get("bracket", {}).get("count", ""))

    @property
    def bracket_step(self):
        step = self.document.get("bracket", {}).get("step")
        return format_stops(step) if step else ""

    @property
    def timer_seconds(self):
        seconds = parts.timer_seconds(self.plan)
        return f"{seconds:.2f}" if seconds else ""

    @property
    def timer_words(self):
        return parts.timer_words(self.plan)

    @property
    def proposal(self):
        """Aperture, time and speed for what matters; computed when the Aperture part is open."""
        wind = self.sky.wind_m_s if self.sky else 0.0
        return parts.proposal_of(self.document, self.picture, self.core_scene, self.plan, wind)

    @property
    def kit(self):
        """(kind, names on offer, the one in use) for the editors; 1 query when a part that shows it is open."""
        names = offered(self.scene.owner_id)
        used = self.document.get("kit", {})
        return [(kind, names[kind], used.get(kind, "")) for kind in ("camera", "lens", "film", "meter")]

    @property
    def kit_filters(self):
        return offered(self.scene.owner_id)["filter"]

    @property
    def needs_line(self):
        """What aperture and time are chosen for, in words."""
        needs = self.document.get("needs", {})
        said = []
        if "near_m" in needs:
            far = needs["far_m"] if isinstance(needs["far_m"], str) else f"{needs['far_m']:g} m"
            said.append(f"sharp from {needs['near_m']:g} m to {far}")
        if "motion" in needs:
            said.append(f"{needs['motion']} {needs.get('speed_m_s', 0):g} m/s")
        if "support" in needs:
            said.append(f"on a {needs['support']}" if needs["support"] == "tripod" else "held by hand")
        return ", ".join(said) or "not said what matters"

    @cached_property
    def _grey_start(self):
        """What stands before the key in the address of each grey view; found once, because finding addresses is slow."""
        return reverse("grey", args=[self.scene.pk, self.view_key]).removesuffix(f"{self.view_key}.jpg")

    def _grey_address(self, **changed):
        return f"{self._grey_start}{rendering.key_of(replace(self._rendering, **changed))}.jpg"

    @cached_property
    def _rendering(self):
        return rendering.rendering_of(self.view_key)

    @property
    def looks(self):
        """Addresses of the squeezed views by name."""
        return {look: self._grey_address(look=look) for look in LOOKS[1:]} if self.picture else {}

    @property
    def contours(self):
        """Address of the tone map over the picture."""
        if not self.picture:
            return ""
        low, high = self.core_scene.medium.shown_outer
        return f"{reverse('contours', args=[self.scene.pk, self.view_key])}?low={low:g}&high={high:g}"

    @property
    def ways(self):
        """Name -> address of this view through every filter or mix of the medium, to compare."""
        if not self.picture:
            return {}
        chains = candidate_chains(self.core_scene.medium, self.core_scene.light)
        return {name: self._grey_address(terms=chain.terms) for name, chain in chains}

    @property
    def guides(self):
        """Guide lines of the crop, in percent of its sides."""
        kind = self.document.get("crop", {}).get("guides", "none")
        return [f"{line * 100:.2f}%" for line in guide_lines(kind)] if kind in ("thirds", "golden") else []

    @property
    def crop_line(self):
        crop = self.document.get("crop")
        if not crop:
            return "Whole picture"
        left, top, right, bottom = crop["box"]
        shape = crop.get("ratio", "free") + (" upright" if crop.get("upright") else "")
        return f"{shape}, {(right - left) * 100:.0f} × {(bottom - top) * 100:.0f} % of the picture"

    @property
    def for_scripts(self):
        """What the scripts move things with; every number in it was computed here."""
        return {
            "stamp": self.stamp,
            "act": reverse("act", args=[self.scene.pk, "VERB"]),
            "edit": reverse("edit", args=[self.scene.pk, "PART"]),
            "sight": reverse("sight", args=[self.scene.pk]),
            "grey": self._grey_address() if self.picture else "",
            "colour": reverse("colour", args=[self.scene.pk, self.picture.folder]) if self.picture else "",
            "ring": float(self.ring or 0),
            "looks": self.looks,
            "contours": self.contours,
            "over": reverse("over", args=[self.scene.pk, "KIND"]) if self.picture else "",
            "ways": self.ways,
            "crop": self.document.get("crop"),
            "steps": INCREMENTS[self.document.get("increment", "third")],
            "canUndo": self.can_undo,
            "canRedo": self.can_redo,
            "undoLabel": self.undo_label,
            "redoLabel": self.redo_label,
            "scaleLine": self.scale_line,
            "tones": [{"mark": t.mark, "name": t.name, "ev": t.ev} for t in self.tones],
        }


EXPORT_LABELS = (
    ("grey.png", "grey PNG"),
    ("grey.jpg", "grey JPEG"),
    ("grey.tif", "grey TIFF, 16 bit"),
    ("contours.svg", "contours SVG"),
    ("look.cube", "chain as .cube"),
    ("measures.json", "measures JSON"),
    ("measures.csv", "measures CSV"),
)
LOW_SUN_FOR_READINGS_DEG = 10.0
"""Sun altitude that stands for "within an hour of sunrise or sunset", where readings age faster."""
CHOICES = {
    "schools": tuple((key, school.name) for key, school in SCHOOLS.items()),
    "roles": ROLES,
    "kinds": KINDS,
    "lights": tuple(LIGHT_NAMES.items()),
    "filters": COLOURED,
    "increments": (("third", "thirds"), ("half", "halves"), ("full", "whole stops")),
    "responses": (
        ("general panchromatic", "general panchromatic"),
        ("extended red", "extended red"),
        ("orthochromatic", "orthochromatic"),
        ("blue-sensitive", "blue-sensitive"),
        ("monochrome sensor", "monochrome sensor"),
    ),
    "mixes": ("none", "yellow", "orange", "red", "green", "blue"),
    "scales": SCALES,
    "daylight": DAYLIGHT,
    "ratios": tuple(RATIOS),
    "exports": EXPORT_LABELS,
    "wants": tuple((code, want.label) for code, want in WANTS.items()),
    "zones": tuple((k, zone.numeral, zone.holds) for k, zone in enumerate(ZONES)),
}


def _refused_part(problem):
    """The part that a refused act belongs to is open, so that the sentence stands where it was typed."""
    if problem is None or not problem.part:
        return frozenset()
    if problem.part == "tones":
        return frozenset({f"tone-{problem.mark}" if problem.mark else "edit-add"})
    return frozenset({f"edit-{problem.part}"})


def _fields(document, title, problem):
    """What stands in the sheet's form fields: the document's values, or what was typed where it was refused."""
    medium, lens, meter = (document.get(part, {}) for part in ("medium", "lens", "meter"))
    view, wanted = document.get("view", {}), document.get("wanted", {})
    filters = document.get("filters", [])
    film = medium.get("kind", "film") in ("film", "slide")
    values = {
        "intent": {
            "title": title,
            "intent": document.get("intent", ""),
            **{key: wanted.get(key, "") for key in WANTED_PARTS},
        },
        "view": {
            "heading": _number(view.get("heading_deg")),
            "tilt": _number(view.get("tilt_deg")),
            "time": view.get("time", ""),
            "sky": view.get("sky", False),
            "lights": wanted.get("lights", []),
        },
        "tones": {"name": "", "reading": ""},
        "placing": {"zone": ""},
        "filter": {
            "factor": next((f"{g['factor']:g}" for g in filters if g["name"] in COLOURED and "factor" in g), ""),
            "nd": next((f"{g['stops']:g}" for g in filters if g["name"] == "nd" and "stops" in g), ""),
        },
        "exposure": {"value": ""},
        "needs": _needs_fields(document.get("needs", {})),
        "crop": {key: document.get("crop", {}).get(key, "") for key in ("ratio", "upright", "guides")},
        "camera": {
            "kind": medium.get("kind", "film"),
            "iso": medium.get("iso", 100),
            "increment": document.get("increment", "third"),
            "light": document.get("light", "D55"),
            "light_note": document.get("light_note", ""),
            "response": medium.get("response", "general panchromatic" if film else ""),
            "channel_mix": medium.get("channel_mix", "none"),
            "reciprocity": medium.get("reciprocity", {}).get("exponent", ""),
            "focal_35mm": lens.get("focal_35mm", ""),
            "magnification": lens.get("magnification", ""),
            "spot_deg": meter.get("spot_deg", ""),
            "calibration": meter.get("calibration_stops", ""),
            "through_filter": meter.get("through_filter", False),
        },
        "log": {"shutter": "", "aperture": "", "note": ""},
    }
    if problem and problem.part in values:
        known = values[problem.part]
        known.update({key: text for key, text in problem.typed.items() if key in known})
    return values


def _needs_fields(needs):
    return {
        "near": _metres(needs.get("near_m")),
        "far": _metres(needs.get("far_m")),
        "speed": needs.get("speed_m_s", ""),
        "distance": _metres(needs.get("distance_m")),
        "motion": needs.get("motion", ""),
        "support": needs.get("support", ""),
    }


def _metres(value):
    return "" if value is None else value if isinstance(value, str) else f"{value:g} m"


def _number(value):
    return "" if value is None else f"{value:g}"


def _view_line(document):
    """Where the camera looks and what light it wants, in words."""
    view = document.get("view", {})
    parts = []
    if "heading_deg" in view:
        parts.append(f"looking {compass_point(view['heading_deg'])} ({view['heading_deg']:g}°)")
    if wants := wants_words(document):
        parts.append(f"wants {wants}")
    return ", ".join(parts)


def divisions_of(document):
    """Parts of a stop that zones are shown in: halves for a camera in half stops, thirds otherwise."""
    return 2 if document.get("increment") == "half" else 3


def desk_of(scene, labels="zones", problem=None, opened=(), redo_known=True):
    """The desk of a scene. labels: the person's tone labels. opened: ids of the parts that are open for editing.

    Costs 1 query (what redo would do), none when `redo_known` is False because the newest state was just made.
    """
    document = scene.document
    core_scene = scene_of(document)
    picture = picture_of(scene)
    result, wait = plan_or_wait(core_scene)
    marks = {entry["name"]: entry.get("mark", "") for entry in document.get("tones", [])}
    child = newest_child(scene) if redo_known else None
    if problem and problem.mark not in marks.values():
        problem = replace(problem, mark="")  # the tone is gone, the sentence must still be seen
    opened = frozenset(opened) | _refused_part(problem)
    words = Words(labels, divisions_of(document))
    school_key = core_scene.wish.school
    sky = scene_sky(document, picture, scene.outing, result, labels)
    low_sun = bool(sky and abs(sky.sun_altitude_deg) < LOW_SUN_FOR_READINGS_DEG)
    return Desk(
        scene=scene,
        document=document,
        stamp=scene.stamp,
        picture=picture,
        plan=result,
        wait=wait,
        rail=rail_of(result, marks, words) if result else empty_rail(core_scene.medium, words),
        tones=tuple(tone_row(entry, result, document, words, opened, low_sun) for entry in document.get("tones", [])),
        labels=labels,
        school=SCHOOLS[school_key],
        school_key=school_key,
        placed_line=lines.placed_line(result, words),
        default_zone=words.zone(default_zone(school_key, core_scene.medium)),
        hold_line=core_scene.wish.hold,
        filter_line=lines.filter_line(document, result),
        filter_names=tuple(glass["name"] for glass in document.get("filters", []) if glass["name"] in COLOURED),
        polarizer=any(glass["name"] == "polarizer" for glass in document.get("filters", [])),
        fields=_fields(document, scene.title, problem),
        exposure=lines.exposure(result),
        range_line=lines.range_line(result),
        camera_line=lines.camera_line(document),
        light_line=", ".join(filter(None, (LIGHT_NAMES[core_scene.light], document.get("light_note", "")))),
        scale_line=lines.scale_line(document, picture),
        whys=lines.whys(result),
        combinations=lines.combinations(result),
        cautions=result.cautions if result else (),
        can_undo=can_undo(scene),
        can_redo=child is not None,
        undo_label=scene.head.label if scene.head else "",
        redo_label=child.label if child else "",
        view_key=view_key(document, picture, result, core_scene) if picture else "",
        ring=f"{_ring(document, picture):.5f}" if picture else "",
        view_line=_view_line(document),
        sky=sky,
        bracket=parts.bracket_lines(result),
        ways_out=parts.ways_out_of(result),
        core_scene=core_scene,
        problem=problem,
        opened=opened,
    )


def plan_or_wait(core_scene):
    """(plan, "") or (None, what to do first)."""
    try:
        return plan(core_scene), ""
    except NotPlaced as reason:
        if not core_scene.tones:
            return None, "Sight a tone on the picture, or add one by name, and place it on a zone."
        if not any(tone.evs for tone in core_scene.tones):
            return None, "Type a meter reading for one tone; the others can follow."
        if core_scene.wish.school in ("known tone", "incident", "whole frame"):
            return None, "Choose the tone to place: drag it on the rail, or press its zone in the list."
        return None, str(reason)


def grey_parameters(document, picture, result, core_scene):
    """(terms, exposure stops, slope) of the grey view: the plan's greys, or the picture's own middle before one."""
    scale = light.light_scale(document, picture)
    chain = result.chain if result else core_scene.medium.chain(core_scene.light)
    if scale is None:
        return chain.terms, 0.0, 1.0
    setting = result.setting_ev100 if result else scale.offset
    return chain.terms, scale.offset - setting, scale.slope


def view_key(document, picture, result, core_scene):
    """Everything the grey view depends on, as its address: an unchanged view keeps it, and browsers keep the view."""
    terms, stops, slope = grey_parameters(document, picture, result, core_scene)
    medium = core_scene.medium
    return rendering.key_of(
        rendering.Rendering(
            picture.folder.hex[:8], terms, stops, slope, medium.kind, development_of(result), tone=medium.tone
        )
    )


def development_of(result):
    """Development step that the grey view shows: what the plan asks for, where the film's table reaches."""
    return result.development_step if result and result.development else 0


def pair_for(ev100, document):
    """(shutter, aperture) that a meter would show for an EV, at the scene's speed and aperture."""
    increment = document.get("increment", "third")
    iso = parse_speed(document.get("medium", {}).get("iso", 100), increment)
    aperture = parse_aperture(document.get("camera", {}).get("aperture", "f/8"), increment)
    return marked_time(exposure_time_s(ev100, aperture.exact, iso.exact), increment), aperture


def _ring(document, picture):
    """Radius of the sighting ring as a fraction of the picture's width."""
    hfov = picture_hfov_deg(light.focal_35mm(document, picture), picture.view_width, picture.view_height)
    return spot_radius_px(1, hfov, light.spot_deg(document))


def zone_words(zone):
    """A zone as it stands in the log, in Roman numerals."""
    return format_tone(zone)
