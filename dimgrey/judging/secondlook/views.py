"""Second look: batches, the proof board, one file or one decision at a time."""

from django.http import Http404, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.judging.secondlook import actions, queries
from dimgrey.judging.secondlook.forms import BatchForm, DecisionForm, FileForm
from dimgrey.judging.secondlook.in_common import in_common
from dimgrey.people import owned, removal
from dimgrey.pictures.arrivals import arriving
from dimgrey.pictures.upload import source_of
from dimgrey.web.answers import refused

of_mine = owned.of_mine(queries.batch_of, "batch")


@require_safe
def index(request):
    return render(request, "secondlook/index.html", {"batches": queries.batches_of(request.user), "page": "secondlook"})


@require_POST
def new(request):
    form = BatchForm(request.POST)
    if not form.is_valid():
        return redirect("second-look")
    return redirect("batch", actions.create_batch(request.user, form.typed.title).pk)


@require_safe
@of_mine
def show(request, batch):
    """The proof board of a batch with what its prints have in common."""
    pictures = list(queries.pictures_of(batch))
    read = [picture for picture in pictures if not picture.problem]
    context = {
        "batch": batch,
        "pictures": read,
        "broken": [picture for picture in pictures if picture.problem],
        "common": in_common(read),
        "reasons": actions.REASONS,
        "room": actions.MOST_PICTURES - len(pictures),
        "arriving": arriving(request.user, actions.PURPOSE, batch.pk),
        "page": "secondlook",
    }
    return render(request, "secondlook/batch.html", context)


@require_POST
@of_mine
def add(request, batch):
    """One file of a batch. Answers what became of it, so that the sender can count and go on."""
    form = FileForm(request.POST, request.FILES)
    if not form.is_valid():
        return JsonResponse({"state": "refused", "problem": "No file came along."}, status=422)
    file = form.typed.file
    try:
        state, picture = actions.add_file(batch, source_of(file), file.name)
    except CoreError as wrong:
        return JsonResponse({"state": "refused", "problem": str(wrong)}, status=422)
    answer = {"state": state, "name": file.name, "problem": picture.problem if picture else ""}
    if state == "new":
        answer["html"] = render(request, "secondlook/_picture.html", {"picture": picture}).content.decode()
    return JsonResponse(answer)


@require_POST
def decide(request, pk):
    form = DecisionForm(request.POST)
    if not form.is_valid():
        return refused(form.sentence())
    picture = actions.decide(request.user, pk, **form.cleaned_data)
    if picture is None:
        raise Http404("There is no such picture among yours.")
    read = [each for each in picture.batch.pictures.all() if not each.problem]
    return render(request, "secondlook/_common.html", {"common": in_common(read), "pictures": read})


@require_POST
@of_mine
def remove(request, batch):
    return redirect(f"{reverse('second-look')}?{removal.remove(batch)}")
