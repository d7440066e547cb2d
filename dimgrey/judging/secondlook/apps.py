from django.apps import AppConfig


class SecondLookConfig(AppConfig):
    name = "dimgrey.judging.secondlook"

    def ready(self):
        from dimgrey.judging.secondlook.models import OldPicture
        from dimgrey.pictures.deletion import goes_with

        goes_with(OldPicture)
