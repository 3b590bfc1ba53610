"""Altitude, cranking pressure, leak-down: the calculators of what a cylinder holds."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document.shapes import LENGTH, PERCENT, PRESSURE, VOLUME, Schema, choice, record
from core.engine.atmosphere import SEA_LEVEL_PA, pressure_at_pa
from core.engine.kinematics import Geometry
from core.errors import CoreError
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, gauge_strokes_pa, leak_free_peak_pa
from core.pressure.leakdown import held_pa, leak_area_m2, percent_lost, restrictor_area_m2
from core.quantities import Dimension, Quantity, length_mm, pressure_pa
from core.vocabulary import THROTTLE

ALTITUDE: Schema = {"type": "number", "minimum": -500, "maximum": 11000}
AREA: Schema = {"type": "number", "minimum": 0, "maximum": 1000}
COEFFICIENT: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 1}


def _atmosphere(keys: Mapping[str, Any]) -> Answer:
    pressure = pressure_at_pa(keys["altitude_m"])
    answer = {"pressure": shown(pressure, "kPa", Dimension.PRESSURE, 9)}
    if "reading" in keys:
        # What is trapped, and so every gauge pressure of a crank, is proportional to the air's own.
        corrected = pressure_pa(keys["reading"]) * SEA_LEVEL_PA / pressure
        answer["at_sea_level"] = shown(corrected, keys["reading"]["unit"], Dimension.PRESSURE, 4)
    return answer


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
    gauge = gauge_strokes_pa(geometry, cranking, [leak * 1e-6])[:, 0]
    peak = leak_free_peak_pa(geometry, cranking)
    return {
        "effective_ratio": rounded(geometry.effective_ratio),
        "leak_free_peak": shown(peak, "kPa", Dimension.PRESSURE),
        "strokes": [shown(float(one), "kPa", Dimension.PRESSURE) for one in gauge],
    }


def _restrictor(keys: Mapping[str, Any]) -> float:
    usual = knowledge().pressure["leakdown"]["discharge"]
    diameter = length_mm(keys["restrictor"]) / 1e3
    return restrictor_area_m2(diameter, keys.get("discharge_coefficient", usual))


def _leakdown(keys: Mapping[str, Any]) -> Answer:
    supply = pressure_pa(keys["supply"])
    held = float(held_pa(supply, _restrictor(keys), keys["area_mm2"] * 1e-6)[0])
    return {
        "held": shown(held, keys["supply"]["unit"], Dimension.PRESSURE),
        "percent": rounded(percent_lost(supply, held)),
    }


def _leak_area(keys: Mapping[str, Any]) -> Answer:
    if ("held" in keys) == ("percent" in keys):
        raise CoreError("one-of", "/held", None, "either held or percent")
    supply = pressure_pa(keys["supply"])
    held = pressure_pa(keys["held"]) if "held" in keys else supply * (1 - keys["percent"] / 100)
    area = leak_area_m2(supply, _restrictor(keys), held)
    return {"area_mm2": rounded(float(area) * 1e6)}


def _testers(keys: Mapping[str, Any]) -> Answer:
    area = _leak_area(keys)
    other = {name: keys.get(f"other_{name}", keys[name]) for name in ("supply", "restrictor")}
    return {**area, **_leakdown({**keys, **other, **area})}


PRESSURE_CALCULATORS: dict[str, Calculator] = {
    "atmosphere": Calculator(
        record({"altitude_m": ALTITUDE, "reading": PRESSURE}, ("altitude_m",)), _atmosphere
    ),
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
    "testers": Calculator(
        record(
            {
                "supply": PRESSURE,
                "restrictor": LENGTH,
                "held": PRESSURE,
                "percent": PERCENT,
                "other_supply": PRESSURE,
                "other_restrictor": LENGTH,
                "discharge_coefficient": COEFFICIENT,
            },
            ("supply", "restrictor", "other_restrictor"),
        ),
        _testers,
    ),
}
