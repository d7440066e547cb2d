"""The kit: what a person owns, an item to edit with its drawing, import and export."""

from functools import wraps

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from dimgrey.core.document.kit import FIELDS, KINDS, KitError, export_text
from dimgrey.core.errors import CoreError
from dimgrey.kit import actions, queries
from dimgrey.kit.drawings import drawing_of

TITLES = {"camera": "Cameras", "lens": "Lenses", "film": "Films", "filter": "Filters", "meter": "Meters"}


def of_mine(view):
    @wraps(view)
    def found(request, pk):
        item = queries.item_of(request.user, pk)
        if item is None:
            raise Http404("There is no such item in your kit.")
        return view(request, item)

    return found


@require_GET
def index(request):
    return _index(request)


def _index(request, mistakes=(), said="", status=200):
    items = list(queries.items_of(request.user))
    groups = [(kind, TITLES[kind], [item for item in items if item.kind == kind]) for kind in KINDS]
    context = {"groups": groups, "mistakes": mistakes, "said": said, "page": "kit"}
    return render(request, "kit/index.html", context, status=status)


def new(request, kind):
    """A new item of a kind, with its defaults to change."""
    if kind not in FIELDS:
        raise Http404("A kit has cameras, lenses, films, filters and meters.")
    return _edit(request, kind, None)


def edit(request, pk):
    item = queries.item_of(request.user, pk)
    if item is None:
        raise Http404("There is no such item in your kit.")
    return _edit(request, item.kind, item)


def _edit(request, kind, item):
    typed = {field.name: request.POST.get(field.name, "") for field in FIELDS[kind]}
    name, mistakes = request.POST.get("name", item.name if item else ""), ()
    if request.method == "POST":
        try:
            kept = actions.keep_item(request.user, kind, name, typed, item)
            return redirect("kit-item", kept.pk) if item else redirect("kit")
        except KitError as refused:
            mistakes = refused.mistakes
        except CoreError as refused:
            mistakes = [f"name: {refused}"]
    values = item.values if item else {field.name: field.default for field in FIELDS[kind]}
    context = {
        "kind": kind,
        "item": item,
        "name": name,
        "fields": _shown(kind, typed if request.method == "POST" else None, values, mistakes),
        "mistake": next((line.partition(": ")[2] for line in mistakes if line.startswith("name: ")), ""),
        "drawing": drawing_of(kind, values),
        "uses": queries.uses_of(item) if item else 0,
        "page": "kit",
    }
    return render(request, "kit/item.html", context, status=422 if mistakes else 200)


def _shown(kind, typed, values, mistakes):
    """Fields with what stands in them and the sentence under each."""
    refused = dict(line.partition(": ")[::2] for line in mistakes)
    return [
        {
            "spec": field,
            "value": typed[field.name] if typed is not None else written(field, values.get(field.name)),
            "mistake": refused.get(field.name, ""),
        }
        for field in FIELDS[kind]
    ]


def written(field, value):
    """A kept value as people write it."""
    if value in (None, [], ()):
        return ""
    if field.form == "table":
        return ", ".join(":".join(f"{cell:g}" for cell in row) for row in value)
    if field.form == "limits":
        return ", ".join(f"{iso:g}: {head:g}/{foot:g}" for iso, head, foot in value)
    if field.form == "spectrum":
        return "\n".join(f"{nm:g}, {t:g}" for nm, t in value)
    if field.form == "development":
        return ", ".join(_row(row) for row in value)
    return f"{value:g}" if isinstance(value, float) else str(value)


def _row(row):
    step = f"N{row['step']:+d}" if row["step"] else "N"
    stops = f" {row['stops']:+.2f}" if row.get("stops") else ""
    return f"{step} {row.get('minutes', 0):g}{stops}"


@require_POST
@of_mine
def duplicate(request, item):
    return redirect("kit-item", actions.duplicate(item).pk)


@require_POST
@of_mine
def retire(request, item):
    """Retire an item that plans use; delete one that none does; or bring it back."""
    actions.retire(item, request.POST.get("back") != "yes")
    return redirect("kit")


@require_GET
def export(request):
    items = [(item.kind, item.name, item.values, item.retired) for item in queries.items_of(request.user)]
    response = HttpResponse(export_text(items), content_type="application/json")
    response["Content-Disposition"] = 'attachment; filename="kit.json"'
    return response


@require_POST
def bring_in(request):
    file = request.FILES.get("file")
    if file is None or file.size > 8_000_000:
        return _index(
            request,
            ["Choose a kit file first." if file is None else "The file is larger than a kit file can be."],
            status=422,
        )
    try:
        new_items, passed, renamed = actions.import_items(request.user, file.read().decode("utf-8"))
    except UnicodeDecodeError:
        return _index(request, ["The file is not text. A kit file is JSON, saved as UTF-8."], status=422)
    except KitError as refused:
        return _index(request, refused.mistakes, status=422)
    said = f"{new_items} new, {passed} were there already" + (
        f", {renamed} under a taken name came in as copies" if renamed else ""
    )
    return _index(request, said=f"{said}.")
