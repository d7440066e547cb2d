"""Forms of every page: fields whose rule is a core function, and the look of their widgets."""

from types import SimpleNamespace

from django import forms

from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import CoreError


def choices(values):
    return [(value, value) for value in values]


def sent(request):
    """(data, files) of a page that is both shown and sent: (None, None) while it is only shown."""
    return (request.POST, request.FILES) if request.method == "POST" else (None, None)


class CoreField(forms.CharField):
    """A text field whose rule is a core function; the core's sentence is the field's error."""

    def __init__(self, parse, **kwargs):
        self.parse = parse
        super().__init__(**{"required": False, "max_length": 60, **kwargs})

    def clean(self, value):
        text = super().clean(value)
        if text in ("", None):
            return None
        try:
            return self.parse(text)
        except CoreError as refused:
            raise forms.ValidationError(str(refused), code=refused.code) from None


class JsonField(forms.CharField):
    """Text that is JSON, read by the core's rule; its sentence is the field's error."""

    def __init__(self, **kwargs):
        super().__init__(**{"strip": False, **kwargs})

    def clean(self, value):
        text = super().clean(value)
        if not text:
            return None
        try:
            return loads(text)
        except CoreError as refused:
            raise forms.ValidationError(str(refused), code=refused.code) from None


class Typed:
    """What forms have that give what was understood by its names."""

    @property
    def typed(self):
        """What was understood of what was typed, by the names of the fields."""
        return SimpleNamespace(**self.cleaned_data)


class TypedForm(Typed, forms.Form):
    """A form that is read and not drawn."""


class PlainForm(TypedForm):
    """A form whose inputs have the id that `ids` says, else their own name, and the classes of the shared look."""

    # The server says what is missing, in a sentence; the browser would stop the act before it is sent.
    use_required_attribute = False
    ids = {}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, auto_id="%s", **kwargs)
        for name, each in self.fields.items():
            widget = each.widget
            if isinstance(widget, forms.CheckboxInput | forms.CheckboxSelectMultiple):
                widget.attrs.setdefault("class", "form-check-input")
            elif isinstance(widget, forms.Select):
                widget.attrs.setdefault("class", "form-select")
            elif not isinstance(widget, forms.HiddenInput):
                widget.attrs.setdefault("class", "form-control")
            if name in self.ids:
                widget.attrs["id"] = self.ids[name]

    def sentence(self):
        """The first error in words, for a line of its own; "" for a form without one."""
        for name, errors in self.errors.items():
            text = errors[0]
            plain = text.startswith(("This field", "Enter a", "Select a", "Ensure"))
            return f"{name.replace('_', ' ').capitalize()}: {text}" if plain else text
        return ""


def text_input(placeholder="", decimal=False, **attrs):
    """A text widget. decimal: the phone shows its number keyboard."""
    keyboard = {"inputmode": "decimal"} if decimal else {}
    return forms.TextInput(attrs={"placeholder": placeholder, **keyboard, **attrs})
