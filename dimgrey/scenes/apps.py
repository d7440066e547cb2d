from django.apps import AppConfig


class ScenesConfig(AppConfig):
    name = "dimgrey.scenes"
