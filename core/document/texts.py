"""What was written in words of one's own: notes, parts, codes, what was found."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from core.document.schema import SCHEMA
from core.document.shapes import CODES

A_CODE = CODES["items"]["pattern"]
APART = ("house_rules",)  # The shop's, not this engine's.


def texts(document: Mapping[str, Any]) -> list[str]:
    """Every free text of a document, and its trouble codes, each once, in its order."""
    return list(dict.fromkeys(_texts(document, SCHEMA)))


def _texts(value: Any, schema: Mapping[str, Any]) -> Iterator[str]:
    if isinstance(value, Mapping):
        for name, field in schema.get("properties", {}).items():
            if name in value and name not in APART:
                yield from _texts(value[name], field)
    elif isinstance(value, list):
        for one in value:
            yield from _texts(one, schema.get("items", {}))
    elif isinstance(value, str) and ("maxLength" in schema or schema.get("pattern") == A_CODE):
        yield value
