"""Scenes as a teacher would judge them: what must be set, proposed or warned of, and what must not.

Each answer is reckoned by hand or follows from a law of the job beside it; none was read off the program. Made up, one for every school,
medium and matter of the handbook's sections 3 to 13. `case(...)` gives a Case; `CASES` is the whole set.
"""

import re
from dataclasses import dataclass, field

BRICK, IVY, BLUE, GREY, SKIN = (
    [0.30, 0.12, 0.07],
    [0.06, 0.11, 0.04],
    [0.10, 0.20, 0.48],
    [0.3, 0.3, 0.3],
    [0.45, 0.28, 0.20],
)
WARM_FILTERS = ("light yellow", "yellow", "deep yellow", "yellow-orange", "orange", "red", "deep red")


@dataclass(frozen=True)
class Case:
    """One judged scene.

    parts: of a scene file. setting: EV100 that must be set, within a third. given: marked time. development: "N-1". must, must_not: patterns of
    codes of proposals; "." in must_not is any. warned, not_warned: codes of cautions. grave: of the intent line. asked: words that are asked about.
    prints: tone -> (low, high) that its print must lie in. around: what the judge is told beside. silent: no proposal at all.
    """

    name: str
    parts: dict
    setting: float | None = None
    given: str | None = None
    development: str | None = None
    must: tuple = ()
    must_not: tuple = ()
    warned: tuple = ()
    not_warned: tuple = ()
    grave: bool | None = None
    asked: tuple = ()
    prints: dict = field(default_factory=dict)
    around: dict = field(default_factory=dict)
    silent: bool = False


def tone(name, ev, role="other", colour=None, **more):
    made = {"name": name, "ev100": ev, "role": role, "texture": "needed", **more}
    return made | ({"colour": colour} if colour else {})


def scene(*tones, kind="film", school=None, **parts):
    """Parts of a scene file. kind: of the medium, or a whole medium. school: a school, or (tone, zone) of a known one."""
    medium = kind if isinstance(kind, dict) else {"kind": kind}
    made = {"medium": medium, "tones": list(tones), "camera": {"aperture": "f/8"}, **parts}
    if isinstance(school, tuple):
        made["placing"] = {"school": "known tone", "tone": school[0], "zone": school[1]}
    elif school:
        made["placing"] = {"school": school}
    return made


HIGH = {"film": 7.0, "slide": 6.5, "digital raw": 7 + 2 / 3, "digital file": 7.0}
KINDS = tuple(HIGH)


def _exposures():
    """EV(setting) = EV(tone) + 5 - zone, by every school on every medium."""
    for kind, high in HIGH.items():
        low = max(3.0, {"slide": 3.5}.get(kind, 3.0))
        pair = (tone("coal", 9.0, "shadow"), tone("wall", 12.0, "highlight"))
        yield Case(f"shadow on {kind}", scene(*pair, kind=kind, school="shadow"), setting=9 + 5 - low)
        yield Case(f"highlight on {kind}", scene(*pair, kind=kind, school="highlight"), setting=12 + 5 - high)
        yield Case(f"midpoint on {kind}", scene(*pair, kind=kind, school="midpoint"), setting=10.5)
        yield Case(
            f"known grass on {kind}", scene(*pair, tone("grass", 11.0), kind=kind, school=("grass", 5)), setting=11.0
        )
        yield Case(
            f"default on {kind}", scene(*pair, kind=kind), setting=9 + 5 - 3 if kind == "film" else 12 + 5 - high
        )
        man = (tone("man", 8.0, "subject"), tone("sky", 14.0, "sky"))
        yield Case(
            f"silhouette on {kind}", scene(*man, kind=kind, school="silhouette"), setting=14 + 5 - high,
            prints={"man": (0, 2)}, must_not=("develop=[1-9]",),
        )  # fmt: skip
    for surface, zone in (
        ("snow in sun", 7.5),
        ("shaded snow", 6),
        ("pale skin", 6),
        ("black cloth", 3),
        ("white paper", 7 + 1 / 3),
        ("grass", 5),
    ):
        yield Case(
            f"{surface} placed",
            scene(tone(surface, 12.0), tone("other", 11.0), kind="digital raw", school=(surface, zone)),
            setting=17 - zone,
        )
    yield Case(
        "orange takes its factor",
        scene(tone("wall", 12.0), tone("door", 11.0), school=("wall", 7), filters=[{"name": "orange"}]),
        setting=10.0,
    )
    yield Case(
        "six stops of grey",
        scene(tone("wall", 12.0), tone("door", 11.0), school=("wall", 7), filters=[{"name": "nd", "stops": 6}]),
        setting=10.0,
    )


