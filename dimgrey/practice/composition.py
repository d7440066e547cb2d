"""One of the person's scenes, simplified: squint, two and three tones, empty space, leading lines, bright edges."""

from dataclasses import dataclass, replace

import numpy as np
from contourpy import contour_generator

from dimgrey.core.picture.composition import empty_space, leading_lines
from dimgrey.core.picture.measures import bright_edges, pull_words, pulls
from dimgrey.pictures import store
from dimgrey.scenes.situation import Situation

WIDTH = 1000.0


@dataclass(frozen=True)
class View:
    """One way of seeing it. key: of the view. address: of its picture. ask: what to ask oneself. told: what is found, "" for nothing. path, lines, meet: what
    is drawn over it."""

    key: str
    title: str
    address: str
    ask: str
    told: str = ""
    path: str = ""
    lines: tuple = ()
    meet: tuple | None = None


def views_of(scene, labels):
    """(View of each, height of a drawing that is WIDTH wide) of a scene with a picture. Raises PictureGone."""
    situation = Situation(scene, labels)
    shown = situation.rendering
    look = lambda name: situation.grey_of(replace(shown, look=name))
    small = shown.tone_map.lightness(*store.seen(scene.picture.path, shown.overhead))
    height = WIDTH * small.shape[0] / small.shape[1]
    empty, leading = empty_space(small), leading_lines(small)
    plain = look("grey")
    return (
        View("squint", "Squint", look("squint"), "What is still there when it blurs? That is the picture.", _pull_words(situation, small)),
        View("two", "Two tones", look("two"), "Does it say what it is in black and white? If not, its shapes do not carry it."),
        View("three", "Three tones", look("three"), "Are there a dark, a middle and a light shape, each in one piece?"),
        View(
            "empty", "Empty space", plain, "Does the empty part rest the eye, or is nothing going on?",
            _empty_words(empty), path=_outline(empty.inside, height),
        ),
        View(
            "lines", "Leading lines", plain, "Where do they lead? It should be the subject.", _line_words(leading),
            lines=tuple(tuple(round(v * (WIDTH if k % 2 == 0 else height), 1) for k, v in enumerate(line)) for line in leading.lines),
            meet=(round(leading.meet[0] * WIDTH, 1), round(leading.meet[1] * height, 1)) if leading.meet else None,
        ),
        View("edges", "Edges", plain, "Does anything bright at the edge lead the eye out?", _edge_words(small)),
    ), round(height, 1)  # fmt: skip


def _pull_words(situation, small):
    """Whether the eye goes to the subject first; "" where nobody said which tone that is."""
    subject = next((tone for tone in situation.document.tones if tone.role == "subject" and tone.at is not None), None)
    return pull_words(pulls(small), (subject.name, *subject.at)) if subject else ""


def _empty_words(found):
    if found.lightness is None:
        return "No part of it is empty."
    return f"{found.share * 100:.0f} % of it is empty, {'light' if found.lightness > 60 else 'dark' if found.lightness < 35 else 'grey'}."


def _line_words(found):
    if not found.lines:
        return "No long lines."
    where = (
        f"; they run together {found.meet[0] * 100:.0f} % from the left, {found.meet[1] * 100:.0f} % from the top"
        if found.meet
        else ""
    )
    return f"{len(found.lines)} long lines{where}."


def _edge_words(small):
    found = bright_edges(small)
    return (
        f"Brighter than the inside: {', '.join(edge.name for edge in found[:3])}."
        if found
        else "No edge is brighter than the inside."
    )


def _outline(inside, height):
    """SVG path around an area."""
    padded = np.pad(inside.astype(float), 1)
    scale = np.array([WIDTH / inside.shape[1], height / inside.shape[0]])
    rings = [ring for ring in contour_generator(z=padded).lines(0.5) if len(ring) > 8]
    return "".join("M" + "L".join(f"{x:.0f} {y:.0f}" for x, y in (ring - 0.5) * scale) + "Z" for ring in rings)
