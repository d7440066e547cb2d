"""What the frames teach: biases of kit, light and school, proposed corrections, applied and undone with one act each."""

from dataclasses import dataclass

from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from dimgrey.core.errors import CoreError
from dimgrey.core.results.corrections import FEWEST, biases
from dimgrey.kit.actions import correct_item, undo_correction
from dimgrey.people.owned import of_mine
from dimgrey.results import learning
from dimgrey.results.forms import ApplyForm, LearnForm
from dimgrey.results.queries import correction_of, corrections_of

MOST_DOTS = 80
"""Frames that are drawn over time, the last ones; all of them count."""
WIDTH, HEIGHT, MOST_STOPS = 1000, 160, 1.5
"""Units of the drawing over time, and the stops that its top and bottom stand for."""


@dataclass(frozen=True)
class Strip:
    """A bias with its interval on a line from -1 to +1 stop, in percent."""

    bias: object
    key: str
    low: float
    width: float
    mean: float
    words: str
    spread: str


def learn(request):
    """The page."""
    return _page(request)


def _page(request, problem="", status=200):
    evidence = learning.evidence_of(request.user)
    form = LearnForm(request.GET)
    chosen = form.typed.item if form.is_valid() else ""
    context = {
        "count": len(evidence),
        "fewest": FEWEST,
        "proposals": learning.proposals_of(request.user, evidence),
        "habits": learning.habits_of(evidence),
        "strips": [_strip(bias) for bias in biases(evidence)],
        "drawing": _over_time(evidence, chosen),
        "chosen": chosen.partition(":")[2],
        "applied": corrections_of(request.user),
        "problem": problem,
        "page": "frames",
    }
    return render(request, "results/learn.html", context, status=status)


@require_POST
def apply(request):
    """Apply one proposal, if the evidence still carries it."""
    form = ApplyForm(request.POST)
    key = form.typed.key if form.is_valid() else ""
    evidence = learning.evidence_of(request.user)
    found = next((each for each in learning.proposals_of(request.user, evidence) if each.key == key), None)
    if found is None or not found.can_apply:
        return _page(request, "The frames no longer propose that. What they say now stands below.", 409)
    correct_item(found.item, found.change.values, found.change.words, key.partition(":")[0])
    return redirect("learn")


@require_POST
@of_mine(correction_of, "correction")
def undo(request, revision):
    """Take a correction back."""
    try:
        undo_correction(revision)
    except CoreError as refused:
        return _page(request, str(refused), 409)
    return redirect("learn")


def _place(stops, reach=1.0):
    """Place of some stops on a line from -reach to +reach, percent."""
    return round(min(max((stops / reach + 1) * 50, 0), 100), 2)


def _strip(bias):
    low, high = _place(bias.low), _place(bias.high)
    words = f"{bias.mean:+.2f}".replace("-", "−")
    spread = f"{bias.spread:.2f}" if bias.count > 1 else ""
    return Strip(bias, f"{bias.kind}:{bias.name}", low, round(high - low, 2), _place(bias.mean), words, spread)


def _over_time(evidence, chosen):
    """Dots of the unexplained stops in the order of the frames: {"dots", "lines", "width", "height", "older"}; None without any."""
    kind, _, name = chosen.partition(":")
    rows = [each for each in evidence if each.stops is not None and (not name or each.items.get(kind) == name)]
    if len(rows) < 2:
        return None
    count, rows = len(rows), rows[-MOST_DOTS:]
    y = lambda stops: round(HEIGHT / 2 - min(max(stops / MOST_STOPS, -1), 1) * (HEIGHT / 2 - 8), 1)
    step = (WIDTH - 80) / (len(rows) - 1)
    dots = [
        {
            "x": round(60 + k * step, 1),
            "y": y(each.stops),
            "frame": each.frame,
            "words": f"{each.stops:+.2f}".replace("-", "−"),
        }
        for k, each in enumerate(rows)
    ]
    lines = [{"y": y(stops), "words": words} for stops, words in ((1, "+1"), (0, "0"), (-1, "−1"))]
    return {"dots": dots, "lines": lines, "width": WIDTH, "height": HEIGHT, "older": count - len(rows)}
