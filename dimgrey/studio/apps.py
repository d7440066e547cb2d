from django.apps import AppConfig


class StudioConfig(AppConfig):
    name = "dimgrey.studio"

    def ready(self):
        from dimgrey.scenes.pages import add_page
        from dimgrey.studio.views import plan_page

        add_page("light-plan", "light-plan", plan_page)
