"""A Document from the JSON that was kept, of any version, and the JSON of a Document."""

from dimgrey.core.document.model import FORMAT, Document
from dimgrey.core.document.parts import plain_part, read_part
from dimgrey.core.document.upgrade import VERSION, upgraded


def document_of(data):
    """Document of JSON of any version that the schema takes. data: dictionary, never changed."""
    return read_part(Document, {k: v for k, v in upgraded(data).items() if k not in ("format", "version")})


def plain(document):
    """The JSON of a Document in the present version, ready to keep; a fresh dictionary."""
    return {"format": FORMAT, "version": VERSION, **plain_part(document)}
