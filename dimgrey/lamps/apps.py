from django.apps import AppConfig


class StudioConfig(AppConfig):
    name = "dimgrey.lamps"

    def ready(self):
        from dimgrey.lamps.views import plan_page
        from dimgrey.scenes.pages import add_page

        add_page("light-plan", "light-plan", plan_page)
