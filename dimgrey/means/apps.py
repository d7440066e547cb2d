from django.apps import AppConfig


class MeansConfig(AppConfig):
    name = "dimgrey.means"

    def ready(self):
        from dimgrey.means import acts  # noqa: F401 - it brings its acts and pages to the desk
