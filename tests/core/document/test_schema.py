"""The schemas and the model say the same: names, limits, defaults."""

from dataclasses import fields, is_dataclass

from django.test import SimpleTestCase

from dimgrey.core.document import model
from dimgrey.core.document.schema import schema

SCHEMA = schema("scene", 2)


def resolved(part):
    """A part of the schema without its reference."""
    while "$ref" in part:
        part = SCHEMA["$defs"][part["$ref"].rsplit("/", 1)[1]]
    return part


def properties(part):
    """Properties of an object of the schema, also where null or a name may stand instead."""
    part = resolved(part)
    for choice in (part, *part.get("oneOf", ()), *part.get("anyOf", ())):
        choice = resolved(choice)
        if "properties" in choice:
            return choice["properties"]
    return {}


class SchemaAndModel(SimpleTestCase):
    def compared(self, part, described, path=""):
        """Every field stands in the schema and every key of the schema in a field, all the way down."""
        known = {each.name: each for each in fields(part)}
        self.assertEqual(set(known), set(described) - {"format", "version"}, path)
        for name, each in known.items():
            of = each.metadata.get("of")
            if of is None or not is_dataclass(of):
                continue
            inner = resolved(described[name])
            inner = inner["items"] if each.metadata.get("many") else inner
            self.compared(of, properties(inner), f"{path}.{name}")

    def test_keys_are_the_same(self):
        self.compared(model.Document, SCHEMA["properties"])

    def test_limits_are_the_same(self):
        most = {
            "tones": model.MAX_TONES,
            "filters": model.MAX_FILTERS,
            "pairs": model.MAX_PAIRS,
        }
        for name, limit in most.items():
            self.assertEqual(SCHEMA["properties"][name]["maxItems"], limit, name)
        self.assertEqual(SCHEMA["properties"]["notes"]["maxLength"], model.MAX_NOTES)
        tone = resolved(SCHEMA["properties"]["tones"]["items"])
        self.assertEqual(tone["properties"]["readings"]["maxItems"], model.MAX_READINGS)
