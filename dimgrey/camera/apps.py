from django.apps import AppConfig


class MeansConfig(AppConfig):
    name = "dimgrey.camera"

    def ready(self):
        from dimgrey.camera import acts  # noqa: F401 - it brings its acts and pages to the desk