def _developments():
    """The least step that prints the highest texture at VII 1/2: spread to 4 1/2 N, to 5 5/8 N-1, to 6 3/4 N-2."""
    for spread, step in (
        (3.0, "N"),
        (4.0, "N"),
        (4.5, "N"),
        (4.7, "N-1"),
        (5.5, "N-1"),
        (5.8, "N-2"),
        (6.0, "N-2"),
        (6.7, "N-2"),
    ):
        pair = (tone("coal", 8.0, "shadow"), tone("wall", 8.0 + spread, "highlight"))
        yield Case(f"shadow first over {spread} stops", scene(*pair, school="shadow"), development=step, setting=10.0)
        yield Case(f"highlight first over {spread} stops", scene(*pair, school="highlight"), development="N")
    wide = (tone("coal", 8.0, "shadow"), tone("wall", 15.0, "highlight"))
    yield Case("beyond the table", scene(*wide, school="shadow"), warned=("development-out-of-reach",))
    held = {"kind": "film", "developed": 0}
    yield Case(
        "N is held",
        scene(tone("coal", 8.0, "shadow"), tone("wall", 14.0, "highlight"), kind=held, school="shadow"),
        development="N",
    )
    flat = (tone("coal", 10.0, "shadow"), tone("wall", 12.4, "highlight"))
    full = {"wanted": {"scale": "full scale"}}
    yield Case(
        "flat light and a full scale", scene(*flat, school="shadow", **full), development="N", must=(r"develop=[12]",)
    )
    yield Case("a roll decides", scene(*flat, school="shadow", **full), must_not=("develop",), around={"on_roll": True})
    for name, more in (
        ("nobody wants it", {}), ("soft", {"wanted": {"scale": "soft"}}), ("low-key", {"wanted": {"scale": "low-key"}}),
        ("high-key", {"wanted": {"scale": "high-key"}}), ("fog", {"light_note": "morning fog", **full}), ("mist", {"title": "Mist in the pit", **full}),
    ):  # fmt: skip
        yield Case(
            f"no expansion: {name}",
            scene(*flat, school="shadow", **more),
            development="N",
            must_not=(r"develop=[1-9]",),
        )
    man = (tone("man", 10.0, "subject"), tone("sky", 12.0, "sky"))
    yield Case("no expansion: silhouette", scene(*man, school="silhouette", **full), must_not=(r"develop=[1-9]",))
    lamp = tone("lamp", 17.0, "other", texture="free")
    yield Case("fire above what has texture", scene(*flat, lamp, school="shadow"), development="N")
    yield Case(
        "fog is placed by the fog", scene(tone("fog", 12.0), tone("post", 10.0, "subject")), setting=12 + 5 - 20 / 3
    )
    pushed = {"kind": "film", "iso": 400, "own_iso": 100, "developed": 0}
    yield Case(
        "a push loses shadows",
        scene(tone("coal", 9.0, "shadow"), tone("wall", 12.0), kind=pushed, school="shadow"),
        warned=("pushed", "shadow-lost"),
    )


