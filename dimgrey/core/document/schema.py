"""The shape of scene, kit and setup files: JSON Schema 2020-12, and a sentence for each mistake that it finds.

That of the present scene follows from the model; older ones, kit and setup lie beside this module as
NAME-VERSION.schema.json. `manage.py schema` prints each; prose is in docs/. Meaning is checked by the readers.
"""

import json
from functools import cache
from importlib import resources

from dimgrey.core.document.jsontext import loads
from dimgrey.core.document.model import FORMAT, Document
from dimgrey.core.document.parts import shape_of
from dimgrey.core.document.upgrade import VERSION, VERSIONS
from dimgrey.core.errors import CoreError, Unreadable

READABLE = {"scene": VERSIONS, "kit": (1, 2), "setup": (1,)}
"""Versions of each kind of file that can be read, rising; the last is the one that is written."""
DIALECT = "https://json-schema.org/draft/2020-12/schema"

MOST_MISTAKES = 50


class DocumentError(CoreError):
    """A file that cannot be used; `mistakes` has one sentence for each fault, each naming its path."""

    def __init__(self, mistakes, code="document"):
        super().__init__("\n".join(mistakes), parameter="file", code=code)
        self.mistakes = list(mistakes)


@cache
def schema(name, version):
    """A JSON Schema as a dictionary. name: "scene", "kit" or "setup". version: one that can be read."""
    if (name, version) == ("scene", VERSION):
        made = shape_of(Document)
        head = {"format": {"const": FORMAT}, "version": {"const": VERSION}}
        asked = [*head, *made.get("required", ())]
        properties = {**head, **made["properties"]}
        return {"$schema": DIALECT, "title": "Dimgrey scene", **made, "required": asked, "properties": properties}
    file = resources.files("dimgrey.core.document").joinpath(f"{name}-{version}.schema.json")
    return json.loads(file.read_text(encoding="utf-8"))


@cache
def _fits(name, version):
    """Whether data fit, in microseconds: asked after every act, while sentences are for what does not fit."""
    import jsonschema_rs

    return jsonschema_rs.validator_for(schema(name, version)).is_valid


@cache
def _validator(name, version):
    from jsonschema import Draft202012Validator  # 0.1 s to import, and most requests never need it

    return Draft202012Validator(schema(name, version))


def check_shape(data, name):
    """Raise DocumentError with one line per mistake of shape; return nothing when the data fit.

    data: what a JSON file held. name: "scene", "kit" or "setup".
    """
    versions = READABLE[name]
    said = data.get("version") if isinstance(data, dict) else None
    version = said if type(said) is int and said in versions else versions[-1]
    if said == version and _fits(name, version)(data):
        return
    errors = sorted(
        _validator(name, version).iter_errors(data), key=lambda error: list(error.absolute_path) != ["version"]
    )
    mistakes = [line for error in errors for line in _sentences(error, versions)]
    if mistakes:
        raise DocumentError(mistakes[:MOST_MISTAKES], f"{name}-file")


def parsed(text, name, max_bytes):
    """What the text of a file holds. Raises DocumentError when it is too large or not JSON."""
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


def _sentences(error, versions):
    path = _path(error.absolute_path)
    if error.validator == "additionalProperties":
        known = error.schema.get("properties", {})
        for key in sorted(set(error.instance) - set(known)):
            yield f"{_join(path, key)}: unknown key. Known here: {', '.join(known)}."
    elif error.validator == "required":
        for key in error.validator_value:
            if key not in error.instance:
                yield f"{_join(path, key)}: missing."
    elif error.validator == "const" and path == "version":
        readable = _either(versions, quoted=False).replace(" or ", " and ")
        plural = "s" if len(versions) > 1 else ""
        yield f"version: this program reads version{plural} {readable} (got {_shown(error.instance)})."
    elif error.validator in ("const", "enum"):
        allowed = [error.validator_value] if error.validator == "const" else error.validator_value
        yield f"{path}: must be {_either(allowed)} (got {_shown(error.instance)})."
    elif error.validator == "type":
        yield f"{path or 'the file'}: must be {_either(_types(error.validator_value), quoted=False)} (got {_shown(error.instance)})."
    elif error.validator in ("minimum", "maximum"):
        word = "at least" if error.validator == "minimum" else "at most"
        yield f"{path}: must be {word} {error.validator_value:g} (got {_shown(error.instance)})."
    elif error.validator in ("maxItems", "minItems", "maxLength", "minLength"):
        word = "at most" if error.validator.startswith("max") else "at least"
        unit = "characters" if error.validator.endswith("Length") else "items"
        yield f"{path}: must have {word} {error.validator_value} {unit} (got {len(error.instance)})."
    elif error.validator == "oneOf":
        yield f"{path}: not one of the forms it can have (got {_shown(error.instance)})."
    else:
        yield f"{path}: does not match {error.validator_value} (got {_shown(error.instance)})."


def _path(parts):
    text = ""
    for part in parts:
        text = f"{text}[{part}]" if isinstance(part, int) else _join(text, part)
    return text


def _join(path, key):
    return f"{path}.{key}" if path else str(key)


def _types(value):
    names = {
        "object": "an object",
        "array": "a list",
        "string": "text",
        "number": "a number",
        "integer": "a whole number",
        "boolean": "true or false",
        "null": "null",
    }
    return [names.get(v, v) for v in ([value] if isinstance(value, str) else value)]


def _either(options, quoted=True):
    shown = [json.dumps(o, ensure_ascii=False) if quoted else str(o) for o in options]
    return shown[0] if len(shown) == 1 else f"{', '.join(shown[:-1])} or {shown[-1]}"


def _shown(value):
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 40 else text[:39] + "…"
