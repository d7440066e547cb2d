"""Templates without the indentation of their source, which every answer would carry."""

import re

from django.template.loaders.app_directories import Loader

INDENTATION = re.compile(r"\n\s+")


class TrimmedLoader(Loader):
    """Line ends stay, so that words stay apart. No template holds text in which white space counts."""

    def get_contents(self, origin):
        return INDENTATION.sub("\n", super().get_contents(origin))
