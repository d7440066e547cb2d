from django.apps import AppConfig


class SecondLookConfig(AppConfig):
    name = "dimgrey.secondlook"
