"""A result against its plan: laid over it, measured, taken apart, in words. What is found is kept with the result."""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.chain import CHANNEL_MIXES, mixed_chain
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.document.lightscale import ring_radius
from dimgrey.core.document.meansline import made_with
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.match import laid, matched
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.wishes import wishes_of
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.results.causes.cause import Shot
from dimgrey.core.results.finding import Found, FoundTone
from dimgrey.core.results.misses import taken_apart
from dimgrey.core.results.resultkinds import DARKEST, kind_of, printing_of, shown_lightness
from dimgrey.core.results.samples import lightness_of_falls, seen_falls, witnesses
from dimgrey.core.results.sentences import told, unexplained_stops
from dimgrey.pictures import store
from dimgrey.scenes.situation import Situation

LEAST_SHIFT = 0.02
"""A filter that moves no place of the picture by so much, in stops, is the one in use, or as good."""


class NothingToCompare(CoreError):
    """The frame has no plan or its picture is gone; what was found before stays."""


@dataclass(frozen=True)
class Planned:
    """What a frame's plan shows of its picture. falls: shape (h, w). lightness: L* of it, same shape. situation: of the frame."""

    situation: Situation
    falls: np.ndarray
    lightness: np.ndarray

    @property
    def size(self):
        return self.falls.shape[1], self.falls.shape[0]

    @property
    def printing(self):
        return self.situation.plan.printing


def planned_of(frame):
    """Planned of a Frame. Raises NothingToCompare with the reason."""
    scene = frame.as_it_was
    if scene is None:
        raise NothingToCompare(
            "This frame came without a plan: there is nothing to hold a result against.", code="no-plan"
        )
    if scene.picture is None:
        raise NothingToCompare(
            "The picture that this frame was planned on is gone. What was measured before is kept.", code="no-picture"
        )
    return planned_on(scene)


def planned_on(scene):
    """Planned of a Scene with a picture, as it is now. Raises NothingToCompare with the reason."""
    situation = Situation(scene)
    if situation.plan is None:
        raise NothingToCompare(situation.wait, code="no-plan")
    shown = situation.rendering
    made = grey_of(shown.chain, *store.seen_whole(scene.picture.path, shown.overhead))
    falls = np.log2(np.maximum(made, DARKEST) / MIDDLE_GREY) * shown.slope + shown.stops + MIDDLE
    falls = falls - situation.plan.printing.lift
    return Planned(situation, falls, lightness_of_falls(falls, situation.plan.printing))


def lightness_of(picture, planned=None, is_negative=False):
    """L* that a result shows, shape (h, w). planned: None where the plan is gone; light is then shown plainly. Raises PictureGone."""
    return lightness_of_light(np.moveaxis(store.linear_of(picture.path), 0, -1), picture, planned, is_negative)


def lightness_of_light(linear, picture, planned=None, is_negative=False):
    """As `lightness_of`, of light at hand, such as some rows at full size. linear: shape (h, w, 3)."""
    linear = np.asarray(linear, np.float32)
    if planned is None:
        return shown_lightness(linear, Printing("digital file"), picture.scene_linear, is_negative)
    grey = lambda light: grey_of(planned.situation.rendering.chain, light)
    return shown_lightness(linear, planned.printing, picture.scene_linear, is_negative, grey)


def match_of(planned, picture):
    """Match of a result's picture over its plan. Raises CoreError with the reason."""
    file = grey8_of_lightness(lightness_of(picture, planned))
    return matched(grey8_of_lightness(planned.lightness), file)


def printed_over_plan(planned, picture, match, kind):
    """(L* in which the plan's medium would print what the file shows, where it shows something, where that can be compared)."""
    shown, inside = over_plan(planned, picture, match)
    made_by = printing_of(kind_found(planned.situation, picture, match, kind), planned.printing)
    if made_by == planned.printing:
        return shown, inside, inside
    falls, ends = seen_falls(shown, made_by)
    # Where the file is white or black, it does not say how light or dark the print would be.
    return lightness_of_falls(falls, planned.printing), inside, inside & (ends == 0)


