"""The field page, what it takes along, the Python it runs, and the door through which its acts come home."""

import hashlib
import json
import uuid
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from csp.constants import SELF, WASM_UNSAFE_EVAL
from csp.decorators import csp_update
from django import forms
from django.contrib.staticfiles import finders
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import render
from django.templatetags.static import static
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.acts.keys import sent_id
from dimgrey.core.document import scenefile
from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import ANYTHING, Shaped, key, known_keys
from dimgrey.field import bundle, pythonfiles
from dimgrey.field.queries import outings_near
from dimgrey.field.sync import is_known, take_in_acts
from dimgrey.outings.queries import outing_of
from dimgrey.people.owned import of_mine, owned
from dimgrey.pictures.upload import source_of
from dimgrey.pictures.views import FOR_GOOD
from dimgrey.scenes import queries
from dimgrey.scenes.act_views import ListForm
from dimgrey.scenes.begun_on_phone import take_in_scene
from dimgrey.scenes.situation import Situation
from dimgrey.web import service_workers
from dimgrey.web.forms import JsonField, TypedForm

MOST_KNOWN = 5000
WORKER = "field/worker.js"
SERVICE_WORKER = Path(__file__).with_name("service_worker.js").read_text(encoding="utf-8")
FILES = (
    "field/field.css", "field/field.js", "scenes/hand.css", "site/base.css", "site/dark.js", "site/mark.svg", "vendor/alpine-csp.min.js",
    "vendor/bootstrap.min.css", "vendor/idb.js", "vendor/text-400.woff2", "vendor/text-600.woff2", "vendor/text-800.woff2",
)  # fmt: skip
"""What the field page is drawn and run with, beside what its scripts import."""


@require_safe
def page(request):
    """The field page: one shell for every outing, filled from what the phone has taken along."""
    addresses = {
        "worker": _worker_address(),
        "runtime": request.build_absolute_uri(reverse("python-folder", args=[pythonfiles.VERSION])),
        "core": reverse("core-zip", args=[pythonfiles.core_zip()[1]]),
        "serviceWorker": reverse("field-service-worker"),
        "page": page_version(),
    }
    answer = render(request, "field/field.html", {"addresses": addresses})
    answer["X-Field-Version"] = page_version()
    return answer


@lru_cache
def page_version():
    """One word for the page with all that it is drawn and run with; another whenever one of them changes."""
    made = [
        service_workers.version_of(service_workers.with_imports(*FILES)),
        _worker_address(),
        pythonfiles.core_zip()[1],
    ]
    template = Path(__file__).with_name("templates") / "field" / "field.html"
    return hashlib.sha256("".join([*made, template.read_text(encoding="utf-8")]).encode()).hexdigest()[:12]


@lru_cache
def _worker():
    """(bytes, version) of the script that the worker runs."""
    data = Path(finders.find(WORKER)).read_bytes()
    return data, hashlib.sha256(data).hexdigest()[:12]


def _worker_address():
    return reverse("field-worker", args=[_worker()[1]])


@require_safe
def hello(request):
    """Who is there, what time it is, and how far the scenes are of the outings around today and of those that the phone has."""
    form = HelloForm(request.GET)
    outings = outings_near(request.user, timezone.now().date(), form.typed.have if form.is_valid() else ())
    session = getattr(request, "session", None)
    known = {
        "now": timezone.now().isoformat(),
        "page": page_version(),
        "until": session.get_expiry_date().isoformat() if session and session.session_key else "",
    }
    answer = JsonResponse({**known, "outings": outings})
    answer["Cache-Control"] = "no-store"
    return answer


@require_safe
@of_mine(outing_of, "outing")
def outing(request, outing):
    """An outing to be taken along."""
    answer = JsonResponse(bundle.outing_of(request.user, outing))
    answer["Cache-Control"] = "no-store"
    return answer


class HelloForm(TypedForm):
    """have: numbers of the outings that a phone carries, "3,17"."""

    have = forms.RegexField(r"^\d{1,18}(,\d{1,18}){0,99}$", required=False)

    def clean_have(self):
        return tuple(map(int, filter(None, self.typed.have.split(","))))


class HomeForm(TypedForm):
    """The revision that a phone started from, and the acts that it knows as kept."""

    base = forms.IntegerField(required=False, min_value=1)
    own = JsonField(required=False)

    def clean_own(self):
        return known_ids(self.typed.own or [])


def known_ids(value):
    """Ids of acts as text. Raises ValidationError for anything else, and for too many."""
    if not isinstance(value, list) or len(value) > MOST_KNOWN:
        raise forms.ValidationError(f"A list of at most {MOST_KNOWN} acts is meant.")
    try:
        return [str(uuid.UUID(each)) for each in value]
    except (ValueError, TypeError, AttributeError):
        raise forms.ValidationError("That is not the id of an act.") from None


@dataclass(frozen=True)
class Body(Shaped):
    """What a phone sends. base: number of the revision that it had. own: ids of acts that it knows as kept. acts: as they were done."""

    base: object = key(ANYTHING)
    own: object = key(ANYTHING)
    acts: object = key(ANYTHING)


