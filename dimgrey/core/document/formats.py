"""What all open files share: their text read as JSON, no larger than they may be."""

from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import Unreadable
from dimgrey.core.shapes.check import DocumentError


def parsed(text, name, max_bytes):
    """What the text of a file holds. name: of its format. max_bytes: how long it may be.

    Raises DocumentError when it is too large or not JSON.
    """
    if len(text) > max_bytes:
        most = f"{max_bytes / 1e6:g}"
        raise DocumentError(
            [f"The file has {len(text) / 1e6:.1f} MB; a {name} file holds at most {most} MB. Split it."], f"{name}-file"
        )
    try:
        return loads(text)
    except Unreadable as refused:
        sentence = f'The file cannot be read. {refused} A {name} file starts with {{"format": "dimgrey-{name}".'
        raise DocumentError([sentence], f"{name}-file") from None
