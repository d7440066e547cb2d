from django.apps import AppConfig


class FramesConfig(AppConfig):
    name = "dimgrey.frames"

    def ready(self):
        from dimgrey.frames.forms import foot_context, log_act
        from dimgrey.scenes.pages import add_to_foot
        from dimgrey.scenes.sheet.registry import add_act

        add_to_foot("frames/_log.html", foot_context)
        add_act("log", log_act())
