"""Filter: what is in front of the lens - coloured glass, neutral density, polarizer, graduated - or mixed in the camera."""

from django import forms

from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.filters import COLOURED, GREY
from dimgrey.core.document.means import GlassPart
from dimgrey.core.document.meansline import filter_line
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.planning import explain
from dimgrey.core.sky.framesky import polarizer_turned_deg
from dimgrey.scenes import actions, meansactions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.mixing import mix_curve, takes_own_mix
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices, text_input

MOST_DENSITY_STOPS = 20


def _density(glass):
    """The rule of a field in which any density may be typed."""

    def parse(text):
        stops = parse_stops(text, "filter")
        if not 0 <= stops <= MOST_DENSITY_STOPS:
            name = glass.label.partition(",")[0]
            raise CoreError(f"{name} is 0 to {MOST_DENSITY_STOPS} stops (got {stops:g}). Density 0.3 is 1 stop.")
        return stops

    return parse


def _grey_field(glass):
    """The field of a kind of grey glass: on or off, one of some steps, or any density."""
    if len(glass.steps) == 1:
        return forms.BooleanField(required=False, label=glass.label)
    if glass.steps:
        steps = [(f"{step:g}", f"{step:g} stop{'s' if step > 1 else ''}") for step in glass.steps]
        return forms.ChoiceField(choices=[("", "none"), *steps], required=False, label=glass.label)
    return CoreField(_density(glass), label=glass.label, widget=text_input("none", decimal=True))


class ColouredForm(ActForm):
    """Coloured glass, and what its rim says."""

    filter = forms.ChoiceField(choices=[("", "none"), *choices(COLOURED)], required=False, label="Glass")
    factor = forms.FloatField(
        min_value=1,
        max_value=100000,
        required=False,
        label="Factor on its rim",
        widget=text_input("computed", decimal=True),
    )

    edge = forms.FloatField(
        min_value=0,
        max_value=100,
        required=False,
        label="Its edge, % from the top",
        widget=text_input("sky alone", decimal=True),
    )

    def first(self, situation):
        filters = situation.document.filters
        coloured = next((glass for glass in filters if glass.name in COLOURED), None)
        found = {"filter": coloured.name, "factor": _number(coloured.factor)} if coloured else {}
        edges = [glass.edge * 100 for glass in filters if glass.edge is not None]
        found |= {"edge": _number(edges[0])} if edges else {}
        return found | {glass.name: _number(grey_stops(glass)) for glass in filters if glass.name in GREY}

    @property
    def grey_fields(self):
        return [self[name] for name in GREY]

    def filters(self):
        """GlassPart of each filter that was chosen."""
        data, found = self.cleaned_data, []
        if data["filter"]:
            found.append(GlassPart(data["filter"], data["factor"]))
        for name, glass in GREY.items():
            if data[name]:
                stops = round(glass.steps[0], 4) if data[name] is True else float(data[name])
                edge = None if data["edge"] is None or not glass.over_sky else round(data["edge"] / 100, 3)
                found.append(GlassPart(name, stops=stops, edge=edge, turned_deg=self._turned(name)))
        return tuple(found)

    def _turned(self, name):
        """How far the filter of that name is turned now; it stays."""
        return next((glass.turned_deg for glass in self.document.filters if glass.name == name), 0.0)


class TurnForm(ActForm):
    """How far the polarizer is turned from the deepest sky."""

    turned = forms.FloatField(
        min_value=0,
        max_value=45,
        label="Polarizer turned from the deepest sky, °",
        widget=forms.NumberInput({"type": "range", "step": 5, "class": "", "data-turn": "", "max": 45, "min": 0}),
    )

    ids = {"turned": "polarizer-turn"}

    def first(self, situation):
        return {"turned": f"{polarizer_turned_deg(situation.document) or 0:g}"}


class EdgeForm(ActForm):
    """Where the edge of graduated glass stands, as a fraction from the top."""

    edge = forms.FloatField(min_value=0, max_value=1)


