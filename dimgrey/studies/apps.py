from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "dimgrey.studies"

    def ready(self):
        from dimgrey.frames.pages import add_link

        add_link("studies", "Light studies")
