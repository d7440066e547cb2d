"""The edge of second looks: a batch's title, one file, one decision."""

from django import forms

from dimgrey.judging.secondlook.actions import REASONS
from dimgrey.judging.secondlook.models import OldPicture
from dimgrey.web.forms import PlainForm, choices

NO_SUCH = {"invalid_choice": "There is no such decision or reason."}


class BatchForm(PlainForm):
    title = forms.CharField(max_length=120)


class FileForm(PlainForm):
    file = forms.FileField(allow_empty_file=True, max_length=500)


class DecisionForm(PlainForm):
    """Print, wait or leave, with a reason; an empty decision takes it back."""

    decision = forms.ChoiceField(choices=choices(OldPicture.Decision.values), required=False, error_messages=NO_SUCH)
    reason = forms.ChoiceField(choices=choices(("", *REASONS)), required=False, error_messages=NO_SUCH)
