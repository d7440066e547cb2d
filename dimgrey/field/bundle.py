"""What a phone takes along: the kit with the terms of its chains, the day's light, and each scene with all that its page shows.

Plain data; the core's `field.entry` lays it in over there. Pictures travel apart, as light maps.
"""

from dataclasses import asdict

import numpy as np

from dimgrey.core.acts.kit import KINDS as KIT_KINDS
from dimgrey.core.colour.chain import LUMINANCE
from dimgrey.core.colour.chainterms import packed
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.colour.responses import DEFAULT_RESPONSE
from dimgrey.core.document.means import GlassPart
from dimgrey.core.document.plainform import plain
from dimgrey.core.document.tonebriefing import UPPER_MIDDLE
from dimgrey.core.field.carried import Carried
from dimgrey.core.field.exchange import Around, KitRow, KitTaken, SceneTaken, SetupRow
from dimgrey.core.field.lines import Line, plain_lines, ribbon
from dimgrey.core.field.sheet import sheet
from dimgrey.core.picture.overhead import NO_SKY
from dimgrey.core.picture.painting import painting
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.planning.brief import Brief
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.prints import shown_lightness
from dimgrey.core.planning.separation import chains_of
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.shapes.plain import whole_part
from dimgrey.core.sky.cardlight import card_light
from dimgrey.core.sky.clock import moment_of
from dimgrey.core.sky.skyview import plain_sky
from dimgrey.core.sky.sun import sun_position
from dimgrey.frames.models import Frame
from dimgrey.kit.models import Item
from dimgrey.kit.queries import setups_of
from dimgrey.kit.setups import scene_part
from dimgrey.outings.day.queries import scenes_on
from dimgrey.outings.day.table import day_of
from dimgrey.outings.sky_over_scene import planned_sun_altitude, wants_words
from dimgrey.pictures.addresses import area_words
from dimgrey.scenes.onroll import rolls_in_cameras
from dimgrey.scenes.queries import states_around
from dimgrey.scenes.situation import Situation

MAP_SIDE = 1000
"""Longest side of the light map that a phone carries."""
GROUND_PER_ZONE = 6
EVERY_MINUTES = 5
STATES_EACH_WAY = 12
"""Acts that can be struck out or taken back without a network once they are at home."""
MOST_FRAMES = 12


def kit_of(person, situations):
    """What every scene of a person needs: filters, setups, terms of the chains that their scenes may ask for, the greys of zones."""
    items = {kind: [] for kind in (*KIT_KINDS, "filter")}
    mixes, responses = {}, set()
    for row in Item.objects.owned_by(person).filter(kind__in=items, retired=False):
        items[row.kind].append({"name": row.name, "values": row.values})
        if row.kind == "film":
            responses.add(row.item.response)
        if row.kind == "camera" and row.measured.mixes:
            mixes[row.name] = row.measured.mixes
    chains = [through for each in situations for through in chains_of(each.brief)]
    chains += chains_of_kit(responses)
    zones = np.arange(-0.5, 10.5 + 1e-9, 1 / GROUND_PER_ZONE)
    ground = grey8_of_lightness(np.array([shown_lightness(float(zone) - MIDDLE) for zone in zones])).tolist()
    taken = KitTaken(
        labels=person.tone_labels,
        filters=tuple(KitRow(**row) for row in items.pop("filter")),
        setups=tuple(SetupRow(row.pk, row.name, scene_part(row)) for row in setups_of(person)),
        rolls=rolls_in_cameras(person.pk),
        items=items,
        mixes=mixes,
        terms=packed(chains),
    )
    return {**whole_part(taken), "ground": ground, "tables": common_tables()}


def chains_of_kit(of_films):
    """`through` of the chains that a scene may ask for which begins in the field, on a film of the kit or on the usual media.

    of_films: responses of the kit's films. A new scene is in daylight until somebody says otherwise at the desk.
    """
    responses = {DEFAULT_RESPONSE, "monochrome sensor", *of_films}
    media = (medium("film", response=response) for response in sorted(responses))
    return [through for each in media for through in chains_of(Brief(medium=each))]


def scene_of(situation):
    """One scene as a phone carries it. situation: Situation."""
    scene, facts, sky = situation.scene, situation.facts, situation.sky
    history = _history(scene)
    taken = SceneTaken(
        document=plain(scene.document),
        facts=asdict(facts) if facts else None,
        polarized=_polarized(situation),
        in_sky=_in_sky(situation),
        sky=plain_sky(sky.seen) if sky else None,
        sun=planned_sun_altitude(scene.outing, situation.document),
        history=history,
    )
    shown = {
        "pk": scene.pk,
        "title": scene.title,
        "stamp": scene.stamp,
        "head": scene.head_id,
        "outing": scene.outing_id,
        "zone": scene.outing.zone if scene.outing else "UTC",
        "waits": [wants_words(situation.document)] if situation.document.wanted.lights else [],
        "picture": _picture(situation) if situation.picture else None,
    }
    filters = Item.objects.filter(owner_id=scene.owner_id, kind="filter", retired=False)
    kit = {"filter": {row.name: row.item for row in filters}}
    carried = Carried(
        facts=facts,
        rolls=scene.rolls,
        kit=kit,
        sky=sky.seen if sky else None,
        polarizer=situation.overhead.polarizer or _if_polarized(situation),
        sky_places=_in_sky(situation),
    )
    told = sheet(situation.document, carried, situation.labels) | {"lines": plain_lines(ribbon(history.lines))}
    return {**whole_part(taken), **shown, "sheet": told}


