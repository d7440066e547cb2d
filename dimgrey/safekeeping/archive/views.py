"""Everything of one's own as a file, and such a file brought in."""

from django import forms
from django.http import StreamingHttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.people.events import tell
from dimgrey.safekeeping.archive import layout
from dimgrey.safekeeping.archive.restoring import restore_archive
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
    return render(request, "archive/archive.html", {"form": ArchiveForm(), "page": "account"})


@require_POST
def take(request):
    """Bring an archive in; all that is chosen of it, or nothing."""
    sent = ArchiveForm(request.POST, request.FILES)
    context = {"form": sent, "page": "account"}
    if not sent.is_valid():
        return render(request, "archive/archive.html", {**context, "problem": sent.sentence()}, status=422)
    try:
        count = restore_archive(request.user, sent.typed.file.file, sent.typed.parts)
    except CoreError as refused:
        return render(
            request, "archive/archive.html", {**context, "problem": f"{refused} Nothing was kept."}, status=422
        )
    tell("brought an archive in", request.user, request=request)
    said = ", ".join(f"{number} {what}" for what, number in count.items() if number) or "nothing new"
    return render(request, "archive/archive.html", {**context, "said": said})
