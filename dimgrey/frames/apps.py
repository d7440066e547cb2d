from django.apps import AppConfig


class FramesConfig(AppConfig):
    name = "dimgrey.frames"

    def ready(self):
        from dimgrey.frames.forms import foot_context
        from dimgrey.frames.queries import rolls_in_use
        from dimgrey.scenes.onroll import rolls_are_told
        from dimgrey.scenes.pages import add_to_foot

        add_to_foot("frames/_log.html", foot_context)
        rolls_are_told(rolls_in_use)
