"""Dwell, points, pulleys and premix: the calculators of what is set beside the plugs."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document.refit_schema import DWELL, LOBES, RATIO
from core.document.shapes import LENGTH, VOLUME, Schema, record
from core.errors import CoreError
from core.quantities import Dimension, Quantity, length_mm
from core.tuning.points import FAR, Cam, advance_change_deg, angle_deg, arc_m, dwell_percent
from core.tuning.premix import oil_m3, top_up

ANGLE: Schema = {"type": "number", "minimum": -360, "maximum": 360}


def _dwell(keys: Mapping[str, Any]) -> Answer:
    return {"percent": rounded(dwell_percent(keys["dwell_deg"], keys["lobes"]))}


def _points(keys: Mapping[str, Any]) -> Answer:
    if ("gap" in keys) == ("dwell_deg" in keys):
        raise CoreError("one-of", "/gap", None, "either the gap or the dwell as it is now")
    known = length_mm(keys["known_gap"])
    cam = Cam.through(keys["lobes"], known, keys["known_dwell_deg"])
    dwell = cam.dwell_deg(length_mm(keys["gap"])) if "gap" in keys else keys["dwell_deg"]
    gap = cam.gap_mm(dwell)
    return {
        "gap": shown(gap / 1e3, keys.get("gap", keys["known_gap"])["unit"], Dimension.LENGTH, 4),
        "dwell_deg": rounded(dwell, 4),
        "percent": rounded(dwell_percent(dwell, keys["lobes"]), 4),
        "advance_change_deg": round(advance_change_deg(keys["known_dwell_deg"], dwell), 2),
        "far": not 1 / FAR <= gap / known <= FAR,
    }


def _pulley(keys: Mapping[str, Any]) -> Answer:
    if ("angle_deg" in keys) == ("arc" in keys):
        raise CoreError("one-of", "/angle_deg", None, "either the angle or the arc")
    diameter = length_mm(keys["diameter"]) / 1e3
    if "arc" in keys:
        return {"angle_deg": rounded(angle_deg(length_mm(keys["arc"]) / 1e3, diameter))}
    unit = keys["diameter"]["unit"]
    return {"arc": shown(arc_m(keys["angle_deg"], diameter), unit, Dimension.LENGTH)}


def _poured(unit: str) -> str:
    """Oil is poured in millilitres where fuel comes in litres."""
    return "fl-oz" if unit == "fl-oz" else "mL"


def _premix(keys: Mapping[str, Any]) -> Answer:
    fuel = Quantity.read(keys["fuel"], Dimension.VOLUME)
    return {"oil": shown(oil_m3(keys["ratio"], fuel.si), _poured(fuel.unit), Dimension.VOLUME)}


def _top_up(keys: Mapping[str, Any]) -> Answer:
    held, fuel = (Quantity.read(keys[name], Dimension.VOLUME) for name in ("held", "fuel"))
    made = top_up(keys["ratio"], keys["ratio_in_tank"], held.si, fuel.si)
    return {
        "oil": shown(made.oil_m3, _poured(fuel.unit), Dimension.VOLUME),
        "ratio_then": rounded(made.ratio, 4),
        "too_rich": made.too_rich,
    }


TUNING_CALCULATORS: dict[str, Calculator] = {
    "dwell": Calculator(
        record({"dwell_deg": DWELL, "lobes": LOBES}, ("dwell_deg", "lobes")), _dwell
    ),
    "points": Calculator(
        record(
            {
                "lobes": LOBES,
                "known_gap": LENGTH,
                "known_dwell_deg": DWELL,
                "gap": LENGTH,
                "dwell_deg": DWELL,
            },
            ("lobes", "known_gap", "known_dwell_deg"),
        ),
        _points,
    ),
    "pulley": Calculator(
        record({"angle_deg": ANGLE, "diameter": LENGTH, "arc": LENGTH}, ("diameter",)), _pulley
    ),
    "premix": Calculator(record({"ratio": RATIO, "fuel": VOLUME}, ("ratio", "fuel")), _premix),
    "top-up": Calculator(
        record(
            {"ratio": RATIO, "ratio_in_tank": RATIO, "held": VOLUME, "fuel": VOLUME},
            ("ratio", "ratio_in_tank", "held", "fuel"),
        ),
        _top_up,
    ),
}
