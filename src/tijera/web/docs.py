"""The description of the HTTP interface as a page to read: made here from the description itself, without a script."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from html import escape
from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import HTMLResponse, Response

from tijera.web.described import problems

_STYLE = """
body{margin:0 auto;max-width:62rem;padding:2rem;background:#fbf8f1;color:#20282a;
font:16px/1.5 "Atkinson Hyperlegible Next",sans-serif}
h1,h2{font-weight:700}h2{margin-top:2.5rem;border-bottom:1px solid #d9d1bf}
h3{margin:2rem 0 .3rem;font-size:1rem}code,pre{font:14px/1.45 "Atkinson Hyperlegible Mono",monospace}
pre{overflow:auto;padding:.7rem;background:#f1ecdf}table{border-collapse:collapse;width:100%}
th,td{padding:.25rem .6rem .25rem 0;border-bottom:1px solid #d9d1bf;text-align:left;vertical-align:top}
a{color:#246b60}a:focus-visible{outline:2px solid #20282a;outline-offset:2px}
"""
Api = Mapping[str, Any]


def serve_docs(app: FastAPI) -> None:
    """Serve the page."""

    def page(request: Request) -> Response:
        head = f'<title>Tijera, HTTP interface</title><style nonce="{request.state.nonce}">{_STYLE}</style>'
        body = "".join(_body(app.openapi()))
        return HTMLResponse(f'<!doctype html><html lang="en"><meta charset="utf-8">{head}<body>{body}</body></html>')

    app.add_api_route("/docs", page, include_in_schema=False)


def _body(api: Api) -> Iterator[str]:
    yield f"<h1>Tijera {escape(api['info']['version'])}: HTTP interface</h1>"
    yield '<p>The same as a file: <a href="/api/v1/openapi.json">openapi.json</a>. A refusal is a problem object (RFC 9457): '
    yield '<a href="#problems">all of them</a>. What comes and goes: <a href="#kinds">all kinds</a>.</p>'
    tags: dict[str, list[tuple[str, str, Api]]] = {}
    for path, operations in api["paths"].items():
        for method, operation in operations.items():
            tags.setdefault(operation["tags"][0], []).append((method, path, operation))
    for tag, listed in tags.items():
        yield f"<h2>{escape(tag.capitalize())}</h2>"
        for method, path, operation in listed:
            yield from _operation(api, method, path, operation)
    yield '<h2 id="kinds">Kinds</h2>'
    for name, schema in api["components"]["schemas"].items():
        yield from _kind(name, schema)
    yield '<h2 id="problems">Problems</h2><table><tr><th>Code<th>What it says<th>What to do</tr>'
    for code, title, remedy in problems():
        yield f"<tr><td><code>{escape(code)}</code><td>{escape(title)}<td>{escape(remedy)}</tr>"
    yield "</table>"


def _operation(api: Api, method: str, path: str, operation: Api) -> Iterator[str]:
    yield f"<h3><code>{method.upper()} {escape(path)}</code></h3><p>{escape(operation.get('description', ''))}</p>"
    values = operation.get("parameters", ())
    if values:
        yield "<table><tr><th>Value<th>Where<th>Meaning<th>Example</tr>"
        for each in values:
            example = escape(json.dumps(each.get("example"), ensure_ascii=False))
            yield f"<tr><td><code>{each['name']}</code><td>{each['in']}<td>{escape(each.get('description', ''))}"
            yield f"<td><code>{example}</code></tr>"
        yield "</table>"
    for kind in operation.get("requestBody", {}).get("content", {}).values():
        yield from _example(api, "Sent", kind.get("schema", {}))
    for status, answer in operation.get("responses", {}).items():
        for kind in answer.get("content", {}).values():
            if status.startswith("2"):
                yield from _example(api, f"Answer {status}", kind.get("schema", {}))


def _example(api: Api, what: str, schema: Api) -> Iterator[str]:
    name = _name(schema) or _name(schema.get("items", {}))
    if name:
        shown = json.dumps(example_of(api, schema), ensure_ascii=False, indent=1)
        yield f'<p>{what}: <a href="#{name}">{name}</a></p><pre>{escape(shown)}</pre>'


def _name(schema: Api) -> str | None:
    reference = schema.get("$ref")
    return None if reference is None else str(reference).rsplit("/", 1)[-1]


def example_of(api: Api, schema: Api, depth: int = 0) -> Any:  # noqa: ANN401  (anything that JSON can hold)
    """An example of a schema, put together of those of its fields."""
    name = _name(schema)
    if name is not None:
        own = api["components"]["schemas"][name]
        return {
            field: value["examples"][0] if "examples" in value else None
            for field, value in own.get("properties", {}).items()
        }
    if schema.get("type") == "array" and depth == 0:
        return [example_of(api, schema.get("items", {}), 1)]
    for each in schema.get("anyOf", ()):
        if _name(each):
            return example_of(api, each, depth)
    return None


def _kind(name: str, schema: Api) -> Iterator[str]:
    yield f'<h3 id="{escape(name)}">{escape(name)}</h3><p>{escape(schema.get("description", ""))}</p>'
    fields = schema.get("properties", {})
    if fields:
        needed = set(schema.get("required", ()))
        yield "<table><tr><th>Field<th>Meaning<th>Example</tr>"
        for field, value in fields.items():
            example = escape(json.dumps(value.get("examples", [None])[0], ensure_ascii=False))
            optional = "" if field in needed else " (may be left out)"
            yield f"<tr><td><code>{field}</code>{optional}<td>{escape(value.get('description', ''))}<td><code>{example}</code></tr>"
        yield "</table>"
