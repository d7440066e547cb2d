"""The edge of pictures: how large a view is asked for."""

from django import forms


class GreyForm(forms.Form):
    """small: half the size, for lists."""

    small = forms.BooleanField(required=False)

    def is_small(self):
        return self.is_valid() and self.cleaned_data["small"]
