from django.apps import AppConfig


class ResultsConfig(AppConfig):
    name = "dimgrey.results"

    def ready(self):
        from dimgrey.frames.pages import add_beside, add_link, add_section
        from dimgrey.results import loglines, views

        add_section("results/_section.html", views.section)
        add_beside(loglines.beside)
        add_link("learn", "What they teach")
