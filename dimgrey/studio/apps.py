from django.apps import AppConfig


class StudioConfig(AppConfig):
    name = "dimgrey.studio"

    def ready(self):
        from dimgrey.studio import acts  # noqa: F401 - it brings its acts and its page to the desk
