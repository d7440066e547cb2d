from django.apps import AppConfig


class FinishingConfig(AppConfig):
    name = "dimgrey.finishing"
