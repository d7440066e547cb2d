"""WSGI entry point, served by waitress."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dimgrey.site.settings")
application = get_wsgi_application()

from django.conf import settings  # noqa: E402

from dimgrey.safekeeping.state import known_migrations, state_of  # noqa: E402

_state = state_of(settings.DIMGREY_DATA, known_migrations())
if not _state.can_start:
    raise SystemExit(f"Dimgrey does not start. {_state.sentence}")

from dimgrey.site import warm  # noqa: E402 (the settings must be there)

warm.start()
