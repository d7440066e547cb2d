"""A Document from the JSON that was kept, of any version, and the JSON of a Document."""

from dimgrey.core.document.model import SCENE


def document_of(data):
    """Document of JSON of any version that fits. data: dictionary, never changed."""
    return SCENE.read(data)


def plain(document):
    """The JSON of a Document in the present version, ready to keep; a fresh dictionary."""
    return SCENE.write(document)
