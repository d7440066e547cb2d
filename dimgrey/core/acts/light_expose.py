"""The exposure that an incident meter before the subject gives."""

from dimgrey.core.acts.lit import NEEDS, lamp_edit, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.edits import Refused

LEAST_LUX_S = 1e-6
"""Lux seconds before the subject below which there is nothing to expose for."""


def _change(document, said, case):
    lit = lit_plan(document, case)
    light = lit.light_before
    if light.lux_seconds(lit.camera.exposure_time_s) < LEAST_LUX_S:
        raise Refused(
            "Every lamp stands behind: a meter before the face reads nothing. Wish a zone instead.", code="no-light"
        )
    return lightplan.exposed_for(document, light)


VERB = Verb("light-expose", "Expose for the lamps", lamp_edit(_change), words="exposed for this light", needs=NEEDS)
