from django.apps import AppConfig


class FramesConfig(AppConfig):
    name = "dimgrey.frames"
