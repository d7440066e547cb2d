"""Everything of one's own as a file, and such a file brought in."""

from django import forms
from django.http import StreamingHttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.people.events import tell
from dimgrey.pictures.arrivals import arriving, last_kept
from dimgrey.pictures.upload import source_of
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.bringing import PURPOSE, bring
from dimgrey.safekeeping.archive.writing import pieces
from dimgrey.web.forms import PlainForm


class ArchiveForm(PlainForm):
    """The file, and which parts of it."""

    file = forms.FileField(
        allow_empty_file=True,
        label="Archive (.zip)",
        widget=forms.FileInput({"accept": ".zip,application/zip"}),
        error_messages={"required": "Choose an archive first."},
    )
    parts = forms.MultipleChoiceField(
        choices=layout.PARTS.items(), initial=list(layout.PARTS), widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "Choose what to bring in."},
    )  # fmt: skip


@require_safe
def save(request):
    """The archive, made while it is handed out."""
    answer = StreamingHttpResponse(pieces(request.user), content_type="application/zip")
    day = timezone.now().strftime("%Y-%m-%d")
    answer["Content-Disposition"] = f'attachment; filename="dimgrey-archive-{day}.zip"'
    tell("saved an archive", request.user, request=request)
    return answer


def page(request):
    """The page on which an archive is brought in."""
    return _shown(request, ArchiveForm())


def _shown(request, form, problem=""):
    context = {
        "form": form,
        "page": "account",
        "problem": problem,
        "arriving": arriving(request.user, PURPOSE, request.user.pk),
        "last": last_kept(request.user, PURPOSE),
    }
    return render(request, "archive/archive.html", context, status=422 if problem else 200)


@require_POST
def take(request):
    """Bring an archive in; all that is chosen of it, or nothing."""
    sent = ArchiveForm(request.POST, request.FILES)
    if not sent.is_valid():
        return _shown(request, sent, sent.sentence())
    file = sent.typed.file
    try:
        bring(request.user, source_of(file), file.name, sent.typed.parts)
    except CoreError as refused:
        return _shown(request, sent, f"{refused} Nothing was kept.")
    tell("brought an archive in", request.user, request=request)
    return redirect("archive")
