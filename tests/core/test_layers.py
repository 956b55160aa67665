"""The layers hold, the core is pure, and the Python reads as agreed."""

import ast
import re
import subprocess
import sys
from collections.abc import Collection, Mapping

import grimp
import pytest

from brasspenny.config import PROJECT

PACKAGE = PROJECT / "src" / "brasspenny"
CLOCKS = {("datetime", "now"), ("datetime", "utcnow"), ("datetime", "today"), ("date", "today")}
SEEDED = {"Random", "default_rng", "Generator", "SeedSequence"}
"""What of `random` and `numpy.random` takes its seed in the open; `Random()` and `default_rng()` without one do not count."""


@pytest.mark.parametrize(
    "command",
    [["lint-imports"], ["ruff", "check", "src", "tests"], ["ruff", "format", "--check", "src", "tests"], ["vulture", "src", "--exclude", "migrations"]],
    ids=" ".join,
)
def test_checker_is_content(command):
    tool, *args = command
    done = subprocess.run([f"{sys.prefix}/bin/{tool}", *args], cwd=PROJECT, capture_output=True, text=True, env={"PYTHONPATH": "src", "PATH": "/usr/bin:/bin"})
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-1000:]


def test_no_two_modules_import_each_other():
    graph = grimp.build_graph("brasspenny", cache_dir=None)
    found = [sorted(cycle) for cycle in cycles({module: graph.find_modules_directly_imported_by(module) for module in graph.modules})]
    assert not found, "Move what both need into a third module: " + "; ".join(" ↔ ".join(cycle) for cycle in found)


def test_every_room_stands_in_the_layers():
    """A room the contract does not list is a room it does not hold."""
    listed = PROJECT.joinpath("pyproject.toml").read_text().split("[[tool.importlinter.contracts]]")[2]
    rooms = {path.parent.name for path in PACKAGE.glob("*/__init__.py")} | {path.stem for path in PACKAGE.glob("*.py")}
    missing = {room for room in rooms - {"__init__", "config", "mariadb"} if f'"{room}"' not in listed.replace(" | ", '" "').replace(" : ", '" "')}
    assert not missing


def test_core_asks_no_clock_and_draws_nothing_unseeded():
    found = [f"{path.relative_to(PACKAGE)}:{line}: {said}" for path in sorted((PACKAGE / "core").rglob("*.py")) for line, said in impure(path.read_text())]
    assert not found


@pytest.mark.parametrize(
    "line",
    [
        "import random; random.shuffle(x)",
        "import random; random.Random()",
        "import numpy as np; np.random.default_rng()",
        "import numpy as np; np.random.normal()",
        "from datetime import datetime; datetime.now()",
        "import datetime; datetime.date.today()",
        "import secrets",
        "import uuid",
        "from random import choice",
    ],
)
def test_the_rule_sees(line):
    assert impure(line)


def test_the_rule_lets_a_seed_pass():
    assert not impure("import random\nimport numpy as np\nrandom.Random(7)\nnp.random.default_rng(7)\nrng.shuffle(x)")


def impure(source: str) -> list[tuple[int, str]]:
    """Lines of this Python that read a clock or draw from a source nobody seeded."""
    out = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Import):
            out += [(node.lineno, f"imports {name.name}") for name in node.names if name.name in {"secrets", "uuid", "time"}]
        elif isinstance(node, ast.ImportFrom):
            if node.module in {"secrets", "uuid", "time"} or (node.module == "random" and {name.name for name in node.names} - SEEDED):
                out.append((node.lineno, f"imports from {node.module}"))
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
            owner, called = ast.unparse(node.func.value), node.func.attr
            if (owner.rsplit(".", 1)[-1], called) in CLOCKS:
                out.append((node.lineno, "reads the clock"))
            if owner in {"random", "np.random", "numpy.random"} and (called not in SEEDED or not (node.args or node.keywords)):
                out.append((node.lineno, f"draws unseeded with {owner}.{called}"))
    return out


def cycles(imports: Mapping[str, Collection[str]]) -> list[set[str]]:
    """Return the strongly connected components of more than one module (R. Tarjan, SIAM J. Comput. 1972). imports: module → what it imports."""
    index: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    found: list[set[str]] = []

    def visit(module: str) -> None:
        index[module] = low[module] = len(index)
        stack.append(module)
        for imported in imports[module]:
            if imported not in index:
                visit(imported)
                low[module] = min(low[module], low[imported])
            elif imported in stack:
                low[module] = min(low[module], index[imported])
        if low[module] == index[module]:
            cut = stack.index(module)
            cycle, stack[cut:] = set(stack[cut:]), []
            if len(cycle) > 1:
                found.append(cycle)

    for module in sorted(imports):
        if module not in index:
            visit(module)
    return found


ROUNDS = re.compile(r"\{[^{}\n]*:[+]?\.\d[f%]\}")


def test_sentences_round_in_one_place():
    """A figure told to one decimal here and to two there is two truths: core/figures.py says how fine each kind is told."""
    found = [
        f"{path.relative_to(PACKAGE)}:{i}: {line.strip()[:100]}"
        for path in sorted(PACKAGE.rglob("*.py"))
        if path.name not in ("figures.py", "cli.py", "backup_commands.py")
        for i, line in enumerate(path.read_text().splitlines(), 1)
        if ROUNDS.search(line)
    ]
    assert not found


SENT = re.compile(r"const (\w+|\{[^}]*\}) = use(?:Mutation|Send)(?:<[^()]*>)?\(")


def test_no_page_is_drawn_from_what_a_mutation_holds():
    """It holds nothing while it is sent again: what is drawn from it is taken down meanwhile, with the field somebody types in. useLook keeps what was read."""
    found = []
    for path in sorted((PROJECT / "web/src").rglob("*.ts*")):
        text = path.read_text()
        for name in SENT.findall(text):
            drawn = re.search(r"\bdata\b", name) if name.startswith("{") else re.search(rf"\b{name}\.data\b", text)
            if drawn:
                found.append(f"{path.relative_to(PROJECT)}: {name}")
    assert not found
