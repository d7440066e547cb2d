"""What lies beside a rendered picture of the demo place: how large it is and what it was seen through."""

from dataclasses import dataclass

from dimgrey.core.shapes.declare import Shaped, exactly, key, maybe, number


@dataclass(frozen=True)
class Lens(Shaped):
    """hfov_deg: across the picture."""

    focal_length_35mm: float | None = key(number())
    hfov_deg: float | None = key(number())


@dataclass(frozen=True)
class Sidecar(Shaped):
    """What lies beside a rendered picture."""

    size: tuple | None = key(exactly(2, number()))
    camera: Lens | None = maybe(Lens)
