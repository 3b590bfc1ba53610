"""A document, or what was said of it, in other units: nothing else is touched.

Units are a matter of display: what was weighed as it was read is told in the reader's.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from core.document.schema import SCHEMA
from core.errors import OutOfRange
from core.language import number_read, say
from core.quantities import DIMENSION_OF, Dimension, Quantity, figure, from_si

METRIC = {
    Dimension.PRESSURE: "kPa",
    Dimension.LENGTH: "mm",
    Dimension.TORQUE: "N.m",
    Dimension.DISTANCE: "km",
    Dimension.VOLUME: "mL",
    Dimension.TEMPERATURE: "degC",
}
SYSTEMS: dict[str, dict[Dimension, str]] = {
    "metric": METRIC,
    "bar": METRIC | {Dimension.PRESSURE: "bar"},
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
# A figure within a sentence. "in" is a word as well: it counts behind a decimal fraction only.
UNIT_WORDS = "|".join(
    re.escape(unit)
    for unit in sorted(DIMENSION_OF, key=len, reverse=True)
    if unit not in ("%", "h", "in")
)
IN_WORDS = re.compile(
    rf"(?<![\w.,+])(-?\d+(?:[.,]\d+)? (?:{UNIT_WORDS})|-?\d+[.,]\d+ in)(?![\w/])(?!\.\w)"
)


def in_units(document: Mapping[str, Any], system: str) -> dict[str, Any]:
    """The document in one system of units, to four digits.

    Parameters
    ----------
    document : mapping
        A checked document; it is not changed.
    system : str
        `metric`, `bar` (metric with bar), `imperial`, or `as-read`, which changes nothing.

    Raises
    ------
    OutOfRange
        If there is no such system.
    """
    if system == "as-read":
        return dict(document)
    if system not in SYSTEMS:
        raise OutOfRange("units", system, say("as-read, metric, bar or imperial"))
    converted: dict[str, Any] = _converted(document, SCHEMA, SYSTEMS[system])
    return converted


def told_in_units(said: Any, system: str) -> Any:
    """An answer in one system of units: its quantities, and the figures within its sentences.

    Parameters
    ----------
    said : JSON value
        An assessment, or a part of one; it is not changed and not weighed again.
    system : str
        `metric`, `bar` (metric with bar), `imperial`, or `as-read`, which changes nothing.
    """
    if system == "as-read":
        return said
    if isinstance(said, dict):
        if said.keys() == {"value", "unit"} and said["unit"] in DIMENSION_OF:
            return _figure(said, DIMENSION_OF[said["unit"]], SYSTEMS[system])
        return {name: told_in_units(one, system) for name, one in said.items()}
    if isinstance(said, list):
        return [told_in_units(one, system) for one in said]
    if isinstance(said, str):
        return IN_WORDS.sub(lambda found: _sentence(found[1], SYSTEMS[system]), said)
    return said


def _sentence(read: str, units: Mapping[Dimension, str]) -> str:
    value, unit = read.split(" ")
    raw = {"value": number_read(value), "unit": unit}
    told = _figure(raw, DIMENSION_OF[unit], units)
    return read if told == raw else f"{figure(told['value'], DIGITS)} {told['unit']}"


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
    return _figure(raw, Dimension(dimensions[0]), units)


def _figure(
    raw: Mapping[str, Any], dimension: Dimension, units: Mapping[Dimension, str]
) -> dict[str, Any]:
    unit = units.get(dimension)
    if unit is None or raw["unit"] in ("%", "h", unit):
        return dict(raw)
    si = Quantity(raw["value"], raw["unit"], dimension).si
    return {"value": float(f"{from_si(si, unit, dimension).value:.{DIGITS}g}"), "unit": unit}