def _colours():
    """Red brick and green ivy of one brightness, a blue sky: what parts them, and what never does."""
    merge = "Brick and ivy must not merge."
    pair = (tone("brick", 12.4, "subject", BRICK), tone("ivy", 12.5, "background", IVY))
    for kind, response in (("film", None), ("film", "extended red"), ("digital raw", "monochrome sensor")):
        medium = {"kind": kind} | ({"response": response} if response else {})
        yield Case(
            f"brick and ivy on {kind} {response}",
            scene(*pair, kind=medium, school=("ivy", 5), intent=merge),
            must=("glass=(orange|red|deep red|deep yellow|yellow-orange|green)",),
        )
    for kind in ("digital file", "digital raw"):
        yield Case(
            f"brick and ivy on {kind}",
            scene(*pair, kind=kind, school=("ivy", 5), intent=merge),
            must=("glass=(orange|red|green)|bend=",),
        )
    grey = (tone("door", 12.4, "subject", GREY), tone("wall", 12.5, "background", GREY))
    for kind in KINDS:
        yield Case(
            f"two greys on {kind}",
            scene(*grey, kind=kind, school=("wall", 5), intent="Door and wall must not merge."),
            must_not=("glass=(?!none)", "polarizer", "bend"),
        )
    dark = "The wall bright against a dark sky."
    plain = (tone("wall", 13.0, "subject", GREY), tone("sky", 13.3, "sky", BLUE))
    for kind in ("film", "digital raw", "digital file"):
        warm = "glass=(orange|red|deep red)"
        yield Case(
            f"a dark sky on {kind}",
            scene(*plain, kind=kind, school=("wall", 7), intent=dark),
            must=(warm if kind == "film" else f"{warm}|bend=",),
            must_not=("glass=blue", "glass=green", "glass=yellow-green"),
        )
    light = "A dark wall against a bright sky."
    for kind in ("film", "digital file"):
        yield Case(
            f"a light sky on {kind}",
            scene(*plain, kind=kind, school=("wall", 4), intent=light),
            must_not=tuple(f"glass={name}\\b" for name in WARM_FILTERS[3:]),
        )
    red = [{"name": "red"}]
    yield Case(
        "red before a colour sensor",
        scene(*plain, kind="digital raw", school=("wall", 7), filters=red),
        warned=("glass-on-colour-sensor",),
    )
    ortho = {"kind": "film", "response": "orthochromatic"}
    yield Case(
        "red before film that is blind to red",
        scene(*plain, kind=ortho, school=("wall", 7), filters=red),
        warned=("filter-blocks-film",),
    )
    yield Case(
        "red is not proposed to film that is blind to it",
        scene(*plain, kind=ortho, school=("wall", 7), intent=dark),
        must_not=("glass=red", "glass=deep red"),
    )
    yield Case(
        "into the sun",
        scene(*plain, school=("wall", 7), intent=dark),
        must_not=("glass=(?!none)", "graduated=[0-9]", "polarizer=[0-9]"),
        around={"sun_in_frame": True},
    )
    yield Case(
        "what was refused",
        scene(
            *plain, school=("wall", 7), intent=dark, wanted={"refused": ["glass=red", "glass=deep red", "glass=orange"]}
        ),
        must_not=("glass=red$", "glass=deep red$", "glass=orange$"),
    )
    skin = (tone("face", 12.0, "skin", SKIN), tone("leaves", 12.1, "background", IVY))
    yield Case(
        "skin against leaves",
        scene(*skin, school=("face", 6), intent="The face must stand out from the leaves."),
        must_not=("glass=blue",),
    )


