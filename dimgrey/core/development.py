"""Development of film: shorter or longer to fit the scene's range to the paper."""

REACH = (-2, 2)
"""Steps of development that a film's table usually covers; a kit's own table replaces it."""


def development_step(target_spread_stops, measured_spread_stops):
    """Development number, ``N = target - measured`` spread, to the nearest whole step: wanted 4, measured 6 -> -2."""
    return round(target_spread_stops - measured_spread_stops)


def format_development(step):
    """0 -> "N", -1 -> "N-1", 2 -> "N+2"."""
    return "N" if step == 0 else f"N{step:+d}"


def developed_zone(zone, step):
    """Zone at which a tone prints after development, ``3 + (z - 3)(4 + k) / 4`` above III; shadows hardly move."""
    return zone if zone <= 3 else 3 + (zone - 3) * (4 + step) / 4
