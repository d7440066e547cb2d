from django import forms

from dimgrey.people.models import Person


class LookForm(forms.ModelForm):
    """Any of the three choices; those not sent stay as they are."""

    class Meta:
        model = Person
        fields = ["surround", "mode", "tone_labels"]

    def __init__(self, data, instance):
        super().__init__(data, instance=instance)
        for name in list(self.fields):
            if name not in data:
                del self.fields[name]
