from django.apps import AppConfig


class PickConfig(AppConfig):
    name = "dimgrey.judging.pick"

    def ready(self):
        from dimgrey.frames.pages import add_link

        add_link("picks", "The pick")
