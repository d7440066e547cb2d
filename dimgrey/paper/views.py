"""The field card: as a page to look at and print, and as PDF."""

from django import forms
from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils.text import slugify
from django.views.decorators.http import require_safe

from dimgrey.outings.queries import outing_of
from dimgrey.paper.page import card_of
from dimgrey.paper.pdf import SIZES, card_pdf, cards_pdf
from dimgrey.people.owned import of_mine
from dimgrey.scenes.queries import scene_of, scenes_of
from dimgrey.scenes.situation import Situation
from dimgrey.web.forms import TypedForm, choices


class SizeForm(TypedForm):
    size = forms.ChoiceField(choices=choices(SIZES), required=False)


def _size(request):
    form = SizeForm(request.GET)
    if not form.is_valid():
        raise Http404("A card is printed on a5 or a6.")
    return form.typed.size or "a6"


@require_safe
@of_mine(scene_of, "scene")
def page(request, scene):
    """The card as a page."""
    card = card_of(Situation(scene, request.user.tone_labels))
    return render(request, "paper/card.html", {"card": card, "scene": scene, "size": _size(request), "sizes": SIZES})


@require_safe
@of_mine(scene_of, "scene")
def pdf(request, scene):
    """The card as a one-page PDF."""
    size = _size(request)
    data = card_pdf(card_of(Situation(scene, request.user.tone_labels)), size)
    response = HttpResponse(data, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{slugify(scene.title) or "card"}-{size}.pdf"'
    return response


@require_safe
@of_mine(outing_of, "outing")
def of_outing(request, outing):
    """The cards of an outing's scenes in their order, a page each."""
    scenes = [scene for scene in scenes_of(request.user).filter(outing=outing) if scene.is_sound]
    if not scenes:
        raise Http404("This outing has no scene yet.")
    size = _size(request)
    cards = [card_of(Situation(scene, request.user.tone_labels)) for scene in scenes]
    response = HttpResponse(cards_pdf(cards, size, outing.title), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{slugify(outing.title) or "outing"}-cards-{size}.pdf"'
    return response
