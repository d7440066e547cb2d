"""Older versions of the scene file, lifted one by one to the present one. Revisions and frozen frames pass here too.

Version 2: every tone has a letter of its own, and every reading the offset of the meter that took it, so that a meter
chosen later changes no reading taken before. Version 3: a placing without a hold leaves it to the plan; before, it meant
before the filter, and that is written down. Version 4: names and roles that were guessed say so, a reading says what it was
read through, and the sky of the picture can be drawn. Version 5: a polarizer may be turned away from the deepest sky, a tone may
be an area, and a place has its hills. Version 6: lamps, a light plan. None of these changes what was kept.
"""

VERSION = 6


def upgraded(data):
    """Plain values of a scene file in the present version; the same object when it has it already, never changed.

    data: a dictionary that fits the schema of its own version.
    """
    version = data.get("version", 1)
    if version >= VERSION:
        return data
    if version < 2:
        data = {**data, "tones": _tones_of_version_2(data)}
    if version < 3:
        data = {**data, "placing": {"hold": "before filter", **data.get("placing", {})}}
    return {**data, "version": VERSION}


def _tones_of_version_2(data):
    offset = data.get("meter", {}).get("calibration_stops", 0.0)
    tones, used = [], set()
    for tone in data.get("tones", []):
        mark = tone.get("mark", "")
        kept = {key: value for key, value in tone.items() if key not in ("mark", "readings")}
        kept["mark"] = "" if mark in used else mark
        used.add(mark)
        if "readings" in tone:
            kept["readings"] = [_reading_of_version_2(reading, offset) for reading in tone["readings"]]
        tones.append(kept)
    for tone in tones:
        if not tone["mark"]:
            tone["mark"] = free_mark({each["mark"] for each in tones})
    return tones


def _reading_of_version_2(reading, offset):
    if reading.get("kind") == "picture" or "calibration_stops" in reading:
        return reading
    return {**reading, "calibration_stops": offset}


def free_mark(used):
    """The first letter that no tone has: A to Z, then AA to AZ. used: a set of letters."""
    letters = [chr(65 + k) for k in range(26)]
    return next(mark for mark in [*letters, *(f"A{letter}" for letter in letters)] if mark not in used)
