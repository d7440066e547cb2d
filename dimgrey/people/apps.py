from django.apps import AppConfig


class PeopleConfig(AppConfig):
    """Accounts, ways in, and who may see what."""

    name = "dimgrey.people"

    def ready(self):
        from dimgrey.people import events

        events.connect()
