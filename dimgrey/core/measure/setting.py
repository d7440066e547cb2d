"""What is set on a camera: aperture, shutter, speed, each marked."""

from typing import NamedTuple

from dimgrey.core.measure.exposure import ev100
from dimgrey.core.measure.longexposure import metered_seconds
from dimgrey.core.measure.stops import Marked


class Setting(NamedTuple):
    """None for each that is not said."""

    aperture: Marked | None = None
    shutter: Marked | None = None
    iso: Marked | None = None

    def over(self, other):
        """This Setting, with what it does not say as another has it."""
        return Setting(*(own or theirs for own, theirs in zip(self, other, strict=True)))

    @property
    def ev100(self):
        """Its exposure, None where one of the three is missing."""
        return ev100(*(each.exact for each in self)) if all(self) else None

    def metered_ev100(self, film=None):
        """Its exposure as a meter counts it: of a long time on film that which it was metered for. film: Reciprocity or None."""
        return (
            ev100(self.aperture.exact, metered_seconds(self.shutter.exact, film), self.iso.exact) if all(self) else None
        )


SET = Setting._fields
"""Names of them, as frames and the log have them."""
