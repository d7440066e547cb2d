"""A shot against the plan, in words."""

from dimgrey.core.camera import testshot


def compared(situation, made, grey, matrix=None):
    """{"rows", "advice"} of a grey 8-bit shot. made: the Setup of its file, or None. Raises CoreError when no pin is in it.

    matrix: from the plan's picture to the shot, None where both have one frame.
    """
    places = {tone.name: tone.at for tone in situation.document.tones if tone.at is not None}
    zones = testshot.planned_zones(situation.plan, made)
    planned = {name: zone for name, zone in zones.items() if name in places}
    seen = testshot.shown_zones(grey, {name: places[name] for name in planned}, matrix)
    free = frozenset(tone.name for tone in situation.plan.tones if not tone.needs_texture)
    found = testshot.compare(planned, seen, free)
    word = situation.words.held_zone
    rows = [
        {"name": t.name, "planned": word(t.planned), "shown": word(t.shown), "off": f"{t.off:+.1f}".replace("-", "−")}
        for t in found.tones
    ]
    return {"rows": rows, "advice": found.advice}
