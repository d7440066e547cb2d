from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    """What keeps ten years of work: backup and restore, the state of the data, freeing what was removed."""

    name = "dimgrey.safekeeping"

    def ready(self):
        from dimgrey.outings.day.pages import add_to_home
        from dimgrey.safekeeping.views import proof_for

        add_to_home("safekeeping/_home.html", proof_for)
