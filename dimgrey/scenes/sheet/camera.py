"""Camera: medium, speed, lens, meter and setup - what the scene is taken with."""

import json
from dataclasses import replace

from dimgrey.core.acts.kit import KINDS as KIT_KINDS
from dimgrey.core.colour.chain import LIGHT_NAMES
from dimgrey.core.colour.responses import DEFAULT_RESPONSE
from dimgrey.core.document.means import DEFAULT_SPOT_DEG
from dimgrey.core.document.onroll import roll_line
from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

CAMERA = {
    "iso": {"inputmode": "numeric"},
    "own_iso": {"inputmode": "numeric"},
    "light_note": {"id": "light-note"},
    "channel_mix": {"id": "mix"},
    "focal_35mm": {"id": "focal"},
    "spot_deg": {"id": "spot"},
    "through_filter": {"id": "through"},
}


def _holds(situation):
    setup = situation.document.setup_in_use
    return setup.name if setup else f"ISO {situation.document.medium.iso}"


def _first_camera(situation):
    document, medium = situation.document, situation.document.medium
    mix = medium.channel_mix if isinstance(medium.channel_mix, str) else "none"
    return {
        "kind": medium.kind,
        "iso": medium.iso,
        "increment": document.increment,
        "light": document.light,
        "light_note": document.light_note,
        "own_iso": medium.own_iso or "",
        "response": medium.response or (DEFAULT_RESPONSE if medium.is_film else ""),
        "channel_mix": mix,
        "reciprocity": _plain(medium.reciprocity.exponent if medium.reciprocity else None),
        "focal_35mm": _plain(document.lens.focal_35mm),
        "magnification": _plain(document.lens.magnification or None),
        "spot_deg": _plain(None if document.meter.spot_deg == DEFAULT_SPOT_DEG else document.meter.spot_deg),
        "calibration": _plain(document.meter.calibration_stops or None),
        "through_filter": document.meter.through_filter,
    }


def _plain(value):
    return "" if value is None else f"{value:g}"


def _first_develop(situation):
    medium = situation.document.medium
    return {"developed": "" if medium.developed is None else medium.developed, "sheets": medium.by_sheet}


def _is_developed_alone(situation):
    """Whether a scene is on film whose development is not said by the roll that it is on."""
    roll = situation.roll
    return situation.document.medium.kind == "film" and (roll is None or roll.step is None)


def _with_views(form, situation):
    """The form of “develop” with what each choice would show, for a hand that goes through them."""
    brief = situation.brief

    def view(key):
        medium = replace(brief.medium, developed=None if key == "" else key)
        developed = replace(brief, medium=medium)
        return situation.grey_of(situation.rendering_of(plan_or_wait(developed)[0]))

    if situation.picture is not None and situation.plan is not None:
        shown = form.fields["developed"].widget
        shown.attrs["data-views"] = json.dumps({key: view(key) for key, _ in shown.choices})
    return form


def camera_line(document):
    """Camera, film or file, speed and lens."""
    medium, kit = document.medium, document.kit
    said = [medium.name or medium.kind, f"ISO {medium.iso}"]
    if kit.camera:
        said.insert(0, kit.camera)
    if document.lens.focal_35mm is not None:
        said.append(kit.lens or f"{document.lens.focal_35mm:g} mm")
    return ", ".join(said)


def light_line(document):
    """The light in the chain, and as it was written down."""
    return ", ".join(filter(None, (LIGHT_NAMES[document.light], document.light_note)))


def _line(situation):
    document = situation.document
    setup = document.setup_in_use
    return {
        "camera": camera_line(document),
        "light": light_line(document),
        "setup": setup.name if setup else "",
        "roll": roll_line(situation.roll),
    }


PART = Part(
    key="camera",
    title="Film or camera",
    order=70,
    at_rest=True,
    holds=_holds,
    line=_line,
    editor=lambda situation, acts, mark: {
        "form": acts.of("camera"),
        "kit": acts.of("kit"),
        "develop": _with_views(acts.of("develop"), situation) if _is_developed_alone(situation) else None,
        "roll_words": roll_line(situation.roll),
    },
    acts={
        "develop": Look(_first_develop),
        "kit": Look(
            lambda situation: {kind: getattr(situation.document.kit, kind) for kind in KIT_KINDS},
            {kind: {"id": f"kit-{kind}"} for kind in KIT_KINDS},
        ),
        "camera": Look(_first_camera, CAMERA),
    },
)
