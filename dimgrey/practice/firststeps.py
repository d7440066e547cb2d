"""The first visit: five steps on an unplanned scene, each known to be done by what the scene holds, up to a logged frame."""

from dataclasses import dataclass

from dimgrey.frames.models import Frame
from dimgrey.practice.models import FirstSteps
from dimgrey.scenes.queries import scenes_of
from dimgrey.scenes.situation import Situation


@dataclass(frozen=True)
class Step:
    """title, how: in words. is_done: the scene shows that it was taken."""

    title: str
    how: str
    is_done: bool


STEPS = (
    ("Pin a tone that matters", "Click the picture where it lies. The ring is the true size of the meter's spot; what it reads stands beside it."),
    ("Pin a second one", "Take a dark one that shall keep its texture. Both now stand on the ramp from black to white under the picture."),
    ("Place one of them", "Drag its flag along the ramp, or choose a zone in Placing: a lit white wall on VII, a dark wall with texture on III. All others follow."),
    ("Choose your means", "Set the aperture you want under Means, or put a filter on: the exposure follows at once, in large figures."),
    ("Expose, and log it", "Take the picture with these settings, then press “Exposed: log frame”. The frame keeps the plan it was made with."),
)  # fmt: skip


def path_of(person):
    """The FirstSteps of a person, on an unplanned scene with a picture where there is one; None without any scene. Made when first asked for."""
    path = FirstSteps.objects.owned_by(person).select_related("scene__picture", "scene__outing").first()
    if path and path.scene and not path.scene.removed:
        return path
    scene = _unplanned(person)
    if scene is None:
        return None
    path, _ = FirstSteps.objects.update_or_create(owner=person, defaults={"scene": scene})
    return path


def _unplanned(person):
    """A scene to walk the path on: with a picture and without a plan, else any."""
    scenes = [scene for scene in scenes_of(person).order_by("-pk")[:40] if scene.is_sound]
    bare = [scene for scene in scenes if scene.picture_id and Situation(scene).plan is None]
    return next(iter(bare or scenes), None)


def steps_of(scene):
    """Step of each, in order."""
    document = scene.document
    done = (
        len(document.tones) >= 1,
        len(document.tones) >= 2,
        document.placing.tone is not None,
        bool(document.camera.aperture or document.filters or document.setup_in_use),
        scene.frames.exists(),
    )
    return [Step(title, how, is_done) for (title, how), is_done in zip(STEPS, done, strict=True)]


@dataclass(frozen=True)
class Offer:
    """What home offers of the path. step: number of the one that comes next, 0 before the first visit. title: its name. count: of all steps."""

    step: int = 0
    title: str = ""
    count: int = len(STEPS)


def offer_of(person):
    """Offer of the path, None once it was left or walked to its end, or for somebody who has logged a frame without it; 1 to 2 queries."""
    path = FirstSteps.objects.owned_by(person).select_related("scene").first()
    if path is None:
        # Without a scene home itself says what comes first.
        has_begun = scenes_of(person).exists() and not Frame.objects.owned_by(person).exists()
        return Offer() if has_begun else None
    if path.left or path.scene is None or path.scene.removed or not path.scene.is_sound:
        return None
    steps = steps_of(path.scene)
    return next((Offer(k, step.title) for k, step in enumerate(steps, start=1) if not step.is_done), None)


def set_left(person, left):
    """Go off the path, before its first step too, or take it up again."""
    path_of(person)
    FirstSteps.objects.update_or_create(owner=person, defaults={"left": left})
