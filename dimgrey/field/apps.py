from django.apps import AppConfig


class FieldConfig(AppConfig):
    name = "dimgrey.field"
