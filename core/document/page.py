"""The page that tells people the inspection file: every field, its words, what it says."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from core.document.schema import SCHEMA
from core.document.shapes import Schema

HEAD = """# The inspection file

Generated from `core/document`; do not edit. One inspection of one engine is one JSON document; its
JSON Schema is [inspection.schema.json](inspection.schema.json).

- **Absent means not looked at**, never "normal". Normal is said by a value.
- A quantity is `{"value": 0.9, "unit": "mm"}`, kept in the unit in which it was read.
- Needed: `format`, `version`, `engine.cycle`, `engine.layout`, `engine.cylinders`; all else may be
  left out.
- Fields marked *several* are lists of words, all that are true.
- A file is refused whole where a field or a word is unknown, a cylinder is not the engine's, a unit
  is missing or wrong, or a figure is one that no instrument shows; each reason names its place (a
  JSON Pointer, RFC 6901).
- Version 1 has only grown: a file that was once accepted still is. A reader that meets a later
  version refuses it and says so. What an older program left out reads as not looked at.
"""


def page() -> str:
    """Markdown, in the order in which a document is written."""
    return HEAD + "".join(_sections("", SCHEMA))


def _sections(path: str, schema: Schema) -> Iterator[str]:
    rows = [
        f"| `{name}` | {_values(field)} | {field['description']} |\n"
        for name, field in schema["properties"].items()
    ]
    title = path.replace("/*", "[]").lstrip("/").replace("/", ".") or "The document"
    yield f"\n## {title}\n\n{schema['description']}\n\n| field | says | meaning |\n|---|---|---|\n"
    yield from rows
    for name, field in schema["properties"].items():
        inner = field.get("items", field)
        if "properties" in inner and "x-dimension" not in inner:
            listed = "/*" if "items" in field else ""
            yield from _sections(f"{path}/{name}{listed}", inner)


def _values(field: Mapping[str, Any]) -> str:
    """What a field may say, in few words."""
    if "x-dimension" in field:
        return "a quantity: " + ", ".join(field["properties"]["unit"]["enum"])
    if "enum" in field:
        return " \\| ".join(f"`{word}`" for word in field["enum"])
    if "const" in field:
        return f"`{field['const']}`"
    kind = field["type"]
    if kind == "array":
        inner = field["items"]
        return (
            "a list"
            if "properties" in inner and "x-dimension" not in inner
            else (f"several: {_values(inner)}")
        )
    if kind == "object":
        return "a group" if "properties" in field else "named figures"
    return {"boolean": "yes or no", "string": "text"}.get(kind) or _range(field)


def _range(field: Mapping[str, Any]) -> str:
    least, above = field.get("minimum"), field.get("exclusiveMinimum")
    low = (
        f"from {least:g}" if least is not None else f"above {above:g}" if above is not None else ""
    )
    high = f"to {field['maximum']:g}" if "maximum" in field else ""
    kind = "a whole number" if field["type"] == "integer" else "a number"
    return " ".join(part for part in (kind, low, high) if part)
