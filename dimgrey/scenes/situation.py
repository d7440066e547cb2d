"""What is known of a scene while one request is answered, each thing computed once: document, plan, scale, sky, cautions.

Parts of the sheet, card, bench and lists see this and nothing else of a scene.
"""

from functools import cached_property

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.lightplan import lamp_case
from dimgrey.core.document.lightscale import light_scale, shown_stops
from dimgrey.core.document.onroll import roll_of
from dimgrey.core.document.tonebriefing import school_of
from dimgrey.core.picture.crop import Crop
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.picture.overhead import Overhead
from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.core.planning.remedies import remedies
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.separation import Pair, suggested_pairs
from dimgrey.core.planning.tonewords import Words, divisions_of
from dimgrey.core.planning.wishes import wishes_of
from dimgrey.kit.queries import offered, surfaces_of
from dimgrey.outings.sky_over_scene import sky_over
from dimgrey.pictures.addresses import Rendering, colour_address, grey_address
from dimgrey.scenes.histogram import fall_counts
from dimgrey.scenes.pins import pins_apart
from dimgrey.scenes.tonerows import tone_rows


class Situation:
    """One scene as one person sees it. labels: the person's tone labels."""

    def __init__(self, scene, labels="zones"):
        self.scene = scene
        self.document = scene.as_exposed(scene.document)
        self.picture = scene.picture
        self.facts = scene.facts
        self.labels = labels
        self.words = Words(labels, divisions_of(self.document))

    @property
    def roll(self):
        """The RollInUse that its film is on, or None."""
        return roll_of(self.document, self.scene.rolls) if self.document.medium.is_film else None

    @property
    def stamp(self):
        return self.scene.stamp

    @property
    def title(self):
        return self.scene.title

    @property
    def brief(self):
        """Raises DocumentError for a document that was kept by an older version and cannot be read any more."""
        return self.scene.brief

    @cached_property
    def _planned(self):
        return plan_or_wait(self.brief)

    @property
    def plan(self):
        """The Plan, or None before something is placed; `wait` then says what to do."""
        return self._planned[0]

    @property
    def wait(self):
        return self._planned[1]

    @property
    def school_key(self):
        """Key of the school that places the exposure: what the plan's placing is, else the chosen one."""
        return self.plan.placement.school if self.plan else school_of(self.document)

    @property
    def school(self):
        return SCHOOLS[self.school_key]

    @cached_property
    def scale(self):
        """LightScale of the picture, None without one or while its light has no scale."""
        return light_scale(self.document, self.facts) if self.facts else None

    @cached_property
    def sky(self):
        """SceneSky at the planned moment, or None while place or time is missing."""
        return sky_over(self.document, self.facts, self.scene.outing, self.plan, self.labels)

    @cached_property
    def cautions(self):
        """Every caution of plan, picture, sky and lamps, the gravest first."""
        return cautions_of(self.plan, self.sky.seen if self.sky else None, lamp_case(self.document, self.plan))

    @cached_property
    def tone_rows(self):
        """ToneRow of every tone, in their order."""
        return tone_rows(self)

    @cached_property
    def pins_apart(self):
        """mark -> by how much the picture shows its pin elsewhere than the rail has the tone, in words."""
        return pins_apart(self) if self.plan and self.picture else {}

    @cached_property
    def remedies(self):
        """Ways out of a plan whose scene exceeds its medium; () when it fits."""
        return remedies(self.plan) if self.plan else ()

    @cached_property
    def wishes(self):
        """Wish of each that the scene has, those set and those that its words suggest."""
        return wishes_of(self.brief)

    @cached_property
    def kit_names(self):
        """kind -> names on offer; 1 query."""
        return offered(self.scene.owner_id)

    def has_kit(self, kind):
        """Whether anything of a kind is on offer."""
        return bool(self.kit_names[kind])

    @cached_property
    def own_surfaces(self):
        """Surface of each that the person added; 1 query."""
        return surfaces_of(self.scene.owner_id)

    @cached_property
    def fall_counts(self):
        """Share of the picture in each sixth of a zone of fall, as hill.fall_counts has it."""
        return fall_counts(self)

    @cached_property
    def crop(self):
        """The Crop; the whole picture without one."""
        return Crop(*self.document.crop.box) if self.document.crop else Crop()

    @property
    def pairs(self):
        """The pairs that must part: those chosen, else those suggested. Needs a plan."""
        names = {tone.name for tone in self.plan.tones}
        chosen = tuple(Pair(a, b) for a, b in self.document.pairs if a in names and b in names)
        return chosen or suggested_pairs(self.plan.tones)

    @cached_property
    def overhead(self):
        """What the view does with the sky of the picture."""
        sky = self.document.sky
        # As exact as an address carries it, so that one area is not found twice.
        outline = require_outline(sky.outline) if sky.area == "drawn" else {"found": None, "none": ()}[sky.area]
        graduated = tuple(
            (glass.grey_stops, glass.edge)
            for glass in self.brief.filters
            if glass.is_over_sky and glass.edge is not None
        )
        return Overhead(outline, self.scene.polarized(self.document), graduated)

    # --- the grey view -------------------------------------------------------------------------------------------------

    @cached_property
    def rendering(self):
        """What the grey view is made with: the plan's greys, or the picture's own middle before one."""
        return self.rendering_of(self.plan)

    def rendering_of(self, result):
        """What the grey view of a Plan of this scene is made with; of None, the picture's own middle."""
        brief = result.brief if result else self.brief
        medium = brief.medium
        chain = result.chain if result else medium.chain(brief.light)
        stops, slope = shown_stops(self.scale, result, medium)
        development = result.printing.step if result else 0
        return Rendering(chain, stops, slope, medium.kind, development, tone=medium.tone, overhead=self.overhead)

    def grey_of(self, rendering):
        """Address of a grey view of the picture; "" without one."""
        return grey_address(self.picture.folder, rendering) if self.picture else ""

    @property
    def grey(self):
        """Address of the present grey view."""
        return self.grey_of(self.rendering)

    @property
    def colour(self):
        return colour_address(self.picture.folder) if self.picture else ""
