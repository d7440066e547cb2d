"""The computed subject as the picture of its scene: scene-linear, with a scale, and its places as key tones."""

import tempfile
from pathlib import Path

import numpy as np
from django.utils import timezone

from dimgrey.core.document import edits
from dimgrey.core.document.lightscale import light_scale, picture_reading, rescaled
from dimgrey.core.document.tones import ToneEntry
from dimgrey.core.lamps.places import default_view, places
from dimgrey.pictures.actions import keep_picture, keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes import lifecycle, spotmeter
from dimgrey.scenes.actions import change
from dimgrey.scenes.models import Scene

PIXELS = {"sitter": (640, 800), "table": (800, 640)}
PINNED = {
    "cheek right": "skin", "cheek left": "skin", "hair right": "hair", "shoulder right": "clothes", "ground right": "ground",
    "cup right": "cup", "cup left": "cup", "shell": "shell", "cloth": "cloth", "top": "table",
}  # fmt: skip
"""Places that become key tones, and what they are called."""
ROLES = {"skin": "skin", "ground": "background"}


def take(scene, lit):
    """Make the computed subject the scene's picture; pins that are there are read in it, its own places are pinned once. Undo brings the old one back.

    lit: LitScene. Returns the scene. Raises CoreError.
    """
    width, height = PIXELS[lit.lighting.subject]
    framed = {"away_m": lit.lighting.camera_m} if lit.lighting.subject == "sitter" else {}
    view = default_view(lit.lighting.subject, lit.lighting.ground_m, width=width, height=height, **framed)
    data = _exr(lit.luminance(view))
    name = f"{lit.lighting.subject}.exr"
    decoded = read_picture(data, name)
    names = _names(lit, view)
    with keeping():
        scene = Scene.objects.select_related("picture", "outing", "head").get(pk=scene.pk)
        kept = keep_picture(scene.owner_id, decoded, data, name, simulated_light=True)
        edit = lambda document: _pinned(lifecycle.pins_read(document, kept), kept, names)
        return change(scene, None, f"computed {lit.lighting.subject}", edit, kept)


def _exr(luminance):
    """Luminance in cd/m2, shape (h, w, 3), as the bytes of an OpenEXR file whose 1.0 is the brightest place."""
    import OpenEXR

    white = max(float(luminance.max()), 1e-6)
    header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage, "whiteLuminance": white}
    channels = {"RGB": np.ascontiguousarray(luminance / white, np.float32)}
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "subject.exr"
        OpenEXR.File(header, channels).write(str(path))
        return path.read_bytes()


def _names(lit, view):
    """name -> (place, role, "lit", "unlit" or "") of the key tones that a subject has."""
    side, _ = lit.sides
    found = {}
    for place in places(view):
        called = PINNED.get(place.name)
        if called is None:
            continue
        which = place.name.rpartition(" ")[2]
        word = ("lit" if which == side else "unlit") if side and called in ("skin", "cup") else ""
        name = f"{called}, {word}" if word else called
        if name not in found:
            found[name] = (place, ROLES.get(called, "other"), word)
    return found


def _pinned(document, picture, names):
    """A document with the places of a subject pinned that it does not have yet."""
    meter = spotmeter.meter_of(document, picture)
    is_scaled = light_scale(document, picture.facts) is not None
    for name, (place, role, word) in names.items():
        if name in document.names:
            continue
        x, y = place.in_picture
        seen = meter.read(x, y, document.meter.spot_deg)
        entry = ToneEntry(
            name=name,
            role=role,
            lit=word or None,
            colour=edits.kept_colour(seen.spot.colour),
            at=(round(x, 5), round(y, 5)),
            readings=(picture_reading(seen, picture.facts, is_scaled, timezone.now()),),
        )
        document = edits.with_new_tone(document, entry)
    return rescaled(document, picture.facts)
