"""The parts of the sheet, found in the modules beside this one, and the table of all acts."""

import pkgutil
from functools import cache
from importlib import import_module

from dimgrey.scenes import actions, sheet
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part

_ADDED = {
    "undo": (None, Act(ActForm, lambda scene, form, by: actions.undo(scene, by))),
    "redo": (None, Act(ActForm, lambda scene, form, by: actions.redo(scene, by))),
}
"""Acts that belong to no part."""


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
def _of_parts():
    """verb -> (Part, Act). Raises ValueError for a verb that two parts have."""
    found = {}
    for part in parts():
        for verb, act in part.acts.items():
            if verb in found:
                raise ValueError(f"The act {verb} is brought by two parts.")
            found[verb] = (part, act)
    return found


def add_act(verb, act):
    """Let a room above bring an act of its own, such as logging a frame."""
    _ADDED[verb] = (None, act)


def act_named(verb):
    """(Part or None, Act) of a verb, or None for one that there is not."""
    return _of_parts().get(verb) or _ADDED.get(verb)


def verbs():
    """Every verb there is."""
    return (*_of_parts(), *_ADDED)
