"""A test shot: a picture that the camera just made, against the plan, zone by zone."""

from django import forms
from django.shortcuts import render

from dimgrey.core.camera import testshot
from dimgrey.core.document.read import setup_of
from dimgrey.core.errors import CoreError
from dimgrey.means.compared import compared
from dimgrey.people.owned import of_mine
from dimgrey.pictures.read import read_picture
from dimgrey.pictures.source import source_of
from dimgrey.scenes.forms import ACCEPT
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.situation import Situation
from dimgrey.web.forms import PlainForm, sent, text_input

POINTS = ("p1", "p2", "p3")


class TestShotForm(PlainForm):
    """The file, and where three pins lie in it when it has another crop."""

    file = forms.FileField(
        allow_empty_file=True,
        label="The picture that the camera just made",
        widget=forms.FileInput({"accept": ACCEPT}),
        error_messages={"required": "Choose the picture that the camera made."},
    )
    p1 = forms.CharField(max_length=20, required=False, widget=text_input("40, 62"))
    p2 = forms.CharField(max_length=20, required=False, widget=text_input("40, 62"))
    p3 = forms.CharField(max_length=20, required=False, widget=text_input("40, 62"))

    def __init__(self, data, files, pins):
        super().__init__(data, files)
        for name, pin in zip(POINTS, pins, strict=False):
            self.fields[name].label = f"{pin.mark} {pin.name}"
        self.matched = [self[name] for name, _ in zip(POINTS, pins, strict=False)]

    def points(self):
        """Three places as fractions, or None when none was typed. Raises CoreError."""
        texts = [self.cleaned_data[name].strip() for name in POINTS]
        if not any(texts):
            return None
        try:
            there = [tuple(float(cell) / 100 for cell in text.split(",")) for text in texts]
        except ValueError:
            there = []
        if len(there) != 3 or any(len(point) != 2 for point in there):
            raise CoreError("Write the three places as percent of width and height: 40, 62.", code="points")
        return there


@of_mine(scene_of, "scene")
def test_shot(request, scene):
    """The page of a test shot, and what comes of a file sent to it."""
    situation = Situation(scene, request.user.tone_labels)
    pins = [tone for tone in scene.document.tones if tone.at is not None]
    form = TestShotForm(*sent(request), pins)
    context = {"scene": scene, "wait": situation.wait, "form": form}
    if request.method == "POST":
        try:
            context["compared"] = _compared(situation, form, pins)
        except CoreError as refused:
            context["problem"] = str(refused)
    return render(request, "means/test_shot.html", context, status=422 if "problem" in context else 200)


def _compared(situation, form, pins):
    if situation.plan is None:
        raise CoreError(situation.wait, code="nothing-placed")
    if not form.is_valid():
        raise CoreError(form.sentence(), code="no-file")
    if situation.picture is None:
        raise CoreError("This scene has no picture whose pins a shot could be held against.", code="no-picture")
    decoded = read_picture(source_of(form.cleaned_data["file"]), form.cleaned_data["file"].name)
    grey, facts, points = testshot.shown_grey(decoded.linear, decoded.scene_linear), situation.facts, form.points()
    matrix = None
    if points is None:
        testshot.require_same_frame((facts.width, facts.height), (grey.shape[1], grey.shape[0]))
    elif len(pins) < 3:
        raise CoreError("Matching needs three pinned tones.", code="points-few")
    else:
        matrix = testshot.affine_from_points([pin.at for pin in pins[:3]], points)
    part = situation.document.setup_in_use
    return compared(situation, setup_of(part) if part else None, grey, matrix)
