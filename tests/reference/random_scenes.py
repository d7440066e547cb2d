"""Made-up scene files of version 1 that between them use every key, for comparing programs and for upgrade tests.

`random_scene(random.Random(seed))` gives the same file for the same seed, whatever the program under test.
"""

RESPONSES = ("general panchromatic", "extended red", "orthochromatic", "monochrome sensor")
GLASS = (
    "light yellow",
    "yellow",
    "deep yellow",
    "yellow-orange",
    "orange",
    "red",
    "deep red",
    "yellow-green",
    "green",
    "blue",
)
MIXES = ("none", "yellow", "orange", "red", "green", "blue")
ROLES = ("shadow", "highlight", "subject", "background", "sky", "skin", "other")
SCHOOLS = ("shadow", "highlight", "silhouette", "known tone", "midpoint", "incident", "whole frame")
SHUTTERS = ("1/500", "1/250", "1/125", "1/60", "1/30", "1/8", "1/2", "2s", "8s")
APERTURES = ("f/2.8", "f/4", "f/5.6", "f/8", "f/11", "f/16")  # fmt: skip
AMBER = [[nm, round(min(max((nm - 470) / 120, 0.02), 0.9), 3)] for nm in range(380, 731, 25)]


def _medium(rng):
    kind = rng.choice(("film", "film", "slide", "digital raw", "digital file"))
    made = {"kind": kind, "iso": rng.choice((50, 100, 125, 400, "800"))}
    if kind in ("film", "slide"):
        if rng.random() < 0.5:
            made["response"] = rng.choice(RESPONSES[:3])
        if rng.random() < 0.5:
            made["reciprocity"] = rng.choice(
                ({"exponent": 1.26, "onset_s": 1}, {"exponent": 1.31}, {"table": [[1, 1.5], [10, 25], [60, 240]]})
            )
        if kind == "film" and rng.random() < 0.4:
            made["development"] = [
                {"step": -1, "minutes": 8, "stops": 0.3333},
                {"step": 0, "minutes": 10},
                {"step": 1, "minutes": 13, "stops": -0.3333},
            ]
        if rng.random() < 0.3:
            made["dependable"], made["outer"] = [3.3, 6.9], [1.8, 8.4]
        return made
    if rng.random() < 0.2:
        made["response"] = "monochrome sensor"
    elif rng.random() < 0.6:
        made["channel_mix"] = rng.choice((*MIXES, [0.3, 0.59, 0.11]))
    if rng.random() < 0.3:
        made["headroom"], made["footroom"] = 3.1, 4.6
    elif rng.random() < 0.3:
        made["limits_per_iso"] = [[100, 3.3, 5], [3200, 3.0, 3.2]]
    return made


def _reading(rng, base):
    kind = rng.choice(("spot", "spot", "incident", "grey card", "picture", "estimate"))
    ev = round(base + rng.uniform(-0.6, 0.6), 3)
    if kind == "spot" and rng.random() < 0.5:
        return {"shutter": rng.choice(SHUTTERS), "aperture": rng.choice(APERTURES), "iso": rng.choice((100, 400))}
    made = {"kind": kind, "ev100": ev}
    if kind == "picture":
        made |= {"stops": round(ev - 12, 3), "low_ev100": ev - 0.4, "high_ev100": ev + rng.choice((0.3, 2.4))}
        made |= {"meter": "picture"} | ({"clipped": 0.4} if rng.random() < 0.1 else {})
    if rng.random() < 0.2:
        made["shift"] = rng.choice((-0.6667, 0.3333))
    if rng.random() < 0.3:
        made["taken_at"] = "2026-09-01T10:20:00+00:00"
    return made