def _history(scene):
    """Around of a scene, with its frames among what was done to it; 5 queries."""
    past, ahead, is_whole, revisions = states_around(scene, STATES_EACH_WAY)
    done = [
        (row.done_at or row.at, {"line": str(row.act or row.pk), "words": row.label, "step": k, "strikes": row.line})
        for k, row in enumerate(revisions)
    ]
    for frame in Frame.every.filter(scene=scene).order_by("-number")[:MOST_FRAMES]:
        words = f"frame {frame.number}: {frame.shutter} {frame.aperture}"
        struck = str(frame.struck_by or "")
        done.append((frame.exposed_at, {"line": str(frame.token), "words": words, "frame": True, "struck": struck}))
    lines = [Line(at=at.isoformat(), **line) for at, line in sorted(done, key=lambda each: each[0])]
    return Around(past, ahead, is_whole, tuple(lines))


def common_tables():
    """What every picture is painted with: the sums that the painter does, and nothing over its sky."""
    told = painting(ToneMap(LUMINANCE), NO_SKY)
    return {name: value for name, value in told.items() if name not in ("chain", "tones", "slope")}


def _polarized(situation):
    """(x, y, stops) at the places of the tones and in the upper middle, () without a polarizer that has a sky to act on."""
    polarizer = situation.overhead.polarizer or _if_polarized(situation)
    if polarizer is None:
        return ()
    places = [tuple(UPPER_MIDDLE), *(tone.at for tone in situation.document.tones if tone.at)]
    return [(x, y, float(polarizer.stops(x, y))) for x, y in places]


def _if_polarized(situation):
    """What a polarizer would take if it were put on, None where it has no sky to act on."""
    document = situation.document
    return situation.scene.polarized(document.with_(filters=(*document.filters, GlassPart("polarizer"))))


def _in_sky(situation):
    """Places of pins that lie in the picture's sky."""
    test = situation.scene.in_sky(situation.document)
    return tuple(tone.at for tone in situation.document.tones if test and tone.at and test(*tone.at))


def _picture(situation):
    """Addresses of the picture's light, and what its painter needs beside the tables that the core makes over there."""
    picture, shown = situation.picture, situation.rendering
    told = painting(shown.tone_map, situation.overhead)
    return {
        "width": picture.view_width,
        "height": picture.view_height,
        "light": f"/pictures/{picture.folder}/light-{MAP_SIDE}.bin",
        "sky": f"/pictures/{picture.folder}/sky-{MAP_SIDE}-{area_words(shown.overhead)}.bin",
        "small": f"{situation.grey}?small=1",
        "tables": common_tables() | {name: told[name] for name in ("polarizer", "graduated")},
    }


def day_of_outing(person, outing):
    """The day's light of an outing, at five-minute steps: EV100 of three grey cards, the sun's place. () without date or place."""
    bounds = day_of(outing)
    if bounds is None:
        return ()
    start, end, zone = bounds
    count = round((end - start) * 24 * 60 / EVERY_MINUTES)
    jd = start + np.arange(count) * EVERY_MINUTES / 1440
    sun = sun_position(jd, outing.latitude_deg, outing.longitude_deg)
    cards = card_light(sun.altitude_deg)
    columns = (sun.altitude_deg, sun.azimuth_deg, cards.sunlit, cards.shade, cards.overcast)
    rows = np.stack(columns, axis=1).round(2).tolist()
    return tuple(
        [f"{moment_of(float(moment), zone):%H:%M}", *(None if value != value else value for value in row)]
        for moment, row in zip(jd, rows, strict=True)
    )


def outing_of(person, outing):
    """An outing with all its scenes, as a phone carries it."""
    situations = [Situation(scene, person.tone_labels) for scene in scenes_on(person, outing)]
    return {
        "pk": outing.pk,
        "title": outing.title,
        "date": outing.date.isoformat() if outing.date else "",
        "zone": outing.zone,
        "notes": outing.notes,
        "bring": outing.bring,
        "day": day_of_outing(person, outing),
        "kit": kit_of(person, situations),
        "scenes": [scene_of(each) for each in situations],
    }
