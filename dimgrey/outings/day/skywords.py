"""What the sky sheet says in words: the sun, the deep sky, the light of a grey card."""

import numpy as np

from dimgrey.core.sky.cardlight import card_light
from dimgrey.core.sky.horizon import POLARIZER_LEVELS, deepest_turns_deg, strongest_polarizer
from dimgrey.core.sky.sunlight import shadow_length
from dimgrey.core.sky.wants import compass_point
from dimgrey.outings.sky_over_scene import shadow_words


def sun_words(sun, hills_deg):
    """Where the sun stands and how shadows fall. sun: dome.Direction. hills_deg: of the horizon before it."""
    if sun.altitude_deg <= 0:
        return (
            f"the sun is {-sun.altitude_deg:.0f}° below the horizon in the {compass_point(sun.azimuth_deg)}; "
            "the sky’s greys are not forecast."
        )
    if sun.altitude_deg <= hills_deg:
        return f"the sun, {sun.altitude_deg:.0f}° high in the {compass_point(sun.azimuth_deg)}, is behind the hills."
    shadow = shadow_words(shadow_length(1.0, sun.altitude_deg))
    return (
        f"sun {sun.altitude_deg:.0f}° high in the {compass_point(sun.azimuth_deg)} ({sun.azimuth_deg:.0f}°). "
        f"Shadows {shadow}, falling {compass_point(sun.azimuth_deg + 180)}."
    )


def deep_words(light):
    """Where the sky is deepest and what a polarizer does. light: horizon.SkyLight, None while the sun is down."""
    if light is None:
        return "No daylight: no deep sky, and nothing for a polarizer."
    if light.air == "overcast":
        return "Overcast: the sky is blank, and a polarizer does nothing to it."
    stops, there = strongest_polarizer(light)
    sun = light.sun.azimuth_deg
    sides = " and ".join(dict.fromkeys(compass_point(a % 360) for a in (there, 2 * sun - there)))
    turns = deepest_turns_deg(light.sun.altitude_deg)
    deep = " and the ".join(dict.fromkeys(compass_point((sun + turn) % 360) for turn in turns))
    levels = [f"{level:g}" for level in POLARIZER_LEVELS if level <= -stops]
    drawn = f" Lines: it takes {', '.join(levels)} stops and more; the closer, the more." if levels else ""
    return (
        f"The sky is deepest towards the {deep}{', opposite the sun' if len(turns) == 1 else ''}. "
        f"A polarizer takes up to {abs(stops):.1f} stops off it, most towards {sides}.{drawn}"
    )


def cards(sun_altitude_deg):
    """(what, EV100 in words) of a grey card in each light at the moment; () in the dark."""
    light = card_light(np.array([sun_altitude_deg]))
    if np.isnan(light.shade[0]):
        return ()
    named = (
        ("facing the sun", light.sunlit[0]),
        ("in open shade" if sun_altitude_deg > 0 else "under the open sky", light.shade[0]),
        ("under a closed sky", light.overcast[0]),
    )
    return tuple((what, f"{value:.1f}".replace("-", "−")) for what, value in named if not np.isnan(value))
