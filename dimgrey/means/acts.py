"""Acts of the bench and of compared setups, among the other acts of a scene."""

from django import forms

from dimgrey.core.document.edits import Refused
from dimgrey.kit.queries import setup_of
from dimgrey.kit.setups import scene_part
from dimgrey.means.bench import advice_for
from dimgrey.means.views import bench_page, compare_page
from dimgrey.scenes import meansactions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.pages import add_page
from dimgrey.scenes.sheet.registry import add_act
from dimgrey.scenes.situation import Situation


class AdviceForm(ActForm):
    """A proposal by its code, as the bench shows it."""

    code = forms.CharField(max_length=40)


class SetupForm(ActForm):
    """A setup of the kit by its number, and why this one."""

    setup = forms.IntegerField(min_value=1)
    reason = forms.CharField(max_length=200, required=False)


def _take_advice(scene, form, by):
    code = form.cleaned_data["code"]
    proposal = next((each for each in advice_for(Situation(scene)) if each.code == code), None)
    if proposal is None:
        raise Refused("That advice no longer fits this plan.", code="no-advice")
    return meansactions.take_advice(scene, by, proposal)


def _use_setup(scene, form, by):
    row = setup_of(scene.owner, form.cleaned_data["setup"])
    if row is None:
        raise Refused("There is no such setup among yours.", code="setup-gone")
    return meansactions.use_setup(scene, by, scene_part(row), form.cleaned_data["reason"])


add_act("advice", Act(AdviceForm, _take_advice))
add_act("setup", Act(SetupForm, _use_setup))
add_page("bench", "bench", bench_page)
add_page("compare", "compare", compare_page)
