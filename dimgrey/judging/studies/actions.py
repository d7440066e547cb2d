"""Making studies, adding lights to them, and choosing one of them for a new scene: the only place that writes them."""

from dataclasses import replace

from django.db import transaction
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from dimgrey.core.document.model import Document
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.match import Match, matched
from dimgrey.core.sky.clock import moment_of
from dimgrey.core.sky.framesky import planned_moment
from dimgrey.judging.studies.lights import grey8_of, zone_of
from dimgrey.judging.studies.models import Study, StudyPicture
from dimgrey.judging.studies.queries import study_of
from dimgrey.pictures import arrivals
from dimgrey.pictures.actions import lying_picture
from dimgrey.pictures.upload import source_of
from dimgrey.scenes import lifecycle

MOST_PICTURES = 60
PURPOSE = "study"
"""What a file for a study comes for."""
MIDDLE, WHOLE = [0.5, 0.5], [0.0, 0.0, 1.0, 1.0]


def make_study(person, title, outing=None, heading_deg=None):
    """A study without pictures yet."""
    return Study.objects.create(
        owner=person, title=title, outing=outing, heading_deg=heading_deg, subject=MIDDLE, crop=WHOLE
    )


def add_files(study, files):
    """Add lights from uploaded files. Returns one sentence for each file that was not added."""
    mistakes = []
    for file in files:
        try:
            arrivals.take_in(study.owner, PURPOSE, study.pk, source_of(file), file.name)
        except CoreError as refused:
            mistakes.append(f"{file.name}: {refused}")
    return mistakes


@arrivals.reads(PURPOSE)
def read_for_study(arrival, decoded):
    """A file becomes a light of a study, laid over the first one."""
    study = study_of(arrival.owner, arrival.subject)
    if study is None:
        raise CoreError("The study is gone.", code="study-gone")
    picture = lying_picture(arrival, decoded)
    row = StudyPicture(study=study, picture=picture, at=_exposed(decoded.shot.taken_at, study))
    first = _first(study)
    row.laid = _laid(first, row)

    def keep():
        _require_place(study)
        if _first(study) != first:  # another came first meanwhile
            row.laid = _laid(_first(study), row)
        picture.save()
        row.save()
        return row.pk

    return keep


def add_scenes(study, scenes):
    """Add lights from scenes that have a picture. Returns one sentence for each that was not added."""
    mistakes = []
    for scene in scenes:
        place = scene.outing.place if scene.outing else scene.document.place
        jd, _ = planned_moment(place, scene.document.view)
        try:
            with transaction.atomic():
                _add(study, StudyPicture(study=study, scene=scene, at=moment_of(jd) if jd else None))
        except CoreError as refused:
            mistakes.append(f"{scene.title}: {refused}")
    return mistakes


def _add(study, row):
    """Keep a light that shows the subject of the first. Raises CoreError for one that does not."""
    _require_place(study)
    row.laid = _laid(_first(study), row)
    row.save()


def _first(study):
    return study.pictures.select_related("picture", "scene__picture").first()


def _require_place(study):
    if study.pictures.count() >= MOST_PICTURES:
        raise CoreError(f"A study has at most {MOST_PICTURES} pictures.", code="study-many")


def _laid(first, row):
    """How a light lies over the first one, as it is kept. Raises CoreError for another subject."""
    if not (first and first.shown):
        return Match().plain
    try:
        return matched(grey8_of(first.shown), grey8_of(row.shown)).plain
    except CoreError:
        raise CoreError("it does not show what the first picture shows.", code="study-other") from None


def _exposed(taken_at, study):
    """When a file says it was taken, by the clocks of the study's place; None where it does not say."""
    try:
        at = parse_datetime((taken_at or "").replace(":", "-", 2) if (taken_at or "")[4:5] == ":" else taken_at or "")
    except ValueError:
        return None
    return at if at is None or timezone.is_aware(at) else at.replace(tzinfo=zone_of(study))


def change_study(study, **told):
    """Change title, outing, heading_deg, subject or crop."""
    for name, value in told.items():
        setattr(study, name, value)
    study.save(update_fields=list(told))


def set_time(row, at, note):
    """Say when a light was, and what it was."""
    row.at, row.note = at, note
    row.save(update_fields=["at", "note"])


@transaction.atomic
def scene_of_hour(person, study, row, hour):
    """A new scene that asks for the light of one picture of a study. hour: core Hour. Returns the scene."""
    zone = zone_of(study)
    document = Document(title=study.title)
    clock = row.at.astimezone(zone).strftime("%H:%M") if row.at else ""
    view = replace(document.view, heading_deg=study.heading_deg, time=clock)
    wanted = replace(document.wanted, lights=hour.wants, mood=", ".join(hour.words))
    return lifecycle.create_scene(
        person, replace(document, view=view, wanted=wanted), study.outing, "from a light study"
    )
