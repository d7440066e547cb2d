"""What is known of a scene while one request is answered, each thing computed once: document, plan, scale, sky, cautions.

Parts of the sheet, card, bench and lists see this and nothing else of a scene.
"""

from dataclasses import replace
from functools import cached_property

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.colour.filters import own_spectrum
from dimgrey.core.document.lightplan import lamp_case
from dimgrey.core.document.lightscale import focal_35mm, light_scale, shown_stops
from dimgrey.core.document.meansedits import is_coloured
from dimgrey.core.document.onroll import roll_of
from dimgrey.core.document.sighting import sky_outline
from dimgrey.core.document.tonebriefing import school_of
from dimgrey.core.judging.around import around_sky
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.picture.crop import Crop
from dimgrey.core.picture.overhead import Overhead
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.separation import Pair, suggested_pairs
from dimgrey.core.planning.tonewords import Words, divisions_of
from dimgrey.core.planning.wishes import wanted_of
from dimgrey.kit.queries import glasses_of, offered, surfaces_of
from dimgrey.outings.sky_over_scene import hours_around, sky_over
from dimgrey.pictures.addresses import Rendering, colour_address, grey_address
from dimgrey.scenes.histogram import fall_counts, white_fall
from dimgrey.scenes.pins import pins_apart
from dimgrey.scenes.tonerows import tone_rows

SUBJECTS = ("subject", "skin")
STEP_UP = 0.02
"""Of the picture's height: how finely a subject's top is looked for."""


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
    def wanted(self):
        """wishes.Wanted of the scene: wishes, textures that its words say, and what they leave open."""
        return wanted_of(self.brief)

    @property
    def wishes(self):
        """Wish of each that the scene has, those set, those that its words say, and those of school, scale and roles."""
        return self.wanted.wishes

    @cached_property
    def intent_line(self):
        """IntentLine without what is nearest, which takes a search."""
        return intent_line(self.wanted, self.plan)

    @cached_property
    def whole_intent_line(self):
        """IntentLine with what is nearest."""
        return intent_line(self.wanted, self.plan, self.judged)

    @cached_property
    def judged(self):
        """Judged of the plan, None before one."""
        return self.looked_deeply(False)

    @property
    def proposals(self):
        """Proposal of each that the judge found, the best first; () before a plan."""
        return self.judged.proposals if self.judged else ()

    def looked_deeply(self, deeply=True):
        """Judged as `judged`; deeply: all pairs are tried. 1 query for the kit's filters."""
        if self.plan is None:
            return None
        return proposals_of(self.document, self.plan, self.scene.read_as, self.around, self.warned, deeply)

    @cached_property
    def around(self):
        """What the judge may know beside the document: the kit's glass, the sun, the roll, the picture's white."""
        glasses = glasses_of(self.scene.owner_id)
        return replace(
            around_sky(self.document, self.sky and self.sky.seen),
            owned=frozenset(glass.name for glass in glasses.values()) if glasses else None,
            kit={name: known for name, known in map(_own_glass, glasses.items()) if known},
            on_roll=self.roll is not None and self.roll.step is not None,
            white_fall=white_fall(self.fall_counts) if self.picture and self.plan else None,
            focal_35mm=focal_35mm(self.document, self.facts),
            tops=self._tops,
            hours=lambda: hours_around(self.document, self.facts, self.scene.outing, self.plan),
        )

    @property
    def _tops(self):
        """name -> the highest place over each pinned subject that is not sky: where the picture's sky begins above it."""
        covers = self.scene.in_sky(self.document)
        pinned = [tone for tone in self.document.tones if tone.at and tone.known_role in SUBJECTS]
        return {tone.name: _top(covers, *tone.at) for tone in pinned} if covers else {}

    def warned(self, document, result):
        """Cautions of a Document as if it were this scene's, with its Plan."""
        sky = sky_over(document, self.facts, self.scene.outing, result, self.labels)
        return cautions_of(result, sky.seen if sky else None, lamp_case(document, result))

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
        outline = sky_outline(self.document)
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


def _top(covers, x, y):
    """Height from the top at which sky begins over a place, 0 where none does. covers: whether sky is at x, y."""
    while y > 0 and not covers(x, y):
        y -= STEP_UP
    return max(y, 0.0)


def _own_glass(named):
    """(name, Glass) of a kit's coloured filter that has a factor or a spectrum of its own, (name, None) for any other."""
    name, glass = named
    if not is_coloured(glass) or not (glass.factor or glass.points):
        return name, None
    return name, Glass(glass.name, factor=glass.factor, points=own_spectrum(glass.points) if glass.points else None)
