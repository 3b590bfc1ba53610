"""Units, blades, gaps, torque and voltage: the calculators of the bench."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document.refit_schema import BLADES, CUT_PERCENT, SCALE, SIGNED_LENGTH
from core.document.shapes import (
    FLAG,
    LENGTH,
    PRESSURE,
    TEMPERATURE,
    TORQUE,
    Schema,
    choice,
    quantity,
    record,
)
from core.errors import CoreError
from core.plugs.blades import MM_PER_UNIT, exact_mm, stacks
from core.plugs.breakdown import breakdown_v
from core.plugs.gap import Window
from core.plugs.torque import Wrench, setting, turn_deg
from core.quantities import DIMENSION_OF, UNITS, Dimension, Quantity, UnitRefused, length_mm
from core.vocabulary import SEATS, THREAD_STATE

MOST_SHOWN = 12
ANY_DIMENSION = tuple(one for one in Dimension if one is not Dimension.SHARE)
ON_SCALE: Schema = {"anyOf": [SCALE, TORQUE]}  # A bare number is in the wrench's own unit.
KILOVOLTS: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 500}


def _units(keys: Mapping[str, Any]) -> Answer:
    raw = keys["quantity"]
    try:
        converted = Quantity.read(raw, DIMENSION_OF[raw["unit"]]).to(keys["to"])
    except UnitRefused as refused:
        raise CoreError("unit", "/to", keys["to"], refused.expected) from None
    return {"quantity": {"value": rounded(converted.value, 9), "unit": converted.unit}}


def _blades(keys: Mapping[str, Any]) -> Answer:
    unit, blades = keys["target"]["unit"], keys["blades"]
    if not blades:
        raise CoreError("missing", "/blades", blades, "at least one blade")
    ranked = stacks(
        exact_mm(keys["target"]), [exact_mm(one) for one in blades], keys.get("most", 3)
    )
    return {
        "combinations": [
            {
                "blades": [blades[at] for at in one.blades],
                "total": {"value": float(one.total_mm / MM_PER_UNIT[unit]), "unit": unit},
                "error": {"value": float(one.error_mm / MM_PER_UNIT[unit]), "unit": unit},
            }
            for one in ranked[:MOST_SHOWN]
        ]
    }


def _gap(keys: Mapping[str, Any]) -> Answer:
    low, high = length_mm(keys["minimum"]), length_mm(keys["maximum"])
    if low > high:
        raise CoreError("range", "/minimum", keys["minimum"], "at most the maximum")
    window = Window(low, high)
    passes, refuses = (
        length_mm(keys[name]) if name in keys else None for name in ("passes", "refuses")
    )
    return {
        "verdict": window.verdict(passes, refuses),
        "aim": shown(window.aim_mm() / 1e3, keys["minimum"]["unit"], Dimension.LENGTH),
    }


def _breakdown(keys: Mapping[str, Any]) -> Answer:
    pressure = Quantity.read(keys["pressure"], Dimension.PRESSURE).si
    warm = keys.get("temperature", {"value": 20, "unit": "degC"})
    kelvin = Quantity.read(warm, Dimension.TEMPERATURE).si
    kilovolts = breakdown_v(length_mm(keys["gap"]) / 1e3, pressure, kelvin) / 1e3
    answer: Answer = {"kilovolts": rounded(kilovolts, 4)}
    if "coil_kv" in keys:
        answer["share_of_coil"] = rounded(100 * kilovolts / keys["coil_kv"], 3)
    return answer


def _on_scale(keys: Mapping[str, Any], name: str, unit: str) -> float | None:
    """A figure of the wrench's scale, in its unit."""
    given = keys.get(name)
    if not isinstance(given, Mapping):
        return given
    if given["value"] <= 0:
        raise CoreError("range", f"/{name}", given["value"], "more than zero")
    return Quantity.read(dict(given), Dimension.TORQUE).to(unit).value


def _torque(keys: Mapping[str, Any]) -> Answer:
    maker = Quantity.read(keys["maker"], Dimension.TORQUE)
    offset, length = keys.get("adaptor_offset"), keys.get("wrench_length")
    unit = keys.get("wrench_unit", maker.unit)
    wrench = Wrench(
        unit,
        step=_on_scale(keys, "wrench_step", unit),
        minimum=_on_scale(keys, "wrench_minimum", unit),
        maximum=_on_scale(keys, "wrench_maximum", unit),
        offset_m=length_mm(offset) / 1e3 if offset else 0.0,
        length_m=length_mm(length) / 1e3 if length else None,
        joint=keys.get("joint", False),
    )
    made = setting(
        maker.si,
        wrench,
        threads=keys.get("threads", "dry"),
        cut_percent=keys.get("cut_percent"),
    )
    answer: Answer = {
        "setting": {"value": made.shown.value, "unit": made.shown.unit},
        "warnings": [{"code": one.code, "text": one.text} for one in made.hints],
    }
    if "seat" in keys:
        answer["turn_deg"] = list(turn_deg(keys["seat"], reused=keys.get("reused", False)))
    return answer


BENCH_CALCULATORS: dict[str, Calculator] = {
    "units": Calculator(
        record(
            {
                "quantity": quantity(*ANY_DIMENSION),
                "to": choice(tuple(unit for one in ANY_DIMENSION for unit in UNITS[one])),
            },
            ("quantity", "to"),
        ),
        _units,
    ),
    "blades": Calculator(
        record(
            {
                "target": LENGTH,
                "blades": BLADES,
                "most": {"type": "integer", "minimum": 1, "maximum": 3},
            },
            ("target", "blades"),
        ),
        _blades,
    ),
    "gap": Calculator(
        record(
            {"minimum": LENGTH, "maximum": LENGTH, "passes": LENGTH, "refuses": LENGTH},
            ("minimum", "maximum"),
        ),
        _gap,
    ),
    "breakdown": Calculator(
        record(
            {"gap": LENGTH, "pressure": PRESSURE, "temperature": TEMPERATURE, "coil_kv": KILOVOLTS},
            ("gap", "pressure"),
        ),
        _breakdown,
    ),
    "torque": Calculator(
        record(
            {
                "maker": TORQUE,
                "seat": choice(SEATS),
                "reused": FLAG,
                "threads": choice(THREAD_STATE),
                "cut_percent": CUT_PERCENT,
                "wrench_unit": choice(UNITS[Dimension.TORQUE]),
                "wrench_step": ON_SCALE,
                "wrench_minimum": ON_SCALE,
                "wrench_maximum": ON_SCALE,
                "adaptor_offset": SIGNED_LENGTH,
                "wrench_length": LENGTH,
                "joint": FLAG,
            },
            ("maker",),
        ),
        _torque,
    ),
}
