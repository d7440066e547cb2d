"""What a person does to the log: the only place that writes it."""

import uuid
from dataclasses import replace

from django.db import transaction
from django.db.models import Max, Q
from django.utils import timezone

from dimgrey.core.document.meansline import made_with
from dimgrey.core.document.plainform import plain
from dimgrey.core.errors import CoreError, NotPlaced
from dimgrey.core.measure.setting import Setting
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.frames.models import Frame, Roll
from dimgrey.frames.queries import roll_in_use
from dimgrey.scenes.onroll import forget
from dimgrey.scenes.situation import Situation

NOT_SAID = Setting()


@transaction.atomic
def log_frame(person, scene, token, used=NOT_SAID, note="", exposed_at=None, bracket=None):
    """Log an exposure of a scene with a frozen copy of its plan. Returns the frame, the same one for the same token.

    used: Setting that was really set; what it does not say is the plan's. bracket: id that the
    frames of one bracket share. A frame on film takes the next place on the roll of that film that is in a camera.
    Raises NotPlaced when the scene has no plan yet.
    """
    # A double click, or an act that was sent again, is one frame.
    known = Frame.every.owned_by(person).filter(token=token).first()
    if known:
        return known
    situation = Situation(scene)
    if situation.plan is None:
        raise NotPlaced(situation.wait, parameter="placing", code="nothing-placed")
    result = situation.plan
    made = replace(made_with(situation.document), light=light_words(situation))
    if made.film:
        made = replace(made, development=result.development or "")
    roll = roll_in_use(person, made.film)
    used = used.over(Setting(result.aperture, result.given, result.speed))
    return Frame.objects.create(
        owner=person,
        scene=scene,
        token=token,
        number=next_number(person),
        title=scene.title,
        exposed_at=exposed_at or timezone.now(),
        aperture=format_aperture(used.aperture),
        shutter=format_time(used.shutter),
        iso=used.iso.name,
        difference_stops=difference_of(result.exposure_ev100, used, situation.brief.medium),
        note=note,
        plan=plan_as_json(result, situation.cautions, line=situation.intent_line),
        document=plain(situation.document),
        picture=scene.picture,
        made=made,
        grey=situation.grey,
        bracket=bracket,
        roll=roll,
        roll_number=next_on(roll) if roll else None,
    )


def difference_of(exposure_ev100, used, medium):
    """Stops of light that a Setting gave film or sensor over the plan's: long times count as what they are metered for."""
    film = medium.reciprocity if medium and medium.is_film else None
    return round(exposure_ev100 - used.metered_ev100(film), 4)


def light_words(situation):
    """The light of a scene in a few words: where the sun stands, else as it was noted."""
    words = situation.sky.side if situation.sky else ""
    return words or situation.document.light_note


@transaction.atomic
def correct_frame(person, pk, used, note, exposed_at=None):
    """Write down the Setting that was really used, when (None: as it was), and a note. The frozen plan stays as it was."""
    frame = Frame.objects.owned_by(person).get(pk=pk)
    frame.aperture, frame.shutter = format_aperture(used.aperture), format_time(used.shutter)
    frame.iso, frame.note = used.iso.name, note
    frame.exposed_at = exposed_at or frame.exposed_at
    planned = frame.frozen
    frame.difference_stops = difference_of(planned.exposure_ev100, used, medium_of(frame)) if planned else 0.0
    frame.save(update_fields=["aperture", "shutter", "iso", "note", "exposed_at", "difference_stops"])
    return frame


@transaction.atomic
def strike_frame(frames, line, act):
    """Strike a frame out of the log, or put it back. Returns it, None where the line is no frame's.

    frames: those that are meant, struck ones among them. line: the frame's token, or the id of the act that struck it out. act: id of this one. A frame on film gets its place again, or the
    next one where that was taken since.
    """
    frame = frames.filter(Q(token=line) | Q(struck_by=line)).first()
    if frame is None:
        return None
    if str(frame.struck_by) == line:
        frame.struck_by = None
        if frame.roll and frame.roll.frames.filter(roll_number=frame.roll_number).exists():
            frame.roll_number = next_on(frame.roll)
    else:
        frame.struck_by = frame.struck_by or act or uuid.uuid4()
    frame.save(update_fields=["struck_by", "roll_number"])
    return frame


@transaction.atomic
def strike_frames(frames):
    """Strike some frames out of the log together. Returns the id by which they are put back."""
    act = uuid.uuid4()
    for frame in frames:
        strike_frame(Frame.every.filter(pk=frame.pk), str(frame.token), act)
    return act


@transaction.atomic
def put_back_frames(person, act):
    """Put back what was struck out together. Returns how many."""
    struck = list(Frame.every.owned_by(person).filter(struck_by=act).order_by("number"))
    for frame in struck:
        strike_frame(Frame.every.filter(pk=frame.pk), str(act), None)
    return len(struck)


@transaction.atomic
def put_all_on_roll(frames, roll):
    """Give frames the next places on a roll, in the order in which they were exposed; None takes them off."""
    for frame in sorted(frames, key=lambda each: (each.exposed_at, each.number)):
        put_on_roll(frame, roll)


def medium_of(frame):
    """The Medium that a Frame was exposed on, None where its scene cannot be read any more."""
    scene = frame.as_it_was
    return scene.brief.medium if scene is not None and scene.is_sound else None


def next_number(person):
    """The number of the next frame in a person's log."""
    return (Frame.every.owned_by(person).aggregate(last=Max("number"))["last"] or 0) + 1


@transaction.atomic
def begin_roll(person, film, rated, development="", note=""):
    """A roll goes into a camera: the one of the same film that was in is taken out. Returns it."""
    now = timezone.now()
    Roll.objects.owned_by(person).filter(film=film, ended_at=None).update(ended_at=now)
    forget()
    last = Roll.objects.owned_by(person).aggregate(last=Max("number"))["last"] or 0
    return Roll.objects.create(
        owner=person, number=last + 1, film=film, rated=rated, development=development, note=note, begun_at=now
    )


def end_roll(roll, ended=True):
    """Take a roll out of the camera, or put it back."""
    roll.ended_at = timezone.now() if ended else None
    roll.save(update_fields=["ended_at"])
    forget()


def change_roll(roll, rated, development, note):
    """Write down how a roll was rated and is developed."""
    roll.rated, roll.development, roll.note = rated, development, note
    roll.save()
    forget()


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
