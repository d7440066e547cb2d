"""Pure edits of the means: glass, mixes, setups."""

from dataclasses import replace

from dimgrey.core.camera.setups import ONE_SIDED
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.ownmix import bent
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.means import GlassPart, SetupPart
from dimgrey.core.document.model import MAX_NOTES
from dimgrey.core.document.tonebriefing import linear_colour


def is_coloured(glass):
    """Whether a GlassPart changes greys by colour."""
    return glass.name in COLOURED or bool(glass.points)


def with_glass(document, glass):
    """A filter put in front, in place of one of its kind. glass: GlassPart."""
    same = (lambda other: is_coloured(other)) if is_coloured(glass) else (lambda other: other.name == glass.name)
    kept = tuple(other for other in document.filters if not same(other))
    return replace(document, filters=(glass, *kept))


def with_glass_changed(document, name, **facts):
    """What is said of the filter of a name on the lens changed. Raises Refused where there is none."""
    if all(glass.name != name for glass in document.filters):
        raise Refused(f"There is no {name} filter on the lens any more.", code="no-filter")
    changed = (replace(glass, **facts) if glass.name == name else glass for glass in document.filters)
    return replace(document, filters=tuple(changed))


def with_colour_choice(document, name):
    """A coloured filter put in front, or the in-camera mix of a colour sensor; "none" takes it away."""
    if name not in ("none", *COLOURED, *CHANNEL_MIXES):
        raise Refused(f"There is no filter “{name}”.", code="filter-unknown")
    if document.medium.mixes_channels:
        return replace(document, medium=replace(document.medium, channel_mix=name, own_mix=()))
    others = tuple(glass for glass in document.filters if not is_coloured(glass))
    front = () if name == "none" else (GlassPart(name),)
    return replace(document, filters=(*front, *others))


def with_bend(document, name, stops, hold=True):
    """The own mix of a raw file bent so that a tone is lighter by so many stops. hold: other tones stay. Raises CoreError."""
    colours = {tone.name: linear_colour(tone.colour) for tone in document.tones if tone.colour is not None}
    if name not in colours:
        raise Refused(f"There is no tone “{name}” with a colour.", code="no-tone")
    if document.medium.kind != "digital raw" or not document.medium.mixes_channels:
        raise Refused("Only a raw file with colour can be mixed afterwards.", code="mix-medium")
    points = bent(colours, name, stops, hold, document.medium.own_mix)
    return replace(document, medium=replace(document.medium, own_mix=points))


def with_level_mix(document):
    """The document without bends in its own mix."""
    return replace(document, medium=replace(document.medium, own_mix=()))


def with_setup(document, part, reason=""):
    """An in-camera setup, a SetupPart; its filter replaces a mix that was chosen before, the reason is added to the notes."""
    if document.medium.is_film:
        raise Refused(
            "A setup belongs to a digital camera; this scene is on film. Change the medium first.", code="setup-on-film"
        )
    notes = document.notes
    if reason.strip():
        notes = f"{notes}\nSetup {part.name}: {reason.strip()}".strip()
        if len(notes) > MAX_NOTES:
            raise Refused(
                f"The notes hold {MAX_NOTES} characters, and with this reason they would have {len(notes)}. "
                "Shorten them, or keep the setup without a reason.",
                code="notes-full",
            )
    return replace(
        document,
        setup=part,
        medium=replace(document.medium, channel_mix=None, own_mix=()),
        kit=replace(document.kit, setup=part.name),
        notes=notes,
    )


def setup_moved(document, changes):
    """The scene's setup with effects moved by changes, name -> step, within their scale; no longer a revision of a kept one. Returns SetupPart."""
    before = document.setup or SetupPart("for this scene")
    effects = dict(before.effects)
    for name, value in changes.items():
        low = 0.0 if name in ONE_SIDED else -1.0
        effects[name] = round(min(max(effects.get(name, 0.0) + value, low), 1.0), 4)
    # Moved by hand it is no longer the setup that was kept under that number.
    return replace(before, revision=None, effects=effects)
