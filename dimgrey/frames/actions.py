"""What a person does to the log: the only place that writes it."""

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from dimgrey.core.document.meansline import made_with
from dimgrey.core.document.plainform import plain
from dimgrey.core.errors import CoreError, NotPlaced
from dimgrey.core.measure.exposure import ev100
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.frames.models import Frame, Roll
from dimgrey.frames.queries import open_rolls
from dimgrey.scenes.situation import Situation


@transaction.atomic
def log_frame(person, scene, token, settings=None, note="", exposed_at=None, bracket=None):
    """Log an exposure of a scene with a frozen copy of its plan. Returns the frame, the same one for the same token.

    settings: {"aperture": Marked, "shutter": Marked, "iso": Marked} that were really set; missing ones are the plan's. bracket: id that the
    frames of one bracket share. A frame on film takes the next place on the roll of that film that is in a camera.
    Raises NotPlaced when the scene has no plan yet.
    """
    # A double click, or an act that was sent again, is one frame.
    known = Frame.objects.owned_by(person).filter(token=token).first()
    if known:
        return known
    situation = Situation(scene)
    if situation.plan is None:
        raise NotPlaced(situation.wait, parameter="placing", code="nothing-placed")
    result = situation.plan
    made = {**made_with(scene.document), "light": light_words(situation)}
    roll = next((each for each in open_rolls(person) if each.film == made["film"]), None) if made["film"] else None
    made["development"] = (result.development or "") if made["film"] else ""
    used = {"aperture": result.aperture, "shutter": result.shutter, "iso": result.speed, **(settings or {})}
    return Frame.objects.create(
        owner=person,
        scene=scene,
        token=token,
        number=next_number(person),
        title=scene.title,
        exposed_at=exposed_at or timezone.now(),
        aperture=format_aperture(used["aperture"]),
        shutter=format_time(used["shutter"]),
        iso=used["iso"].name,
        difference_stops=round(difference_stops(result.exposure_ev100, used), 4),
        note=note,
        plan=plan_as_json(result, situation.cautions),
        document=plain(scene.document),
        picture=scene.picture,
        made=made,
        grey=situation.grey,
        bracket=bracket,
        roll=roll,
        roll_number=next_on(roll) if roll else None,
    )


def light_words(situation):
    """The light of a scene in a few words: where the sun stands, else as it was noted."""
    words = situation.sky.side if situation.sky else ""
    return words or situation.document.light_note


def difference_stops(planned_ev100, used):
    """Exposure really given against the planned one, in stops; + is more light."""
    return planned_ev100 - ev100(used["aperture"].exact, used["shutter"].exact, used["iso"].exact)


@transaction.atomic
def correct_frame(person, pk, settings, note, exposed_at=None):
    """Write down what was really set, when (None: as it was), and a note. The frozen plan stays as it was."""
    frame = Frame.objects.owned_by(person).get(pk=pk)
    frame.aperture, frame.shutter = format_aperture(settings["aperture"]), format_time(settings["shutter"])
    frame.iso, frame.note = settings["iso"].name, note
    frame.exposed_at = exposed_at or frame.exposed_at
    planned = frame.frozen
    frame.difference_stops = round(difference_stops(planned.exposure_ev100, settings), 4) if planned else 0.0
    frame.save(update_fields=["aperture", "shutter", "iso", "note", "exposed_at", "difference_stops"])
    return frame


def next_number(person):
    """The number of the next frame in a person's log."""
    return (Frame.objects.owned_by(person).aggregate(last=Max("number"))["last"] or 0) + 1


@transaction.atomic
def begin_roll(person, film, rated, development="", note=""):
    """A roll goes into a camera: the one of the same film that was in is taken out. Returns it."""
    now = timezone.now()
    Roll.objects.owned_by(person).filter(film=film, ended_at=None).update(ended_at=now)
    last = Roll.objects.owned_by(person).aggregate(last=Max("number"))["last"] or 0
    told = {"film": film, "rated": rated, "development": development, "note": note}
    return Roll.objects.create(owner=person, number=last + 1, begun_at=now, **told)


def end_roll(roll, ended=True):
    """Take a roll out of the camera, or put it back."""
    roll.ended_at = timezone.now() if ended else None
    roll.save(update_fields=["ended_at"])


def change_roll(roll, rated, development, note):
    """Write down how a roll was rated and is developed."""
    roll.rated, roll.development, roll.note = rated, development, note
    roll.save(update_fields=["rated", "development", "note"])


@transaction.atomic
def put_on_roll(frame, roll, number=None):
    """Give a frame its place on a roll, the next one without a number; None takes it off. Raises CoreError for a place that is taken."""
    if roll and number and roll.frames.filter(roll_number=number).exclude(pk=frame.pk).exists():
        raise CoreError(f"Roll {roll.number} has a frame {number} already.", parameter="roll_number", code="roll-place")
    frame.roll = roll
    frame.roll_number = (number or next_on(roll)) if roll else None
    frame.save(update_fields=["roll", "roll_number"])


def next_on(roll):
    """The next free place on a roll."""
    return (roll.frames.aggregate(last=Max("roll_number"))["last"] or 0) + 1
