"""An account as it is after years: scenes over many outings, frames of them, results with pictures of their own. Rows are written as they are kept;
the pictures share one set of files on the disk."""

import os
import uuid
from datetime import UTC, date, datetime, timedelta

from dimgrey.core.results.finding import Found, FoundTone
from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.outings.models import Outing
from dimgrey.pictures.models import Picture
from dimgrey.results.models import Result
from dimgrey.scenes.models import Revision, Scene
from tests import hand
from tests.helpers import scene_with_light

AN_OUTING = 10
"""Scenes of one outing; every tenth lot stands alone."""
START = datetime(2026, 9, 1, 10, tzinfo=UTC)
AT_ONCE = 500


def grow(person, scenes, frames, results):
    """Give a person so many of each. Returns the newest Outing, Scene, Frame and Result."""
    first = scene_with_light(person)
    first = hand.place_tone(hand.pin_tone(first, None, 3.5 / 11, 0.5), None, "A", 3)
    day = lambda k: date(2026, 9, 1) - timedelta(days=k)
    outings = Outing.objects.bulk_create(
        Outing(owner=person, title=f"Tannet Yard {k}", date=day(k), latitude_deg=51.4, longitude_deg=-5.2, zone="UTC")
        for k in range(scenes // AN_OUTING)
    )
    pictures = [_copied(first.picture) for _ in range(min(scenes, 200))]
    rows = [
        Scene(
            owner=person,
            outing=outings[k // AN_OUTING] if k // AN_OUTING < len(outings) and k // AN_OUTING % 10 else None,
            title=f"Scene {k}",
            kept=first.kept,
            picture=pictures[k] if k < len(pictures) else None,
            position=k,
        )
        for k in range(scenes)
    ]
    rows = Scene.objects.bulk_create(rows, batch_size=AT_ONCE)
    heads = Revision.objects.bulk_create([Revision(scene=row, label="made", kept=row.kept) for row in rows], AT_ONCE)
    for row, head in zip(rows, heads, strict=True):
        row.head = head
    Scene.objects.bulk_update(rows, ["head"], AT_ONCE)
    logged = _frames(log_frame(person, first, uuid.uuid4()), rows, frames)
    found = _results(logged, first.picture, results)
    return outings[-1], rows[-1], logged[-1], found[-1]


def _copied(picture):
    """Another Picture with the files of one."""
    made = Picture.objects.get(pk=picture.pk)
    made.pk, made.folder = None, uuid.uuid4()
    made.save()
    made.path.mkdir(parents=True)
    for file in picture.path.iterdir():
        os.link(file, made.path / file.name)
    return made


def _frames(frame, scenes, count):
    fields = {each.attname: getattr(frame, each.attname) for each in Frame._meta.concrete_fields if each.name != "id"}
    made = [
        Frame(
            **fields
            | {
                "token": uuid.uuid4(),
                "number": frame.number + 1 + k,
                "exposed_at": START + timedelta(minutes=20 * k),
                "scene_id": scenes[k % len(scenes)].pk,
            }
        )
        for k in range(count)
    ]
    return Frame.objects.bulk_create(made, batch_size=AT_ONCE)


def _found(k):
    """What was found of a result: a little over or under, one tone, nothing said."""
    miss = (k % 5 - 2) / 20
    tone = FoundTone("wall", "shadow", 3.0, 3.0 + miss, 3.0, 3.0 + miss, 0, False, None, None)
    return Found("camera file", miss, 0.1, 0.0, 0.1, 0.1, 40, 1.0, 0.0, (tone,))


def _results(frames, picture, count):
    return Result.objects.bulk_create(
        Result(
            owner_id=frame.owner_id,
            frame=frame,
            picture=_copied(picture),
            kind="camera file",
            digest=uuid.uuid4().hex,
            found=_found(k),
        )
        for k, frame in enumerate(frames[-count:])
    )
