from django.apps import AppConfig


class PicturesConfig(AppConfig):
    name = "dimgrey.pictures"

    def ready(self):
        from dimgrey.pictures import deletion  # noqa: F401 - it listens to what is deleted
