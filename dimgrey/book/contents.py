"""The pages of the book: each an address, a title and what stands on it, made from the core and from docs/schools.md."""

import re
from dataclasses import dataclass
from functools import lru_cache

import markdown
from django.utils.safestring import mark_safe

from dimgrey.book.glossary import TERMS
from dimgrey.core.colour.chain import glass_chain, tone_shift_stops
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.luminance import linear_of_hex
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.measure.surfaces import SURFACES
from dimgrey.core.planning.media import DEPENDABLE, KINDS, OUTER, Medium
from dimgrey.core.planning.zones import MIDDLE, ZONES, format_tone
from dimgrey.core.practice.question import grey_hex
from dimgrey.site.config import ROOT

SUBJECTS = {
    "deep sky": ("#7fa6d6", True), "leaves": ("#3f5b2e", False), "pale skin": ("#d8ab8c", False), "brick": ("#9c5844", False),
    "lime wall": ("#e6e0d2", False), "red paint": ("#c02a24", False),
}  # fmt: skip
"""What filters are shown to do: colour and whether it is sky."""
NUMBERS = (
    ("Exposure value", "EV = log2(N² / t) − log2(S / 100)", "ISO 2720"),
    ("Luminance", "L = K / 100 · 2^EV cd/m², K = 12.5", "ISO 2720"),
    ("Illuminance", "E = C / 100 · 2^EV lux, C = 250 flat, 330 dome", "ISO 2720"),
    ("Placing", "EV(setting) = EV(tone) + 5 − zone", "common practice"),
    ("Fall", "zone = 5 + EV(tone) − EV(setting)", "common practice"),
    ("Range", "EV(brightest) − EV(darkest) of the tones that need texture", "common practice"),
    (
        "Development",
        "N = wanted spread − measured spread; above III a fall of z prints at 3 + (z − 3) · 4 / (4 − N), so a limit on film lies at 3 + (z − 3) · (4 − N) / 4",
        "common practice",
    ),
    (
        "Tone shift of a colour",
        "log2 of what the medium sees less log2 of what the meter saw, over spectra",
        "Mallett & Yuksel 2019; CIE 1931",
    ),
    ("Filter factor", "∫ I S dλ / ∫ I F S dλ", "definition"),
    ("Print", "5 + C⁻¹(L*), C a monotone cubic from stops to L*", "Fritsch & Carlson 1980"),
    ("Depth of field", "H = f² / (N c) + f; near s (H − f) / (H + s − 2f)", "common practice"),
    ("Diffraction", "Airy diameter 1.342 µm · N", "optics"),
    ("Long exposure", "t' = t0 (t / t0)^p, or the film's table", "makers' data"),
    ("Clear sky", "CIE sky type 12; overcast type 1", "CIE S 011"),
    ("Skylight polarization", "P = Pmax sin²γ / (1 + cos²γ)", "Rayleigh"),
    ("A miss", "fall = planned + a + b (planned − V), robust", "Rousseeuw & Leroy 1987"),
    ("Learning", "mean with Student's 95 % interval, from six frames", "Student 1908"),
    ("Enlarger", "t = t0 · 2^stops; strips in equal stops", "definition"),
    ("When a card comes back", "FSRS, nine in ten remembered", "Ye 2022"),
)
"""How each number is computed: what, formula, source."""
FIRST_LETTERS = re.compile(r"[^a-z0-9]+")


@dataclass(frozen=True)
class Entry:
    """Something that the search finds. page: where it stands. anchor: its id there."""

    title: str
    text: str
    page: str
    anchor: str


def anchor_of(title):
    """Id of a term on its page."""
    return FIRST_LETTERS.sub("-", title.lower()).strip("-")


def glossary():
    """(term, anchor, text) of each word, in order."""
    return [(term, anchor_of(term), text) for term, text in sorted(TERMS.items(), key=lambda item: item[0].lower())]


def zones(labels):
    """Each zone: numeral, grey, what is there."""
    return [(format_tone(k, labels), grey_hex(k), zone.holds) for k, zone in enumerate(ZONES)]


def surfaces(own, labels):
    """(name, zone, compensation, is one's own) of each surface, the darkest first. own: Surface of each that a person added."""
    rows = [(surface, True) for surface in own] + [(surface, False) for surface in SURFACES]
    rows.sort(key=lambda row: row[0].zone)
    return [
        (surface.name, format_tone(surface.zone, labels), format_stops(surface.zone - MIDDLE, signed=True), is_own)
        for surface, is_own in rows
    ]


@lru_cache(maxsize=1)
def filters():
    """(filter, factor by day, by lamp, shift of each of SUBJECTS in stops) on common film."""
    film, rows = Medium(), []
    for name in COLOURED:
        chain = glass_chain("general panchromatic", "D55", (name,))
        shifts = [
            format_stops(tone_shift_stops(chain, linear_of_hex(colour), sky=is_sky), signed=True)
            for colour, is_sky in SUBJECTS.values()
        ]
        rows.append(
            (name, f"{film.glass_factor('D55', (name,)):.1f}", f"{film.glass_factor('A', (name,)):.1f}", shifts)
        )
    return tuple(rows)


def media():
    """(medium, dependable, outer) of each kind, as zones in words."""
    span = lambda limits: f"{format_tone(limits[0])} to {format_tone(limits[1])}"
    return [(kind, span(DEPENDABLE[kind]), span(OUTER[kind])) for kind in KINDS]


@lru_cache(maxsize=1)
def responses():
    """(response class, shift of each of SUBJECTS without a filter, in stops)."""
    rows = []
    for name in RESPONSES:
        if name != "eye":
            chain = glass_chain(name, "D55")
            shifts = [
                format_stops(tone_shift_stops(chain, linear_of_hex(colour), sky=is_sky), signed=True)
                for colour, is_sky in SUBJECTS.values()
            ]
            rows.append((name, shifts))
    return tuple(rows)


@lru_cache(maxsize=1)
def schools():
    """The page on schools, from docs/schools.md, which a test runs."""
    text = (ROOT / "docs" / "schools.md").read_text(encoding="utf-8").partition("\n")[2]
    return mark_safe(markdown.markdown(text, extensions=["tables", "fenced_code"]))  # noqa: S308 - our own file


def entries(own=()):
    """Entry of everything that the search looks through. own: Surface of each that a person added."""
    made = [Entry(term, text, "glossary", anchor) for term, anchor, text in glossary()]
    made += [
        Entry(name, f"zone {zone}, compensation {stops}", "zones", "surfaces")
        for name, zone, stops, _ in surfaces(own, "zones")
    ]
    made += [
        Entry(f"{name} filter", f"factor {day} by day, {lamp} by lamp light", "filters", anchor_of(name))
        for name, day, lamp, _ in filters()
    ]
    made += [Entry(what, f"{formula} ({source})", "numbers", anchor_of(what)) for what, formula, source in NUMBERS]
    made += [Entry(kind, f"dependable {inner}, outer {outer}", "films", "media") for kind, inner, outer in media()]
    return made


def found(words, own=()):
    """Entries that hold all words, those first that hold them in their title. words: as typed."""
    wanted = words.lower().split()
    held = [entry for entry in entries(own) if all(word in f"{entry.title} {entry.text}".lower() for word in wanted)]
    return sorted(
        held, key=lambda entry: (not all(word in entry.title.lower() for word in wanted), entry.title.lower())
    )