def _ends():
    """What is lost at one end, and the ways out of it."""
    land = (tone("ground", 9.0, "shadow"), tone("cottage", 11.0, "subject"))
    sky = tone("sky", 16.0, "sky", [0.8, 0.85, 0.9])
    for kind in ("slide", "digital raw", "digital file"):
        yield Case(
            f"a bright sky on {kind}",
            scene(*land, sky, kind=kind, school=("ground", 3.5)),
            must=("graduated=",),
            warned=("highlight-lost",),
        )
    held = {"kind": "film", "developed": 0}
    yield Case("a bright sky on a held film", scene(*land, sky, kind=held, school="shadow"), must=("graduated=",))
    yield Case(
        "a tower in the sky",
        scene(
            tone("ground", 9.0, "shadow"),
            tone("tower", 11.0, "subject"),
            sky,
            kind="slide",
            school=("ground", 3.5),
            intent="The tower dark against the sky.",
        ),
        must_not=("graduated=[0-9]",),
    )
    yield Case(
        "the picture shows the tower in the sky",
        scene(
            tone("ground", 9.0, "shadow"),
            tone("tower", 11.0, "subject", at=[0.5, 0.7]),
            {**sky, "at": [0.2, 0.5]},
            kind="slide",
            school=("ground", 3.5),
        ),
        must_not=("graduated=[0-9]",),
        around={"tops": {"tower": 0.1}},
    )
    room = (tone("floor", 5.0, "shadow"), tone("chair", 7.0, "subject"), tone("window", 13.0, "highlight"))
    for kind in ("slide", "digital raw", "digital file"):
        yield Case(
            f"a window in a room on {kind}",
            scene(*room, kind=kind, school=("floor", 3.5), light_note="room"),
            must_not=("graduated",),
        )
    for kind in ("digital raw", "digital file"):
        yield Case(
            f"a window is bracketed on {kind}", scene(*room, kind=kind, school=("floor", 3.5)), must=("bracket=",)
        )
    for kind in ("film", "slide"):
        yield Case(f"no bracket on {kind}", scene(*room, kind=kind, school=("floor", 3.5)), must_not=("bracket",))
    yield Case(
        "the subject is not let go",
        scene(tone("floor", 5.0, "shadow"), tone("lamp", 14.0, "subject"), kind="slide", school=("floor", 3.5)),
        must_not=("let-go=B",),
    )
    yield Case(
        "what keeps texture by its words is not let go",
        scene(*room, kind="slide", school=("floor", 3.5), intent="The window keeps its texture."),
        must_not=("let-go=C",),
    )
    yield Case(
        "what may be empty loses nothing",
        scene(*room, kind="slide", school=("floor", 3.5), intent="The window may burn out."),
        not_warned=("highlight-lost",),
    )
    yield Case(
        "soft is not hardened",
        scene(tone("a", 11.0), tone("b", 12.5), kind="digital file", school=("a", 5), wanted={"scale": "soft"}),
        must_not=("effects=contrast:0", "effects=contrast:1"),
    )
    yield Case(
        "high-key is not hardened",
        scene(
            tone("cup", 11.0, "subject"),
            tone("cloth", 12.0, "background"),
            kind="digital file",
            school=("cloth", 7.5),
            intent="Everything pale.",
            wanted={"scale": "high-key"},
        ),
        must_not=("effects=contrast:0", "effects=shadows:0"),
    )
    yield Case(
        "film has no menu",
        scene(tone("coal", 8.0, "shadow"), tone("wall", 15.0, "highlight"), school="shadow"),
        must_not=("effects",),
    )
    yield Case(
        "raw has no menu",
        scene(tone("coal", 8.0, "shadow"), tone("wall", 15.0, "highlight"), kind="digital raw", school="shadow"),
        must_not=("effects",),
    )


