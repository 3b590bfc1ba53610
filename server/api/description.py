"""The description of the API says each record of the core once, wherever it is spoken of."""

from __future__ import annotations

import json
from collections.abc import Iterator
from types import ModuleType
from typing import Any

from msgspec import Struct

from core import assessment
from core.document import records
from core.document.schema import schema_of
from server.api.fields import plain


def each_record_once(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """A hook of drf-spectacular: what is spelt out in its places becomes a name for it."""
    named = {_spelt(schema): name for name, schema in _records()}
    components = result["components"]["schemas"]
    components |= {
        named[_spelt(schema)]: _inside(schema, named)
        for name, schema in _records()
        if named[_spelt(schema)] == name
    }
    for name, schema in components.items():
        components[name] = _inside(schema, named)
    result["paths"] = _named(result["paths"], named)
    return result


def _records() -> Iterator[tuple[str, Any]]:
    for module, suffix in ((records, "Record"), (assessment, "Told")):
        for name, kind in _structs(module):
            yield f"{name}{suffix}", plain(schema_of(kind))


def _structs(module: ModuleType) -> Iterator[tuple[str, type[Struct]]]:
    for name, kind in vars(module).items():
        own = isinstance(kind, type) and kind.__module__ == module.__name__
        if own and issubclass(kind, Struct) and kind.__struct_fields__:
            yield name, kind


def _inside(schema: Any, named: dict[str, str]) -> Any:
    """A schema with everything within it named, itself as it is."""
    if isinstance(schema, dict):
        return {key: _named(value, named) for key, value in schema.items()}
    return schema


def _named(schema: Any, named: dict[str, str]) -> Any:
    if isinstance(schema, list):
        return [_named(one, named) for one in schema]
    if not isinstance(schema, dict):
        return schema
    if schema.get("type") == "object" and (name := named.get(_spelt(schema))):
        said = {"description": schema["description"]} if "description" in schema else {}
        return {"$ref": f"#/components/schemas/{name}", **said}
    return _inside(schema, named)


def _spelt(schema: dict[str, Any]) -> str:
    """A schema to be compared by: the same record may be described in its place."""
    return json.dumps({k: v for k, v in schema.items() if k != "description"}, sort_keys=True)
