"""The rooms of the house: who may know whom, how large a module and a function may be."""

import ast
from functools import cache
from graphlib import TopologicalSorter

from django.test import SimpleTestCase

from dimgrey.site.config import ROOT

CODE = ROOT / "dimgrey"
LIBRARIES_OF_THE_CORE = {
    "numpy",
    "scipy",
    "skimage",
    "contourpy",
    "cv2",
    "embreex",
    "jsonschema",
    "jsonschema_rs",
    "exifread",
    "fsrs",
}
MOST_LINES, MOST_CODE_LINES = 350, 45
LONGER_FUNCTIONS = {
    "core/planning/planfile.plan_as_json": "one literal: the keys of the plan file in their order",
}


@cache
def modules():
    """(path below dimgrey as text, syntax tree, text) of every module that is not a migration."""
    paths = [path for path in sorted(CODE.rglob("*.py")) if "migrations" not in path.parts]
    texts = [path.read_text(encoding="utf-8") for path in paths]
    return tuple(
        (path.relative_to(CODE).as_posix(), ast.parse(text), text) for path, text in zip(paths, texts, strict=True)
    )


def imports(tree):
    """Names of everything imported, also within functions."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            yield node.module
            yield from (f"{node.module}.{alias.name}" for alias in node.names)


@cache
def room_of(name):
    """The room of a dotted name such as dimgrey.scenes.desk, or None for another package. A folder with an `apps.py` is a room, in
    another room too: "outings/day"."""
    parts = name.split(".")
    if parts[0] != "dimgrey" or len(parts) < 2:
        return None
    inner = "/".join(parts[1:3])
    return inner if (CODE / inner / "apps.py").exists() else parts[1]


@cache
def graph():
    """room -> rooms that it imports, late imports included. Files beside the rooms are none."""
    found = {}
    for path, tree, _ in modules():
        room = room_of("dimgrey." + path.removesuffix(".py").replace("/", "."))
        if "/" not in path or path.endswith("__init__.py"):
            continue
        known = {room_of(name) for name in imports(tree)} - {None, room}
        found.setdefault(room, set()).update(known)
    return found


class Rooms(SimpleTestCase):
    def test_no_room_knows_itself_by_way_of_another(self):
        order = list(TopologicalSorter(graph()).static_order())  # raises CycleError with the circle in it
        self.assertEqual((graph()["core"], len(order)), (set(), len(graph())))

    def test_the_graph_is_the_one_that_is_drawn(self):
        drawn = (ROOT / "docs" / "rooms.md").read_text(encoding="utf-8").partition("## Old names")[0]
        rows = [line.split("|")[1:4] for line in drawn.splitlines() if line.startswith("| `")]
        told = {
            row[0].strip(" `"): set(filter(None, row[2].replace("`", "").replace(" ", "").split(","))) for row in rows
        }
        self.assertEqual(told, graph())
        for k, row in enumerate(rows):
            uses, above = told[row[0].strip(" `")], {before[0].strip(" `") for before in rows[:k]}
            self.assertLessEqual(uses, above, f"{row[0]} stands above what it uses")

    def test_the_core_knows_no_interface(self):
        for path, tree, _ in modules():
            if path.startswith("core/"):
                known = {name.split(".")[0] for name in imports(tree) if name.split(".")[0] != "dimgrey"}
                rooms = {room_of(name) for name in imports(tree)} - {None, "core"}
                outside = known - LIBRARIES_OF_THE_CORE - set(__import__("sys").stdlib_module_names)
                self.assertEqual((outside, rooms), (set(), set()), path)

    def test_no_module_of_the_core_circles_within_it(self):
        inside = {}
        names = {path.removesuffix(".py").replace("/", ".") for path, _, _ in modules() if path.startswith("core/")}
        for path, tree, _ in modules():
            if path.startswith("core/"):
                known = {name.removeprefix("dimgrey.") for name in imports(tree)}
                inside[path.removesuffix(".py").replace("/", ".")] = known & names
        TopologicalSorter(inside).prepare()


READING_ONLY = ("views.py", "queries.py", "forms.py", "page.py")
WRITES = {"save", "create", "get_or_create", "update_or_create", "bulk_create", "bulk_update", "delete"}


class Writing(SimpleTestCase):
    def test_views_queries_forms_and_pages_write_no_row(self):
        """A row is saved without a place to save it in, or made by the table's manager; pictures and sessions are none."""
        found = set()
        for path, tree, _ in modules():
            if not path.endswith(READING_ONLY):
                continue
            for node in ast.walk(tree):
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in WRITES:
                    receiver = ast.unparse(node.func.value)
                    if not node.args and not receiver.endswith("session"):
                        found.add(f"{path}: {receiver}.{node.func.attr}")
        self.assertEqual(found, set())


class Sizes(SimpleTestCase):
    def test_modules(self):
        long = {path for path, _, text in modules() if text.count("\n") > MOST_LINES}
        self.assertEqual(long, set())

    def test_functions(self):
        long = set()
        for path, tree, text in modules():
            lines = text.splitlines()
            for node in ast.walk(tree):
                if isinstance(node, ast.FunctionDef) and _code_lines(node, lines) > MOST_CODE_LINES:
                    long.add(f"{path.removesuffix('.py')}.{node.name}")
        self.assertEqual(long, set(LONGER_FUNCTIONS))


def _code_lines(node, lines):
    """Lines of a function without its docstring, comments and blank lines."""
    said = node.body[0] if ast.get_docstring(node) else None
    skipped = set(range(said.lineno, said.end_lineno + 1)) if said else set()
    body = (lines[k - 1].strip() for k in range(node.lineno, node.end_lineno + 1) if k not in skipped)
    return sum(bool(line) and not line.startswith("#") for line in body)


class Paths(SimpleTestCase):
    def test_tests_of_the_core_lie_where_their_rooms_lie(self):
        rooms = {path.name for path in (CODE / "core").iterdir() if path.is_dir() and path.name != "__pycache__"}
        tested = {
            path.name for path in (ROOT / "tests" / "core").iterdir() if path.is_dir() and path.name != "__pycache__"
        }
        self.assertEqual(tested, rooms)

    def test_every_room_with_pages_has_tests(self):
        rooms = {path.parent.relative_to(CODE).as_posix() for path in CODE.rglob("urls.py")}
        for room in rooms - {"site"}:
            with self.subTest(room):
                self.assertTrue(list((ROOT / "tests" / room).glob("test_*.py")) or room in TESTED_THROUGH)


TESTED_THROUGH = {"people": "scenes"}
"""Rooms whose few pages are tested where they are used."""
