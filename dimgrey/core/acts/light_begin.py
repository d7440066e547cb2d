"""A light plan begun, with one lamp, exposed for what that gives."""

from dimgrey.core.acts.lit import NEEDS, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan


def _edit(document, said, case):
    made = lightplan.begun(document)
    return lightplan.exposed_for(made, lit_plan(made, case).light_before)


VERB = Verb("light-begin", "Begin a light plan", _edit, words="light plan", needs=NEEDS)
