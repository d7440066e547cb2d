"""The kit: what a person owns, an item to edit with its drawing, import and export."""

from django.http import Http404
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.document.kit import FIELDS, KINDS, KitError, item_of
from dimgrey.core.document.kitfile import MAX_BYTES, text_of
from dimgrey.core.errors import CoreError
from dimgrey.kit import actions, queries
from dimgrey.kit.calibration_views import can_be_measured
from dimgrey.kit.drawings import drawing_of
from dimgrey.kit.facts import facts_of
from dimgrey.kit.forms import ItemForm, KitFileForm, RetireForm
from dimgrey.people import owned
from dimgrey.web.answers import attached
from dimgrey.web.forms import sent

of_mine = owned.of_mine(queries.item_of, "item")


def _title(kind):
    """What items of a kind are called together."""
    return f"{kind}{'es' if kind.endswith('s') else 's'}".capitalize()


@require_safe
def index(request):
    return _index(request)


def _index(request, mistakes=(), said="", status=200):
    cards = {kind: [] for kind in KINDS}
    for row in queries.items_of(request.user):
        cards[row.kind].append({"row": row, "facts": facts_of(row.item), "drawing": drawing_of(row.item)})
    groups = [(kind, _title(kind), shown) for kind, shown in cards.items()]
    context = {"groups": groups, "mistakes": mistakes, "said": said, "page": "kit"}
    return render(request, "kit/index.html", context, status=status)


def new(request, kind):
    """A new item of a kind, with its defaults to change."""
    if kind not in FIELDS:
        raise Http404("A kit has cameras, lenses, films, filters and meters.")
    return _edit(request, kind, None)


@of_mine
def edit(request, row):
    return _edit(request, row.kind, row)


def _edit(request, kind, row):
    form = ItemForm(kind, sent(request)[0], row)
    if request.method == "POST" and form.is_valid():
        try:
            kept = actions.keep_item(request.user, kind, form.typed.name, form.values, row)
            return redirect("kit-item", kept.pk) if row else redirect("kit")
        except CoreError as refused:
            form.add_error("name", str(refused))
    context = {
        "kind": kind,
        "item": row,
        "name": form["name"].value(),
        "form": form,
        "drawing": drawing_of(row.item if row else item_of(kind, "", {})),
        "uses": queries.uses_of(row) if row else 0,
        "can_be_measured": bool(row) and can_be_measured(row),
        "page": "kit",
    }
    return render(request, "kit/item.html", context, status=422 if form.errors else 200)


@require_POST
@of_mine
def duplicate(request, row):
    return redirect("kit-item", actions.duplicate(row).pk)


@require_POST
@of_mine
def retire(request, row):
    """Retire an item that plans use; remove one that none does; or bring it back."""
    form = RetireForm(request.POST)
    removed = actions.retire(row, not (form.is_valid() and form.typed.back))
    return redirect(f"{reverse('kit')}?{removed}")


@require_safe
def export(request):
    items = [(row.kind, row.name, row.values, row.retired) for row in queries.items_of(request.user)]
    return attached(text_of(items), "application/json", "kit", ".json")


@require_POST
def import_kit(request):
    form = KitFileForm(request.POST, request.FILES)
    if not form.is_valid():
        return _index(request, form.errors["file"], status=422)
    try:
        text = form.typed.file.read(2 * MAX_BYTES).decode("utf-8")
        new_items, passed, renamed = actions.import_items(request.user, text)
    except UnicodeDecodeError:
        return _index(request, ["The file is not text. A kit file is JSON, saved as UTF-8."], status=422)
    except KitError as refused:
        return _index(request, refused.mistakes, status=422)
    copies = f", {renamed} under a taken name came in as copies" if renamed else ""
    return _index(request, said=f"{new_items} new, {passed} were there already{copies}.")
