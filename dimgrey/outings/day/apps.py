from django.apps import AppConfig


class DayConfig(AppConfig):
    name = "dimgrey.outings.day"
