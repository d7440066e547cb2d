"""A field of a model that keeps a declared shape: parts of core.shapes in and out, JSON in the table."""

from django.db import models
from django.db.models.fields.json import KeyTransform

from dimgrey.core.shapes.declare import Shaped
from dimgrey.core.shapes.plain import read_part, whole_part


class ShapedField(models.JSONField):
    """Keeps a part of a class, or None, which stands as {}. of: the class; None only where migrations copy the column."""

    def __init__(self, of=None, **kwargs):
        self.of = of
        super().__init__(**{"default": dict, **kwargs})

    def deconstruct(self):
        # In migrations it is the JSON column that it is; what the shape holds needs none.
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.JSONField", args, kwargs

    def get_default(self):
        return None

    def from_db_value(self, value, expression, connection):
        found = super().from_db_value(value, expression, connection)
        if self.of is None or isinstance(expression, KeyTransform) or not isinstance(found, dict):
            return found
        return read_part(self.of, found) if found else None

    def get_prep_value(self, value):
        return super().get_prep_value(whole_part(value) if isinstance(value, Shaped) else value)

    def get_db_prep_save(self, value, connection):
        return super().get_db_prep_save({} if value is None else value, connection)

    def validate(self, value, model_instance):
        if not isinstance(value, Shaped):
            super().validate(value or {}, model_instance)
