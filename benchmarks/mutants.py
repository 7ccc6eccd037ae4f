"""How much of the core its own tests hold: seeded, sampled mutants, each run against the matching package's tests.

Run as ``bin/benchmark mutants [PACKAGE ...] [--count N] [--seed N] [--line FILE:LINE]``. A mutant is one changed
operator, number, comparison or condition; it is caught where the tests under the same path fail. Survivors are
printed with their line.
"""

import argparse
import ast
import os
import queue
import random
import subprocess
import sys
import tempfile
from collections import defaultdict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from shutil import copytree, ignore_patterns

ROOT = Path(__file__).parents[1]
CORE = Path("iron_bucket") / "core"
SECONDS = 150
_SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.Lt: ast.GtE,
    ast.LtE: ast.Gt,
    ast.Gt: ast.LtE,
    ast.GtE: ast.Lt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.And: ast.Or,
    ast.Or: ast.And,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mutant:
    """One change of one file."""

    path: Path
    line: int
    words: str
    source: str


def mutants_of(path: Path) -> Iterator[Mutant]:
    """Every mutant of a file. Annotations and decorators are left alone."""
    text = (ROOT / path).read_text(encoding="utf-8")
    tree = ast.parse(text)
    spots = [node for node in ast.walk(tree) if _changes(node)]
    skipped = {id(inner) for node in ast.walk(tree) for inner in _annotations(node)}
    for place, node in enumerate(spots):
        if id(node) in skipped:
            continue
        for number in range(len(_changes(node))):
            changed = ast.parse(text)  # a third of what a deep copy takes
            twin = [each for each in ast.walk(changed) if _changes(each)][place]
            words = _changes(twin)[number][0]
            _changes(twin)[number][1]()
            yield Mutant(path=path, line=getattr(node, "lineno", 0), words=words, source=ast.unparse(changed))


def _annotations(node: ast.AST) -> Iterator[ast.AST]:
    for name in ("annotation", "returns"):
        found = getattr(node, name, None)
        if isinstance(found, ast.AST):
            yield from ast.walk(found)
    for decorator in getattr(node, "decorator_list", ()):
        yield from ast.walk(decorator)


def _changes(node: ast.AST) -> list[tuple[str, object]]:
    """What may be changed at a node: words, and what does it."""
    match node:
        case ast.BinOp(op=op) | ast.BoolOp(op=op) if type(op) in _SWAPS and not _is_text(node):
            return [(f"{type(op).__name__} to {_SWAPS[type(op)].__name__}", lambda: setattr(node, "op", _new(op)))]
        case ast.Compare(ops=[op]) if type(op) in _SWAPS:
            return [(f"{type(op).__name__} to {_SWAPS[type(op)].__name__}", lambda: setattr(node, "ops", [_new(op)]))]
        case ast.Constant(value=bool() as value):
            return [(f"{value} to {not value}", lambda: setattr(node, "value", not value))]
        case ast.Constant(value=(int() | float()) as value):
            return [(f"{value} to {value * 1.5 + 1:g}", lambda: setattr(node, "value", type(value)(value * 1.5 + 1)))]
        case ast.UnaryOp(op=ast.USub()):
            return [("no minus", lambda: setattr(node, "op", ast.UAdd()))]
    return []


def _is_text(node: ast.AST) -> bool:
    return isinstance(node, ast.BinOp) and any(
        isinstance(side, ast.JoinedStr) or (isinstance(side, ast.Constant) and isinstance(side.value, str))
        for side in (node.left, node.right)
    )


def _new(op: ast.AST) -> ast.AST:
    return _SWAPS[type(op)]()


def tests_for(path: Path) -> list[str]:
    """The tests of the same package, those of the same file first; for the core's own few files all of them."""
    inner = path.relative_to(CORE)
    twin = Path("tests", "core", inner.parent, f"test_{inner.name}")
    package = Path("tests", "core", *inner.parent.parts[:1])
    return [str(each) for each in (twin, package) if (ROOT / each).exists()]


def is_caught(mutant: Mutant, house: Path) -> bool:
    """Whether the package's tests fail with it, in a copy of the house."""
    target = house / mutant.path
    whole = target.read_text(encoding="utf-8")
    target.write_text(mutant.source, encoding="utf-8")
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests_for(mutant.path)]
    environment = os.environ | {"PYTHONPATH": str(house)}
    try:
        done = subprocess.run(command, cwd=house, env=environment, capture_output=True, check=False, timeout=SECONDS)
        return done.returncode in (1, 2)  # a test failed, or could not even be loaded
    except subprocess.TimeoutExpired:
        return True
    finally:
        target.write_text(whole, encoding="utf-8")


def sampled(packages: list[str], count: int, seed: int) -> list[Mutant]:
    """So many mutants of each package, spread over its files."""
    chance, found = random.Random(seed), []
    for package in packages:
        folder = ROOT / CORE / package
        paths = sorted(each.relative_to(ROOT) for each in folder.rglob("*.py") if each.name != "__init__.py")
        every = [mutant for path in paths for mutant in mutants_of(path)]
        found += chance.sample(every, min(count, len(every)))
    return found


def main() -> None:
    """Sample, run, print."""
    options = argparse.ArgumentParser(description=__doc__)
    every = sorted(each.name for each in (ROOT / CORE).iterdir() if (each / "__init__.py").exists())
    options.add_argument("packages", nargs="*", default=every)
    options.add_argument("--count", type=int, default=20)
    options.add_argument("--seed", type=int, default=1)
    options.add_argument(
        "--line", action="append", default=[], help="FILE:LINE below the core: all mutants of that line"
    )
    options.add_argument("--workers", type=int, default=2)
    given = options.parse_args()
    if given.line:
        chosen = [
            mutant
            for name, _, line in (each.rpartition(":") for each in given.line)
            for mutant in mutants_of(CORE / name)
            if mutant.line == int(line)
        ]
    else:
        chosen = sampled(given.packages, given.count, given.seed)
    caught: dict[str, list[bool]] = defaultdict(list)
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(given.workers) as pool:
        houses: queue.Queue[Path] = queue.Queue()
        for worker in range(given.workers):
            house = Path(folder) / str(worker)
            copytree(ROOT, house, ignore=ignore_patterns(".git", ".venv", "node_modules", "var", "docs", ".mypy_cache"))
            houses.put(house)

        def run(mutant: Mutant) -> tuple[Mutant, bool]:
            house = houses.get()
            try:
                return mutant, is_caught(mutant, house)
            finally:
                houses.put(house)

        for mutant, is_dead in pool.map(run, chosen):
            caught[mutant.path.relative_to(CORE).parts[0]].append(is_dead)
            if not is_dead:
                print(f"survived: {mutant.path}:{mutant.line} {mutant.words}", flush=True)
    for package, found in sorted(caught.items()):
        print(f"{package}: {sum(found)} of {len(found)} caught ({100 * sum(found) / len(found):.0f} %)")


if __name__ == "__main__":
    main()
