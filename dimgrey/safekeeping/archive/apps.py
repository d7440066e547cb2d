from django.apps import AppConfig


class ArchiveConfig(AppConfig):
    """Everything that a person has as one file of open formats, out and in again."""

    name = "dimgrey.safekeeping.archive"

    def ready(self):
        from dimgrey.safekeeping.archive import bringing  # noqa: F401 - says what becomes of an archive that comes