SENT = tuple(each.name for each in known_keys(Body))


def _body(request):
    """The Body that was sent, an empty one for anything else."""
    try:
        found = loads(request.body.decode("utf-8"))
    except (UnicodeDecodeError, CoreError):
        return Body()
    return Body(**{name: found.get(name) for name in SENT}) if isinstance(found, dict) else Body()


@require_POST
def acts(request, pk):
    """Acts that come home: what became of each, and the scene as it is now."""
    scene, sent = owned(queries.scene_of, request.user, pk, "scene"), _body(request)
    form = HomeForm({"base": sent.base, "own": json.dumps(sent.own or [])})
    list_form = ListForm({"acts": json.dumps(sent.acts)})
    if not form.is_valid() or not list_form.is_valid():
        errors = [*form.errors.values(), *list_form.errors.values()]
        return JsonResponse({"problem": errors[0][0]}, status=422)
    made = list_form.typed.acts
    try:
        known_ids([sent_id(act) for act in made])
    except forms.ValidationError as refused:
        return JsonResponse({"problem": refused.messages[0]}, status=422)
    answers = take_in_acts(request.user, scene.pk, form.typed.base, form.typed.own, made)
    now = owned(queries.scene_of, request.user, pk, "scene")
    shown = bundle.scene_of(Situation(now, request.user.tone_labels))
    return JsonResponse({"acts": answers, "scene": shown})


class NewSceneForm(TypedForm):
    """A scene that a phone began: its id there, its document, the outing it belongs to, its picture."""

    id = forms.UUIDField()
    document = forms.CharField(max_length=scenefile.MAX_BYTES, strip=False)
    outing = forms.CharField(max_length=18, required=False)
    picture = forms.FileField(required=False)

    def clean_document(self):
        try:
            return scenefile.load(self.typed.document)
        except CoreError as refused:
            raise forms.ValidationError(str(refused)) from None


@require_POST
def new_scene(request):
    """A scene that a phone began comes home, once; answers with it as it is carried from now on."""
    form = NewSceneForm(request.POST, request.FILES)
    if not form.is_valid():
        name, errors = next(iter(form.errors.items()))
        return JsonResponse({"problem": f"{name}: {errors[0]}"}, status=422)
    typed = form.typed
    sent = typed.picture
    outing = outing_of(request.user, typed.outing)
    picture = {"data": source_of(sent), "filename": sent.name} if sent else {}
    scene, sentence = take_in_scene(request.user, typed.id, typed.document, outing, **picture)
    shown = bundle.scene_of(
        Situation(owned(queries.scene_of, request.user, scene.pk, "scene"), request.user.tone_labels)
    )
    return JsonResponse({"scene": shown, "problem": sentence})


@require_POST
def known(request, pk):
    """Which of a phone's acts this server does not know: those that an older backup has lost."""
    owned(queries.scene_of, request.user, pk, "scene")
    try:
        asked = known_ids(_body(request).acts)
    except forms.ValidationError as refused:
        return JsonResponse({"problem": refused.messages[0]}, status=422)
    return JsonResponse({"missing": [each for each in asked if not is_known(request.user, each)]})


# --- files -------------------------------------------------------------------------------------------------------------------


@require_safe
def python_folder(request, version):
    """The folder itself holds nothing; its address is what the runtime's files lie beside."""
    raise Http404("There is only what lies in it.")


@require_safe
def python_file(request, version, name):
    """A file of the runtime."""
    if version != pythonfiles.VERSION or name not in pythonfiles.NAMES:
        raise Http404("There is no such file of the runtime.")
    data, kind, encoding = pythonfiles.runtime_file(name)
    return _for_good(data, kind, encoding)


@require_safe
@csp_update({"script-src": [SELF, WASM_UNSAFE_EVAL]})
def worker(request, version):
    """The script of the worker that runs the core: beside the page, because the service worker serves only what lies there."""
    data, present = _worker()
    if version != present:
        raise Http404("That script is of another version.")
    return _for_good(data, "text/javascript")


@require_safe
def core(request, version):
    """The core's sources as a ZIP."""
    data, present = pythonfiles.core_zip()
    if version != present:
        raise Http404("That core is of another version.")
    return _for_good(data, "application/zip")


def _for_good(data, kind, encoding=""):
    response = HttpResponse(data, content_type=kind)
    response["Cache-Control"] = FOR_GOOD
    if encoding:
        response["Content-Encoding"] = encoding
    return response


@require_safe
def service_worker(request):
    """The service worker, served beside the page so that it may keep it, with what it keeps from the start."""
    files = [static(name) for name in service_workers.with_imports(*FILES)]
    runtime = [reverse("python-file", args=[pythonfiles.VERSION, name]) for name in pythonfiles.NAMES]
    version = pythonfiles.core_zip()[1]
    files += [*runtime, _worker_address(), reverse("core-zip", args=[version])]
    return service_workers.answer(SERVICE_WORKER, version=page_version(), page=reverse("field"), files=files)
