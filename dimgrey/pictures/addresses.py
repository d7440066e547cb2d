"""The address of a grey view: what it is rendered with, written so that the same view always has the same address.

``grey-<tables>.<chain>_<numbers>_<medium>_<development>_<look>_<sky>.jpg``; docs/decisions/002.
"""

import base64
import binascii
import re
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from dimgrey.core.colour.chain import LIGHTS, Chain, glass_chain, mixed_chain
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.ownmix import require_points
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.colour.spectra import WAVELENGTH_NM
from dimgrey.core.document.model import MAX_FILTERS
from dimgrey.core.errors import CoreError, Unreadable
from dimgrey.core.picture.display import LOOKS
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.picture.overhead import Overhead, Polarized
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.planning.media import KINDS

TABLES = "t2"
"""Name of the tables that chains and curves are made of: raised when they change, because browsers keep views for good."""
NUMBER = r"-?\d{1,7}"
CHAIN = r"t\d+\.[A-Za-z0-9.+~-]{3,900}"
SKY = rf"s(?:f|n|o[0-9a-f]{{18,400}})(?:p{NUMBER}(?:\.{NUMBER}){{5,6}})?(?:g\d{{1,4}}\.\d{{1,4}}){{0,3}}"
SKY_AREA = r"s(?:f|n|o[0-9a-f]{18,400})"
KEY = rf"{CHAIN}(?:_{NUMBER}){{5}}_[0-3]_-?[0-4]_[0-4]_{SKY}"
"""Tables and chain; exposure, slope and a setup's three tone effects in ten-thousandths; medium, development, look; sky."""


@dataclass(frozen=True)
class Rendering:
    """What a grey view is made with. stops, slope: see core.picture.display. overhead: what it does with its sky."""

    chain: Chain
    stops: float
    slope: float
    kind: str
    development: int
    look: str = "grey"
    tone: tuple = (0.0, 0.0, 0.0)
    overhead: Overhead = Overhead()

    @property
    def tone_map(self):
        return ToneMap(self.chain, self.stops, self.slope, self.kind, self.development, self.tone)


def key_of(rendering):
    """The part of an address that carries a Rendering, exact to 1e-4."""
    return f"{_chain_words(rendering.chain)}_{_rest(rendering)}_{LOOKS.index(rendering.look)}_{_sky_words(rendering.overhead)}"


def _rest(rendering):
    numbers = _written((rendering.stops, rendering.slope, *rendering.tone))
    return f"{numbers}_{KINDS.index(rendering.kind)}_{rendering.development}"


@lru_cache(maxsize=256)
def _written(numbers, between="_"):
    return between.join(str(round(number * 10000)) for number in numbers)


def rendering_of(key):
    """The Rendering of a key that matches KEY. Raises Unreadable for another."""
    try:
        chain, *numbers, kind, development, look, sky = key.split("_")
        stops, slope, contrast, highlights, shadows = (int(number) / 10000 for number in numbers)
        return Rendering(
            _chain_of(chain),
            stops,
            slope,
            KINDS[int(kind)],
            int(development),
            LOOKS[int(look)],
            (contrast, highlights, shadows),
            _overhead_of(sky),
        )
    except (ValueError, IndexError, KeyError, binascii.Error, CoreError):
        raise Unreadable("This is not the address of a view.", code="view-key") from None


# --- the chain -------------------------------------------------------------------------------------------------------------

_SLUGS = {name: name.replace(" ", "-") for name in (*RESPONSES, *COLOURED)}
_NAMES = {slug: name for name, slug in _SLUGS.items()}
OWN_STEPS = 65535


@lru_cache(maxsize=256)
def _chain_words(chain):
    """ "t2.general-panchromatic.D55.yellow+green", or "t2.mix.8500.1500.0" for a camera's own, then its bends."""
    if chain.through is None:
        bends = [str(round(part)) for hue, stops in chain.bends for part in (hue * 10, stops * 1000)]
        return ".".join([TABLES, "mix", _written(chain.weights, "."), *(["hue", *bends] if bends else [])])
    response, light, filters = chain.through
    glass = "+".join(_SLUGS[each] if isinstance(each, str) else _own_words(each) for each in filters)
    return f"{TABLES}.{_SLUGS[response]}.{light}.{glass or 'none'}"


def _own_words(points):
    """A filter's own spectrum as text: its transmittance on the core's grid."""
    values = np.interp(WAVELENGTH_NM, *zip(*points, strict=True))
    packed = base64.urlsafe_b64encode(np.round(values * OWN_STEPS).astype(">u2").tobytes()).decode()
    return "~" + packed.rstrip("=").replace("_", ".")


