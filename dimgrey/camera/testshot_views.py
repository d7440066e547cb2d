"""A test shot: a picture that the camera just made. It is logged as a frame, and kept and compared as its result."""

import uuid

from django import forms
from django.shortcuts import redirect, render

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.measure.setting import Setting
from dimgrey.frames.actions import log_frame
from dimgrey.people.owned import of_mine
from dimgrey.pictures.actions import keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.upload import source_of
from dimgrey.results.actions import keep_decoded
from dimgrey.scenes.forms import ACCEPT
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.situation import Situation
from dimgrey.web.forms import PlainForm, sent


class TestShotForm(PlainForm):
    """The file."""

    file = forms.FileField(
        allow_empty_file=True,
        label="The picture that the camera just made",
        widget=forms.FileInput({"accept": ACCEPT}),
        error_messages={"required": "Choose the picture that the camera made."},
    )


@of_mine(scene_of, "scene")
def test_shot(request, scene):
    """The page of a test shot; a file sent to it leads to its comparison."""
    situation, form = Situation(scene, request.user.tone_labels), TestShotForm(*sent(request))
    context = {"scene": scene, "wait": situation.wait, "form": form}
    if request.method == "POST":
        try:
            return redirect("result", _kept(request.user, situation, form).pk)
        except CoreError as refused:
            context["problem"] = str(refused)
    return render(request, "camera/test_shot.html", context, status=422 if "problem" in context else 200)


def _kept(person, situation, form):
    """The result that a test shot became, with its frame. Raises CoreError; then nothing is logged."""
    if situation.plan is None:
        raise CoreError(situation.wait, code="nothing-placed")
    if not form.is_valid():
        raise CoreError(form.sentence(), code="no-file")
    if situation.picture is None:
        raise CoreError("This scene has no picture that a shot could be held against.", code="no-picture")
    file = form.typed.file
    source = source_of(file)
    decoded = read_picture(source, file.name)
    with keeping():
        set_on = _set_on(decoded.shot, situation.document.increment)
        frame = log_frame(person, situation.scene, uuid.uuid4(), set_on, note="test shot")
        return keep_decoded(frame, decoded, source, file.name)


def _set_on(shot, increment):
    """The Setting that a file says it was made with; nothing in it where it does not say."""
    if not (shot.time_s and shot.f_number and shot.iso):
        return Setting()
    try:
        return Setting(
            shutter=parse_time(f"{shot.time_s:.8g}s", increment),
            aperture=parse_aperture(f"f/{shot.f_number:g}", increment),
            iso=parse_speed(f"{shot.iso:g}", increment),
        )
    except CoreError:
        return Setting()  # between marked values: the frame says what was planned, and can be corrected
