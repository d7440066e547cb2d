from django.apps import AppConfig


class ScenesConfig(AppConfig):
    name = "dimgrey.scenes"

    def ready(self):
        from dimgrey.kit.queries import counts_uses
        from dimgrey.pictures.deletion import goes_with
        from dimgrey.scenes.models import Revision, Scene
        from dimgrey.scenes.queries import scenes_naming

        goes_with(Scene)
        goes_with(Revision)
        counts_uses(scenes_naming)
