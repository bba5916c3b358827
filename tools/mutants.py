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
    f"{CORE}/budget": (
        f"{TESTS}.budget.test_solver",
        f"{TESTS}.budget.test_packing",
        f"{TESTS}.budget.test_saving",
        f"{TESTS}.budget.test_say",
        f"{TESTS}.budget.test_search",
        f"{TESTS}.imaging.test_encode",
    ),
    f"{CORE}/clippings": (
        f"{TESTS}.clippings.test_composing",
        f"{TESTS}.clippings.test_cutting",
        f"{TESTS}.clippings.test_hidden",
        f"{TESTS}.clippings.test_anew",
        f"{TESTS}.clippings.test_edits",
        "tests.tijera.usecases.test_trimming",
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
    f"{CORE}/frames/longpage": (
        f"{TESTS}.frames.test_scrollbar",
        f"{TESTS}.frames.test_longpage",
        f"{TESTS}.frames.test_rows",
        "tests.reference.test_long_pages",
    ),
    f"{CORE}/marks": (
        f"{TESTS}.marks.test_recorded",
        f"{TESTS}.marks.test_kinds",
        f"{TESTS}.marks.test_scripts",
        f"{TESTS}.clippings.test_composing",
        "tests.reference.test_drawn_marks",
        "tests.reference.test_marks",
    ),
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
HAND_MADE: tuple[tuple[str, str, str, str], ...] = (
    (f"{CORE}/marks/blackout.py", "math.floor(min(ax, bx)), math.ceil(max(ax, bx))", "math.ceil(min(ax, bx)), math.floor(max(ax, bx))", f"{TESTS}.clippings.test_cutting"),
    (f"{CORE}/clippings/composing.py", "sheet.scale) if sheet.insets else picture", "sheet.scale) if not sheet.insets else picture", f"{TESTS}.clippings.test_composing"),
    (f"{CORE}/imaging/strip.py", 'return b"\\xff\\xe0\\x00\\x10" + segment[4:16] + b"\\0\\0"', "return segment", f"{TESTS}.imaging.test_encode"),
    (f"{CORE}/imaging/decode.py", "width * height > MAX_PIXELS", "width * height > 8 * MAX_PIXELS", f"{TESTS}.imaging.test_decode"),
    (f"{CORE}/imaging/decode.py", "width * height > MAX_PIXELS", "width * height >= MAX_PIXELS", f"{TESTS}.imaging.test_decode"),
    (f"{CORE}/budget/ladder.py", "TEXT_FLOOR = 0.04", "TEXT_FLOOR = 0.40", f"{TESTS}.budget.test_search"),
    (f"{CORE}/budget/search.py", "for each in changeable if each.first.extension == \"png\"", "for each in ()", f"{TESTS}.budget.test_search"),
    (f"{CORE}/budget/search.py", "own = max(own + 1, self.rest[_pattern(renditions)])", "return None", f"{TESTS}.budget.test_search"),
    (f"{CORE}/budget/search.py", "            elif loose:\n                yield from self._packed(loose)\n", "", f"{TESTS}.budget.test_search"),
    (f"{CORE}/fit.py", "if width > place_width:", "if width >= place_width:", f"{TESTS}.test_fit"),
    (f"{CORE}/fit.py", "Fraction(str(scale_factor))", "int(scale_factor)", f"{TESTS}.test_fit"),
    (f"{CORE}/packages/places/grid.py", "at(self.columns.start(cells.left) + width.emu, MOST_COLUMNS)", "at(self.columns.start(cells.left) + width.emu, MOST_COLUMNS * 2)", f"{TESTS}.packages.places.test_grid"),
    (f"{CORE}/packages/places/grid.py", "at(self.rows.start(cells.top) + height.emu, MOST_ROWS)", "at(self.rows.start(cells.top) + height.emu, MOST_ROWS * 2)", f"{TESTS}.packages.places.test_grid"),
    (f"{CORE}/frames/longpage/overlap.py", "if len(detailed) > 1:", "if len(detailed) > 9:", f"{TESTS}.frames.test_longpage"),
    (f"{CORE}/frames/longpage/overlap.py", "        if same.sum() * 2 > wanted.sum():", "        if same.sum() > 2 * wanted.sum():", f"{TESTS}.frames.test_longpage"),
)  # fmt: skip
"""What once lived: a file, what stands there, what it becomes, and the tests that notice; each stands for a promise."""
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
    mutants: list[Mutant] = []
    for target, tests in TARGETS.items():
        if given.only in target:
            # A change in one module draws nothing anew in the others.
            chance = random.Random(f"{given.seed} {target}")  # noqa: S311  (nothing secret is drawn)
            mutants += _drawn(target, tests, given.each, chance)
    if given.only in "hand-made":
        mutants += [_by_hand(*each) for each in HAND_MADE]
    survivors = _try(mutants, given.jobs)
    killed = len(mutants) - len(survivors)
    sys.stdout.write(f"\n{killed} of {len(mutants)} noticed ({killed / max(len(mutants), 1):.0%}), seed {given.seed}\n")
    return 0 if killed >= 0.9 * len(mutants) else 1


def _drawn(target: str, tests: tuple[str, ...], most: int, chance: random.Random) -> list[Mutant]:
    """So many of the changes that are possible below a target, each as likely as any other."""
    from cosmic_ray.ast import ast_nodes, get_ast
    from cosmic_ray.mutating import mutate_code
    from cosmic_ray.plugins import get_operator

    path = ROOT / target
    files = sorted(path.rglob("*.py")) if path.is_dir() else [path]
    sources = {file: file.read_text(encoding="utf-8") for file in files}
    possible = [
        (file, name, at)
        for file, source in sources.items()
        for nodes in (list(ast_nodes(get_ast(source))),)
        for name in OPERATORS
        for at in range(sum(len(list(get_operator(name)().mutation_positions(node))) for node in nodes))
    ]
    chance.shuffle(possible)
    drawn: list[Mutant] = []
    for file, name, at in possible:
        code = mutate_code(sources[file], get_operator(name)(), at)
        if len(drawn) < most and code is not None and _means_something(sources[file], code):
            drawn.append(Mutant(str(file.relative_to(ROOT)), code, _changed(sources[file], code), tests))
        if len(drawn) == most:
            break
    return drawn


def _by_hand(path: str, old: str, new: str, tests: str) -> Mutant:
    source = (ROOT / path).read_text(encoding="utf-8")
    if source.count(old) != 1:
        msg = f"{path} has changed: {old} stands there {source.count(old)} times"
        raise ValueError(msg)
    return Mutant(path, source.replace(old, new), _changed(source, source.replace(old, new)), (tests,))


def _means_something(before: str, after: str) -> bool:
    """Whether code changed, not only an annotation, which is never evaluated."""
    try:
        one, other = ast.parse(before), ast.parse(after)
    except SyntaxError:
        return False
    return ast.dump(_Bare().visit(one)) != ast.dump(_Bare().visit(other)) and not _is_next_to(before, one, other)


_TUNED_BY = 0.15


def _is_next_to(source: str, one: ast.Module, other: ast.Module) -> bool:
    """Whether all that changed is a value of a module's table, tuned by eye or measure, by a seventh of itself or less.

    Its neighbour is as good, and a test that tells them apart would only write the table down again. Numbers in hexadecimal
    are codes of a format, not tuned.
    """
    for was, becomes in _outer_statements(one, other):
        if isinstance(was, (ast.Assign, ast.AnnAssign)) and ast.dump(was) != ast.dump(becomes):
            numbers = [
                (a, b) for a, b in zip(ast.walk(was), ast.walk(becomes), strict=False) if _number(a) != _number(b)
            ]
            return all(
                isinstance(a, ast.Constant)
                and not (ast.get_source_segment(source, a) or "").startswith("0x")
                and abs((_number(b) or 0) - (_number(a) or 0)) <= _TUNED_BY * abs(_number(a) or 0)
                for a, b in numbers
            ) and bool(numbers)
    return False


def _outer_statements(one: ast.Module, other: ast.Module) -> Iterator[tuple[ast.stmt, ast.stmt]]:
    """Pairs of statements of a module and of its classes: a class's fields have values of the same kind."""
    for was, becomes in zip(one.body, other.body, strict=False):
        yield was, becomes
        if isinstance(was, ast.ClassDef) and isinstance(becomes, ast.ClassDef):
            yield from zip(was.body, becomes.body, strict=False)


def _number(node: ast.AST) -> float | None:
    is_one = (
        isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool)
    )
    return node.value if is_one else None  # type: ignore[attr-defined]


class _Bare(ast.NodeTransformer):
    """Takes annotations out."""

    def visit_arg(self, node: ast.arg) -> ast.arg:
        node.annotation = None
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        node.annotation = ast.Constant(None)
        return self.generic_visit(node)

    def visit_keyword(self, node: ast.keyword) -> ast.AST | None:
        # Rows that `zip` is told are as long as each other; what a dataclass shows and compares: no test could make them differ.
        return None if node.arg in ("strict", "repr", "compare") else self.generic_visit(node)

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        # Frozen or not is for whoever reads.
        node.decorator_list = []
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