def _words():
    """What the sentence wants against what the plan does."""
    wall, sky = tone("wall", 11.0, "subject"), tone("sky", 14.33, "sky", BLUE)
    against = "The wall stands bright against a dark sky."
    yield Case("a reversed order", scene(wall, sky, school=("wall", 3), intent=against), grave=True)
    yield Case(
        "not reversed",
        scene({**wall, "ev100": 15.0}, {**sky, "ev100": 11.5}, school=("wall", 7), intent=against),
        grave=False,
        silent=True,
    )
    for k, (intent, ev, zone) in enumerate(
        (
            ("The door black.", 8.0, 1),
            ("The door white.", 12.0, 7),
            ("The door on V.", 11.0, 5),
            ("The door between III and IV.", 9.5, 3.5),
            ("The door dark.", 9.0, 3),
        )
    ):
        yield Case(
            f"met as it is {k}",
            scene(
                tone("door", ev, "subject"),
                tone("step", 11.0),
                kind="digital raw",
                school=("door", zone),
                intent=intent,
            ),
            silent=True,
            grave=False,
        )
    for k, intent in enumerate(("The trees dark.", "A black gate.", "The water stays pale.")):
        yield Case(
            f"a word without a tone {k}",
            scene(wall, tone("step", 10.0), school=("wall", 6), intent=intent),
            asked=(("trees", "gate", "water")[k],),
            silent=True,
        )
    yield Case(
        "dark and light at once",
        scene(wall, sky, school=("wall", 5), intent="The wall dark, the wall bright."),
        asked=("wall",),
    )
    guessed = {**wall, "name": "brick", "guessed": ["name", "role"]}
    yield Case(
        "a guessed name wishes nothing",
        scene(guessed, tone("step", 11.0), school=("step", 5), intent="The brick black."),
        silent=True,
        asked=("brick",),
    )
    same = (tone("tower", 13.0, "subject"), tone("sky", 13.2, "sky"))
    yield Case(
        "not in this light",
        scene(*same, kind="digital file", school="highlight", intent="Tower black on a bright sky."),
        must_not=("zone=", "effects"),
    )
    yield Case(
        "struck wishes do not count",
        scene(wall, sky, school=("wall", 3), intent="The wall bright.", wanted={"struck": ["span: wall"]}),
        silent=True,
    )
    yield Case(
        "a span that was set",
        scene(
            tone("door", 12.0, "subject", wish=[2, 3]),
            tone("step", 9.0, "shadow"),
            kind="digital raw",
            school=("door", 6),
        ),
        must=("zone=|print=",),
    )
    yield Case(
        "an order that was set",
        scene(
            tone("kiln", 12.0, "subject", BRICK),
            tone("sky", 12.5, "sky", BLUE),
            school=("kiln", 6),
            orders=[{"lighter": "kiln", "darker": "sky", "zones": 2}],
        ),
        must=("glass=(orange|red|deep red)",),
    )
    for kind in KINDS:
        yield Case(
            f"nothing wanted on {kind}",
            scene(tone("a", 10.0), tone("b", 12.0), kind=kind, school=("a", 4)),
            silent=True,
        )


def _glass():
    """Polarizer, graduated glass, stacks, into the light."""
    pair = (tone("wall", 12.0, "highlight"), tone("door", 10.0, "subject"))
    yield Case(
        "turned in manual",
        scene(*pair, school=("wall", 7), filters=[{"name": "polarizer"}]),
        warned=("polarizer-manual",),
    )
    yield Case(
        "under cloud",
        scene(*pair, school=("wall", 7), filters=[{"name": "polarizer"}], light_note="overcast"),
        warned=("polarizer-under-cloud",),
    )
    yield Case(
        "under the sun",
        scene(*pair, school=("wall", 7), filters=[{"name": "polarizer"}], light_note="sun"),
        not_warned=("polarizer-under-cloud",),
    )
    yield Case(
        "an aircraft's window",
        scene(*pair, school=("wall", 7), filters=[{"name": "polarizer"}], title="From the aircraft"),
        warned=("polarizer-through-window",),
    )
    yield Case(
        "against the light",
        scene(*pair, school=("wall", 7), light_note="against the light"),
        warned=("against-the-light",),
    )
    yield Case(
        "three filters",
        scene(
            *pair, school=("wall", 7), filters=[{"name": "orange"}, {"name": "polarizer"}, {"name": "nd", "stops": 3}]
        ),
        warned=("filters-stacked",),
    )
    tower = (tone("tower", 12.0, "subject", at=[0.5, 0.2]), tone("sky", 14.0, "sky", at=[0.2, 0.3]))
    yield Case(
        "a tower stands in the glass",
        scene(*tower, school=("tower", 5), filters=[{"name": "graduated", "stops": 2}]),
        warned=("subject-in-graduated",),
    )
    low = (tone("boat", 12.0, "subject", at=[0.5, 0.8]), tower[1])
    yield Case(
        "a boat does not",
        scene(*low, school=("boat", 5), filters=[{"name": "graduated", "stops": 2}]),
        not_warned=("subject-in-graduated",),
    )


