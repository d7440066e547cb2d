"""Rail and picture are one truth: on made-up scenes of every medium, light, glass and mix each pin has the grey of its tone on the rail."""

import random

import numpy as np

from dimgrey.core.colour.chain import LUMINANCE, glass_chain, tone_shift_stops
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import display_table
from dimgrey.core.planning.prints import curve_for, shown_lightness
from dimgrey.pictures import store
from dimgrey.scenes.situation import Situation
from tests.documents import document
from tests.helpers import PageTest, scene_with_picture
from tests.reference.random_scenes import GLASS, MIXES
from tests.share import many, share_of

ACROSS, DOWN, CELL = 4, 3, 41  # odd: a pin lies in the middle of a pixel
LEVELS = 2


def made_up(rng):
    """(linear picture of twelve patches, parts of a scene file)."""
    light = rng.choice(("D55", "D65", "A"))
    picture = np.empty((DOWN * CELL, ACROSS * CELL, 3), np.float32)
    tones, typed = [], rng.random() < 0.5
    for k in range(ACROSS * DOWN):
        row, column = divmod(k, ACROSS)
        grey = 0.18 * 2 ** rng.uniform(-3, 2.3)
        colour = np.array([grey * 2 ** rng.uniform(-1.2, 1.2) for _ in range(3)])
        picture[row * CELL : (row + 1) * CELL, column * CELL : (column + 1) * CELL] = colour
        colour = [float(c) for c in colour.astype(np.float32)]
        stops = float(np.log2(luminance(colour) / 0.18))
        readings = [{"kind": "picture", "stops": round(stops, 4), "ev100": round(11 + stops, 4)}]
        if typed and rng.random() < 0.4:
            # What an eye's meter says of that colour in that light.
            seen = 11 + stops - tone_shift_stops(LUMINANCE, tuple(colour), glass_chain("eye", light))
            readings.append({"kind": "spot", "ev100": round(min(max(seen, -5.9), 19.9), 4)})
        tones.append(
            {
                "name": f"t{k}",
                "mark": "ABCDEFGHIJKL"[k],
                "role": rng.choice(("shadow", "highlight", "subject", "background", "other")),
                "texture": "needed",
                "at": [(column + 0.5) / ACROSS, (row + 0.5) / DOWN],
                "colour": colour,
                "readings": readings,
            }  # fmt: skip
        )
    kind = rng.choice(("film", "film", "slide", "digital raw", "digital file"))
    medium, filters, setup = {"kind": kind, "iso": 100}, [], None
    if kind in ("film", "slide"):
        medium["response"] = rng.choice(("general panchromatic", "extended red", "orthochromatic"))
        if rng.random() < 0.6:
            blind = medium["response"] == "orthochromatic"
            filters.append({"name": rng.choice(GLASS[:3] if blind else GLASS)})
        if kind == "film" and rng.random() < 0.4:
            medium["developed"] = rng.randint(-2, 2)
    else:
        medium["channel_mix"] = rng.choice(MIXES)
        if kind == "digital raw" and rng.random() < 0.5:
            medium["own_mix"] = [
                [rng.randint(0, 120), round(rng.uniform(-1.5, 1.5), 2)],
                [rng.randint(160, 350), round(rng.uniform(-1.5, 1.5), 2)],
            ]
        if kind == "digital file" and rng.random() < 0.5:
            setup = {
                "name": "s",
                "effects": {"contrast": round(rng.uniform(-1, 1), 2), "highlights": round(rng.uniform(-1, 1), 2)},
            }
    if rng.random() < 0.4:
        filters.append({"name": "graduated", "stops": rng.randint(1, 3), "edge": round(rng.uniform(0.1, 0.9), 2)})
    if rng.random() < 0.2:
        filters.append({"name": "nd", "stops": rng.randint(1, 6)})
    parts = {"light": light, "medium": medium, "filters": filters, "tones": tones, "sky": {"area": "none"}}
    placed = rng.choice(tones)
    parts["placing"] = {"school": "known tone", "tone": placed["name"], "zone": rng.choice((3, 4, 5, 6))}
    if setup:
        parts["setup"] = setup
    return picture, parts


class OneTruth(PageTest):
    def both(self, situation):
        """(name, 8-bit grey of the picture at its pin, of its print on the rail) of each tone."""
        shown = situation.rendering
        table = display_table(shown.stops, shown.slope, curve_for(shown.kind), shown.development, tone=shown.tone)
        picture = store.grey(situation.picture.path, shown.chain, table, shown.overhead)
        height, width = picture.shape
        for entry, tone in zip(situation.document.tones, situation.plan.tones, strict=True):
            if tone.print.beyond:
                continue  # blacker or whiter than the paper, and marked so on the rail
            x, y = entry.at
            yield (
                entry.name,
                int(picture[int(y * height), int(x * width)]),
                int(grey8_of_lightness(shown_lightness(tone.printed - 5))),
            )

    @many
    def test_rail_and_picture_are_at_most_two_levels_apart(self):
        for k in share_of(range(300), "one truth"):
            picture, parts = made_up(random.Random(4100 + k))
            made = document(**{"title": f"s{k}", **parts})
            scene = scene_with_picture(self.person, made, picture, f"s{k}", middle_ev100=11.0, absolute=False)
            try:
                situation = Situation(scene)
                found = list(self.both(situation))
            except CoreError:
                continue
            with self.subTest(k, medium=parts["medium"], light=parts["light"], filters=parts["filters"]):
                apart = {name: (there, rail) for name, there, rail in found if abs(there - rail) > LEVELS}
                self.assertEqual(apart, {})
