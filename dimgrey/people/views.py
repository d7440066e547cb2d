from django.http import HttpResponseBadRequest
from django.shortcuts import redirect
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from dimgrey.people.actions import set_look
from dimgrey.people.forms import LookForm


@require_POST
def look(request):
    """Change how pictures are looked at, and go back to where one was."""
    form = LookForm(request.POST, request.user)
    if not form.is_valid():
        return HttpResponseBadRequest("Choose a surround, a mode or the tone labels from the list.")
    chosen = dict(form.cleaned_data)
    back = chosen.pop("back")
    set_look(request.user, **chosen)
    return redirect(back if url_has_allowed_host_and_scheme(back, allowed_hosts=None) else "home")
