"""Import rules that layers can't say: what may be imported from outside, by an allow-list, and no cycles between files.

Part of `make check`; the layers themselves are contracts in `pyproject.toml`. `python tools/import_rules.py [FOLDER]`.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterable, Iterator, Mapping
from functools import cache
from pathlib import Path
from typing import TypeAlias

ROOT = Path(__file__).resolve().parent.parent
PACKAGE = "tijera"
_Import: TypeAlias = ast.Import | ast.ImportFrom
_PURE = frozenset(
    [
        "__future__",
        "abc",
        "base64",
        "binascii",
        "bisect",
        "codecs",
        "collections",
        "contextlib",
        "copy",
        "dataclasses",
        "difflib",
        "email",
        "enum",
        "fractions",
        "functools",
        "hashlib",
        "heapq",
        "html",
        "io",
        "itertools",
        "json",
        "logging",
        "math",
        "operator",
        "os",
        "pathlib",
        "posixpath",
        "quopri",
        "re",
        "secrets",
        "statistics",
        "string",
        "struct",
        "threading",
        "types",
        "typing",
        "unicodedata",
        "urllib",
        "warnings",
        "weakref",
        "xml",
        "zlib",
    ]
)
"""Of the standard library: what computes and touches nothing outside. `os` and `pathlib` are for the shipped fonts."""
_CORE = _PURE | {"importlib", "pkgutil", "numpy", "PIL", "pyvips", "lxml", "oxipng", "fontTools"}
ALLOWED: Mapping[str, frozenset[str]] = {
    # The one word to the C library: that memory is no longer needed.
    "tijera.core.imaging.allocator": _CORE | {"ctypes"},
    # Passwords are kept by a published rule, not by one of our own.
    "tijera.core.links.guarding": _CORE | {"argon2"},
    # Foreign HTML is made safe by those who do nothing else.
    "tijera.core.packages.formats.eml.shown": _CORE | {"nh3"},
    # Of the calendar only: what time it is now, nobody here asks.
    "tijera.core.moments": _CORE | {"datetime"},
    "tijera.core.rounds": _CORE | {"datetime"},
    "tijera.core": _CORE,
    "tijera.records": _PURE,
    "tijera.desk": _CORE | {"datetime", "time", "tomllib"},
    "tijera.screens": _CORE | {"Xlib", "sys"},
    "tijera.post": _CORE | {"asyncio", "aiosmtplib", "concurrent"},
    # A program of the system's packages, in a process of its own.
    "tijera.recognition": _CORE | {"subprocess", "shutil"},
    "tijera.postbox": _PURE | {"asyncio", "aiosmtpd", "socket"},
    "tijera.store": _PURE | {"errno", "peewee", "pydantic", "sqlite3", "tempfile", "datetime", "shutil", "zipfile"},
    "tijera.usecases": _CORE | {"stat", "datetime", "concurrent", "email", "zipfile"},
    "tijera.demo": _CORE | {"zipfile"},
    "tijera.links": _PURE | {"asyncio", "hmac", "starlette", "uvicorn", "socket", "time"},
    "tijera.people": _PURE | {"asyncio", "fastapi", "http", "peewee", "starlette"},
    "tijera.web": _PURE
    | {
        "ast",
        "asyncio",
        "datetime",
        "fastapi",
        "hmac",
        "http",
        "inspect",
        "pydantic",
        "starlette",
        "sse_starlette",
        "textwrap",
    },
}
"""What each package may import besides the project's own modules; what is not listed here is free (`cli`, `serving`)."""
_NARROW: Mapping[str, frozenset[str]] = {
    "urllib": frozenset({"urllib.parse"}),
    "email": frozenset(
        {"email.errors", "email.header", "email.message", "email.parser", "email.utils", "email.policy"}
    ),
    "xml": frozenset({"xml.sax.saxutils"}),
    "lxml": frozenset({"lxml", "lxml.etree", "lxml.html"}),
}
"""Modules of which only some parts are pure, or safe."""


def complaints(folder: Path) -> list[str]:
    """Every import below a source folder that no rule allows, and every cycle."""
    files = {_module(folder, path): path for path in sorted(folder.rglob("*.py"))}
    said: list[str] = []
    graph: dict[str, set[str]] = {}
    for name, path in files.items():
        every, at_once = _imports(path.read_text(encoding="utf-8"))
        imported = set(_named(every, files))
        graph[name] = {each for each in _named(at_once, files) if each in files and each != name}
        said += [f"{name} imports {each}" for each in sorted(imported) if not _allowed(name, each)]
    return said + [" → ".join(cycle) for cycle in _cycles(graph)]


def _module(folder: Path, path: Path) -> str:
    parts = path.relative_to(folder.parent).with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


@cache
def _imports(text: str) -> tuple[list[_Import], list[_Import]]:
    """All imports of a module; and those that stand outside of its functions, also for types alone."""
    tree = ast.parse(text)
    at_once: list[_Import] = []
    waiting: list[ast.stmt] = list(tree.body)
    while waiting:
        node = waiting.pop()
        if isinstance(node, ast.If | ast.Try | ast.With):
            waiting += node.body
        elif isinstance(node, ast.Import | ast.ImportFrom):
            at_once.append(node)
    return [node for node in ast.walk(tree) if isinstance(node, ast.Import | ast.ImportFrom)], at_once


def _named(imports: Iterable[_Import], files: Mapping[str, Path]) -> Iterator[str]:
    for node in imports:
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        else:
            yield from _from(node, files)


def _from(node: ast.ImportFrom, files: Mapping[str, Path]) -> Iterator[str]:
    if node.level or node.module is None:
        yield "." * node.level + (node.module or "")
        return
    wholes = [f"{node.module}.{alias.name}" for alias in node.names]
    yield from (whole if whole in files else node.module for whole in wholes)


def _allowed(name: str, imported: str) -> bool:
    top = imported.split(".", maxsplit=1)[0]
    if top == "":
        return False  # relative imports hide where a thing comes from
    if top == PACKAGE:
        return True  # the layers say which
    owner = next((package for package in ALLOWED if name == package or name.startswith(f"{package}.")), None)
    if owner is None:
        return top not in ("tests", "tools", "benchmarks")
    narrow = _NARROW.get(top)
    return top in ALLOWED[owner] and (narrow is None or imported in narrow)


def _cycles(graph: Mapping[str, set[str]]) -> Iterator[list[str]]:
    """One cycle for each knot of modules that import each other."""
    done: set[str] = set()
    for begin in graph:
        path: list[str] = []
        if begin not in done:
            yield from _walk(graph, begin, path, done)


def _walk(graph: Mapping[str, set[str]], at: str, path: list[str], done: set[str]) -> Iterator[list[str]]:
    path.append(at)
    for following in sorted(graph.get(at, ())):
        if following in path:
            yield [*path[path.index(following) :], following]
        elif following not in done:
            yield from _walk(graph, following, path, done)
    path.pop()
    done.add(at)


def main() -> int:
    """Print what no rule allows; 1 where there is something."""
    folder = Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "src" / PACKAGE
    said = complaints(folder)
    sys.stderr.write("".join(f"{line}\n" for line in said))
    return 1 if said else 0


if __name__ == "__main__":
    raise SystemExit(main())
