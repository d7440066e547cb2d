"""The edge of practice: answers as the page sends them."""

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.practice.answer import GivenAnswer
from dimgrey.core.shapes.plain import checked_part
from dimgrey.web.forms import JsonField, PlainForm

MOST_ANSWERS = 400


class AnswersForm(PlainForm):
    """Any number of answers, each with its id and its time."""

    answers = JsonField()

    def clean_answers(self):
        rows = self.typed.answers
        if not isinstance(rows, list) or not 0 < len(rows) <= MOST_ANSWERS:
            raise forms.ValidationError(f"Send 1 to {MOST_ANSWERS} answers.", code="answers")
        try:
            return [checked_part(GivenAnswer, row) for row in rows]
        except CoreError:
            raise forms.ValidationError("One of the answers is not what a round gives.", code="answer") from None


class GiveForm(PlainForm):
    """What is given for a task, and the old scene that it is held against where the task asks for one."""

    result = forms.IntegerField(min_value=1, error_messages={"required": "Choose a picture that came of it."})
    scene = forms.IntegerField(required=False, min_value=1)


class SceneForm(PlainForm):
    """Which scene is shown."""

    scene = forms.IntegerField(required=False, min_value=1)


class StepsForm(PlainForm):
    """Whether first steps are shown again, and on which scene. known: scenes of the person."""

    act = forms.ChoiceField(choices=[("back", "back"), ("leave", "leave")])
    scene = forms.IntegerField(required=False, min_value=1)

    def __init__(self, data, known):
        super().__init__(data)
        self.known = known

    def scene_asked(self):
        """The scene, None for none of theirs."""
        return self.known.filter(pk=self.typed.scene).first() if self.typed.scene else None
