"""Change the code a little, many times over, and see whether a test notices: `make mutants` (not part of the tests).

The changes come from cosmic-ray, a general library; which of them are tried is drawn by a seed, so many for each module.
The report names the survivors, to be mended by a test or explained in `docs/mutants.md`.

`python -m tools.mutants [--each N] [--seed S] [--jobs N] [--only PART]`
"""

from __future__ import annotations

import argparse
import ast
import difflib
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue

ROOT = Path(__file__).resolve().parent.parent
CORE, TESTS = "src/tijera/core", "tests.tijera.core"
TARGETS: dict[str, tuple[str, ...]] = {
    f"{CORE}/fit.py": (f"{TESTS}.test_fit", f"{TESTS}.placing.test_stands"),
    f"{CORE}/placing": (f"{TESTS}.placing.test_stands",),
    f"{CORE}/budget": (f"{TESTS}.budget.test_solver", f"{TESTS}.budget.test_verdict", f"{TESTS}.imaging.test_encode"),
    f"{CORE}/clippings": (
        f"{TESTS}.clippings.test_composing",
        f"{TESTS}.clippings.test_cutting",
        f"{TESTS}.clippings.test_hidden",
        f"{TESTS}.clippings.test_edits",
    ),
    f"{CORE}/imaging/strip.py": (f"{TESTS}.imaging.test_encode",),
    f"{CORE}/packages/containers/zipped.py": (
        f"{TESTS}.packages.containers.test_zipped",
        f"{TESTS}.packages.test_odd_packages",
    ),
    f"{CORE}/packages/places/grid.py": (
        f"{TESTS}.packages.places.test_grid",
        f"{TESTS}.packages.formats.xlsx.test_writer",
        f"{TESTS}.packages.formats.ods.test_writer",
    ),
    f"{CORE}/frames/longpage": (f"{TESTS}.frames.test_longpage", "tests.reference.test_long_pages"),
    f"{CORE}/marks": (f"{TESTS}.marks.test_kinds", f"{TESTS}.clippings.test_composing", "tests.reference.test_marks"),
}
"""What is changed, and the tests that should notice, the quickest first."""
OPERATORS = (
    *(f"core/ReplaceBinaryOperator_{pair}" for pair in ("Add_Sub", "Sub_Add", "Mul_Div", "Div_Mul", "FloorDiv_Mul", "Mod_Mul")),
    *(f"core/ReplaceComparisonOperator_{pair}" for pair in ("Eq_NotEq", "NotEq_Eq", "Lt_LtE", "LtE_Lt", "Gt_GtE", "GtE_Gt", "Is_IsNot", "IsNot_Is")),
    *(f"core/ReplaceUnaryOperator_{pair}" for pair in ("USub_UAdd", "Delete_Not")),
    "core/ReplaceAndWithOr",
    "core/ReplaceOrWithAnd",
    "core/ReplaceTrueWithFalse",
    "core/ReplaceFalseWithTrue",
    "core/ReplaceContinueWithBreak",
    "core/AddNot",
    "core/NumberReplacer",
    "core/ZeroIterationForLoop",
)  # fmt: skip
_SECONDS = 300


@dataclass(frozen=True)
class Mutant:
    """One change."""

    path: str
    code: str
    line: str
    tests: tuple[str, ...]


def main(arguments: Iterable[str]) -> int:
    """Try them and print the report; 1 where fewer than nine tenths were noticed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", type=int, default=12, help="so many for each module or folder")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--jobs", type=int, default=os.cpu_count() or 1)
    parser.add_argument("--only", default="", help="only targets with this in their path")
    given = parser.parse_args(list(arguments))
    chance = random.Random(given.seed)  # noqa: S311  (nothing secret is drawn)
    mutants: list[Mutant] = []
    for target, tests in TARGETS.items():
        possible = list(_possible(target, tests))
        if given.only in target:
            mutants += chance.sample(possible, min(given.each, len(possible)))
    survivors = _try(mutants, given.jobs)
    killed = len(mutants) - len(survivors)
    sys.stdout.write(f"\n{killed} of {len(mutants)} noticed ({killed / max(len(mutants), 1):.0%}), seed {given.seed}\n")
    return 0 if killed >= 0.9 * len(mutants) else 1


def _possible(target: str, tests: tuple[str, ...]) -> Iterator[Mutant]:
    from cosmic_ray.mutating import mutate_code
    from cosmic_ray.plugins import get_operator

    path = ROOT / target
    for file in sorted(path.rglob("*.py")) if path.is_dir() else [path]:
        source = file.read_text(encoding="utf-8")
        for name in OPERATORS:
            occurrence = 0
            while (code := mutate_code(source, get_operator(name)(), occurrence)) is not None:
                occurrence += 1
                if _means_something(source, code):
                    yield Mutant(str(file.relative_to(ROOT)), code, _changed(source, code), tests)


def _means_something(before: str, after: str) -> bool:
    """Whether code changed, not only an annotation, which is never evaluated."""
    try:
        one, other = ast.parse(before), ast.parse(after)
    except SyntaxError:
        return False
    return ast.dump(_Bare().visit(one)) != ast.dump(_Bare().visit(other))


class _Bare(ast.NodeTransformer):
    """Takes annotations out."""

    def visit_arg(self, node: ast.arg) -> ast.arg:
        node.annotation = None
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        node.annotation = ast.Constant(None)
        return self.generic_visit(node)

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        node.returns = None
        return self.generic_visit(node)


def _changed(before: str, after: str) -> str:
    lines = difflib.unified_diff(before.splitlines(), after.splitlines(), n=0, lineterm="")
    return "\n".join(line for line in lines if not line.startswith(("---", "+++")))


def _try(mutants: list[Mutant], jobs: int) -> list[Mutant]:
    folders: SimpleQueue[Path] = SimpleQueue()
    with tempfile.TemporaryDirectory() as place:
        for number in range(jobs):
            folder = Path(place) / str(number)
            ignored = shutil.ignore_patterns("static", "__pycache__")
            shutil.copytree(ROOT / "src", folder / "src", ignore=ignored)
            folders.put(folder)

        def survives(mutant: Mutant) -> bool:
            folder = folders.get()
            file = folder / mutant.path
            whole = file.read_text(encoding="utf-8")
            try:
                file.write_text(mutant.code, encoding="utf-8")
                alive = _passes(folder / "src", mutant.tests)
            finally:
                file.write_text(whole, encoding="utf-8")
                folders.put(folder)
            # At once: a run that is stopped has said what it found.
            sys.stdout.write(f"\n{mutant.path}\n{mutant.line}\n" if alive else ".")
            sys.stdout.flush()
            return alive

        with ThreadPoolExecutor(jobs) as pool:
            alive = list(pool.map(survives, mutants))
    return [mutant for mutant, is_alive in zip(mutants, alive, strict=True) if is_alive]


def _passes(source: Path, tests: tuple[str, ...]) -> bool:
    environment = {**os.environ, "PYTHONPATH": str(source), "PYTHONDONTWRITEBYTECODE": "1"}
    command = [sys.executable, "-W", "error", "-m", "unittest", "--failfast", *tests]
    try:
        answer = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, timeout=_SECONDS, check=False)
    except subprocess.TimeoutExpired:
        return False
    return answer.returncode == 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
