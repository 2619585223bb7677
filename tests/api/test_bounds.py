"""Every list and text that somebody may send has an end: read from the API as it describes itself."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from heliograph.api.describe import description

BOUNDS = {"format", "enum", "const", "maxLength", "pattern", "contentMediaType"}


def unbounded(api: dict[str, Any]) -> Iterator[str]:
    """Paths of texts, lists and tables without an end, in what requests carry."""
    known: set[str] = set()
    waiting = [
        (f"{method} {path}", content["schema"])
        for path, operations in api["paths"].items()
        for method, operation in operations.items()
        for content in operation.get("requestBody", {}).get("content", {}).values()
    ]
    while waiting:
        path, schema = waiting.pop()
        if "$ref" in schema:
            name = schema["$ref"].rpartition("/")[2]
            if name not in known:
                known.add(name)
                waiting.append((name, api["components"]["schemas"][name]))
            continue
        waiting += [(path, one) for key in ("anyOf", "oneOf", "allOf") for one in schema.get(key, ())]
        match schema.get("type"):
            case "string" if not BOUNDS & set(schema):
                yield path
            case "array":
                if "maxItems" not in schema:
                    yield f"{path}[]"
                waiting += [(f"{path}[]", one) for one in (schema.get("items", {}), *schema.get("prefixItems", ()))]
            case "object":
                waiting += [(f"{path}.{key}", one) for key, one in schema.get("properties", {}).items()]
                more = schema.get("additionalProperties")
                if isinstance(more, dict):
                    if "maxProperties" not in schema:
                        yield f"{path}{{}}"
                    waiting.append((f"{path}{{}}", more))


def test_every_list_and_text_is_bounded() -> None:
    assert list(unbounded(json.loads(description()))) == []


def test_the_search_finds_what_has_no_end() -> None:
    """Of the search itself: it must not be blind."""
    body = {
        "type": "object",
        "properties": {"a": {"type": "string"}, "b": {"type": "array", "items": {"type": "integer"}}},
    }
    content = {"application/json": {"schema": body}}
    api = {"paths": {"/x": {"post": {"requestBody": {"content": content}}}}, "components": {"schemas": {}}}
    assert sorted(unbounded(api)) == ["post /x.a", "post /x.b[]"]
