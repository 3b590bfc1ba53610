"""Writing a document so that the same record is always the same bytes."""

from __future__ import annotations

import json
from typing import Any

from core.document.schema import SCHEMA


def canonical(document: dict[str, Any]) -> dict[str, Any]:
    """The document in the schema's order: fields as listed, cylinders by number.

    Tests and swaps without an `id` are given one from their place in the list.
    """
    in_order: dict[str, Any] = ordered(document, SCHEMA)
    return in_order


def write_document(document: dict[str, Any]) -> bytes:
    """Canonical UTF-8 JSON, two spaces deep, with a newline at the end."""
    text = json.dumps(canonical(document), ensure_ascii=False, indent=2, allow_nan=False)
    return (text + "\n").encode()


def ordered(value: Any, schema: dict[str, Any]) -> Any:
    """A part of a document in the order of its schema."""
    if isinstance(value, dict) and "properties" in schema:
        fields = [field for field in schema["properties"] if field in value]
        written = {field: ordered(value[field], schema["properties"][field]) for field in fields}
        return {
            field: inner
            for field, inner in written.items()
            if not (inner == {} or (inner == [] and "x-key" in schema["properties"][field]))
        }
    if isinstance(value, dict):
        return {key: value[key] for key in sorted(value)}
    if isinstance(value, list) and "x-key" in schema:
        items = _identified(value) if schema["x-key"] == "id" else value
        if schema["x-key"] in ("number", "cylinder"):
            items = sorted(items, key=lambda item: item[schema["x-key"]])
        return [ordered(item, schema["items"]) for item in items]
    if isinstance(value, list):
        return [ordered(item, schema.get("items", {})) for item in value]
    return value


def _identified(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Items with an id each; those without get `t1`, `t2` ... past the ones taken."""
    taken = {item["id"] for item in items if "id" in item}
    named = []
    for index, item in enumerate(items, start=1):
        name = item.get("id") or f"t{index}"
        while "id" not in item and name in taken:
            name += "x"
        taken.add(name)
        named.append({"id": name, **item})
    return named
