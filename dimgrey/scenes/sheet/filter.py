"""Filter: what is in front of the lens - coloured glass, neutral density, polarizer, graduated - or mixed in the camera."""

from django import forms

from dimgrey.core.colour.filters import COLOURED, GREY
from dimgrey.core.document.meansline import filter_line, glass_names, mix_words
from dimgrey.core.planning import explain
from dimgrey.core.sky.framesky import polarizer_turned_deg
from dimgrey.scenes.acts import Look
from dimgrey.scenes.mixing import mix_curve, takes_own_mix
from dimgrey.scenes.sheet.part import Part


def _holds(situation):
    return " + ".join([*glass_names(situation.document), *filter(None, [mix_words(situation.document)])])


def _first(situation):
    filters = situation.document.filters
    coloured = next((glass for glass in filters if glass.name in COLOURED), None)
    found = {"filter": coloured.name, "factor": _number(coloured.factor)} if coloured else {}
    edges = [glass.edge * 100 for glass in filters if glass.edge is not None]
    found |= {"edge": _number(edges[0])} if edges else {}
    return found | {glass.name: _number(grey_stops(glass)) for glass in filters if glass.name in GREY}


def grey_stops(glass):
    """Stops that a GlassPart of grey glass takes, as it says or as its kind does."""
    usual = GREY[glass.name].usual_stops
    return usual if glass.stops is None else glass.stops


def _number(value):
    return "" if value is None else f"{value:g}"


def _line(situation):
    return {
        "words": filter_line(situation.document, situation.plan),
        "why": explain.why_filter(situation.plan) if situation.plan else "",
    }


def _turn(form):
    """The form of the polarizer as a slide under the hand."""
    slide = {"type": "range", "step": 5, "class": "", "data-turn": "", "max": 45, "min": 0, "id": "polarizer-turn"}
    form.fields["turned"].widget = forms.NumberInput(slide)
    return form


def _editor(situation, acts, mark):
    form = acts.of("filter")
    return {
        "form": form,
        "grey": [form[name] for name in GREY],
        "kit": acts.of("kit-filter") if situation.has_kit("filter") else None,
        "turn": _turn(acts.of("turn")) if polarizer_turned_deg(situation.document) is not None else None,
        "graduated": any(GREY[glass.name].over_sky for glass in situation.document.filters if glass.name in GREY),
        "mix": {"form": acts.of("bend"), "curve": mix_curve(situation)} if takes_own_mix(situation.document) else None,
    }


PART = Part(
    key="filter",
    title="Glass",
    order=60,
    at_rest=True,
    holds=_holds,
    line=_line,
    editor=_editor,
    opens="Choose",
    acts={
        "filter": Look(_first),
        "kit-filter": Look(attrs={"filter": {"id": "kit-filter"}}),
        "turn": Look(lambda situation: {"turned": f"{polarizer_turned_deg(situation.document) or 0:g}"}),
        "edge": Look(),
        "bend": Look(
            attrs={"tone": {"id": "bend-tone"}, "stops": {"id": "bend-stops"}, "follow": {"id": "bend-follow"}}
        ),
        "level": Look(),
        "colour-choice": Look(),
    },
)
