"""One-line words of the sheet: what is placed, filtered, exposed and held, and how the picture's light got its scale."""

from dimgrey.core.measure.stops import format_aperture, format_seconds, format_stops, format_time
from dimgrey.core.planning import explain
from dimgrey.scenes import light


def placed_line(result, words):
    """Which tone stands on which zone; "" before a plan."""
    if result is None:
        return ""
    return f"{result.placement.tone or 'midpoint of the textured tones'} on {words.zone(result.placement.zone)}"


def filter_line(document, result):
    """The filters in use and what they cost in stops."""
    names = []
    for glass in document.get("filters", []):
        if glass["name"] == "nd":
            names.append(f"neutral density {format_stops(glass.get('stops', 0))}")
        elif glass["name"] == "graduated":
            names.append(f"graduated {glass.get('stops', 2):g}")
        else:
            names.append(glass["name"])
    if not names:
        return "None"
    line = " + ".join(names)
    return f"{line}: {format_stops(result.filter_cost.stops)} stops" if result else line


def exposure(result):
    """The exposure's numbers in words, {} before a plan."""
    if result is None:
        return {}
    return {
        "shutter": format_time(result.shutter),
        "aperture": format_aperture(result.aperture),
        "iso": f"ISO {result.speed.name}",
        "setting": format_stops(result.setting_ev100),
        "exposure": format_stops(result.exposure_ev100),
        "dial": explain.dial_words(result),
        "tone": result.placement.tone,
        "corrected": format_seconds(result.corrected_seconds)
        if result.corrected_seconds > result.shutter_seconds * 1.05
        else "",
        "rounding": f"{result.rounding_stops:+.2f}".replace("-", "−"),
        "shutter_value": f"{result.shutter.name}",
        "aperture_value": f"f/{result.aperture.name}",
    }


def range_line(result):
    """The range and what the development does with it; "" where there is none."""
    if result is None or result.range_stops is None:
        return ""
    line = f"{format_stops(result.range_stops)} stops"
    if not result.development:
        return line
    line += f", develop {result.development}"
    if result.development_minutes:
        line += f" for {result.development_minutes:g} min"
    if result.development_stops:
        line += f", exposed {format_stops(result.development_stops, signed=True)}"
    return line


def camera_line(document):
    """Camera, film or file, speed and lens."""
    medium, lens = document.get("medium", {}), document.get("lens", {})
    said = [medium.get("name") or medium.get("kind", "film"), f"ISO {medium.get('iso', 100)}"]
    if name := document.get("kit", {}).get("camera"):
        said.insert(0, name)
    if "focal_35mm" in lens:
        said.append(document.get("kit", {}).get("lens") or f"{lens['focal_35mm']:g} mm")
    return ", ".join(said)


def scale_line(document, picture):
    """How the picture's light got its scale, and how well typed readings agree with it."""
    if picture is None:
        return ""
    scale = light.light_scale(document, picture)
    if picture.simulated_light:
        return "Made-up light in cd/m²; the ring is a simulated spot meter."
    if scale is None:
        return "The picture's light has no scale yet: type a meter reading at one pin."
    count = len(scale.residuals)
    if picture.absolute:
        source = "The picture carries its scale in cd/m²."
    elif count == 0:
        source = "Estimate from the picture's own exposure data; a typed reading at a pin corrects it."
    elif count == 1:
        source = "Scale set by one typed reading."
    else:
        source = f"Scale fitted to {count} typed readings, contrast ×{scale.slope:.2f}."
    return (
        f"{source} Worst residual {scale.worst_residual:.1f} stop."
        if count > 1 or (picture.absolute and count)
        else source
    )


def whys(result):
    """part -> how its result was reached; {} before a plan."""
    if result is None:
        return {}
    return {
        "placing": explain.why_setting(result),
        "filter": explain.why_filter(result),
        "exposure": explain.why_exposure(result),
        "range": explain.why_range(result),
    }


def combinations(result):
    """Every aperture with its time, the chosen one marked."""
    if result is None:
        return ()
    return tuple(
        {
            "aperture": format_aperture(pair.aperture),
            "shutter": format_time(pair.shutter),
            "chosen": pair.aperture == result.aperture,
        }
        for pair in result.combinations
    )
