"""The description of the HTTP interface: every field, value and problem has its meaning and an example."""

from __future__ import annotations

import json
import re
from typing import Any

import httpx

from tests.tijera.core.test_errors import _leaves
from tests.tijera.web.test_http import HttpCase
from tijera.core.errors import TijeraError
from tijera.web import described
from tijera.web.docs import example_of


class Described(HttpCase):
    """As the running application gives it."""

    def api(self) -> dict[str, Any]:
        """The description."""
        api: dict[str, Any] = self.http.get("/openapi.json").json()
        return api

    def test_every_field_and_value_has_a_meaning_and_an_example(self) -> None:
        """In every schema and every operation."""
        api = self.api()
        fields = {
            (owner, name): field
            for owner, schema in api["components"]["schemas"].items()
            for name, field in schema.get("properties", {}).items()
        }
        self.assertGreater(len(fields), 400)
        self.assertEqual(
            [key for key, each in fields.items() if not each.get("description") or "examples" not in each], []
        )
        operations = [each for operations in api["paths"].values() for each in operations.values()]
        values = [value for each in operations for value in each.get("parameters", ())]
        self.assertEqual([each["name"] for each in values if not each.get("description") or "example" not in each], [])
        self.assertEqual([each["operationId"] for each in operations if not each.get("description")], [])

    def test_examples_are_of_the_type_that_they_stand_for(self) -> None:
        """A number for a number, a text for a text; null only where null may be."""
        api = self.api()
        kinds: dict[str, Any] = {
            "string": str,
            "integer": int,
            "number": (int, float),
            "boolean": bool,
            "array": list,
            "object": dict,
        }
        for owner, schema in api["components"]["schemas"].items():
            for name, field in schema.get("properties", {}).items():
                (example,) = field["examples"]
                for each in field.get("anyOf", [field]):
                    if "enum" in each and example is not None:
                        self.assertIn(example, each["enum"], f"{owner}.{name}")
                if "$ref" in field:
                    self.assertIsInstance(example, dict | str, f"{owner}.{name}")
                types = [each.get("type") for each in field.get("anyOf", [field])]
                fits = [
                    not kind or (example is None if kind == "null" else isinstance(example, kinds[str(kind)]))
                    for kind in types
                ]
                self.assertTrue(any(fits), f"{owner}.{name}: {example!r} is none of {types}")
                self.assertEqual(example, field.get("const", example))

    def test_words_that_no_field_has_are_none(self) -> None:
        """What is described is there."""
        text = json.dumps(self.api())
        for name in described.MEANINGS:
            self.assertIn(f'"{name.rsplit(".")[-1]}"', text, name)

    def test_every_problem_is_listed(self) -> None:
        """With its words, and no brace left open."""
        listed = {code: words for code, *words in described.problems()}
        self.assertEqual(set(listed), {kind.code for kind in _leaves(TijeraError)})
        self.assertNotRegex(" ".join(word for words in listed.values() for word in words), "[{}]")

    def test_the_page_needs_nothing_from_elsewhere(self) -> None:
        """It has no script and no address of another host; what it links to is there."""
        page = httpx.get(f"{self.server.address}/docs")
        self.assertEqual(page.status_code, 200)
        self.assertNotIn("<script", page.text)
        self.assertNotRegex(page.text, r'(?:src|href)="(?:https?:)?//')
        anchors = set(re.findall(r'href="#([^"]+)"', page.text))
        self.assertGreater(len(anchors), 40)
        for anchor in anchors:
            self.assertIn(f'id="{anchor}"', page.text)
        self.assertIn("GET /api/v1/bench", page.text)

    def test_an_example_that_is_put_together_is_taken(self) -> None:
        """The one for Place's width is what the interface reads."""
        api = self.api()
        body = example_of(api, {"$ref": "#/components/schemas/LimitIn"})
        self.assertEqual(body, {"limit": "2 MB"})
