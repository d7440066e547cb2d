"""The light of a scene's picture: which EV100 its stops mean, and what its pins say on that scale.

Works on a Document and the Facts of its picture; the picture's pixels are not needed.
"""

from dataclasses import dataclass, replace

from dimgrey.core.colour.chain import LUMINANCE, glass_chain, tone_shift_stops
from dimgrey.core.document.means import DEFAULT_FOCAL_35MM
from dimgrey.core.document.tonebriefing import corrected_ev, linear_colour
from dimgrey.core.document.tones import Reading
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.metering import LightScale, fit_light_scale, picture_hfov_deg, spot_radius_px


@dataclass(frozen=True)
class Facts:
    """What is known of a picture beside its pixels: size, whether its light is made up, how its light is scaled.

    middle_grey_ev100: of linear 0.18, or None. absolute: the file carries its scale in cd/m2. clip: linear value at which
    it ends, or None. focal_35mm: of its lens in 35 mm terms, or None.
    """

    width: int
    height: int
    focal_35mm: float | None = None
    middle_grey_ev100: float | None = None
    absolute: bool = False
    clip: float | None = None
    simulated_light: bool = False

    @property
    def is_upright(self):
        return self.height > self.width


def focal_35mm(document, facts=None):
    """Focal length in 35 mm terms: as typed, else from the picture, else 50 mm."""
    return float(document.lens.focal_35mm or (facts and facts.focal_35mm) or DEFAULT_FOCAL_35MM)


def ring_radius(document, facts):
    """Radius of the meter's spot as a fraction of the picture's width."""
    hfov = picture_hfov_deg(focal_35mm(document, facts), facts.width, facts.height)
    return spot_radius_px(1, hfov, float(document.meter.spot_deg))


def typed_evs(tone, document):
    """EV100 of the readings of a tone's light that a person typed, offsets and changes of the light included."""
    found = []
    for reading in tone.plain_readings:
        if reading.kind == "incident":
            continue  # it says how bright the light is, not how bright the tone
        try:
            found.append(corrected_ev(reading, document))
        except CoreError:
            continue  # the plan names the mistake; a bad reading must not bend the scale
    return found


def light_scale(document, facts):
    """LightScale of a scene's picture, or None while its light has no scale.

    A picture with a scale in cd/m2 keeps it, and typed readings only show their residuals. Any other is fitted to the
    readings typed at its pins; without one, its exposure data give a first scale, or the light that it was taken in.
    """
    pins, evs = [], []
    for tone in document.tones:
        seen, typed = tone.picture_reading, typed_evs(tone, document)
        if seen is not None and typed:
            pins.append(seen.stops)
            evs.append(sum(typed) / len(typed) - seen.shift + _as_the_picture_has_it(tone, document))
    if facts.absolute:
        residuals = tuple(ev - (facts.middle_grey_ev100 + stops) for stops, ev in zip(pins, evs, strict=True))
        return LightScale(facts.middle_grey_ev100, 1.0, residuals)
    known = facts.middle_grey_ev100
    if known is None and document.taken_in:
        known = document.taken_in.ev100
    return fit_light_scale(pins, evs, known)


def guess_decides(document):
    """The light that the plan's readings are a guess from; "" where a meter read every tone, or none was read in the picture."""
    return (
        guessed_light(document)
        if any(tone.picture_reading and not typed_evs(tone, document) for tone in document.tones)
        else ""
    )


def guessed_light(document):
    """The light from which the scale of the picture is guessed; "" where nobody said it, or a reading typed at a pin has taken its place."""
    if document.taken_in is None or any(tone.picture_reading and typed_evs(tone, document) for tone in document.tones):
        return ""
    return document.taken_in.light


def _as_the_picture_has_it(tone, document):
    """Stops by which the picture calls a tone brighter than the meter in hand did: in lamp light a red is brighter to the eye."""
    if tone.colour is None:
        return 0.0
    meter = glass_chain("eye", document.light)
    return tone_shift_stops(LUMINANCE, linear_colour(tone.colour), meter, sky=tone.known_role == "sky")


def shown_stops(scale, result, medium):
    """(stops, slope) that the grey view of a picture is made with: how much lighter than its own middle, and how much steeper.

    scale: LightScale or None. result: the Plan, or None before one. medium: the Medium.
    """
    stops, slope = 0.0, 1.0
    if scale is not None:
        stops, slope = scale.offset - (result.setting_ev100 if result else scale.offset), scale.slope
    if result:
        stops += result.printing.lift - medium.push_stops
    return stops, slope


def rescaled(document, facts):
    """The document with every picture reading on the present scale. facts: None without a picture."""
    if facts is None:
        return document
    scale = light_scale(document, facts)

    def on_scale(reading):
        if not reading.is_of_picture or reading.stops is None:
            return reading
        return replace(reading, ev100=None if scale is None else round(scale.offset + scale.slope * reading.stops, 4))

    tones = tuple(replace(tone, readings=tuple(map(on_scale, tone.readings))) for tone in document.tones)
    return replace(document, tones=tones)


def picture_reading(seen, facts, is_scaled, now):
    """The Reading that a pin in the picture gives. seen: a meter's answer. is_scaled: its EV means something. now: aware datetime."""
    ends = {}
    if is_scaled:
        ends = {
            "ev100": round(seen.ev100, 4),
            "low_ev100": round(seen.low_ev100, 3),
            "high_ev100": round(seen.high_ev100, 3),
        }
    return Reading(
        kind="picture",
        taken_at=now.isoformat(timespec="seconds"),
        meter="simulated spot meter" if facts.simulated_light else "picture",
        stops=round(seen.spot.mean_stops, 4),
        clipped=round(seen.spot.clipped, 3) if seen.spot.is_clipped else 0.0,
        **ends,
    )
