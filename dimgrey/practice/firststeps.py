"""First steps: three notes on the desk, each at the thing it speaks of, gone when what it says is done."""

from dataclasses import dataclass

from dimgrey.core.document.lightscale import light_scale
from dimgrey.practice.models import FirstSteps
from dimgrey.scenes.models import Scene
from dimgrey.scenes.queries import scenes_of
from dimgrey.scenes.situation import Situation

MOST_LOOKED_AT = 40
"""Scenes among which one with a step left is looked for."""


@dataclass(frozen=True)
class Note:
    """number of three. at: selectors of what it stands beside, the first that is in sight. words: what to do there."""

    number: int
    at: str
    words: str


TOUCH = Note(1, "#frame", "Touch a dark place that shall keep its texture.")
GREY = Note(2, "#strip, .flag", "Say its grey: III is dark with texture, V the middle.")
GLASS = Note(3, "#part-filter", "Choose the glass: see what orange or red does to these greys.")


def note_of(situation):
    """The Note that a scene shows, None for none; 2 queries at most, none where all is done.

    Somebody who has placed a tone elsewhere knows the way, unless the steps were asked back for this scene.
    """
    note = _next(situation)
    if note is None:
        return None
    scene = situation.scene
    row = FirstSteps.objects.filter(owner_id=scene.owner_id).first()
    if row is not None:
        return note if not row.left and row.scene_id == scene.pk else None
    others = Scene.objects.filter(owner_id=scene.owner_id, kept__placing__has_key="tone").exclude(pk=scene.pk)
    return None if others.exists() else note


def _next(situation):
    document, picture = situation.document, situation.picture
    if picture is None or light_scale(document, picture.facts) is None:  # the picture asks for its light first
        return None
    if not document.tones:
        return TOUCH
    if document.placing.tone is None:
        return GREY
    return None if document.filters or document.setup_in_use else GLASS


def take_up(person, scene=None):
    """Let a person's first steps show on a scene, else on the newest that has one of them left. Returns it, or None without any."""
    newest = scenes_of(person).exclude(picture=None).order_by("-pk")[:MOST_LOOKED_AT]
    known = (each for each in ([scene] if scene else []) + list(newest) if each.is_sound)
    scene = next((each for each in known if _next(Situation(each))), None)
    if scene is not None:
        FirstSteps.objects.update_or_create(owner=person, defaults={"scene": scene, "left": False})
    return scene


def leave(person):
    """Show no more of them."""
    FirstSteps.objects.update_or_create(owner=person, defaults={"left": True})
