from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "dimgrey.judging.studies"

    def ready(self):
        from dimgrey.frames.pages import add_link

        add_link("studies", "Light studies")
