"""Calibrating a camera: a card series gives its curve, a colour chart its channel mix; or the simulated camera shows how."""

import numpy as np
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils import timezone

from dimgrey.core.camera.setups import Setup
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.encoding import lightness_of_luminance, luminance
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.exposure import ev100
from dimgrey.core.picture.display import FILE_CURVE, lightness
from dimgrey.kit import actions, queries
from dimgrey.kit.drawings import HEIGHT, WIDTH
from dimgrey.pictures.read import read_picture
from dimgrey.standins.camera import SimulatedCamera

ACROSS, DOWN = 6, 4
MOST_FILES = 16
SIMULATED_CURVE = ((-6, -5, -4, -3, -2, -1, 0, 1, 2, 2.5, 3), (1, 2, 6, 13, 24, 37, 50, 67, 86, 97, 100))
"""The simulated camera that is offered for practice has a curve of its own."""


def can_be_measured(item):
    """Digital cameras, and films with the scanner they go through."""
    return item.kind == "film" or (item.kind == "camera" and item.values.get("senses") != "film")


def calibrate(request, pk):
    """The page of a camera's or a film-and-scanner's calibration, and what comes of files sent to it."""
    item = queries.item_of(request.user, pk)
    if item is None or not can_be_measured(item):
        raise Http404("There is no such digital camera or film in your kit.")
    problem, status = "", 200
    if request.method == "POST":
        try:
            _measure(request, item)
            return redirect("calibrate", pk)
        except CoreError as refused:
            problem, status = str(refused), 422
    context = {
        "item": item,
        "calibration": item.calibration,
        "drawing": _drawing(item.calibration),
        "filters": tuple(CHANNEL_MIXES),
        "problem": problem,
        "page": "kit",
    }
    return render(request, "kit/calibrate.html", context, status=status)


def _measure(request, item):
    today = timezone.now().date()
    kind = request.POST.get("kind")
    if kind == "simulated":
        camera = SimulatedCamera(np.full((4, 4, 3), 0.18), 12.0, SIMULATED_CURVE)
        actions.calibrate_curve(item, camera.card_series(Setup("plain")), today)
    elif kind == "chart":
        colour, grey = request.FILES.get("colour"), request.FILES.get("grey")
        if colour is None or grey is None:
            raise CoreError(
                "A chart needs two files: one in colour and the in-camera grey of the same framing.", code="chart-files"
            )
        name = request.POST.get("filter", "none")
        if name not in CHANNEL_MIXES:
            raise CoreError(f"There is no in-camera filter “{name}”.", code="mix-unknown")
        actions.calibrate_mix(item, name, _patches(colour), _patches(grey).mean(axis=1), today)
    else:
        files = request.FILES.getlist("series")
        if not 1 <= len(files) <= MOST_FILES:
            raise CoreError(f"Choose the frames of the series, up to {MOST_FILES}.", code="series-files")
        actions.calibrate_curve(item, [_frame(file, k) for k, file in enumerate(files)], today)


def _frame(file, k):
    """(stops, L*) of one frame: its exposure from its own data, else its place in the order; its middle from the picture."""
    read = read_picture(file.read(), file.name)
    height, width = read.linear.shape[:2]
    middle = np.asarray(read.linear, np.float32)[
        height * 3 // 8 : height * 5 // 8 + 1, width * 3 // 8 : width * 5 // 8 + 1
    ]
    l_star = float(lightness_of_luminance(luminance(middle.reshape(-1, 3).mean(axis=0))))
    shot = read.exposure
    if shot.time_s and shot.f_number and shot.iso:
        return -ev100(shot.f_number, shot.time_s, shot.iso), min(max(l_star, 0.0), 100.0)
    return float(k), min(max(l_star, 0.0), 100.0)


def _patches(file):
    """Mean linear light of the chart's patches, row by row, shape (24, 3); the chart fills the frame, 6 across and 4 down."""
    linear = np.asarray(read_picture(file.read(), file.name).linear, np.float32)
    height, width = linear.shape[:2]
    found = []
    for row in range(DOWN):
        for column in range(ACROSS):
            y, x = int((row + 0.5) / DOWN * height), int((column + 0.5) / ACROSS * width)
            ry, rx = max(height // DOWN // 5, 1), max(width // ACROSS // 5, 1)
            found.append(linear[max(y - ry, 0) : y + ry, max(x - rx, 0) : x + rx].reshape(-1, 3).mean(axis=0))
    return np.array(found)


def _drawing(calibration):
    """The measured curve over the default one, ready to draw; None before a series."""
    if not calibration.get("stops"):
        return None
    x = lambda stops: (stops + 6) / 10.5 * WIDTH
    y = lambda l_star: HEIGHT - l_star / 100 * (HEIGHT - 10)
    line = lambda stops, light: "M" + "L".join(f"{x(s):.1f} {y(v):.1f}" for s, v in zip(stops, light, strict=True))
    grid = np.linspace(-6, 4, 81)
    return {
        "measured": line(calibration["stops"], calibration["lightness"]),
        "default": line(grid, lightness(grid, FILE_CURVE)),
        "dots": [
            {"x": round(x(s), 1), "y": round(y(v), 1)}
            for s, v in zip(calibration["stops"], calibration["lightness"], strict=True)
        ],
        "labels": [{"x": round(x(k), 1), "text": f"{k:+d}" if k else "0"} for k in range(-5, 5)],
        "worst": max(
            abs(v - float(lightness(s, FILE_CURVE)))
            for s, v in zip(calibration["stops"], calibration["lightness"], strict=True)
        ),
    }
