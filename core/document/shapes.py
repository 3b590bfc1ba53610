"""The shapes that a contract is made of: quantities, words of a list, groups, lists with identity.

`x-key` on a list names the field that identifies its items: the log of observations
addresses them by it, and so does the pointer that a person sees on the screen. `x-cylinder` marks
what names a cylinder and so moves with its number; `x-printed`, what stays as a book prints it;
`x-whole`, a list that can be said at once, because half of it is nothing that can be.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from core.plugs.blades import MOST_BLADES
from core.quantities import UNITS, Dimension

MOST_CYLINDERS = 24
MOST_TEXT = 10_000
MOST_ITEMS = 100  # Of any list, but for tests and readings: see limits.

Schema = dict[str, Any]


@dataclass(frozen=True, eq=False)
class Shape:
    """Beside a type: its JSON Schema, where the type alone does not say it."""

    schema: Schema


def quantity(*dimensions: Dimension) -> Schema:
    """`{"value": 0.9, "unit": "mm"}` in a unit of one of the dimensions."""
    units = [unit for dimension in dimensions for unit in UNITS[dimension]]
    return {
        "type": "object",
        "properties": {"value": {"type": "number"}, "unit": {"enum": units}},
        "required": ["value", "unit"],
        "additionalProperties": False,
        "x-dimension": [str(dimension) for dimension in dimensions],
    }


def choice(values: tuple[str, ...]) -> Schema:
    return {"enum": list(values)}


def several(values: tuple[str, ...]) -> Schema:
    return {"type": "array", "items": choice(values), "uniqueItems": True}


def record(properties: dict[str, Schema], required: tuple[str, ...] = ()) -> Schema:
    return {
        "type": "object",
        "properties": properties,
        "required": list(required),
        "additionalProperties": False,
    }


def keyed(key: str, properties: dict[str, Schema], required: tuple[str, ...] = ()) -> Schema:
    """A list whose items are told apart by one of their fields."""
    needed = tuple(dict.fromkeys((key, *required))) if key != "id" else required
    return {"type": "array", "items": record(properties, needed), "x-key": key}


TEXT: Schema = {"type": "string", "maxLength": MOST_TEXT}
NAME: Schema = {"type": "string", "minLength": 1, "maxLength": 100}
ITEM_ID: Schema = {"type": "string", "pattern": "^[A-Za-z0-9_-]{1,64}$"}
NUMBER: Schema = {"type": "number"}
FLAG: Schema = {"type": "boolean"}
CYLINDER_COUNT: Schema = {"type": "integer", "minimum": 1, "maximum": MOST_CYLINDERS}
CYLINDER: Schema = {**CYLINDER_COUNT, "x-cylinder": True}
CYLINDERS: Schema = {"type": "array", "items": CYLINDER, "uniqueItems": True}
PHOTOS: Schema = {
    "type": "array",
    "maxItems": MOST_ITEMS,
    "items": {"type": "string", "pattern": "^sha256:[0-9a-f]{64}$"},
    "uniqueItems": True,
}
CODES: Schema = {
    "type": "array",
    "maxItems": MOST_ITEMS,
    "items": {"type": "string", "pattern": "^[PBCU][0-3][0-9A-F]{3}$"},
    "uniqueItems": True,
}
COUNT: Schema = {"type": "integer", "minimum": 0}

PRESSURE = quantity(Dimension.PRESSURE)
LENGTH = quantity(Dimension.LENGTH)
TORQUE = quantity(Dimension.TORQUE)
DISTANCE = quantity(Dimension.DISTANCE)
VOLUME = quantity(Dimension.VOLUME)
TEMPERATURE = quantity(Dimension.TEMPERATURE)
PERCENT: Schema = {"type": "number", "minimum": 0, "maximum": 100}
MOST_STACKED = 3  # Blades in one gap.
THREAD: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 100}  # In millimetres.
YEARS: Schema = THREAD
DATE: Schema = {"type": "string", "format": "date", "pattern": r"^\d{4}-\d{2}-\d{2}$"}
SCALE: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 100_000}
SIGNED_LENGTH: Schema = {**LENGTH, "x-signed": True}  # Along a handle, nearer to the hand below 0.
BLADES: Schema = {"type": "array", "items": LENGTH, "maxItems": MOST_BLADES}
CUT_PERCENT: Schema = {"type": "number", "minimum": 0, "maximum": 60}
LOBES: Schema = {"type": "integer", "minimum": 1, "maximum": MOST_CYLINDERS}
DWELL: Schema = {"type": "number", "minimum": 0, "maximum": 360}
TIMING: Schema = {"type": "number", "minimum": -90, "maximum": 90}
RATIO: Schema = {"type": "number", "minimum": 5, "maximum": 500}
HOURS: Schema = {"type": "number", "minimum": 0, "maximum": 10000}
