from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    """What keeps ten years of work: backup and restore, the state of the data, freeing what was removed."""

    name = "dimgrey.safekeeping"
