"""The edge of the kit: a form for each kind, made from its table of fields."""

from django import forms

from dimgrey.core.document.kit import FIELDS, ROWS, KitError, check
from dimgrey.core.document.kitnotation import written
from dimgrey.web.forms import PlainForm, TypedForm, choices, text_input

MOST_LINE, MOST_TEXT = 400, 8000
AREAS = ("spectrum", "controls")
"""Forms of fields that are written on several lines."""


class ItemForm(PlainForm):
    """An item of a kind. row: the Item to start from, or None for the defaults."""

    name = forms.CharField(max_length=60, label="Name", required=False)

    def __init__(self, kind, data=None, row=None):
        self.kind = kind
        first = {
            field.name: written(field.form, getattr(row.item, field.name) if row else field.default)
            for field in FIELDS[kind]
        }
        super().__init__(data, initial={"name": row.name if row else "", **first})
        self.fields.update({field.name: _form_field(field) for field in FIELDS[kind]})
        for each in self.fields.values():
            each.widget.attrs.setdefault("class", "form-select" if hasattr(each.widget, "choices") else "form-control")

    def clean(self):
        data = super().clean()
        try:
            self.values = check(self.kind, {field.name: data.get(field.name, "") for field in FIELDS[self.kind]})
        except KitError as refused:
            for line in refused.mistakes:
                name, _, sentence = line.partition(": ")
                self.add_error(name if name in self.fields else None, sentence)
        return data


def _form_field(field):
    """The form's field for a field of the kit; its own rule is checked by the core."""
    label = f"{field.label}, {field.unit}" if field.unit else field.label
    if field.choices:
        made = forms.CharField(required=False, label=label, widget=forms.Select(choices=choices(field.choices)))
    elif field.form in AREAS:
        widget = forms.Textarea({"rows": 4, "placeholder": field.hint})
        made = forms.CharField(required=False, label=label, max_length=MOST_TEXT, widget=widget)
    else:
        made = forms.CharField(required=False, label=label, max_length=MOST_LINE, widget=text_input(field.hint))
    made.is_long = field.form in (*ROWS, *AREAS)
    return made


class RetireForm(TypedForm):
    """Out of use, or back into it."""

    back = forms.BooleanField(required=False)


class KitFileForm(TypedForm):
    file = forms.FileField(allow_empty_file=True, error_messages={"required": "Choose a kit file first."})
