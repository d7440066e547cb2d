"""Service workers: what each keeps for pages that open without a network, told to it when it is served."""

import hashlib
import json
import posixpath
import re
from functools import lru_cache
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpResponse
from django.templatetags.static import static

IMPORT = re.compile(
    r"""(?:^|\n|})\s*(?:import|export)?\b[^;"'`]*?\bfrom\s*"(\.[^"]+)"|(?:^|\n)\s*import\s*"(\.[^"]+)\""""
)
"""A module that a script names with its place beside itself."""


@lru_cache
def with_imports(*names):
    """Names of static files with every module that their scripts import, each once. names: such as "field/field.js"."""
    found, waiting = {}, list(names)
    while waiting:
        name = waiting.pop(0)
        if name in found:
            continue
        found[name] = None
        if name.endswith(".js"):
            script = Path(finders.find(name)).read_text(encoding="utf-8")
            waiting += [
                posixpath.normpath(posixpath.join(posixpath.dirname(name), a or b)) for a, b in IMPORT.findall(script)
            ]
    return tuple(found)


def version_of(names):
    """One word for a set of static files, another whenever one of them changes."""
    return hashlib.sha256("".join(static(name) for name in names).encode()).hexdigest()[:12]


def answer(script, **kept):
    """The answer with a service worker. script: its text. kept: what it reads as KEPT."""
    answer = HttpResponse(f"const KEPT = {json.dumps(kept)};\n{script}", content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer
