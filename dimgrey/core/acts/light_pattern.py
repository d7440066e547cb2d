"""Lamps in one of the known patterns of light."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import OneOf, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.lamps.lightpatterns import PATTERNS, arranged


@dataclass(frozen=True, kw_only=True)
class Keys:
    pattern: str = needed(OneOf({key: pattern.title for key, pattern in PATTERNS.items()}), "Pattern")


def _change(document, said, case):
    lamps = lightplan.lamps_of(document.lighting) or lightplan.lamps_of(lightplan.begun(type(document)()).lighting)
    return lightplan.with_lamps(document, arranged(said.pattern, lamps, document.lighting.subject))


VERB = Verb(
    "light-pattern",
    "Arrange the lamps in a pattern",
    lamp_edit(_change),
    Keys,
    lambda document, said: f"light: {PATTERNS[said.pattern].title}",
    NEEDS,
)
