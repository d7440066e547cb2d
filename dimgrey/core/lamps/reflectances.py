"""What skin, hair, cloth, grounds and still-life things give back, and in which colour.

Reflectances are those for the eye (CIE 1931 y-bar), as fractions; each with the range that is met with. Source: HANDBOOK 20 for skin, hair,
shirts and cards; the measured patches of cloth, paper and paint in colour/tables/patch_spectra.csv for the colours and ranges of the rest.
"""

from dataclasses import dataclass

from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS, linear_of_hex

SKIN, HAIR, CLOTH, GROUND, THING = "skin", "hair", "cloth", "ground", "thing"


@dataclass(frozen=True)
class Surface:
    """name: in words. kind: SKIN, HAIR, CLOTH, GROUND or THING. reflectance: 0..1, the usual one. low, high: the range met with. hue: hex of its
    colour; how light that is does not count. wished: span of zones that its lit side usually has in the print, for skin. source: in words."""

    name: str
    kind: str
    reflectance: float
    low: float
    high: float
    hue: str = "#808080"
    wished: tuple = ()
    source: str = "usual"

    @property
    def colour(self):
        """Linear sRGB of its reflectance, three numbers whose luminance is the reflectance."""
        linear = linear_of_hex(self.hue)
        luminance = sum(w * c for w, c in zip(LUMINANCE_WEIGHTS, linear, strict=True))
        return tuple(c / luminance * self.reflectance for c in linear)


def _table(*rows):
    return {row.name: row for row in rows}


SURFACES = _table(
    Surface("pale skin", SKIN, 0.36, 0.30, 0.45, "#d8ab8c", (5.5, 6.5)),
    Surface("tan skin", SKIN, 0.26, 0.20, 0.32, "#b98560", (5.0, 6.0)),
    Surface("brown skin", SKIN, 0.14, 0.10, 0.20, "#8a5a3c", (4.5, 5.5)),
    Surface("dark brown skin", SKIN, 0.08, 0.05, 0.11, "#5e3d2a", (4.0, 5.0)),
    Surface("blond hair", HAIR, 0.25, 0.18, 0.40, "#b8955c"),
    Surface("grey hair", HAIR, 0.30, 0.20, 0.50, "#a9a8a6"),
    Surface("brown hair", HAIR, 0.07, 0.05, 0.10, "#5a4030"),
    Surface("black hair", HAIR, 0.03, 0.02, 0.04, "#2c2724"),
    Surface("white shirt", CLOTH, 0.80, 0.70, 0.85, "#e8e8e4"),
    Surface("blue shirt", CLOTH, 0.16, 0.10, 0.25, "#4a5ea8"),
    Surface("red jumper", CLOTH, 0.11, 0.08, 0.16, "#a8322c"),
    Surface("green jacket", CLOTH, 0.10, 0.06, 0.16, "#4c6b3a"),
    Surface("grey wool", CLOTH, 0.18, 0.12, 0.25, "#808080"),
    Surface("black cotton", CLOTH, 0.04, 0.03, 0.06, "#232323"),
    Surface("black velvet", CLOTH, 0.02, 0.01, 0.025, "#1a1a1a"),
    Surface("white paper", GROUND, 0.85, 0.80, 0.90, "#f0efec"),
    Surface("light grey wall", GROUND, 0.45, 0.35, 0.55, "#b4b4b4"),
    Surface("grey card", GROUND, 0.18, 0.175, 0.185, "#808080"),
    Surface("dark grey paper", GROUND, 0.08, 0.06, 0.10, "#4a4a4a"),
    Surface("brick wall", GROUND, 0.15, 0.10, 0.22, "#9c5844"),
    Surface("black cloth ground", GROUND, 0.04, 0.03, 0.05, "#232323"),
    Surface("black velvet ground", GROUND, 0.02, 0.01, 0.025, "#1a1a1a"),
    Surface("white glaze", THING, 0.75, 0.65, 0.82, "#e6e0d2"),
    Surface("red clay", THING, 0.18, 0.12, 0.25, "#b4683f"),
    Surface("white linen", THING, 0.78, 0.70, 0.84, "#ece8de"),
    Surface("grey linen", THING, 0.30, 0.22, 0.38, "#9a978f"),
    Surface("shell", THING, 0.60, 0.45, 0.72, "#e0c8b0"),
)
"""Surfaces by name."""


def of_kind(*kinds):
    """Surfaces of some kinds, in their order."""
    return tuple(surface for surface in SURFACES.values() if surface.kind in kinds)
