"""The means that a sky is seen through: a scene's own, or with another filter or mix."""

from dataclasses import dataclass
from functools import cached_property

from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.core.planning.separation import choice_names, through_choice
from dimgrey.scenes.situation import Situation


@dataclass(frozen=True)
class Through:
    """The means whose greys the strip has. scene: Scene or None. choice: name of another filter or mix, "" for the scene's own."""

    scene: object = None
    choice: str = ""
    labels: str = "zones"

    @cached_property
    def situation(self):
        return Situation(self.scene, self.labels) if self.scene else None

    @cached_property
    def result(self):
        """The Plan, through the other filter where one is chosen; None while nothing is placed."""
        plan = self.situation.plan if self.situation else None
        if plan is None or not self.choice:
            return plan
        return plan_or_wait(through_choice(plan.brief, self.choice))[0]

    @property
    def choices(self):
        """Names of the filters or mixes that it could be seen through."""
        plan = self.situation.plan if self.situation else None
        return choice_names(plan.brief) if plan else ()

    @property
    def words(self):
        """The means in words."""
        if self.scene is None:
            return "Greys of a sky with sunlit middle grey on V. Add a scene to see its film and filter."
        if self.result is None:
            return f"{self.scene.title} is not placed yet: greys without colour, sunlit middle grey on V."
        brief = self.result.brief
        glass = [each.name for each in brief.filters if not each.is_coloured]
        means = " + ".join([*([] if brief.colour_choice == "none" else [brief.colour_choice]), *glass]) or "no filter"
        return f"Greys that this sky would print in {self.scene.title}: {brief.medium.kind}, {means}."
