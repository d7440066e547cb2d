"""Every caution of a scene: the one list that plan, command, card and pages show."""

import dimgrey.core.cautions.against
import dimgrey.core.cautions.exposure
import dimgrey.core.cautions.glass
import dimgrey.core.cautions.lamps
import dimgrey.core.cautions.picture
import dimgrey.core.cautions.safety  # noqa: F401 - these modules declare their rules when they are imported
from dimgrey.core.cautions.registry import raised
from dimgrey.core.cautions.sky import SkyCase


def cautions_of(result, sky=None, lamps=None):
    """Cautions of a scene, those that can hurt someone first.

    result: its Plan, or None before one. sky: its FrameSky, or None while place or time is missing. lamps: LampCase of its light plan, or
    None without one.
    """
    found = raised("exposure", result) + raised("picture", result) if result else ()
    found += raised("sky", SkyCase(sky, result)) if sky else ()
    found += raised("lamps", lamps) if lamps else ()
    return tuple(sorted(found, key=lambda each: not each.grave))
