"""Settings of the maker and of what visits its database: the application's own, with static files by their plain names."""

from dimgrey.site.settings import *  # noqa: F403
from dimgrey.site.settings import STORAGES

STORAGES["staticfiles"] = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
