"""Everything that may be tried on a scene, one thing at a time: the candidates of the judge.

A move changes a Brief, so that it is planned anew in a millisecond; its code does the same to the document (document.changes). A law
test holds the two alike. Plain Python: it also runs on the phone. Source: HANDBOOK 21.
"""

import math
from dataclasses import replace

from dimgrey.core.camera.setups import TONE_EFFECTS
from dimgrey.core.colour.ownmix import bent
from dimgrey.core.document.changes import changed
from dimgrey.core.document.tonebriefing import said_textures
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.around import NOWHERE, Move
from dimgrey.core.judging.glassmoves import glasses
from dimgrey.core.measure.brackets import suggested
from dimgrey.core.planning.development import reach_of
from dimgrey.core.planning.scenerange import EXPANDED, may_expand
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.scoring import GIVEN_UP_COST
from dimgrey.core.planning.separation import choice_names, through_choice
from dimgrey.core.planning.wishes import wishes_of
from dimgrey.core.planning.zones import MIDDLE, ZONE_MAX, ZONE_MIN

SHIFTS = (-2.0, -1.5, -1.0, -2 / 3, -1 / 3, 1 / 3, 2 / 3, 1.0, 1.5, 2.0)
"""Zones that the placed tone is tried higher and lower by."""
MOST_SHIFT_OF_A_SUBJECT = 2 / 3
FAR_SHIFTS = (-4.0, -3.0, -2.5, *SHIFTS, 2.5, 3.0, 4.0)
"""The same where it is that tone itself that shall print elsewhere."""
STEPS_OF_EFFECTS = (-1.0, -0.75, -0.5, -0.25, 0.25, 0.5, 0.75, 1.0)
BENDS = (-2.0, -1.5, -1.0, -0.5, 0.5, 1.0, 1.5, 2.0)
SHORTENED_FROM = 7.5
"""Print of the highest texture from which a shorter development than now is worth trying: VII½, as for what is developed by itself."""
MOST_BENT, MOST_PLACED = 3, 3
BURNT_ZONE, BLACK_ZONE = 9.0, 1.0
"""Prints that a wish must allow for a tone to be let go at that end."""
PLACED_SCHOOLS = ("shadow", "highlight", "silhouette", "midpoint")
"""Schools that find their tone themselves."""


def moves(document, result, read, around=NOWHERE, missed=(), deeply=True):
    """Move of each that a scene with a Plan allows.

    read: from a Document to its Brief. around: Around. missed: (Wish, zones) that are not met, the worst first. deeply: those too that
    the document must be read anew for, a dozen times dearer than a plan.
    """
    found = [*_placings(document, result, read, missed, deeply), *_mixes(document, result, missed)]
    found += glasses(document, result, read, around, deeply)
    found += [*_developments(result, around), *_setups(result, missed), *_ends(document, result), *_brackets(result)]
    refused = set(document.wanted.refused)
    return [move for move in found if move.code not in refused]


def _placings(document, result, read, missed, deeply):
    """The placed tone higher or lower, a tone that misses its wish on it, another school."""
    placement = result.placement
    itself = any(wish.kind == "span" and wish.tones[0] == placement.tone for wish, _ in missed)
    most = math.inf if itself else MOST_SHIFT_OF_A_SUBJECT if _is_chosen_subject(result) else max(SHIFTS)
    for by in (by for by in FAR_SHIFTS if abs(by) <= most):
        zone = round(placement.zone + by, 4)
        if ZONE_MIN <= zone <= ZONE_MAX:
            yield Move(
                f"zone={zone:g}",
                "placing",
                lambda b, zone=zone: replace(b, choice=replace(b.choice, zone=zone, by_default=False)),
            )
    if not deeply:
        return
    marks = document.marks
    for wish, _ in missed[:MOST_PLACED]:
        if wish.kind == "span" and wish.tones[0] in marks:
            low, high = wish.span
            for zone in sorted({round((low + high) / 2, 2), round(low if _is_low(result, wish) else high, 2)}):
                yield from _placed(document, marks[wish.tones[0]], zone, read)
    for school in PLACED_SCHOOLS:
        if school != placement.school and school in SCHOOLS:
            yield from _taught(document, school, read)


def _is_chosen_subject(result):
    """Whether somebody placed the subject or a skin itself: that is where it shall be."""
    placed = next((tone for tone in result.brief.tones if tone.name == result.placement.tone), None)
    return placed is not None and placed.role in ("subject", "skin") and result.placement.school == "known tone"


def _is_low(result, wish):
    return next(tone.printed for tone in result.tones if tone.name == wish.tones[0]) < wish.span[0]


def _placed(document, mark, zone, read):
    yield from _whole(document, f"print={mark}:{zone:g}", read)


def _taught(document, school, read):
    yield from _whole(document, f"school={school}", read)