def _own_of(text):
    text = text[1:].replace(".", "_")
    values = np.frombuffer(base64.urlsafe_b64decode(text + "=" * (-len(text) % 4)), ">u2")
    return tuple(zip(WAVELENGTH_NM.tolist(), (values / OWN_STEPS).tolist(), strict=True))


@lru_cache(maxsize=256)
def _chain_of(text):
    tables, kind, rest = text.split(".", 2)
    if tables != TABLES:
        raise ValueError(tables)
    if kind == "mix":
        mix, _, bends = rest.partition(".hue.")
        flat = [int(number) for number in bends.split(".") if bends]
        points = tuple((hue / 10, stops / 1000) for hue, stops in zip(flat[::2], flat[1::2], strict=True))
        return mixed_chain(tuple(int(number) / 10000 for number in mix.split(".")), require_points(points))
    light, glass = rest.split(".", 1)
    if light not in LIGHTS:
        raise ValueError(light)
    if glass.count("+") >= MAX_FILTERS:
        raise ValueError(glass)
    filters = () if glass == "none" else tuple(_own_of(g) if g[:1] == "~" else _NAMES[g] for g in glass.split("+"))
    return glass_chain(_NAMES[kind], light, filters)


# --- the sky ---------------------------------------------------------------------------------------------------------------


@lru_cache(maxsize=256)
def _sky_words(overhead):
    """ "sf" found, "sn" none, "so" and corners in thousandths; then the polarizer's numbers, and stops and edge of graduated glass."""
    if overhead.outline is None:
        area = "f"
    elif not overhead.outline:
        area = "n"
    else:
        area = "o" + "".join(f"{round(v * 1000):03x}" for corner in overhead.outline for v in corner)
    text = f"s{area}"
    if (p := overhead.polarizer) is not None:
        numbers = [p.altitude_deg, p.turn_deg, p.tilt_deg, p.focal_35mm, float(p.upright), p.p_max]
        numbers += [p.turned_deg] if p.turned_deg else []
        text += "p" + ".".join(str(round(number * 100)) for number in numbers)
    return text + "".join(f"g{round(stops * 100)}.{round(edge * 1000)}" for stops, edge in overhead.graduated)


def area_words(overhead):
    """The area of a sky alone, as SKY_AREA has it. overhead: Overhead."""
    return _sky_words(Overhead(overhead.outline))


def area_of(text):
    """The Overhead of a sky's area alone, as SKY_AREA writes it. Raises Unreadable."""
    try:
        return _overhead_of(text)
    except (ValueError, CoreError):
        raise Unreadable("This is not a sky.", code="view-key") from None


def _overhead_of(text):
    text, *glasses = text[1:].split("g")
    graduated = tuple((int(stops) / 100, int(edge) / 1000) for stops, edge in (each.split(".") for each in glasses))
    area, _, numbers = text.partition("p")
    outline = None if area == "f" else ()
    if area[0] == "o":
        flat = [int(three, 16) / 1000 for three in re.findall("...", area[1:])]
        outline = require_outline(zip(flat[::2], flat[1::2], strict=True))
    if not numbers:
        return Overhead(outline, None, graduated)
    altitude, turn, tilt, focal, upright, p_max, *turned = (int(number) / 100 for number in numbers.split("."))
    if focal < 1 or not 0 <= p_max < 1 or not all(0 <= each <= 45 for each in turned):
        raise ValueError(numbers)
    return Overhead(outline, Polarized(altitude, turn, tilt, focal, bool(upright), p_max, *turned), graduated)


# --- addresses -------------------------------------------------------------------------------------------------------------


def grey_address(folder, rendering):
    """Address of a grey view. folder: UUID of the picture. The same view always has the same address."""
    return f"/pictures/{folder}/grey-{key_of(rendering)}.jpg"


def addresses_through(folder, rendering, chains):
    """name -> address of the same view through another chain. chains: (name, Chain) each."""
    rest = f"{_rest(rendering)}_{LOOKS.index(rendering.look)}_{_sky_words(rendering.overhead)}"
    return {name: f"/pictures/{folder}/grey-{_chain_words(chain)}_{rest}.jpg" for name, chain in chains}


def addresses_squeezed(folder, rendering):
    """look -> address of the same view squeezed, without the plain grey."""
    start, end = f"{_chain_words(rendering.chain)}_{_rest(rendering)}", _sky_words(rendering.overhead)
    return {look: f"/pictures/{folder}/grey-{start}_{k}_{end}.jpg" for k, look in enumerate(LOOKS) if k}


def colour_address(folder):
    """Address of a picture's colour view."""
    return f"/pictures/{folder}/colour.jpg"
