"""Second look: batches, the contact sheet, one file or one decision at a time."""

from django import forms
from django.http import FileResponse, Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from dimgrey.core.errors import CoreError
from dimgrey.secondlook import actions, queries


class BatchForm(forms.Form):
    title = forms.CharField(max_length=120)


class FileForm(forms.Form):
    file = forms.FileField(allow_empty_file=True, max_length=500)


def _batch(request, pk):
    batch = queries.batch_of(request.user, pk)
    if batch is None:
        raise Http404("There is no such batch among yours.")
    return batch


@require_GET
def index(request):
    return render(request, "secondlook/index.html", {"batches": queries.batches_of(request.user), "page": "secondlook"})


@require_POST
def new(request):
    form = BatchForm(request.POST)
    if not form.is_valid():
        return redirect("second-look")
    return redirect("batch", actions.create_batch(request.user, form.cleaned_data["title"]).pk)


@require_GET
def show(request, pk):
    """The contact sheet of a batch with what its kept pictures have in common."""
    batch = _batch(request, pk)
    pictures = list(batch.pictures.all())
    read = [picture for picture in pictures if not picture.problem]
    context = {
        "batch": batch,
        "pictures": read,
        "broken": [picture for picture in pictures if picture.problem],
        "common": queries.in_common(read),
        "reasons": actions.REASONS,
        "room": actions.MOST_PICTURES - len(pictures),
        "page": "secondlook",
    }
    return render(request, "secondlook/batch.html", context)


@require_POST
def add(request, pk):
    """One file of a batch. Answers what became of it, so that the sender can count and go on."""
    batch = _batch(request, pk)
    form = FileForm(request.POST, request.FILES)
    if not form.is_valid():
        return JsonResponse({"state": "refused", "problem": "No file came along."}, status=422)
    file = form.cleaned_data["file"]
    try:
        picture, is_new = actions.add_picture(batch, file.read(), file.name)
    except CoreError as refused:
        return JsonResponse({"state": "refused", "problem": str(refused)}, status=422)
    state = "broken" if picture.problem else "new" if is_new else "known"
    answer = {"state": state, "name": picture.name, "problem": picture.problem}
    if state == "new":
        answer["html"] = render(request, "secondlook/_picture.html", {"picture": picture}).content.decode()
    return JsonResponse(answer)


@require_POST
def decide(request, pk):
    try:
        picture = actions.decide(request.user, pk, request.POST.get("decision", ""), request.POST.get("reason", ""))
    except CoreError as refused:
        return HttpResponse(str(refused), status=422, content_type="text/plain; charset=utf-8")
    if picture is None:
        raise Http404("There is no such picture among yours.")
    read = [each for each in picture.batch.pictures.all() if not each.problem]
    return render(request, "secondlook/_common.html", {"common": queries.in_common(read), "pictures": read})


@require_GET
def view(request, pk, name):
    picture = queries.picture_of(request.user, pk)
    if picture is None or name not in ("grey", "colour"):
        raise Http404("There is no such picture.")
    try:
        response = FileResponse(actions.bytes_of(picture, name), content_type="image/jpeg")
    except OSError:
        return HttpResponse("The picture's file is missing. Add it again.", status=410, content_type="text/plain")
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@require_POST
def remove(request, pk):
    actions.remove_batch(_batch(request, pk))
    return redirect("second-look")