def _tone(rng, k):
    base = rng.uniform(3, 16)
    made = {"name": f"tone {k}", "role": rng.choice(ROLES)}
    if rng.random() < 0.15:
        del made["role"]
    if rng.random() < 0.8:
        made["mark"] = chr(65 + k)
    if rng.random() < 0.4:
        made["ev100"] = round(base, 3)
    elif rng.random() < 0.95:
        made["readings"] = [_reading(rng, base) for _ in range(rng.choice((1, 1, 2, 3)))]
    if rng.random() < 0.6:
        made["colour"] = rng.choice((None, [round(rng.uniform(0.01, 1.4), 4) for _ in range(3)])) or "#7a4a32"
    if rng.random() < 0.3:
        made["texture"] = rng.choice(("needed", "free"))
    if rng.random() < 0.5:
        made["at"] = [round(rng.random(), 4), round(rng.random(), 4)]
    return made


def _filters(rng):
    made = []
    if rng.random() < 0.5:
        made.append({"name": rng.choice(GLASS)} | ({"factor": rng.choice((2, 4, 8))} if rng.random() < 0.3 else {}))
    if rng.random() < 0.25:
        made.append({"name": "nd", "stops": rng.choice((1, 3, 6))})
    if rng.random() < 0.2:
        made.append({"name": "polarizer"})
    if rng.random() < 0.2:
        made.append({"name": "graduated", "stops": rng.choice((1, 2, 3))})
    if rng.random() < 0.1:
        made.append({"name": "amber glass", "points": AMBER})
    return made


def _placing(rng, tones):
    made = {"school": rng.choice(SCHOOLS)}
    if tones and (made["school"] in ("known tone", "incident", "whole frame") or rng.random() < 0.5):
        made["tone"] = rng.choice(tones)["name"]
    if rng.random() < 0.5:
        made["zone"] = rng.choice((2, 3, 3.5, 5, 6.6667, "VII", "VI⅓"))
    if rng.random() < 0.3:
        made["hold"] = rng.choice(("before filter", "after filter"))
    if rng.random() < 0.2:
        made["under_stops"] = rng.choice((0.3333, 2))
    if rng.random() < 0.2:
        made["white"], made["shadows"] = rng.choice((("pure", "full"), ("textured", "empty")))
    return made


def random_scene(rng):
    """A scene file of version 1. rng: random.Random."""
    tones = [_tone(rng, k) for k in range(rng.choice((1, 2, 3, 4, 6)))]
    made = {"format": "dimgrey-scene", "version": 1, "title": "Made up", "medium": _medium(rng), "tones": tones}
    made |= {"placing": _placing(rng, tones)} if rng.random() < 0.9 else {}
    made |= {"filters": filters} if (filters := _filters(rng)) else {}
    made["increment"] = rng.choice(("full", "half", "third"))
    made["light"] = rng.choice(("D55", "D65", "A"))
    if rng.random() < 0.4:
        made["light_note"] = rng.choice(("sun", "overcast", "window light", "night"))
    if rng.random() < 0.4:
        made["meter"] = {"calibration_stops": rng.choice((-0.3333, 0.5)), "through_filter": rng.random() < 0.3}
    if rng.random() < 0.2:
        made["lens"] = {"focal_mm": 60, "magnification": rng.choice((0.2, 0.5))}
    if rng.random() < 0.6:
        made["camera"] = rng.choice(
            ({"aperture": "f/8"}, {"shutter": "1/60"}, {"aperture": "f/4", "shutter": "1/30"},
             {"apertures": ["f/2.8", "f/22"], "shutters": ["1/1000", "1s"]})
        )  # fmt: skip
    if rng.random() < 0.3:
        made["bracket"] = {"count": rng.choice((3, 5)), "step": rng.choice((0.6667, 1, 2)), "order": "- 0 +"}
    if rng.random() < 0.4:
        made["setup"] = {
            "name": "soft",
            "effects": {"contrast": rng.choice((-0.5, 0.25)), "highlights": rng.choice((-0.75, 0)), "grain": 0.4},
            "filter": rng.choice(MIXES),
            "protection_stops": rng.choice((0, 1)),
            "file": "both",
        }
    if rng.random() < 0.2:
        made["crop"] = {"box": [0.1, 0.1, 0.8, 0.9], "ratio": "free", "guides": "thirds"}
    return made
