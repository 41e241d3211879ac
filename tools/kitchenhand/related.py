"""Which tests have to do with some changed files: run in our environment, prints them, the nearest first.

A test is as near to a changed module as the imports between them are few. What a test reaches through the
public door (`custard.bench.turned`) counts as the module in which that stands.

python -m kitchenhand.related CHANGED_FILE...
"""

from __future__ import annotations

import ast
import sys
from collections import deque
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

import custard
import grimp

from kitchenhand.places import ROOT, VAR

PLACES = (
    "oldspoon", "common", "records", "people", "kitchen", "book", "bench", "devices", "papers", "stove",
    "photos", "shelf", "trouble", "day", "practice", "log", "archive",
)  # fmt: skip
TESTS = ("core/tests", "server/tests")


def module_of(path: Path) -> str | None:
    """The module that a file of the checkout is, or None for what is none of ours."""
    for root in ("core/src", "server"):
        if path.suffix == ".py" and path.is_relative_to(root):
            parts = path.relative_to(root).with_suffix("").parts
            return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
    return None


def distances(graph: grimp.ImportGraph, changed: Iterable[str]) -> dict[str, int]:
    """How many imports lie between each module and the nearest changed one."""
    found = {name: 0 for name in changed if name in graph.modules}
    waiting = deque(found)
    while waiting:
        name = waiting.popleft()
        for importer in graph.find_modules_that_directly_import(name):
            if importer not in found:
                found[importer] = found[name] + 1
                waiting.append(importer)
    return found


def used(path: Path) -> set[str]:
    """The modules that a test file uses: those it imports, and those behind what it takes from the core."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    found: set[str] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found |= {node.module, *(f"{node.module}.{alias.name}" for alias in node.names)}
        elif isinstance(node, ast.Attribute):
            found |= set(_behind(_chain(node)))
    return (found | _of_a_place(path)) - {"custard"}


def _of_a_place(path: Path) -> set[str]:
    """What a test of the server reaches by its address: its place, by the name of its file or folder, and
    behind that all places."""
    if "server" not in path.parts:
        return set()
    names = {path.stem.removeprefix("test_"), path.parent.name}
    return {"oldspoon.api", *(f"{name}.routes" for name in names.intersection(PLACES))}


def _chain(node: ast.expr) -> list[str]:
    """`custard.bench.turned` as its names; nothing for what begins with anything else."""
    names: list[str] = []
    while isinstance(node, ast.Attribute):
        names.append(node.attr)
        node = node.value
    return [*reversed(names)] if isinstance(node, ast.Name) and node.id == "custard" else []


def _behind(names: Sequence[str]) -> Iterator[str]:
    thing: object = custard
    for name in names:
        thing = getattr(thing, name, None)
        module = getattr(thing, "__module__", None) or getattr(thing, "__name__", "")
        if isinstance(module, str) and module.startswith("custard."):
            yield module


def related(changed: Sequence[Path]) -> list[Path]:
    """Test files that have to do with some changed files, the nearest first."""
    graph = grimp.build_graph("custard", *PLACES, cache_dir=str(VAR / "imports"))
    modules = [name for name in map(module_of, changed) if name]
    near = distances(graph, modules)
    places = {name.split(".", 1)[0] for name in modules} & set(PLACES)
    names = {f"test_{name.rsplit('.', 1)[-1]}" for name in modules}
    found: list[tuple[int, float, Path]] = []
    for folder in TESTS:
        for path in sorted((ROOT / folder).rglob("test_*.py")):
            own, uses = path.relative_to(ROOT), used(path)
            steps = [near[name] for name in uses if name in near]
            if own in changed or (steps and path.stem in names):
                found.append((-2, 0.0, own))
            elif steps and any(path.parent.name == place or path.stem == f"test_{place}" for place in places):
                found.append((-1, -1 / len(uses), own))
            elif steps:
                # Of those equally near, what is about little else comes first.
                nearest = min(steps)
                found.append((nearest, -steps.count(nearest) / len(uses), own))
    return [path for *_, path in sorted(found)]


if __name__ == "__main__":
    print("\n".join(str(path) for path in related([Path(word) for word in sys.argv[1:]])))
