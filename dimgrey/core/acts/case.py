"""What an act may ask of a scene beside its document. The desk answers from its tables and pictures, a phone from what it carries."""

from dataclasses import dataclass
from typing import Any

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lightscale import light_scale, picture_reading
from dimgrey.core.document.onroll import on_roll
from dimgrey.core.document.tones import Reading


class Elsewhere(Refused):
    """An act that asks for what is not at hand here."""

    def __init__(self, what):
        super().__init__(f"That needs {what}, which only the desk has. Do it there.", code="at-the-desk")


@dataclass(frozen=True)
class Case:
    """One scene as an act meets it; what is not at hand is Elsewhere. at: when the act was done, an aware datetime.

    facts: of its picture, or None. rolls: RollInUse of each that is in a camera. settled: nobody is there to answer a question that the act might raise.
    """

    at: Any = None
    facts: Any = None
    rolls: tuple = ()
    settled: bool = False

    def polarized(self, document):
        """overhead.Polarized of a Document of this scene, or None."""
        return

    def in_sky(self, document):
        """From fractions x, y of the picture to whether its sky is there; None without a picture."""
        return

    def read_as(self, document):
        """The Brief of a Document of this scene."""
        return brief_of(on_roll(document, self.rolls), self.polarized(document), self.in_sky(document))

    def meter(self, document):
        """A spot meter before the scene's picture: `read(x, y, spot_deg)` and `read_area(outline)`."""
        raise Elsewhere("the light of the picture")

    def frame_stops(self):
        """Log mean of the picture's light in stops from linear 0.18, without its blocked and burnt parts. Raises Refused where nothing is left."""
        raise Elsewhere("the light of the picture")

    def item(self, kind, name):
        """An item of the kit, None where there is none of that name."""
        raise Elsewhere("the kit")

    def mixes(self, camera):
        """Channel mixes that were measured of a camera of the kit, None where none were."""
        raise Elsewhere("the kit")

    def setup(self, number):
        """The SetupPart of a kept setup by its number, None where there is none."""
        raise Elsewhere("the setups")

    def sun_altitude(self, document):
        """Degrees of the sun over the horizon at the scene's planned moment, None where place or time is missing."""
        raise Elsewhere("the sun's place")

    def place(self):
        """(latitude, longitude, day as ISO 8601 or "") that the picture's file tells, None for none."""
        raise Elsewhere("the picture's file")

    def before(self, document):
        """The Document before the last act. Raises Refused where there is none."""
        raise Elsewhere("the scene's history")

    def after(self, document):
        """The Document that was taken back last. Raises Refused where there is none."""
        raise Elsewhere("the scene's history")

    def around(self, document, line):
        """(Document before it, Document after it) of an act of the scene's log; the same twice where it changed nothing or was never done.

        line: id of the act, or the number of the state that it led to.
        """
        raise Elsewhere("the scene's history")

    # --- what follows from these ---------------------------------------------------------------------------------------

    @property
    def time(self):
        """When the act was done, as readings keep it."""
        return self.at.isoformat(timespec="seconds")

    def require_picture(self, sentence):
        """Facts of the picture. Raises Refused with the sentence where there is none."""
        if self.facts is None:
            raise Refused(sentence, code="no-picture")
        return self.facts

    def typed(self, values):
        """The Reading of what was typed, {"ev100": ...} or {"shutter": ...}, taken when the act was done."""
        return Reading(**values, taken_at=self.time)

    def of_picture(self, document, seen):
        """The Reading of what the meter sees in the picture."""
        return picture_reading(seen, self.facts, light_scale(document, self.facts) is not None, self.at)
