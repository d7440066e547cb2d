from django.apps import AppConfig


class PracticeConfig(AppConfig):
    name = "dimgrey.practice"

    def ready(self):
        from dimgrey.practice.firststeps import note_of
        from dimgrey.scenes.pages import add_beside, add_to_helps

        add_to_helps("practice/_steps_again.html")
        add_beside("practice/_first.html", note_of)
