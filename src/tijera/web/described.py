"""What every field and value of the HTTP interface means, with an example: one word, one meaning, wherever it stands.

A field whose own docstring says more keeps that; here is what it shares with all fields of its name. `Kind.field` is for the
few that mean something of their own.

Docstrings of fields are read here, when somebody asks for the description, and not by Pydantic at the start
(`use_attribute_docstrings`): that reads every source file again, for each class, before the first answer.
"""

from __future__ import annotations

import ast
import inspect
import itertools
import json
import re
import textwrap
from collections.abc import Iterator, Mapping
from typing import Any, cast

from tijera.core.errors import TijeraError
from tijera.web.base import Problem, Wire
from tijera.web.more_words import MORE_WORDS
from tijera.web.words import WORDS


def _entries() -> Iterator[tuple[str, str, str]]:
    for line in f"{WORDS.strip()}\n{MORE_WORDS.strip()}".split("\n"):
        name, meaning, example = (part.strip() for part in line.split(" | ", 2))
        yield name, meaning, example


MEANINGS: Mapping[str, str] = {name: meaning for name, meaning, _ in _entries()}
EXAMPLES: Mapping[str, str] = {name: example for name, _, example in _entries()}


def _of(words: Mapping[str, str], owner: str, name: str) -> str | None:
    return words.get(f"{owner}.{name}") or words.get(name)


def describe(api: dict[str, Any]) -> dict[str, Any]:
    """An OpenAPI description in which every field and value has its meaning and an example, and every problem its words."""
    own = _docstrings()
    # Routes refer to it, and have no model of it of their own.
    api["components"]["schemas"][Problem.__name__] = Problem.model_json_schema(mode="serialization")
    for owner, schema in api["components"]["schemas"].items():
        for name, field in schema.get("properties", {}).items():
            meaning = own.get(f"{owner}.{name}") or _of(MEANINGS, owner, name)
            example = _of(EXAMPLES, owner, name)
            if meaning is not None:
                field.setdefault("description", meaning)
            if "const" in field:
                field.setdefault("examples", [field["const"]])
            elif example is not None:
                field.setdefault("examples", [json.loads(example)])
    for operations in api["paths"].values():
        for operation in operations.values():
            for value in operation.get("parameters", ()):
                if value["name"] in MEANINGS:
                    value.setdefault("description", MEANINGS[value["name"]])
                    value.setdefault("example", json.loads(EXAMPLES[value["name"]]))
    rows = [f"| `{code}` | {title} | {remedy} |" for code, title, remedy in problems()]
    table = "\n".join(["| code | what it says | what to do |", "| --- | --- | --- |", *rows])
    api["info"]["description"] = f"{_INTRODUCTION}\n\n{table}"
    return api


def _docstrings() -> dict[str, str]:
    """What stands below the fields of the wire's classes, by `Class.field`, those of their bases included."""
    written: dict[type, dict[str, str]] = {Wire: {}}
    for kind in _subclasses(Wire):
        body = cast(ast.ClassDef, ast.parse(textwrap.dedent(inspect.getsource(kind))).body[0]).body
        written[kind] = {
            field.target.id: inspect.cleandoc(below.value.value)
            for field, below in itertools.pairwise(body)
            if isinstance(field, ast.AnnAssign) and isinstance(field.target, ast.Name)
            if isinstance(below, ast.Expr)
            and isinstance(below.value, ast.Constant)
            and isinstance(below.value.value, str)
        }
    return {
        f"{kind.__name__}.{field}": text
        for kind in written
        for base in reversed(kind.__mro__)
        for field, text in written.get(base, {}).items()
    }


def _subclasses(kind: type[Wire]) -> Iterator[type[Wire]]:
    for child in kind.__subclasses__():
        yield child
        yield from _subclasses(child)


_INTRODUCTION = """Everything that the interface of Tijera does goes through here, on this computer only. A refusal is a
problem object (RFC 9457) with a stable code, what happened, and what to do about it."""


def problems() -> list[tuple[str, str, str]]:
    """Every problem that can be answered: its code, what it says, what to do, with its values left open."""
    return sorted((kind.code, _open(kind.title), _open(kind.remedy_text)) for kind in _leaves(TijeraError))


def _open(text: str) -> str:
    return re.sub(r"\{\w+(?:![rs])?(?::[^}]*)?\}", "…", text)


def _leaves(kind: type[TijeraError]) -> Iterator[type[TijeraError]]:
    children = kind.__subclasses__()
    if not children:
        yield kind
    for child in children:
        yield from _leaves(child)