FilterForm = type("FilterForm", (ColouredForm,), {name: _grey_field(glass) for name, glass in GREY.items()})
"""The filters before the lens: coloured glass, and a field for each kind of grey glass that there is."""


def grey_stops(glass):
    """Stops that a GlassPart of grey glass takes, as it says or as its kind does."""
    usual = GREY[glass.name].usual_stops
    return usual if glass.stops is None else glass.stops


class KitFilterForm(ActForm):
    """A filter of the kit by its name."""

    filter = forms.CharField(max_length=60, label="From the kit")

    ids = {"filter": "kit-filter"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        if situation:
            names = choices(situation.kit_names["filter"])
            self.fields["filter"].widget = forms.Select(
                {"class": "form-select", "id": "kit-filter"}, [("", "choose"), *names]
            )


class BendForm(ActForm):
    """One tone pulled lighter or darker by the own mix of a raw file."""

    tone = forms.CharField(max_length=60, label="Pull")
    stops = CoreField(
        lambda text: parse_stops(text, "stops"), required=True, label="lighter by, stops", widget=text_input("-1")
    )
    follow = forms.BooleanField(required=False, label="others follow")

    ids = {"tone": "bend-tone", "stops": "bend-stops", "follow": "bend-follow"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        names = [tone.name for tone in self.document.tones if tone.colour]
        self.fields["tone"].widget = forms.Select({"class": "form-select", "id": "bend-tone"}, choices(names))

    def bend(self):
        data = self.cleaned_data
        return {"name": data["tone"], "stops": data["stops"], "hold": not data["follow"]}


class ColourChoiceForm(ActForm):
    """A filter or in-camera mix, as the table of parting names it."""

    choice = forms.ChoiceField(choices=choices(dict.fromkeys(("none", *COLOURED, *CHANNEL_MIXES))))


def _number(value):
    return "" if value is None else f"{value:g}"


def _line(situation):
    return {
        "words": filter_line(situation.document, situation.plan),
        "why": explain.why_filter(situation.plan) if situation.plan else "",
    }


def _editor(situation, forms, mark):
    return {
        "form": forms["filter"],
        "kit": forms["kit-filter"] if situation.kit_names["filter"] else None,
        "turn": forms["turn"] if polarizer_turned_deg(situation.document) is not None else None,
        "graduated": any(GREY[glass.name].over_sky for glass in situation.document.filters if glass.name in GREY),
        "mix": {"form": forms["bend"], "curve": mix_curve(situation)} if takes_own_mix(situation.document) else None,
    }


PART = Part(
    key="filter",
    title="Filter",
    order=50,
    line=_line,
    editor=_editor,
    opens="Choose",
    acts={
        "filter": Act(
            FilterForm, lambda scene, form, by: actions.set_parts(scene, by, "filter", filters=form.filters())
        ),
        "kit-filter": Act(
            KitFilterForm, lambda scene, form, by: meansactions.use_kit_filter(scene, by, form.cleaned_data["filter"])
        ),
        "turn": Act(
            TurnForm,
            lambda scene, form, by: meansactions.set_glass(
                scene, by, "turn the polarizer", "polarizer", turned_deg=form.cleaned_data["turned"]
            ),
        ),
        "edge": Act(
            EdgeForm,
            lambda scene, form, by: meansactions.set_glass(
                scene, by, "graduated edge", "graduated", edge=round(form.cleaned_data["edge"], 3)
            ),
        ),
        "bend": Act(BendForm, lambda scene, form, by: meansactions.bend_mix(scene, by, **form.bend())),
        "level": Act(ActForm, lambda scene, form, by: meansactions.level_mix(scene, by)),
        "colour-choice": Act(
            ColourChoiceForm,
            lambda scene, form, by: meansactions.use_colour_choice(scene, by, form.cleaned_data["choice"]),
        ),
    },
)
