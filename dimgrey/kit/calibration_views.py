"""Calibrating a camera: a card series gives its curve, a colour chart its channel mix; or the simulated camera shows how."""

import numpy as np
from django import forms
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils import timezone

from dimgrey.core.camera.calibration import card_lightness, chart_patches
from dimgrey.core.camera.setups import Setup
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import lightness
from dimgrey.core.planning.prints import FILE_CURVE
from dimgrey.kit import actions, queries
from dimgrey.kit.drawings import HEIGHT, WIDTH
from dimgrey.people.owned import of_mine
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.upload import source_of
from dimgrey.standins.simulated_camera import SimulatedCamera
from dimgrey.web.forms import TypedForm, choices

MOST_FILES = 16
SIMULATED_CURVE = ((-6, -5, -4, -3, -2, -1, 0, 1, 2, 2.5, 3), (1, 2, 6, 13, 24, 37, 50, 67, 86, 97, 100))
"""The simulated camera that is offered for practice has a curve of its own."""


def can_be_measured(row):
    """Digital cameras, and films with the scanner they go through."""
    return row.kind == "film" or (row.kind == "camera" and row.item.senses != "film")


@of_mine(queries.item_of, "item")
def calibrate(request, row):
    """The page of a camera's or a film-and-scanner's calibration, and what comes of files sent to it."""
    if not can_be_measured(row):
        raise Http404("There is no such digital camera or film in your kit.")
    problem, status = "", 200
    if request.method == "POST":
        try:
            _measure(MeasureForm(request.POST, request.FILES), row)
            return redirect("calibrate", row.pk)
        except CoreError as refused:
            problem, status = str(refused), 422
    context = {
        "item": row,
        "measured": row.measured,
        "drawing": _drawing(row.measured),
        "filters": tuple(CHANNEL_MIXES),
        "problem": problem,
        "page": "kit",
    }
    return render(request, "kit/calibrate.html", context, status=status)


class MeasureForm(TypedForm):
    """What is measured: a card series, a chart through one filter, or the simulated camera's series."""

    kind = forms.ChoiceField(choices=choices(("series", "chart", "simulated")), required=False)
    filter = forms.ChoiceField(
        choices=choices(CHANNEL_MIXES),
        required=False,
        error_messages={"invalid_choice": "There is no in-camera filter “%(value)s”."},
    )
    colour = forms.FileField(required=False, allow_empty_file=True)
    grey = forms.FileField(required=False, allow_empty_file=True)

    def series(self):
        return self.files.getlist("series") if hasattr(self.files, "getlist") else []


def _measure(form, row):
    """Measure what a form asks for. Raises CoreError."""
    if not form.is_valid():
        raise CoreError(next(iter(form.errors.values()))[0], code="measure")
    today, typed = timezone.now().date(), form.typed
    if typed.kind == "simulated":
        camera = SimulatedCamera(np.full((4, 4, 3), MIDDLE_GREY), 12.0, SIMULATED_CURVE)
        actions.calibrate_curve(row, camera.card_series(Setup("plain")), today)
    elif typed.kind == "chart":
        if typed.colour is None or typed.grey is None:
            raise CoreError(
                "A chart needs two files: one in colour and the in-camera grey of the same framing.", code="chart-files"
            )
        greys = _patches(typed.grey).mean(axis=1)
        actions.calibrate_mix(row, typed.filter or "none", _patches(typed.colour), greys, today)
    else:
        files = form.series()
        if not 1 <= len(files) <= MOST_FILES:
            raise CoreError(f"Choose the frames of the series, up to {MOST_FILES}.", code="series-files")
        actions.calibrate_curve(row, [_frame(file, k) for k, file in enumerate(files)], today)


def _frame(file, k):
    """(stops, L*) of one frame: its exposure from its own data, else its place in the order; its middle from the picture."""
    decoded = read_picture(source_of(file), file.name)
    shot = decoded.shot
    stops = -shot.ev100 if shot.ev100 is not None else float(k)
    return stops, card_lightness(decoded.linear)


def _patches(file):
    return chart_patches(read_picture(source_of(file), file.name).linear)


def _drawing(measured):
    """The measured curve over the default one, ready to draw; None before a series."""
    if not measured.stops:
        return None
    x = lambda stops: (stops + 6) / 10.5 * WIDTH
    y = lambda l_star: HEIGHT - l_star / 100 * (HEIGHT - 10)
    line = lambda stops, light: "M" + "L".join(f"{x(s):.1f} {y(v):.1f}" for s, v in zip(stops, light, strict=True))
    grid, points = np.linspace(-6, 4, 81), list(zip(measured.stops, measured.lightness, strict=True))
    return {
        "measured": line(measured.stops, measured.lightness),
        "default": line(grid, lightness(grid, FILE_CURVE)),
        "dots": [{"x": round(x(s), 1), "y": round(y(v), 1)} for s, v in points],
        "labels": [{"x": round(x(k), 1), "text": f"{k:+d}" if k else "0"} for k in range(-5, 5)],
        "worst": max(abs(v - float(lightness(s, FILE_CURVE))) for s, v in points),
    }
