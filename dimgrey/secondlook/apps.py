from django.apps import AppConfig


class SecondLookConfig(AppConfig):
    name = "dimgrey.secondlook"

    def ready(self):
        from dimgrey.pictures.deletion import goes_with
        from dimgrey.secondlook.models import OldPicture

        goes_with(OldPicture)
