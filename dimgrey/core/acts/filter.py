"""What is in front of the lens: coloured glass with what its rim says, and each kind of grey glass."""

from dataclasses import make_dataclass

from dimgrey.core.acts.keys import As, Number, OneOf, YesNo, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.colour.filters import COLOURED, GREY
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.means import GlassPart
from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.notation import parse_stops

MOST_DENSITY_STOPS = 20


def _density(glass):
    """The rule of a key in which any density may be typed."""

    def parse(text):
        stops = parse_stops(text, "filter")
        if not 0 <= stops <= MOST_DENSITY_STOPS:
            name = glass.label.partition(",")[0]
            raise OutOfRange(
                f"{name} is 0 to {MOST_DENSITY_STOPS} stops (got {stops:g}). Density 0.3 is 1 stop.", code="density"
            )
        return stops

    return As(parse)


def grey_key(glass):
    """The key of a kind of grey glass: on or off, one of some steps, or any density."""
    if len(glass.steps) == 1:
        return given(YesNo(), False, glass.label)
    if glass.steps:
        steps = {f"{step:g}": f"{step:g} stop{'s' if step > 1 else ''}" for step in glass.steps}
        return given(OneOf(steps, unsaid="none"), None, glass.label)
    return given(_density(glass), None, glass.label, "none")


Keys = make_dataclass(
    "Keys",
    [
        ("filter", str, given(OneOf(tuple(COLOURED), unsaid="none"), None, "Glass")),
        ("factor", float, given(Number(1, 100000), None, "Factor on its rim", "computed")),
        ("edge", float, given(Number(0, 100), None, "Its edge, % from the top", "sky alone")),
        *((name, object, grey_key(glass)) for name, glass in GREY.items()),
    ],
    frozen=True,
    kw_only=True,
)


def _edit(document, said, case):
    found = [GlassPart(said.filter, said.factor)] if said.filter else []
    for name, glass in GREY.items():
        value = getattr(said, name)
        if value:
            stops = round(glass.steps[0], 4) if value is True else float(value)
            edge = None if said.edge is None or not glass.over_sky else round(said.edge / 100, 3)
            turned = next((each.turned_deg for each in document.filters if each.name == name), 0.0)  # it stays
            found.append(GlassPart(name, stops=stops, edge=edge, turned_deg=turned))
    return rescaled(document.with_(filters=tuple(found)), case.facts)


VERB = Verb("filter", "Put filters in front of the lens", _edit, Keys)
