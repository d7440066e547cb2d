from django.apps import AppConfig


class FramesConfig(AppConfig):
    name = "dimgrey.frames"

    def ready(self):
        from dimgrey.frames.forms import foot_context
        from dimgrey.scenes.pages import add_to_foot

        add_to_foot("frames/_log.html", foot_context)
