from django import forms

from dimgrey.people.models import Person


class LookForm(forms.ModelForm):
    """Any of the three choices; those not sent stay as they are. back: the page to go back to."""

    back = forms.CharField(max_length=2000, required=False)

    class Meta:
        model = Person
        fields = ["surround", "mode", "tone_labels"]

    def __init__(self, data, instance):
        super().__init__(data, instance=instance)
        for name in list(self.fields):
            if name not in data and name != "back":
                del self.fields[name]


class PairForm(forms.Form):
    """The code that a phone was shown, and what it shall be called."""

    code = forms.CharField(
        max_length=20,
        widget=forms.TextInput({"class": "form-control", "autocapitalize": "characters", "autocomplete": "off"}),
    )
    name = forms.CharField(
        max_length=60, required=False, widget=forms.TextInput({"class": "form-control", "placeholder": "My phone"})
    )
