"""WSGI entry point, served by waitress."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dimgrey.site.settings")
application = get_wsgi_application()
