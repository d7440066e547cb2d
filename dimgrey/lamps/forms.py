"""What stands in the fields of the light plan's forms, in the unit that lengths are written in."""

from dimgrey.core.acts.lamp_set import AS_SAID as LAMP_KEYS
from dimgrey.core.acts.lamp_set import LENGTHS as LAMP_LENGTHS
from dimgrey.core.acts.light_subject import AS_SAID as OF_SUBJECT
from dimgrey.core.acts.light_subject import LENGTHS as SUBJECT_LENGTHS
from dimgrey.core.document.lighting import shown_length


def _lengths(part, keys, unit):
    return {name: f"{shown_length(getattr(part, field), unit):g}" for name, field in keys.items()}


def first_of_lamp(lamp, unit):
    """What stands in the fields of a Lamp."""
    said = {name: getattr(lamp, name) for name in LAMP_KEYS}
    figures = {name: f"{value:.6g}" for name, value in said.items() if type(value) in (int, float)}
    return said | figures | _lengths(lamp, LAMP_LENGTHS, unit)


def first_of_subject(lighting):
    """What stands in the fields of what is lit. lighting: LightingPart."""
    words = {name: getattr(lighting, name) for name in (*OF_SUBJECT, "aperture", "shutter")}
    return words | _lengths(lighting, SUBJECT_LENGTHS, lighting.unit) | {"unit_of_length": lighting.unit}