def over_plan(planned, picture, match):
    """(L* of a result laid over its plan, where it shows something). Raises PictureGone."""
    return laid(lightness_of(picture, planned, match.is_negative), match, planned.size)


def kind_found(situation, picture, match, kind):
    """The Kind of a result: as told, else from the file. kind: as a person named it, or ""."""
    told_exposure = picture.shot_data.time_s is not None
    is_film = situation.brief.medium.is_film
    return kind_of(kind, picture.scene_linear, match.is_negative, is_film, told_exposure)


def as_printed(shown, made_by, printing):
    """L* of a result as the plan's medium would print what its file shows so. shown: L*, any shape. made_by, printing: Printing."""
    if made_by == printing:
        return shown
    return lightness_of_falls(seen_falls(shown, made_by)[0], printing)


def found_of(frame, planned, picture, match, kind):
    """The Found of a result.

    kind: as a person named it, or "".
    Raises CoreError with what to do where nothing can be measured.
    """
    situation, result = planned.situation, planned.situation.plan
    named = kind_found(situation, picture, match, kind)
    made_by = printing_of(named, planned.printing)
    shown, inside = over_plan(planned, picture, match)
    fallen = {tone.name: tone.fall for tone in result.tones}
    pins = {tone.name: tone.at for tone in situation.document.tones if tone.at is not None and tone.name in fallen}
    seen = witnesses(
        planned.falls,
        shown,
        inside,
        made_by,
        {name: (at, fallen[name]) for name, at in pins.items()},
        _other_filters(situation),
        ring_radius(situation.document, situation.facts),
    )
    needs = frozenset(tone.name for tone in result.tones if tone.needs_texture)
    miss = taken_apart(seen, frozenset(fallen) - needs, needs)
    shot = Shot(
        named.tells_exposure,
        named.is_print,
        frame.difference_stops,
        situation.brief.medium.is_film,
        made_with(situation.document).filter,
        planned.printing.step,
    )
    said = told(miss, shot)
    return Found(
        kind=named.name,
        a=miss.a,
        a_half=miss.a_half,
        b=miss.b,
        b_half=miss.b_half,
        spread=miss.spread,
        places=miss.count,
        share=round(match.share, 3),
        unexplained=unexplained_stops(miss, shot),
        tones=_tones(situation, seen, miss, made_by),
        parts=miss.parts,
        said=tuple(said),
    )


def _other_filters(situation):
    """Name of each other filter -> stops by which it would move each pixel of the small picture."""
    brief, shown = situation.brief, situation.rendering
    medium = brief.medium
    if medium.mixes_channels:
        chains = {name: mixed_chain(mix) for name, mix in CHANNEL_MIXES.items()}
    else:
        chains = {name: medium.chain(brief.light, (name,)) for name in COLOURED}
        chains["none"] = medium.chain(brief.light)
    light = store.seen(situation.picture.path, shown.overhead)
    here = np.log2(np.maximum(grey_of(shown.chain, *light), DARKEST))
    moved = {name: np.log2(np.maximum(grey_of(chain, *light), DARKEST)) - here for name, chain in chains.items()}
    return {name: stops for name, stops in moved.items() if float(np.abs(stops).max()) > LEAST_SHIFT}


def _tones(situation, seen, miss, made_by):
    """FoundTone of each key tone. made_by: Printing of the result."""
    printing = situation.plan.printing
    prints = np.clip(zones_of_lightness(as_printed(seen.lightness, made_by, printing)), 0, 10)
    spans = {wish.tones[0]: tuple(wish.span) for wish in wishes_of(situation.brief) if wish.span}
    rows = []
    for tone in situation.plan.tones:
        k = seen.named(tone.name)
        if k is None:
            continue
        rows.append(
            FoundTone(
                name=tone.name,
                role=tone.role,
                wished=spans.get(tone.name),
                planned=round(tone.printed, 3),
                actual=round(float(prints[k]), 3),
                planned_fall=round(tone.fall, 3),
                fall=round(float(seen.seen[k]), 3),
                end=int(seen.ends[k]),
                own=miss.residuals.get(tone.name),
                free=not tone.needs_texture,
            )
        )
    return tuple(rows)
