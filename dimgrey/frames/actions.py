"""What a person does to the log: the only place that writes it."""

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from dimgrey.core.document.plainform import plain
from dimgrey.core.errors import NotPlaced
from dimgrey.core.measure.exposure import ev100
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.frames.models import Frame
from dimgrey.scenes.situation import Situation


@transaction.atomic
def log_frame(person, scene, token, settings=None, note="", exposed_at=None):
    """Log an exposure of a scene with a frozen copy of its plan. Returns the frame, the same one for the same token.

    settings: {"aperture": Marked, "shutter": Marked, "iso": Marked} that were really set; missing ones are the plan's.
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
    )


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
