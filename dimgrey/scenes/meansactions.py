"""What a person does to the means of a scene: kit, glass, mixes, setups, advice and ways out. Each is `actions.change`."""

from dataclasses import replace

from dimgrey.core.document import meansedits
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.kituse import glass_of, with_kit
from dimgrey.core.document.scale import rescaled
from dimgrey.kit.queries import chosen
from dimgrey.scenes.actions import change


def use_kit(scene, by, names):
    """Take camera, lens, film and meter from the kit: their values are copied into the scene."""
    found = chosen(scene.owner_id, names)
    missing = [f"the {kind} “{name}”" for kind, name in names.items() if kind not in found]
    if missing:
        raise Refused(f"The kit has no longer {' and '.join(missing)}. Choose another.", code="kit-gone")
    items = {kind: row.item for kind, row in found.items()}
    mixes = found["camera"].measured.mixes if "camera" in found else None
    edit = lambda document: rescaled(with_kit(document, **items, mixes=mixes), scene.facts)
    return change(scene, by, f"kit: {', '.join(names.values())}", edit)


def use_kit_filter(scene, by, name):
    """Put a filter of the kit in front of the lens, in place of one of its kind."""
    found = chosen(scene.owner_id, {"filter": name}).get("filter")
    if found is None:
        raise Refused(f"The kit has no filter “{name}” any more. Choose another.", code="kit-gone")
    glass = glass_of(found.item)
    return change(scene, by, f"filter: {name}", lambda document: meansedits.with_glass(document, glass))


def use_colour_choice(scene, by, name):
    """Put a coloured filter in front, or choose the in-camera mix of a colour sensor; "none" takes it away."""
    kind = "in-camera filter" if scene.document.medium.mixes_channels else "filter"
    return change(scene, by, f"{kind}: {name}", lambda document: meansedits.with_colour_choice(document, name))


def bend_mix(scene, by, name, stops, hold=True):
    """Pull one tone lighter or darker in the own mix of a raw file. hold: the others stay where they are."""
    return change(scene, by, f"pull {name}", lambda document: meansedits.with_bend(document, name, stops, hold))


def level_mix(scene, by):
    """Take the own mix back to a level curve."""
    return change(scene, by, "level mix", meansedits.with_level_mix)


def use_setup(scene, by, part, reason=""):
    """Use an in-camera setup; the reason is added to the notes. part: SetupPart."""
    return change(scene, by, f"setup: {part.name}", lambda document: meansedits.with_setup(document, part, reason))


def take_advice(scene, by, proposal):
    """Do what a proposal of core.planning.advice says."""
    label = proposal.choice or "for this scene"
    return change(scene, by, f"advice: {label}", lambda document: meansedits.with_advice(document, proposal))


def take_remedy(scene, by, code):
    """Apply one of the computed ways out of a scene that exceeds its medium."""
    return change(scene, by, f"way out: {code}", lambda document: meansedits.with_remedy(document, code, scene.read_as))


def set_glass(scene, by, label, name, **facts):
    """Change what is said of the filter of that name on the lens."""

    def edit(document):
        if all(glass.name != name for glass in document.filters):
            raise Refused(f"There is no {name} filter on the lens any more.", code="no-filter")
        changed = (replace(glass, **facts) if glass.name == name else glass for glass in document.filters)
        return replace(document, filters=tuple(changed))

    return change(scene, by, label, edit)


def develop(scene, by, step):
    """Develop the roll by a step for all its frames; None: as each scene asks."""

    def edit(document):
        if document.medium.kind != "film":
            raise Refused("Only negative film is developed longer or shorter.", code="not-film")
        return document.with_(medium=replace(document.medium, developed=step))

    return change(scene, by, "development", edit)
