"""The JSON Schema of an inspection document, made from its records.

The order of properties here is the order in which a document is written.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from msgspec import UNSET, Struct
from msgspec.structs import fields

from core.document.records import Document, Engine, HouseRules, OwnTools, Record
from core.document.shapes import MOST_ITEMS, Schema, Shape, choice, record, several

PLAIN: dict[type, Schema] = {
    str: {"type": "string"},
    bool: {"type": "boolean"},
    int: {"type": "integer"},
    float: {"type": "number"},
}


def schema_of(kind: Any) -> Schema:
    """The JSON Schema of a record or of the type of a field."""
    origin, inner = get_origin(kind), get_args(kind)
    if origin is Annotated:
        return next(one.schema for one in kind.__metadata__ if isinstance(one, Shape))
    if origin in (Union, UnionType):  # None means: not looked at; a document leaves it out.
        return schema_of(inner[0])
    if origin is Literal:
        return choice(inner)
    if origin is Mapping:
        named, valued = schema_of(inner[0]), schema_of(inner[1])
        return {"type": "object", "propertyNames": named, "additionalProperties": valued}
    if origin is tuple:
        return _list_of(inner)
    return PLAIN[kind] if kind in PLAIN else _record(kind)


def _list_of(kinds: tuple[Any, ...]) -> Schema:
    kind = kinds[0]
    if get_origin(kind) is Literal:
        return several(get_args(kind))
    items = schema_of(kind)
    if kinds[-1] is not Ellipsis:
        return {"type": "array", "items": items, "minItems": len(kinds), "maxItems": len(kinds)}
    if not (isinstance(kind, type) and issubclass(kind, Record)):
        return {"type": "array", "items": items}
    if kind.identity is None:
        return {"type": "array", "maxItems": MOST_ITEMS, "items": items}
    whole = {"x-whole": True} if getattr(kind, "whole", False) else {}
    return {"type": "array", "items": items, "x-key": kind.identity, **whole}


@cache
def descriptions() -> Mapping[str, Mapping[str, str]]:
    """What each field says, by record: `fields.toml`."""
    text = (resources.files("core.document") / "fields.toml").read_text("utf-8")
    return tomllib.loads(text)


@cache
def _record(kind: type[Struct]) -> Schema:
    hints = get_type_hints(kind, include_extras=True)
    listed = fields(kind)
    said = {**descriptions()["any"], **descriptions().get(kind.__name__, {})}
    properties = {
        one.encode_name: schema_of(hints[one.name]) | _described(said.get(one.encode_name))
        for one in listed
    }
    # Of a document only what is needed has to be there; an answer is written whole.
    whole = not issubclass(kind, Record)
    needed = tuple(
        one.encode_name for one in listed if one.required or (whole and one.default is not UNSET)
    )
    return record(properties, needed) | _described(said.get("itself"))


def _described(text: str | None) -> Schema:
    return {"description": text} if text else {}


ENGINE = schema_of(Engine)
HOUSE_RULES = schema_of(HouseRules)
OWN_TOOLS = schema_of(OwnTools)
SCHEMA: Schema = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "$comment": "Generated from core/document/records.py; do not edit.",
    "title": "One inspection of one engine",
    **schema_of(Document),
}
