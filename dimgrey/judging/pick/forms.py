"""The edge of the pick: frames to choose among, the subject, what is kept and why."""

from django import forms

from dimgrey.web.forms import PlainForm, text_input


class ChooseForm(PlainForm):
    """Results to pick among."""

    results = forms.TypedMultipleChoiceField(coerce=int, error_messages={"required": "Choose at least two frames."})

    def __init__(self, data, known):
        super().__init__(data)
        self.fields["results"].choices = [(pk, pk) for pk in known]


class SubjectForm(PlainForm):
    """Where the subject is, in percent."""

    x = forms.FloatField(min_value=0, max_value=100)
    y = forms.FloatField(min_value=0, max_value=100)


class DecideForm(PlainForm):
    """Which frames of a pick are kept, and why."""

    ids = {"reason": "pick-reason"}
    kept = forms.TypedMultipleChoiceField(coerce=int, error_messages={"required": "Keep one frame, or two."})
    reason = forms.CharField(
        max_length=300, required=False, label="Because", widget=text_input("the glance, the gesture, sharper")
    )

    def __init__(self, data, known):
        super().__init__(data)
        self.fields["kept"].choices = [(pk, pk) for pk in known]


class WordsForm(PlainForm):
    ids = {"words": "pick-words"}
    words = forms.CharField(max_length=80, required=False, label="Words of a reason or title", widget=text_input())
