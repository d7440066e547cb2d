from django.apps import AppConfig


class WebConfig(AppConfig):
    """What all pages share: form fields whose rule is the core's, answers, template tags."""

    name = "dimgrey.web"
