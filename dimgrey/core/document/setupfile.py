"""The open setup format "dimgrey-setup": from plain values to a checked Setup, and back."""

from dataclasses import dataclass

from dimgrey.core.camera.setups import FILES, setup
from dimgrey.core.document.formats import parsed
from dimgrey.core.document.means import MIXES
from dimgrey.core.shapes.declare import Shaped, by_name, key, needed, number, one_of, several, text
from dimgrey.core.shapes.format import Format

MAX_BYTES = 200_000


@dataclass(frozen=True)
class SetupFile(Shaped):
    """A setup as its file has it. revision: which one of a kept setup it is."""

    name: str = needed(text(60, 1))
    revision: int = key(number(1, kind="integer"), 1, always=True, asked=2)
    effects: dict = by_name(number(-1, 1))
    filter: str = key(one_of(*MIXES), MIXES[0], always=True, asked=2)
    protection_stops: float = key(number(0, 3), 0.0, always=True, asked=2)
    file: str = key(one_of(*FILES), FILES[0], always=True, asked=2)
    notes: str = key(text(1000), "", always=True, asked=2)
    tags: tuple = key(several(text(30), most=12), (), always=True, asked=2)


SETUP = Format("setup", SetupFile, 1, begun=17)


def plain(wanted, revision=1):
    """A wanted Setup as plain values. revision: which one of a kept setup it is."""
    said = (wanted.name, revision, dict(wanted.effects), wanted.filter, wanted.protection_stops, wanted.file)
    written = SETUP.write(SetupFile(*said, wanted.notes, tuple(wanted.tags)))
    return {**written, "effects": dict(wanted.effects)}


def setup_from(data):
    """A checked Setup from plain values. Raises DocumentError with every mistake of shape, CoreError for one of meaning."""
    SETUP.check(data)
    said = SETUP.read(data)
    return setup(said.name, said.effects, said.filter, said.protection_stops, said.file, said.notes, said.tags)


def load(text):
    """A checked Setup from a setup file's text. Raises DocumentError or CoreError."""
    return setup_from(parsed(text, "setup", MAX_BYTES))
