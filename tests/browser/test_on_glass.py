"""The stories that have the picture under the hand, told again where the browser has a graphics processor or plays one.

All others are told there too by ``DIMGREY_GLASS=1 script/test tests.browser``, which takes a few minutes without a graphics processor.
"""

from django.test import tag

from tests.browser import test_painter


def on_glass(story):
    """The same story where WebGL paints."""
    return tag("browser")(type(f"{story.__name__}OnGlass", (story,), {"glass": True, "__module__": __name__}))


PinsOnGlass = on_glass(test_painter.Pins)
GlassUnderTheHandOnGlass = on_glass(test_painter.GlassUnderTheHand)
