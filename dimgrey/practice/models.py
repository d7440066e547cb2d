"""What a person practised: every answer, and when each card comes back."""

from django.db import models

from dimgrey.people.models import Owned
from dimgrey.results.models import Result
from dimgrey.scenes.models import Scene


class Card(Owned):
    """A kind of question about one subject. state: of core.practice.spacing. due: when it comes back."""

    kind = models.CharField(max_length=16)
    subject = models.CharField(max_length=60)
    state = models.JSONField(default=dict)
    due = models.DateTimeField()

    class Meta:
        ordering = ["due"]
        constraints = [models.UniqueConstraint(fields=["owner", "kind", "subject"], name="card_once_per_owner")]

    def __str__(self):
        return f"{self.kind}: {self.subject}"


class Answer(Owned):
    """One answer. act: id that the page gave it, so that one that is sent twice counts once. at: when it was given."""

    act = models.UUIDField()
    kind = models.CharField(max_length=16)
    subject = models.CharField(max_length=60)
    off = models.FloatField()
    is_right = models.BooleanField()
    in_stops = models.BooleanField(default=False)
    level = models.PositiveSmallIntegerField(default=0)
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "pk"]
        constraints = [models.UniqueConstraint(fields=["owner", "act"], name="answer_once_per_owner")]

    def __str__(self):
        return f"{self.kind}: {self.subject}"


class Assignment(Owned):
    """A task. week: its Monday. begun: the Monday that its week or month began with. results: what was given for it; text, of the verdict, stays when
    they go, and is "" while nothing was given. old_scene: what an old scene was held against."""

    class Span(models.TextChoices):
        WEEK = "week", "a week"
        MONTH = "month", "a month"

    key = models.CharField(max_length=16)
    span = models.CharField(max_length=8, choices=Span, default=Span.WEEK)
    begun = models.DateField()
    week = models.DateField()
    results = models.ManyToManyField(Result, related_name="+")
    old_scene = models.ForeignKey(Scene, on_delete=models.SET_NULL, related_name="+", null=True)
    is_met = models.BooleanField(default=False)
    text = models.CharField(max_length=300, blank=True)
    done_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["week", "pk"]
        constraints = [models.UniqueConstraint(fields=["owner", "span", "week", "key"], name="task_once_a_week")]

    def __str__(self):
        return f"{self.key} of {self.week}"


class FirstSteps(Owned):
    """Where a newcomer is on the path of five steps. scene: the one it is walked on. left: they went off it; it can be taken up again."""

    scene = models.ForeignKey(Scene, on_delete=models.SET_NULL, related_name="+", null=True)
    left = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner"], name="one_path_each")]

    def __str__(self):
        return f"first steps on scene {self.scene_id}"