def _times():
    """Long exposures, the hand, the camera's limits."""
    film = {"kind": "film", "iso": 100, "reciprocity": {"exponent": 1.26, "onset_s": 1}}
    for ev, given in ((4.0, "5.7 s"), (2.0, "33 s"), (6.0, "1 s"), (9.0, "1/8")):
        yield Case(
            f"reciprocity at EV {ev}",
            scene(tone("a", ev), tone("b", ev + 1), kind=film, school=("a", 5)),
            setting=ev,
            given=given,
        )
    yield Case(
        "no reciprocity on a sensor",
        scene(tone("a", 4.0), tone("b", 5.0), kind="digital raw", school=("a", 5)),
        given="4 s",
    )
    hand = {"lens": {"focal_35mm": 50}, "needs": {"support": "hand"}}
    yield Case(
        "too long for the hand",
        scene(tone("a", 9.0), tone("b", 10.0), school=("a", 5), **hand),
        warned=("needs-support",),
    )
    yield Case(
        "short enough for the hand",
        scene(tone("a", 13.0), tone("b", 14.0), school=("a", 5), **hand),
        not_warned=("needs-support",),
    )
    kiln = (tone("kiln", 13.4, "subject", BRICK), tone("sky", 13.6, "sky", BLUE))
    yield Case(
        "no glass that takes the time from the hand",
        scene(*kiln, school=("kiln", 6), intent="The kiln two zones above the sky.", **hand),
        must_not=("glass=deep red",),
    )
    yield Case(
        "brightest time of the camera",
        scene(
            tone("a", 19.0),
            tone("b", 18.0),
            kind={"kind": "film", "iso": 3200},
            school=("a", 5),
            camera={"aperture": "f/2", "shutters": ["1/1000", "30s"]},
        ),
        warned=("shutter-too-short",),
    )


def _more():
    """Readings, snow, wood, portraits: the same laws in other matters."""
    for light, ev in (("sun", 15.0), ("open shade", 12.0), ("overcast", 12.5), ("night", 4.0), ("room", 6.0)):
        yield Case(
            f"a card in {light}",
            scene(tone("card", ev), tone("b", ev - 1), kind="digital raw", school=("card", 5), light_note=light),
            setting=ev,
            not_warned=("light-contradicts",),
        )
    yield Case(
        "moonlight at EV 12",
        scene(tone("snow", 12.0), tone("b", 11.0), school=("snow", 6), light_note="full moon"),
        warned=("light-contradicts",),
    )
    twice = {"name": "door", "readings": [{"ev100": 9.0}, {"ev100": 10.5}]}
    once = {"name": "door", "readings": [{"ev100": 9.0}, {"ev100": 9.7}]}
    yield Case(
        "two readings a stop and a half apart",
        scene(twice, tone("b", 11.0), school=("door", 4)),
        warned=("readings-differ",),
    )
    yield Case(
        "two readings two thirds apart",
        scene(once, tone("b", 11.0), school=("door", 4)),
        not_warned=("readings-differ",),
        setting=9.35 + 1,
    )
    incident = {"name": "face", "role": "skin", "readings": [{"kind": "incident", "ev100": 10.0}, {"ev100": 11.0}]}
    yield Case(
        "incident light is a setting",
        scene(incident, tone("b", 9.0), kind="digital raw", placing={"school": "incident", "tone": "face", "zone": 5}),
        setting=10.0,
    )
    for zone, word in ((2, "dark"), (7, "light")):
        other = "light" if word == "dark" else "dark"
        yield Case(
            f"{other} wanted, on {zone}",
            scene(
                tone("door", 11.0, "subject"),
                tone("step", 11.2),
                kind="digital raw",
                school=("door", zone),
                intent=f"The door {other}.",
            ),
            must=("zone=|print=",),
        )
    for scale in ("soft", "high-key", "low-key", "graphic", "full scale"):
        yield Case(
            f"{scale} and nothing else",
            scene(
                tone("a", 10.0, "shadow"),
                tone("b", 13.9, "highlight"),
                kind="slide" if scale == "soft" else "digital raw",
                school=("a", 3.5),
                wanted={"scale": scale},
            ),
            must_not=("develop", "glass=(?!none)"),
        )
    portrait = (tone("face", 11.0, "skin", SKIN), tone("ground", 10.9, "background", GREY))
    yield Case(
        "a face that melts into the ground",
        scene(*portrait, school=("face", 6)),
        warned=("tones-merge",),
        must_not=("glass=blue",),
    )
    yield Case(
        "a face over the ground",
        scene(portrait[0], tone("ground", 8.0, "background", GREY), school=("face", 6)),
        not_warned=("tones-merge",),
        silent=True,
    )
    yield Case(
        "under on purpose",
        scene(
            tone("a", 10.0),
            tone("b", 12.0),
            kind="digital raw",
            placing={"school": "known tone", "tone": "a", "zone": 5, "under_stops": 2.0},
        ),
        setting=12.0,
        warned=("dense-on-purpose",),
    )
    yield Case(
        "a bracket by hand",
        scene(tone("a", 10.0), tone("b", 12.0), school=("a", 5), bracket={"count": 3, "step": 1}),
        setting=10.0,
    )


