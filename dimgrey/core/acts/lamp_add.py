"""Another lamp."""

from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan

VERB = Verb(
    "lamp-add",
    "Add a lamp",
    lamp_edit(lambda document, said, case: lightplan.with_lamp(document, len(document.lighting.lamps))),
    words="another lamp",
    needs=NEEDS,
)
