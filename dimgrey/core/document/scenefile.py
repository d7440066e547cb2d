"""The open scene format "dimgrey-scene": from text to a checked Document, and back.

Prose: docs/scene-file.md. What `kept` takes can be kept, written out and read again.
"""

import json

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.formats import parsed
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of, plain

MAX_BYTES = 1_000_000


def load(text):
    """The Document in a scene file's text, of any version. Raises DocumentError with every mistake found."""
    data = parsed(text, "scene", MAX_BYTES)
    SCENE.check(data)
    document = document_of(data)
    kept(document)
    return document


def kept(document):
    """(its JSON, its Brief) of a Document that can be kept, written out and read again; raises DocumentError with every mistake."""
    data = plain(document)
    SCENE.check(data)
    return data, brief_of(document)


def text_of(document):
    """The scene file of a Document, in the present version."""
    return json.dumps(plain(document), indent=1, ensure_ascii=False) + "\n"
