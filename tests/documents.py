"""Scene documents for tests, from the keys of the scene file."""

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.plainform import document_of

HEAD = {"format": "dimgrey-scene", "version": 1}


def document(**parts):
    """A Document of parts as a scene file of version 1 writes them; tones need no letters there."""
    return document_of({**HEAD, **parts})


def brief(data):
    """The Brief of a whole scene file's data."""
    return brief_of(document_of(data))


def codes(result, sky=None):
    """Codes of every caution of a Plan."""
    return [caution.code for caution in cautions_of(result, sky)]


def texts(result, sky=None):
    """code -> sentence of every caution of a Plan; of several with one code the last."""
    return {caution.code: caution.text for caution in cautions_of(result, sky)}
