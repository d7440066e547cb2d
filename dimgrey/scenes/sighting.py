"""What the sighting ring sees at the desk: the light of the picture's own pixels."""

from dimgrey.core.document.sighting import sighted_words
from dimgrey.scenes import spotmeter
from dimgrey.scenes.pins import sky_at


def sighted(situation, x, y):
    """What a meter pointed at fractions x, y of the picture says. Raises CoreError."""
    document = situation.document
    seen = spotmeter.meter_of(document, situation.picture).read(x, y, float(document.meter.spot_deg))
    is_sky = lambda: sky_at(situation, (x, y))
    return sighted_words(document, situation.brief, situation.plan, situation.scale, seen, is_sky, situation.words)
