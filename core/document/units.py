"""A document in other units: every quantity converted, nothing else touched."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.document.schema import SCHEMA
from core.errors import OutOfRange
from core.quantities import Dimension, Quantity, from_si

SYSTEMS: dict[str, dict[Dimension, str]] = {
    "metric": {
        Dimension.PRESSURE: "kPa",
        Dimension.LENGTH: "mm",
        Dimension.TORQUE: "N.m",
        Dimension.DISTANCE: "km",
        Dimension.VOLUME: "mL",
        Dimension.TEMPERATURE: "degC",
    },
    "imperial": {
        Dimension.PRESSURE: "psi",
        Dimension.LENGTH: "in",
        Dimension.TORQUE: "lbf.ft",
        Dimension.DISTANCE: "mi",
        Dimension.VOLUME: "fl-oz",
        Dimension.TEMPERATURE: "degF",
    },
}
DIGITS = 4


def in_units(document: Mapping[str, Any], system: str) -> dict[str, Any]:
    """The document in one system of units, to four digits.

    Parameters
    ----------
    document : mapping
        A checked document; it is not changed.
    system : str
        `metric`, `imperial`, or `as-read`, which changes nothing.

    Raises
    ------
    OutOfRange
        If there is no such system.
    """
    if system == "as-read":
        return dict(document)
    if system not in SYSTEMS:
        raise OutOfRange("units", system, "as-read, metric or imperial")
    converted: dict[str, Any] = _converted(document, SCHEMA, SYSTEMS[system])
    return converted


def _converted(value: Any, schema: Mapping[str, Any], units: Mapping[Dimension, str]) -> Any:
    if "x-dimension" in schema:
        return _quantity(value, schema["x-dimension"], units)
    if isinstance(value, dict):
        known = schema.get("properties", {})
        return {name: _converted(one, known.get(name, {}), units) for name, one in value.items()}
    if isinstance(value, list):
        return [_converted(one, schema.get("items", {}), units) for one in value]
    return value


def _quantity(
    raw: Mapping[str, Any], dimensions: list[str], units: Mapping[Dimension, str]
) -> dict[str, Any]:
    dimension = Dimension(dimensions[0])
    unit = units.get(dimension)
    if unit is None or raw["unit"] in ("%", "h", unit):
        return dict(raw)
    si = Quantity(raw["value"], raw["unit"], dimension).si
    return {"value": float(f"{from_si(si, unit, dimension).value:.{DIGITS}g}"), "unit": unit}
