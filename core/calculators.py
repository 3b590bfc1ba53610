"""Calculators for a shell and for screens: one JSON object in, one out.

Each calculator states the keys it takes; a wrong or unknown key is refused with its path. Keys are
optional unless marked, and what is left out has the model's documented default.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from jsonschema import Draft202012Validator

from core.document.limits import one_quantity
from core.document.reading import translated, without_nulls
from core.document.schema import LENGTH, PERCENT, PRESSURE, VOLUME, Schema, choice, record
from core.engine.atmosphere import SEA_LEVEL_PA, pressure_at_pa
from core.engine.kinematics import Geometry
from core.errors import CoreError, DocumentRefused
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, gauge_strokes_pa, leak_free_peak_pa
from core.pressure.leakdown import held_pa, leak_area_m2, percent_lost, restrictor_area_m2
from core.quantities import Dimension, Quantity, from_si, length_mm, pressure_pa
from core.vocabulary import THROTTLE

Answer = dict[str, Any]
ALTITUDE: Schema = {"type": "number", "minimum": -500, "maximum": 11000}
AREA: Schema = {"type": "number", "minimum": 0, "maximum": 1000}
COEFFICIENT: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 1}


@dataclass(frozen=True)
class Calculator:
    """One calculator: its keys, and what it does with them."""

    keys: Schema
    compute: Callable[[Mapping[str, Any]], Answer]


def calculate(name: str, given: Any) -> Answer:
    """Run one calculator.

    Parameters
    ----------
    name : str
        One of `CALCULATORS`.
    given : object
        Its keys; quantities as in the inspection document.

    Returns
    -------
    dict
        Its answer.

    Raises
    ------
    DocumentRefused, CoreError
        Naming the path of a wrong, missing or unknown key.
    """
    if name not in CALCULATORS:
        known = ", ".join(CALCULATORS)
        raise CoreError("unknown-calculator", "name", name, f"one of {known}")
    calculator = CALCULATORS[name]
    keys = without_nulls(given)
    errors = Draft202012Validator(calculator.keys).iter_errors(keys)
    found = [problem for error in errors for problem in translated(error)]
    if not found:
        for key, value in keys.items():
            dimension = calculator.keys["properties"][key].get("x-dimension")
            if dimension:
                found += one_quantity(f"/{key}", key, value, Dimension(dimension[0]))
    if found:
        raise DocumentRefused(found)
    return calculator.compute(keys)


def _quantity(si: float, unit: str, dimension: Dimension, digits: int = 6) -> Answer:
    value = from_si(si, unit, dimension).value
    return {"value": float(f"{value:.{digits}g}"), "unit": unit}


def _atmosphere(keys: Mapping[str, Any]) -> Answer:
    pressure = pressure_at_pa(keys["altitude_m"])
    return {"pressure": _quantity(pressure, "kPa", Dimension.PRESSURE, 9)}


def _cranking(keys: Mapping[str, Any]) -> Answer:
    known = knowledge().pressure
    stroke = length_mm(keys["stroke"]) / 1e3
    geometry = Geometry(
        length_mm(keys["bore"]) / 1e3,
        stroke,
        length_mm(keys["rod"]) / 1e3,
        keys["compression_ratio"],
        keys["intake_closing_deg_abdc"],
    )
    ambient = pressure_at_pa(keys["altitude_m"]) if "altitude_m" in keys else SEA_LEVEL_PA
    closed = keys.get("throttle") == "closed"
    volume = keys.get("gauge_volume")
    default = Cranking()
    cranking = Cranking(
        rpm=keys.get("cranking_rpm", known["conditions"]["default_rpm"]),
        intake_pa=ambient * (known["conditions"]["closed_intake"] if closed else 1.0),
        ambient_pa=ambient,
        exponent=keys.get("polytropic_exponent", default.exponent),
        gauge_volume_m3=Quantity.read(volume, Dimension.VOLUME).si
        if volume
        else default.gauge_volume_m3,
        strokes=keys.get("strokes", default.strokes),
    )
    baseline = known["areas"]["healthy"] * geometry.swept_m3 / 500e-6
    leak = keys.get("ring_leak_mm2", baseline) + keys.get("valve_leak_mm2", 0.0)
    shown = gauge_strokes_pa(geometry, cranking, [leak * 1e-6])[:, 0]
    peak = leak_free_peak_pa(geometry, cranking)
    return {
        "effective_ratio": float(f"{geometry.effective_ratio:.6g}"),
        "leak_free_peak": _quantity(peak, "kPa", Dimension.PRESSURE),
        "strokes": [_quantity(float(one), "kPa", Dimension.PRESSURE) for one in shown],
    }


def _restrictor(keys: Mapping[str, Any]) -> float:
    usual = knowledge().pressure["leakdown"]["discharge"]
    diameter = length_mm(keys["restrictor"]) / 1e3
    return restrictor_area_m2(diameter, keys.get("discharge_coefficient", usual))


def _leakdown(keys: Mapping[str, Any]) -> Answer:
    supply = pressure_pa(keys["supply"])
    held = float(held_pa(supply, _restrictor(keys), keys["area_mm2"] * 1e-6)[0])
    return {
        "held": _quantity(held, keys["supply"]["unit"], Dimension.PRESSURE),
        "percent": float(f"{percent_lost(supply, held):.6g}"),
    }


def _leak_area(keys: Mapping[str, Any]) -> Answer:
    if ("held" in keys) == ("percent" in keys):
        raise CoreError("one-of", "/held", None, "either held or percent")
    supply = pressure_pa(keys["supply"])
    held = pressure_pa(keys["held"]) if "held" in keys else supply * (1 - keys["percent"] / 100)
    area = leak_area_m2(supply, _restrictor(keys), held)
    return {"area_mm2": float(f"{area * 1e6:.6g}")}


CALCULATORS: dict[str, Calculator] = {
    "atmosphere": Calculator(record({"altitude_m": ALTITUDE}, ("altitude_m",)), _atmosphere),
    "cranking": Calculator(
        record(
            {
                "bore": LENGTH,
                "stroke": LENGTH,
                "rod": LENGTH,
                "compression_ratio": {"type": "number", "exclusiveMinimum": 1, "maximum": 30},
                "intake_closing_deg_abdc": {"type": "number", "minimum": -60, "maximum": 120},
                "cranking_rpm": {"type": "number", "exclusiveMinimum": 0, "maximum": 2000},
                "altitude_m": ALTITUDE,
                "throttle": choice(THROTTLE),
                "polytropic_exponent": {"type": "number", "minimum": 1, "maximum": 1.7},
                "ring_leak_mm2": AREA,
                "valve_leak_mm2": AREA,
                "gauge_volume": VOLUME,
                "strokes": {"type": "integer", "minimum": 1, "maximum": 60},
            },
            ("bore", "stroke", "rod", "compression_ratio", "intake_closing_deg_abdc"),
        ),
        _cranking,
    ),
    "leakdown": Calculator(
        record(
            {
                "supply": PRESSURE,
                "restrictor": LENGTH,
                "area_mm2": AREA,
                "discharge_coefficient": COEFFICIENT,
            },
            ("supply", "restrictor", "area_mm2"),
        ),
        _leakdown,
    ),
    "leak-area": Calculator(
        record(
            {
                "supply": PRESSURE,
                "restrictor": LENGTH,
                "discharge_coefficient": COEFFICIENT,
                "held": PRESSURE,
                "percent": PERCENT,
            },
            ("supply", "restrictor"),
        ),
        _leak_area,
    ),
}
