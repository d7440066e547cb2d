"""What the browser's painter looks up: the tables of one grey view, made by the core and by nobody else.

A picture of N pixels becomes grey by ``index = upper half of float32(Y * gain(x, y) * left)``, ``grey = tones[index]``. The painter
multiplies and looks up; which tables these are is decided here.
"""

import base64
import zlib
from dataclasses import replace

import numpy as np

from dimgrey.core.colour.chain import DARKEST_GREY, LEAST_SKY
from dimgrey.core.colour.chainterms import terms_of
from dimgrey.core.colour.chromaticity import FLOOR, NODES
from dimgrey.core.colour.encoding import LUMINANCE_WEIGHTS
from dimgrey.core.colour.filters import graduated_share
from dimgrey.core.colour.greys import chain_nodes
from dimgrey.core.picture.display import FIRST, LAST, display_table
from dimgrey.core.planning.prints import curve_for
from dimgrey.core.sky.dome import crossed_share

TABLE_STEPS = 4096
"""Steps to a stop that tables of stops are sent in, as 16-bit numbers."""
ROWS, COLUMNS = 31, 46
"""Of the field of what a polarizer takes from a sky."""
EDGE_STEPS = 1024


def painting(tone_map, overhead, look="grey"):
    """The tables of a view as plain values. tone_map: ToneMap. overhead: Overhead. look: one of display.LOOKS."""
    chain = tone_map.chain
    return {
        "tones": {"first": FIRST, "last": LAST, "grey": _bytes(_tones(tone_map, look))},
        "slope": tone_map.slope,
        "chain": {
            "nodes": NODES,
            "stops": _stops(chain_nodes(chain)),
            "weights": None if chain.through else list(chain.weights),
            "sky": list(terms_of(chain.through).sky) if chain.through else None,
        },
        "polarizer": None if overhead.polarizer is None else _polarizer(overhead),
        "graduated": _graduated(overhead) if overhead.graduated else None,
        "luminance": LUMINANCE_WEIGHTS.tolist(),
        "floor": FLOOR,
        "darkest": DARKEST_GREY,
        "leastSky": LEAST_SKY,
        "tableSteps": TABLE_STEPS,
    }


def _tones(tone_map, look):
    table = display_table(
        tone_map.stops, tone_map.slope, curve_for(tone_map.kind), tone_map.development, look, tuple(tone_map.tone)
    )
    return table[FIRST:LAST]


def _polarizer(overhead):
    x, y = np.meshgrid((np.arange(COLUMNS) + 0.5) / COLUMNS, (np.arange(ROWS) + 0.5) / ROWS)
    crossed = replace(overhead.polarizer, turned_deg=0.0)
    share = crossed_share(overhead.polarizer.turned_deg)
    return {"rows": ROWS, "columns": COLUMNS, "stops": _stops(crossed.stops(x, y)), "crossed": share}


def _graduated(overhead):
    y = (np.arange(EDGE_STEPS) + 0.5) / EDGE_STEPS
    taken = -sum(stops * graduated_share(y, edge) for stops, edge in overhead.graduated)
    return {"steps": EDGE_STEPS, "stops": _stops(taken)}


def _stops(array):
    scaled = np.round(np.asarray(array, float) * TABLE_STEPS)
    return _bytes(np.clip(scaled, -32768, 32767).astype("<i2"))


def _bytes(array):
    """An array's bytes, deflated and as text."""
    return base64.b64encode(zlib.compress(np.ascontiguousarray(array).tobytes(), 9)).decode()
