"""Tones: what was read, where each falls, and an editor for each; tones by name, estimates and changes of the light."""

from dimgrey.core.acts.read import DOUBT
from dimgrey.core.document.edits import suggested_names
from dimgrey.core.document.tonebriefing import glass_in_front
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.planning import explain
from dimgrey.core.planning.planwords import range_line
from dimgrey.core.planning.zones import ZONES
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

USUAL_NAMES = (
    "white wall", "shadow with texture", "skin", "sky", "cloud", "grass", "grey card", "snow",
)  # fmt: skip
TYPED = {"autocomplete": "off"}


def _line(situation):
    return {
        "tones": situation.tone_rows,
        "has_picture": situation.picture is not None,
        "range": range_line(situation.plan),
        "why_range": explain.why_range(situation.plan) if situation.plan else "",
        "usual_names": USUAL_NAMES,
        "guesses": any(row.guess for row in situation.tone_rows),
    }


def _editor(situation, acts, mark):
    """The editor of one tone, or without a mark that of new ones and of the light."""
    if not mark:
        return {"add": acts.of("add-tone"), "estimate": acts.of("estimate")}
    tone = next(row for row in situation.tone_rows if row.mark == mark)
    read, described, shift, wish = (acts.of(verb) for verb in ("read", "tone", "shift", "wish"))
    if not described.is_bound:
        described.initial = _described(tone)
    for form in (read, described, wish):
        _at(form, mark)
    shift.fields["stops"].widget.attrs["id"] = f"light-change-{mark}"
    read.fields["reading"].widget.attrs["id"] = f"read-{mark}"
    has_polarizer = any(glass.name == "polarizer" for glass in situation.document.filters)
    return {
        "glass": "" if situation.brief.medium.mixes_channels else glass_in_front(situation.document),
        "glare": has_polarizer and tone.role != "sky",
        "usual": _usual(tone, situation),
        "offers": suggested_names(situation.document, tone.entry) if "name" in tone.entry.guessed else (),
        "in_sky": tone.role != "sky" and _is_sky(tone, situation),
        "tone": tone,
        "read": read,
        "doubted": read.is_bound and read.has_error("reading", DOUBT),
        "form": described,
        "zones": tuple(enumerate(ZONES)),
        "wish": wish,
        "shift": shift,
    }


def _is_sky(tone, situation):
    return any(each.is_sky for each in situation.brief.tones if each.name == tone.name)


def _described(tone):
    """What stands in the fields of a tone. tone: ToneRow."""
    return {
        "name": tone.name,
        "role": tone.role,
        "texture": "needed" if tone.needs_texture else "free",
        "lit": tone.entry.lit or "",
        "glare": f"{tone.entry.glare_stops:g}" if tone.entry.glare_stops else "",
    }


def _at(form, mark):
    """Give the fields of a form an id of their own for each tone."""
    for name, each in form.fields.items():
        each.widget.attrs["id"] = f"{name}-{mark}"


def _usual(tone, situation):
    """Where a surface of this name usually goes, in words, "" when the name means none or is a guess."""
    surface = None if "name" in tone.entry.guessed else surface_named(tone.name, situation.own_surfaces)
    if surface is None:
        return ""
    zone, compensation = situation.words.surface(surface)
    return (
        f"{surface.name[:1].upper()}{surface.name[1:]} usually goes on {zone}, {compensation} from what the meter says."
    )


PART = Part(
    key="tones",
    title="Tones",
    order=20,
    line=_line,
    editor=_editor,
    opens="Add by name",
    acts={
        "pin": Look(),
        "pin-area": Look(),
        "move-pin": Look(),
        "add-tone": Look(
            attrs={"name": {"id": "add-name", "list": "tone-names"}, "reading": {"id": "add-reading", **TYPED}}
        ),
        "estimate": Look(attrs={"light": {"id": "guide"}}),
        "read": Look(attrs={"reading": TYPED}),
        "wish": Look(attrs={"wish": TYPED}),
        "unread": Look(),
        "tone": Look(attrs={"name": {"list": "tone-names"}}),
        "take-guess": Look(),
        "drop-tone": Look(),
        "shift": Look(attrs={"stops": {"id": "light-change", **TYPED}}),
    },
)