def _whole(document, code, read):
    """The Move of a code that changes more of a Brief than one value: it is read from the document, and tried alone."""
    try:
        there = read(changed(document, code, read))
    except CoreError:
        return
    yield Move(code, "placing", lambda b: there, alone=True)


# --- film and file ------------------------------------------------------------------------------------------------------------


def _developments(result, around):
    """Another development of negative film, where no roll decides it; longer only where the scale wants it and white stays clear of white."""
    medium = result.brief.medium
    if medium.kind != "film" or around.on_roll:
        return
    low, high = reach_of(medium.developments)
    now = result.printing.step
    highest = max((tone.printed for tone in result.tones if tone.needs_texture), default=0.0)
    for step in range(low, high + 1):
        if step == now or (step > max(now, 0) and not (result.brief.scale in EXPANDED and may_expand(result.brief))):
            continue
        if step < min(now, 0) and highest <= SHORTENED_FROM and result.brief.scale != "soft":
            continue
        yield Move(
            f"develop={step}", "develop", lambda b, step=step: replace(b, medium=replace(b.medium, developed=step))
        )


def _mixes(document, result, missed):
    medium = result.brief.medium
    if not medium.mixes_channels:
        return
    brief = result.brief
    for name in choice_names(brief):
        if name != brief.colour_choice:
            yield Move(f"glass={name}", "glass", lambda b, name=name: through_choice(b, name))
    if medium.kind != "digital raw":
        return
    colours = {tone.name: tone.colour for tone in brief.tones if tone.colour is not None}
    names = list(dict.fromkeys(name for wish, _ in missed for name in wish.tones[:2] if name in colours))
    for name in names[:MOST_BENT]:
        for stops in BENDS:
            yield from _bend(brief, colours, name, document.marks[name], stops)


def _bend(brief, colours, name, mark, stops):
    try:
        points = bent(colours, name, stops, True, brief.medium.own_mix)
    except CoreError:
        return
    edit = lambda b: replace(b, medium=replace(b.medium, own_mix=points))
    yield Move(f"bend={mark}:{stops:g}", "bend", edit)


def _setups(result, missed):
    """One tone control of an in-camera file moved, where a file is what counts: each for tones of its own end."""
    medium = result.brief.medium
    if medium.kind != "digital file":
        return
    named = {name for wish, _ in missed for name in wish.tones or (tone.name for tone in result.tones)}
    amiss = [
        tone.printed for tone in result.tones if tone.name in named or (tone.needs_texture and tone.texture != "full")
    ]
    reached = {"highlights": max(amiss, default=MIDDLE) > MIDDLE, "shadows": min(amiss, default=MIDDLE) < MIDDLE}
    for k, name in enumerate(TONE_EFFECTS):
        if not reached.get(name, True):
            continue
        for by in STEPS_OF_EFFECTS:
            after = round(medium.tone[k] + by, 4)
            if -1 <= after <= 1:
                yield Move(f"effects={name}:{by:g}", "effects", lambda b, k=k, after=after: _toned(b, k, after))


def _toned(brief, k, value):
    tone = tuple(value if j == k else now for j, now in enumerate(brief.medium.tone))
    return replace(brief, medium=brief.medium.with_tone(tone))


# --- ends -----------------------------------------------------------------------------------------------------------------------


def _ends(document, result):
    """A tone that loses texture let go on purpose: never the subject, none that words or wishes want otherwise."""
    said = said_textures(document)
    spans = {wish.tones[0]: wish.span for wish in wishes_of(result.brief) if wish.kind == "span"}
    high = result.brief.medium.outer[1]
    for tone in result.tones:
        if not (tone.needs_texture and tone.texture == "lost") or tone.role in ("subject", "skin"):
            continue
        if said.get(tone.name) == "needed":
            continue
        burns = tone.held > high
        span = spans.get(tone.name)
        if span and (span[1] < BURNT_ZONE if burns else span[0] > BLACK_ZONE):
            continue
        mark = document.marks[tone.name]
        yield Move(f"let-go={mark}", f"let-go {mark}", lambda b, name=tone.name: _freed(b, name), cost=GIVEN_UP_COST)


def _freed(brief, name):
    return replace(brief, tones=tuple(replace(t, needs_texture=False) if t.name == name else t for t in brief.tones))


def _brackets(result):
    """Several frames of a digital camera where one does not hold everything; frames of film are not merged."""
    brief = result.brief
    if brief.medium.is_film or brief.bracket:
        return
    textured = [tone.held for tone in result.tones if tone.needs_texture]
    found = suggested(textured, brief.medium.dependable) if textured else None
    if found:
        yield Move(
            f"bracket={found.count}x{found.step:.4g}", "bracket", lambda b: replace(b, bracket=found), alone=True
        )
