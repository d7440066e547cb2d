"""The edge of finishing: a plan's sliders, its areas, its file, and what is set at the enlarger."""

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.finishing.finishingplan import TONES, finish_file, require_finish
from dimgrey.core.picture.crop import EDGES
from dimgrey.core.planning.zones import format_tone
from dimgrey.core.shapes.plain import whole_part
from dimgrey.web.forms import PlainForm, text_input

LED_ALIKE = 0.02
"""Zones within which a point of the curve belongs to a key tone."""


def slider(low, high, step):
    """A range widget."""
    return forms.NumberInput({"type": "range", "min": low, "max": high, "step": step, "class": ""})


class FinishForm(PlainForm):
    """A finishing plan as the page shows it: ends, one slider for each key tone, areas, edge, crop, grain, tone."""

    black = forms.FloatField(min_value=0, max_value=60, label="Black point, L*", widget=slider(0, 60, 0.5))
    white = forms.FloatField(min_value=40, max_value=100, label="White point, L*", widget=slider(40, 100, 0.5))
    edge_stops = forms.FloatField(min_value=-2, max_value=0, label="Edge burn, stops", widget=slider(-1.5, 0, 0.05))
    edge_width = forms.FloatField(min_value=0.01, max_value=0.5, label="Its width", widget=slider(0.02, 0.4, 0.01))
    grain = forms.FloatField(min_value=0, max_value=1, label="Grain", widget=slider(0, 1, 0.05))
    tone = forms.ChoiceField(choices=[(tone, tone) for tone in TONES], label="Tone of the print")
    left = forms.FloatField(min_value=0, max_value=1, widget=slider(0, 0.6, 0.005), label="Crop left")
    top = forms.FloatField(min_value=0, max_value=1, widget=slider(0, 0.6, 0.005), label="top")
    right = forms.FloatField(min_value=0, max_value=1, widget=slider(0.4, 1, 0.005), label="right")
    bottom = forms.FloatField(min_value=0, max_value=1, widget=slider(0.4, 1, 0.005), label="bottom")

    def __init__(self, data, finish, tones):
        self.finish, self.key_tones = finish, tones
        led = dict(finish.curve)
        initial = {
            **{name: getattr(finish, name) for name in ("black", "white", "edge_stops", "edge_width", "grain", "tone")},
            **dict(zip(EDGES, finish.crop, strict=True)),
        }
        super().__init__(data, initial=initial)
        for k, tone in enumerate(tones):
            known = next((x for x in led if abs(x - tone.actual) < LED_ALIKE), None)
            self._add(
                f"lead-{k}", forms.BooleanField(required=False, initial=known is not None, label=f"lead {tone.name}")
            )
            wish = led.get(known, tone.actual)
            label = f"{tone.name}, came out on {format_tone(tone.actual)}"
            self._add(
                f"wish-{k}",
                forms.FloatField(
                    min_value=0, max_value=10, initial=round(wish, 2), label=label, widget=slider(0, 10, 0.05)
                ),
            )
        for k, area in enumerate(finish.areas, 1):
            self._add(
                f"stops-{k}",
                forms.FloatField(
                    min_value=-2, max_value=2, initial=area.stops, label="Stops", widget=slider(-2, 2, 0.05)
                ),
            )
            self._add(
                f"feather-{k}",
                forms.FloatField(
                    min_value=0, max_value=0.5, initial=area.feather, label="Soft edge", widget=slider(0, 0.3, 0.005)
                ),
            )
            self._add(
                f"why-{k}",
                forms.CharField(required=False, max_length=200, initial=area.why, label="Why", widget=text_input()),
            )

    def _add(self, name, field):
        is_check = isinstance(field.widget, forms.CheckboxInput)
        if is_check:
            field.widget.attrs["aria-label"] = field.label
        field.widget.attrs["class"] = (
            "form-check-input" if is_check else field.widget.attrs.get("class", "form-control")
        )
        self.fields[name] = field

    @property
    def led(self):
        """(tone, its tick, its slider) of each key tone."""
        return [(tone, self[f"lead-{k}"], self[f"wish-{k}"]) for k, tone in enumerate(self.key_tones)]

    @property
    def drawn(self):
        """(number, area, its stops, its edge, its reason) of each area."""
        return [
            (k, area, self[f"stops-{k}"], self[f"feather-{k}"], self[f"why-{k}"])
            for k, area in enumerate(self.finish.areas, 1)
        ]

    def made(self):
        """The Finish that the form says. Raises CoreError."""
        data = self.cleaned_data
        curve = sorted(
            {tone.actual: data[f"wish-{k}"] for k, tone in enumerate(self.key_tones) if data[f"lead-{k}"]}.items()
        )
        areas = [
            {**whole_part(area), "stops": data[f"stops-{k}"], "feather": data[f"feather-{k}"], "why": data[f"why-{k}"]}
            for k, area in enumerate(self.finish.areas, 1)
        ]
        told = {name: data[name] for name in ("black", "white", "edge_stops", "edge_width", "grain", "tone")}
        crop = [data[name] for name in EDGES]
        return require_finish(
            {
                **finish_file(self.finish),
                **told,
                "curve": [list(point) for point in curve],
                "areas": areas,
                "crop": crop,
            }
        )


class AreaForm(PlainForm):
    """A new area: drawn by hand, or of a key tone."""

    name = forms.CharField(required=False, max_length=60)
    outline = forms.CharField(required=False, max_length=6000)
    tone = forms.CharField(required=False, max_length=60)

    def corners(self):
        """Corners as fractions. Raises CoreError."""
        try:
            pairs = [pair.split() for pair in self.typed.outline.split(",")]
            return [[float(x), float(y)] for x, y in pairs]
        except ValueError:
            raise CoreError(
                "Draw the area: touch its corners one after the other.", parameter="outline", code="outline"
            ) from None


class FinishFileForm(PlainForm):
    ids = {"file": "finish-file"}
    file = forms.FileField(label="A finishing plan (JSON)", allow_empty_file=True)


class EnlargerForm(PlainForm):
    """What is set at the enlarger."""

    base = forms.FloatField(min_value=0.5, max_value=600, label="Base time, s", widget=forms.NumberInput({"step": 0.1}))
    first = forms.FloatField(
        min_value=0.5, max_value=600, label="First strip, s", widget=forms.NumberInput({"step": 0.1})
    )
    step = forms.FloatField(min_value=0.05, max_value=2, label="Step, stops", widget=forms.NumberInput({"step": 0.01}))
    count = forms.IntegerField(min_value=3, max_value=12, label="Strips")
    condenser = forms.BooleanField(required=False, label="Condenser head")
