"""Camera, lens, film and meter taken from the kit: their values are copied into the scene."""

from dataclasses import asdict, dataclass

from dimgrey.core.acts.keys import Named, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.kituse import with_kit
from dimgrey.core.document.lightscale import rescaled


@dataclass(frozen=True, kw_only=True)
class Keys:
    """Items by name; one that is left out leaves its part as it is."""

    camera: str = given(Named("camera"), "", "Camera from the kit")
    lens: str = given(Named("lens"), "", "Lens from the kit")
    film: str = given(Named("film"), "", "Film from the kit")
    meter: str = given(Named("meter"), "", "Meter from the kit")


KINDS = tuple(Keys.__dataclass_fields__)
"""Kinds of the kit that a scene is taken with."""


def _edit(document, said, case):
    names = {kind: name for kind, name in asdict(said).items() if name}
    items = {kind: case.item(kind, name) for kind, name in names.items()}
    missing = [f"the {kind} “{names[kind]}”" for kind, item in items.items() if item is None]
    if missing:
        raise Refused(f"The kit has no longer {' and '.join(missing)}. Choose another.", code="kit-gone")
    mixes = case.mixes(said.camera) if said.camera else None
    return rescaled(with_kit(document, **items, mixes=mixes), case.facts)


def _words(document, said):
    return f"kit: {', '.join(filter(None, asdict(said).values()))}"


VERB = Verb("kit", "Take camera, lens, film and meter of the kit", _edit, Keys, _words, ("item", "mixes"))
