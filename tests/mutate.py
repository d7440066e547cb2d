"""Small faults planted in the core, one at a time: which of them does no test of the core notice?

Use: script/mutate [COUNT] [SEED] [PATH]. Prints one line per fault and ends with the share that survived; exits 1 when it is
more than one in ten. A comparison is turned around, a sign is changed, a limit or another constant is moved by a tenth or by
one, `and` becomes `or`. Faults are drawn from all modules below PATH (default dimgrey/core), each module weighing by what can be
changed in it; tables of data, sentences, cache sizes, digits of rounding and import lines are left alone.
"""

import ast
import copy
import multiprocessing
import os
import random
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MOST_SURVIVING = 0.1
TIMEOUT_S = 300
GUARD = 1e-3
"""Smaller constants keep a division or a comparison of floats safe; a tenth more of them is no fault."""
TURNED = {
    ast.Lt: ast.Gt, ast.LtE: ast.GtE, ast.Gt: ast.Lt, ast.GtE: ast.LtE, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip


class Places(ast.NodeVisitor):
    """Every place of a module that a fault can be planted in, as (line, words, function that plants it)."""

    def __init__(self):
        self.found = []

    def visit_Assign(self, node):
        if isinstance(node.value, ast.Tuple | ast.Dict | ast.List) and len(ast.dump(node.value)) > 400:
            return  # a table of data
        self.generic_visit(node)

    def visit_FunctionDef(self, node):
        for each in (node.args, *node.body):  # a decorator says how much is remembered, not what is right
            self.visit(each)

    def visit_Call(self, node):
        digits = isinstance(node.func, ast.Name) and node.func.id == "round"
        for each in node.args[:1] if digits else (node.func, *node.args, *node.keywords):
            self.visit(each)

    def visit_JoinedStr(self, node):
        pass  # a sentence

    def visit_AnnAssign(self, node):
        if node.value:
            self.visit(node.value)

    def visit_Compare(self, node):
        for k, operator in enumerate(node.ops):
            if type(operator) in TURNED:
                turned = TURNED[type(operator)]
                self.found.append((node.lineno, f"{_name(operator)} to {turned.__name__}", ("ops", k, turned)))
        self.generic_visit(node)

    def visit_BinOp(self, node):
        if type(node.op) in TURNED and not isinstance(node.left, ast.JoinedStr | ast.List | ast.Tuple):
            turned = TURNED[type(node.op)]
            self.found.append((node.lineno, f"{_name(node.op)} to {turned.__name__}", ("op", None, turned)))
        self.generic_visit(node)

    def visit_BoolOp(self, node):
        turned = TURNED[type(node.op)]
        self.found.append((node.lineno, f"{_name(node.op)} to {turned.__name__}", ("op", None, turned)))
        self.generic_visit(node)

    def visit_UnaryOp(self, node):
        if isinstance(node.op, ast.USub):
            self.found.append((node.lineno, "minus left out", ("op", None, ast.UAdd)))
        if isinstance(node.op, ast.Not):
            self.found.append((node.lineno, "not left out", ("not", None, None)))
        self.generic_visit(node)

    def visit_Constant(self, node):
        if type(node.value) in (int, float) and node.value not in (0, 1) and node.value > GUARD:
            self.found.append((node.lineno, f"{node.value} moved", ("value", None, None)))

    def visit(self, node):
        before = len(self.found)
        super().visit(node)
        for k in range(before, len(self.found)):
            if len(self.found[k]) == 3:
                self.found[k] = (*self.found[k], node)


def _name(operator):
    return type(operator).__name__


def places_of(tree):
    places = Places()
    places.visit(tree)
    return places.found


def planted(tree, number):
    """A copy of a module with the fault of that number in it."""
    made = copy.deepcopy(tree)
    *_, (kind, k, turned), node = places_of(made)[number]
    if kind == "ops":
        node.ops[k] = turned()
    elif kind == "op":
        node.op = turned()
    elif kind == "not":
        node.op = ast.Not()
        node.operand = ast.UnaryOp(ast.Not(), node.operand)
    else:
        small = isinstance(node.value, int) and node.value < 20
        node.value = node.value + 1 if small else type(node.value)(node.value * 1.1)
    return ast.unparse(ast.fix_missing_locations(made))


RUN = """
import importlib.abc, importlib.util, os, sys
name, path = os.environ["MUTANT"], os.environ["MUTANT_FILE"]
class Finder(importlib.abc.MetaPathFinder):
    def find_spec(self, wanted, *_):
        if wanted != name:
            return None
        spec = importlib.util.spec_from_file_location(name, path)
        return spec
sys.meta_path.insert(0, Finder())
sys.argv = ["manage.py", "test", "--settings", "tests.settings", "--failfast", "-v", "0", *os.environ["MUTANT_TESTS"].split()]
from django.core.management import execute_from_command_line
execute_from_command_line(sys.argv)
"""


def survives(job):
    """(job, True when no test notices). The faulty module is imported in place of the real one, in a process of its own."""
    import tempfile

    path, number, *_ = job
    text = Path(path).read_text(encoding="utf-8")
    with tempfile.NamedTemporaryFile("w", suffix=".py", encoding="utf-8") as file:
        file.write(text if number is None else planted(ast.parse(text), number))
        file.flush()
        name = Path(path).relative_to(ROOT).with_suffix("").as_posix().replace("/", ".")
        environment = {**os.environ, "MUTANT": name, "MUTANT_FILE": file.name}
        room = "tests." + ".".join(name.split(".")[1:-1])
        for tests in dict.fromkeys((room, "tests.core.test_pins", "tests.core")):  # the likely ones first
            environment["MUTANT_TESTS"] = tests
            try:
                done = subprocess.run(
                    [sys.executable, "-c", RUN], cwd=ROOT, env=environment, capture_output=True, timeout=TIMEOUT_S
                )
            except subprocess.TimeoutExpired:
                return job, False
            if done.returncode:
                return job, False
    return job, True


def main(count=40, seed=1, below="dimgrey/core"):
    jobs = []
    for path in sorted((ROOT / below).rglob("*.py") if (ROOT / below).is_dir() else [ROOT / below]):
        found = places_of(ast.parse(path.read_text(encoding="utf-8")))
        jobs += [(str(path), number, line, words) for number, (line, words, *_) in enumerate(found)]
    if not survives((jobs[0][0], None))[1]:
        raise SystemExit("The tests of the core fail before any fault is planted. Mend them first.")
    drawn = random.Random(seed).sample(jobs, min(count, len(jobs)))
    survived = 0
    with multiprocessing.Pool(max(1, (os.cpu_count() or 1))) as pool:
        for (path, _, line, words), alive in pool.imap_unordered(survives, drawn):
            survived += alive
            where = f"{Path(path).relative_to(ROOT)}:{line}"
            print(f"{'SURVIVED' if alive else 'noticed '} {where} {words}", flush=True)
    print(f"{survived} of {len(drawn)} faults survived, drawn from {len(jobs)} (seed {seed}).")
    return 1 if survived > MOST_SURVIVING * len(drawn) else 0


if __name__ == "__main__":
    sys.exit(main(*(int(text) for text in sys.argv[1:3]), *sys.argv[3:4]))