def _chosen():
    """What somebody placed or said stays: proposals go round it."""
    clouds = (
        tone("cloud", 15.0, "highlight", GREY),
        tone("sky", 13.5, "sky", BLUE),
        tone("land", 12.0, "other", [0.12, 0.14, 0.06]),
    )
    yield Case(
        "clouds stand in the sky that a graduated filter holds back",
        scene(*clouds, school="shadow", intent="White clouds on a deep sky."),
        must=("glass=(orange|red|deep red)",),
        must_not=("graduated",),
    )
    face = (tone("face", 13.0, "skin", SKIN), tone("sky", 14.0, "sky", BLUE), tone("coat", 9.0, "shadow"))
    yield Case(
        "a face that was placed is not moved far for a sky",
        scene(*face, kind="digital file", school=("face", 6), intent="Her face light against a darker sky."),
        must=("glass=red",),
        must_not=("zone=[0-4](\\.|;|$)",),
        grave=True,
    )
    snow = (
        tone("snow", 15.0, "highlight", GREY),
        tone("snow shadow", 13.0, "other", [0.5, 0.6, 0.85]),
        tone("hut", 11.0, "subject", [0.2, 0.12, 0.06]),
    )
    yield Case(
        "a short range is not developed shorter for one tone",
        scene(*snow, school="shadow", intent="The snow's shadow deep."),
        must=("glass=",),
        must_not=("develop=",),
        development="N",
    )
    yield Case(
        "texture everywhere lets nothing go",
        scene(
            tone("wall", 15.5, "highlight"),
            tone("cellar", 5.0, "shadow"),
            kind="slide",
            school="highlight",
            intent="Texture everywhere.",
        ),
        must_not=("let-go", "bracket"),
    )
    yield Case(
        "a tower lit by the sun is not black by underexposure alone",
        scene(
            tone("tower", 14.2, "other", BRICK),
            tone("sky", 14.0, "other", BLUE),
            school=("sky", 7.0),
            intent="The tower black on a bright sky.",
        ),
        must_not=("^zone=[0-4]",),
    )


CASES = tuple(
    case
    for family in (_exposures, _developments, _colours, _ends, _words, _glass, _times, _more, _chosen)
    for case in family()
)


def codes_match(patterns, codes):
    """Those of some patterns that a list of codes holds."""
    return [pattern for pattern in patterns if any(re.search(pattern, code) for code in codes)]
