"""Fields whose shape is the contract's own: the core's schema is the API's schema."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from core.document import SCHEMA
from core.document.schema import ENGINE


def _plain(schema: Any) -> Any:
    """A schema without the core's own marks."""
    if isinstance(schema, dict):
        return {
            key: _plain(value)
            for key, value in schema.items()
            if not key.startswith(("x-", "$")) and key != "propertyNames"
        }
    if isinstance(schema, list):
        return [_plain(value) for value in schema]
    return schema


@extend_schema_field(_plain(SCHEMA))
class DocumentField(serializers.JSONField):
    """An inspection document."""


@extend_schema_field(_plain(ENGINE))
class EngineField(serializers.JSONField):
    """The document's engine."""


@extend_schema_field({"type": "object", "additionalProperties": True})
class DraftField(serializers.JSONField):
    """An engine that is still being described."""
