"""WSGI entry point, served by waitress."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dimgrey.site.settings")
application = get_wsgi_application()

from dimgrey.site import warm  # noqa: E402 (the settings must be there)

warm.start()
