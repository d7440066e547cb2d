from django.apps import AppConfig


class PracticeConfig(AppConfig):
    name = "dimgrey.practice"

    def ready(self):
        from dimgrey.outings.day.pages import add_to_home
        from dimgrey.practice.firststeps import offer_of
        from dimgrey.practice.queries import first_steps_context
        from dimgrey.scenes.pages import add_to_foot

        add_to_foot("practice/_first.html", first_steps_context)
        add_to_home("practice/_home.html", offer_of)
