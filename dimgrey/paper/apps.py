from django.apps import AppConfig


class CardConfig(AppConfig):
    name = "dimgrey.paper"
