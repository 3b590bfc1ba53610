"""Fields whose shape is the contract's own: the core's schema is the API's schema."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from core.document import SCHEMA
from core.document.schema import ENGINE, HOUSE_RULES, OWN_TOOLS


def plain(schema: Any) -> Any:
    """A schema without the core's own marks."""
    if isinstance(schema, dict):
        return {
            key: plain(value)
            for key, value in schema.items()
            if not key.startswith(("x-", "$")) and key != "propertyNames"
        }
    if isinstance(schema, list):
        return [plain(value) for value in schema]
    return schema


@extend_schema_field(plain(SCHEMA))
class DocumentField(serializers.JSONField):
    """An inspection document."""


@extend_schema_field(plain(ENGINE))
class EngineField(serializers.JSONField):
    """The document's engine."""


@extend_schema_field(plain(HOUSE_RULES))
class HouseRulesField(serializers.JSONField):
    """The document's house rules."""


@extend_schema_field(plain(SCHEMA["properties"]["cylinders"]))
class CylindersField(serializers.JSONField):
    """Records of cylinders, as the document has them."""


@extend_schema_field(plain(OWN_TOOLS))
class OwnToolsField(serializers.JSONField):
    """The tools that a person owns, as the contract spells blades and a wrench."""


@extend_schema_field({"type": "object", "additionalProperties": True})
class FreeField(serializers.JSONField):
    """An object whose shape is told beside it."""


@extend_schema_field({"type": "object", "additionalProperties": True})
class DraftField(serializers.JSONField):
    """An engine that is still being described."""


@extend_schema_field(
    {
        "type": "object",
        "properties": {"value": {"type": "number"}, "unit": {"type": "string"}},
        "required": ["value", "unit"],
    }
)
class QuantityField(serializers.JSONField):
    """A number with its unit."""
