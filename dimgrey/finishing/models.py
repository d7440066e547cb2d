"""The finishing plan of each result that has one."""

from django.db import models

from dimgrey.core.finishing.enlarger import EnlargerSetting
from dimgrey.core.finishing.finishingplan import require_finish
from dimgrey.people.models import Owned
from dimgrey.results.models import Result
from dimgrey.web.shaped import ShapedField


class Finishing(Owned):
    """The finishing plan of a result: a "dimgrey-finish" document, and those before it for undo, the newest last."""

    result = models.OneToOneField(Result, on_delete=models.CASCADE, related_name="finishing")
    kept = models.JSONField()
    past = models.JSONField(default=list)
    enlarger = ShapedField(EnlargerSetting)
    updated_at = models.DateTimeField(auto_now=True)

    class Meta:
        app_label = "results"  # its table was made there

    def __str__(self):
        return f"finishing of result {self.result_id}"

    @property
    def finish(self):
        """The core's Finish."""
        return require_finish(self.kept)
