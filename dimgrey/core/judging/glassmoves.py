"""What may be tried in front of the lens: coloured glass, a polarizer, a graduated filter over a sky. Source: HANDBOOK 10, 16, 21."""

from dataclasses import replace

from dimgrey.core.colour.filters import POLARIZER_STOPS, SOFT_EDGE
from dimgrey.core.document.changes import OFF, changed
from dimgrey.core.document.tonebriefing import edge_of_skies
from dimgrey.core.judging.around import Move
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.separation import choice_names, through_choice
from dimgrey.core.planning.wishes import wishes_of

TURNS = (15.0, 25.0, 35.0)
"""Degrees that a polarizer is tried turned back by: three quarters, half and a quarter of its effect."""
GRADUATED = (1.0, 2.0, 3.0)


def glasses(document, result, read, around, deeply):
    """Move of each thing that may go on the lens, come off it or be turned there; into the sun all of it only comes off.

    read: from a Document to its Brief. around: Around. deeply: a polarizer turned part of the way too.
    """
    if around.sun_in_frame:
        yield from _off(result.brief)
        return
    yield from _coloured(result.brief, around)
    yield from _polarizers(document, result.brief, read, around, (0.0, *TURNS) if deeply else (0.0,))
    yield from _graduated(document, result, around)


def _off(brief):
    """Into the sun every filter is one too many: it may come off, none may go on."""
    if not brief.medium.mixes_channels and brief.coloured:
        yield Move("glass=none", "glass", lambda b: through_choice(b, "none"))
    for name in ("polarizer", "graduated"):
        if any(glass.name == name for glass in brief.filters):
            yield Move(f"{name}={OFF}", name, lambda b, name=name: _without(b, name))


def _coloured(brief, around):
    if brief.medium.mixes_channels:
        return
    for name in choice_names(brief):
        if name != brief.colour_choice:
            owned = name == "none" or around.owned is None or name in around.owned
            yield Move(f"glass={name}", "glass", lambda b, name=name: through_choice(b, name), owned=owned)
    for name, glass in around.kit.items():
        if glass not in brief.filters:
            yield Move(f"kit={name}", "glass", lambda b, glass=glass: _in_front(b, glass))


def _in_front(brief, glass):
    return replace(brief, filters=(glass, *(each for each in brief.filters if not each.is_coloured)))


def _without(brief, name):
    tones = brief.tones
    if name == "polarizer":
        tones = tuple(replace(tone, polarized_stops=0.0) if tone.polarized_stops else tone for tone in tones)
    return replace(brief, tones=tones, filters=tuple(glass for glass in brief.filters if glass.name != name))


def _polarizers(document, brief, read, around, turns):
    """A polarizer on, off or turned, where it takes something from a tone: from the sky by sun and frame, from glare by the user's word."""
    on = next((glass for glass in document.filters if glass.name == "polarizer"), None)
    now = on.turned_deg if on else None
    if on:
        yield Move(f"polarizer={OFF}", "polarizer", lambda b: _without(b, "polarizer"))
    if brief.through_filter:
        return
    owned = on is not None or around.owned is None or "polarizer" in around.owned
    before = None
    for turned in turns:
        if now is not None and abs(now - turned) < 1:
            continue
        taken = _taken(document, turned, read)
        if taken == before:
            continue  # the same, as where what is turned cannot be reckoned
        before = taken
        if any(stops > 0.05 for stops in taken.values()):
            yield Move(f"polarizer={turned:g}", "polarizer", lambda b, taken=taken: _polarized(b, taken), owned=owned)
        elif turned == 0.0:
            return


def _taken(document, turned, read):
    """name -> stops that a polarizer takes of each tone, turned so far."""
    seen = read(changed(document, f"polarizer={turned:g}"))
    return {tone.name: tone.polarized_stops for tone in seen.tones}


def _polarized(brief, taken):
    tones = tuple(replace(tone, polarized_stops=taken.get(tone.name, 0.0)) for tone in brief.tones)
    on = next(
        (glass for glass in brief.filters if glass.name == "polarizer"), Glass("polarizer", stops=POLARIZER_STOPS)
    )
    others = tuple(glass for glass in brief.filters if glass.name != "polarizer")
    return replace(brief, tones=tones, filters=(*others, on))


def _graduated(document, result, around):
    """Graduated glass over a sky, with its edge below the sky that was sighted: nothing else in a scene has a straight edge."""
    brief = result.brief
    if any(glass.name == "graduated" for glass in brief.filters):
        yield Move(f"graduated={OFF}", "graduated", lambda b: _without(b, "graduated"))
    skies = [tone for tone in brief.tones if tone.is_sky and tone.evs]
    edge = edge_of_skies(document)
    if not skies or _stands_in_sky(brief, skies, edge, around):
        return
    now = [glass for glass in brief.filters if glass.is_over_sky]
    owned = bool(now) or around.owned is None or "graduated" in around.owned
    at = "" if edge is None else f"@{edge:g}"
    for stops in GRADUATED:
        if any(abs(glass.grey_stops - stops) < 0.01 for glass in now):
            continue
        glass = Glass("graduated", stops=stops, edge=edge)
        yield Move(
            f"graduated={stops:g}{at}",
            "graduated",
            lambda b, glass=glass: replace(
                _without(b, "graduated"), filters=(*_without(b, "graduated").filters, glass)
            ),
            owned=owned,
        )


def _stands_in_sky(brief, skies, edge, around):
    """Whether a subject stands up into what a graduated filter would hold back: its top would go dark with the sky.

    The picture tells where it has been looked at; else the words, where they set the subject against the sky.
    """
    names = {tone.name for tone in skies}
    subjects = {tone.name for tone in brief.tones if tone.role in ("subject", "skin")}
    tops = [around.tops[name] for name in subjects if name in around.tops]
    if edge is not None and any(top < edge - SOFT_EDGE for top in tops):
        return True
    pairs = [
        set(wish.tones)
        for wish in wishes_of(brief)
        if wish.kind in ("order", "part") and wish.source in ("set", "words")
    ]
    return any(pair & names and pair & (subjects - set(around.tops)) for pair in pairs)
