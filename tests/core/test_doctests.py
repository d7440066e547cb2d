"""The examples in docstrings are run, and every public function of the core has a docstring."""

import ast
import doctest
import importlib
import pkgutil
import re
from pathlib import Path

from django.test import SimpleTestCase

import dimgrey.core


def modules():
    for found in pkgutil.walk_packages(dimgrey.core.__path__, "dimgrey.core."):
        yield importlib.import_module(found.name)


UNIT = re.compile(r"^jd$|_(deg|mm|35mm|m|s|m_s|stops|px|ev100|nm|days|cd_m2|jd|size|bytes)$")
"""A name that carries its unit says enough."""
HOUSEHOLD = {
    "document",
    "brief",
    "plan",
    "result",
    "medium",
    "tone",
    "tones",
    "mark",
    "facts",
    "increment",
    "text",
    "name",
    "names",
    "parameter",
    "zone",
    "zones",
    "lens",
    "film",
    "meter",
    "divisions",
    "kind",
    "light",
    "chain",
    "code",
    "pairs",
    "proposal",
    "bracket",
    "choice",
    "air",
    "before",
    "after",
    "x",
    "y",
    "iso",
    "day",
}
"""Words that mean one thing in the whole core; docs/rooms.md and the dataclasses of these names say what."""


class Docstrings(SimpleTestCase):
    def test_examples_hold(self):
        tried = 0
        for module in modules():
            failed, count = doctest.testmod(module)
            tried += count
            with self.subTest(module.__name__):
                self.assertEqual(failed, 0)
        self.assertGreater(tried, 30)

    def test_public_functions_and_classes_say_what_they_do(self):
        missing = []
        for module in modules():
            tree = ast.parse(Path(module.__file__).read_text(encoding="utf-8"))
            for node in tree.body:
                named = isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_")
                # What an act's keys are is said by the first line of its file and by their labels.
                is_keys = node.name == "Keys" and ".acts." in module.__name__ if named else False
                if named and not is_keys and not ast.get_docstring(node):
                    missing.append(f"{module.__name__}.{node.name}")
        self.assertEqual(missing, [])

    maxDiff = None

    def test_parameters_are_named_in_the_docstring(self):
        """Of functions with two parameters or more, those that neither carry a unit nor are words of the house."""
        missing = []
        for module in modules():
            tree = ast.parse(Path(module.__file__).read_text(encoding="utf-8"))
            for node in tree.body:
                if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                    continue
                names = [arg.arg for arg in (*node.args.args, *node.args.kwonlyargs)]
                said = ast.get_docstring(node) or ""
                told = lambda name, said=said: (
                    name in HOUSEHOLD or UNIT.search(name) or name.split("_")[0] in said.lower()
                )
                unsaid = [name for name in names if not told(name.lower())]
                if len(names) > 1 and unsaid:
                    missing.append(f"{module.__name__}.{node.name}: {', '.join(unsaid)}")
        self.assertEqual(missing, [])
