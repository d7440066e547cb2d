"""Service workers: what each keeps for pages that open without a network, told to it when it is served."""

import hashlib
import json

from django.http import HttpResponse
from django.templatetags.static import static


def version_of(names):
    """One word for a set of static files, another whenever one of them changes."""
    return hashlib.sha256("".join(static(name) for name in names).encode()).hexdigest()[:12]


def keeper(script, **kept):
    """The answer with a service worker. script: its text. kept: what it reads as KEPT."""
    answer = HttpResponse(f"const KEPT = {json.dumps(kept)};\n{script}", content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer
