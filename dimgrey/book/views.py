"""The book: reference pages, searchable, made to be printed; and a small live figure that the core computes."""

from django import forms
from django.http import Http404, JsonResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from dimgrey.book import contents
from dimgrey.book.glossary import AS_WRITTEN, written_forms
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.zones import MIDDLE, format_tone
from dimgrey.core.practice.question import grey_hex
from dimgrey.kit.queries import surfaces_of
from dimgrey.web.answers import refused
from dimgrey.web.forms import PlainForm, text_input

TITLES = {
    "glossary": "Words",
    "zones": "Zones and surfaces",
    "schools": "Schools of placing",
    "filters": "Filters",
    "films": "Films and sensors",
    "numbers": "How each number is computed",
}


class SearchForm(PlainForm):
    ids = {"q": "book-words"}
    q = forms.CharField(required=False, max_length=80, label="Find a word", widget=text_input("N-1, twins, snow"))


class PatchForm(PlainForm):
    compensation = forms.FloatField(min_value=-5, max_value=5)


@require_safe
def index(request):
    """The contents, and what a search finds."""
    form = SearchForm(request.GET)
    words = form.typed.q if form.is_valid() else ""
    found = contents.found(words, surfaces_of(request.user.pk)) if words else None
    context = {
        "titles": TITLES.items(),
        "form": SearchForm(initial={"q": words}),
        "words": words,
        "found": found,
        "page": "practice",
    }
    return render(request, "book/index.html", context)


@require_safe
def terms(request):
    """Every term with its forms and its note, for the notes that pages open in place."""
    told = [
        {"name": term, "forms": written_forms(term), "exact": term in AS_WRITTEN, "text": text, "anchor": anchor}
        for term, anchor, text in contents.glossary()
    ]
    answer = JsonResponse(told, safe=False)
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@require_safe
def page(request, name):
    """One page."""
    if name not in TITLES:
        raise Http404("The book has no such page.")
    labels = request.user.tone_labels
    makers = {
        "glossary": lambda: {"terms": contents.glossary()},
        "zones": lambda: {
            "zones": contents.zones(labels),
            "surfaces": contents.surfaces(surfaces_of(request.user.pk), labels),
            "middle": grey_hex(MIDDLE),
        },
        "schools": lambda: {"text": contents.schools()},
        "filters": lambda: {"subjects": list(contents.SUBJECTS), "filters": contents.filters()},
        "films": lambda: {
            "media": contents.media(),
            "subjects": list(contents.SUBJECTS),
            "responses": contents.responses(),
        },
        "numbers": lambda: {
            "numbers": [(what, formula, source, contents.anchor_of(what)) for what, formula, source in contents.NUMBERS]
        },
    }
    context = {"title": TITLES[name], "name": name, "titles": TITLES.items(), "page": "practice", **makers[name]()}
    return render(request, f"book/{name}.html", context)


@require_safe
def patch(request):
    """What a compensation makes of a metered tone: grey and zone, for the live figure."""
    form = PatchForm(request.GET)
    if not form.is_valid():
        return refused(form.sentence())
    stops = form.typed.compensation
    zone = MIDDLE + stops
    return JsonResponse(
        {
            "grey": grey_hex(zone),
            "zone": format_tone(zone, request.user.tone_labels),
            "stops": format_stops(stops, signed=True),
        }
    )
