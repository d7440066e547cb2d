from django.apps import AppConfig


class SiteConfig(AppConfig):
    name = "dimgrey.site"
    label = "dimgrey_site"
