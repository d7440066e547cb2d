"""The parts of the sheet, found in the modules beside this one, and which of them brings an act."""

import pkgutil
from functools import cache
from importlib import import_module

from dimgrey.scenes import sheet
from dimgrey.scenes.sheet.part import Part


@cache
def parts():
    """Every Part in the order of the sheet: what a module of this package calls PART."""
    modules = (import_module(f"{sheet.__name__}.{found.name}") for found in pkgutil.iter_modules(sheet.__path__))
    found = [module.PART for module in modules if isinstance(getattr(module, "PART", None), Part)]
    return tuple(sorted(found, key=lambda part: part.order))


@cache
def part_named(key):
    """The Part of a key, or None."""
    return next((part for part in parts() if part.key == key), None)


@cache
def part_of(verb):
    """The Part that brings a verb, or None. Raises ValueError for a verb that two parts bring."""
    found = [part for part in parts() if verb in part.acts]
    if len(found) > 1:
        raise ValueError(f"The act {verb} is brought by two parts.")
    return found[0] if found else None
