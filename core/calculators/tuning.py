"""Dwell, points, pulleys and premix: the calculators of what is set beside the plugs."""

from __future__ import annotations

from typing import Annotated, Any

from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document.records import Dwell, Length, Lobes, Ratio, Record, Volume
from core.document.shapes import Shape
from core.errors import CoreError
from core.language import say
from core.quantities import Dimension, Quantity, length_mm
from core.tuning.points import FAR, Cam, advance_change_deg, angle_deg, arc_m, dwell_percent
from core.tuning.premix import oil_m3, top_up

Angle = Annotated[float, Shape({"type": "number", "minimum": -360, "maximum": 360})]


class DwellKeys(Record, frozen=True):
    dwell_deg: Dwell
    lobes: Lobes


class PointsKeys(Record, frozen=True):
    lobes: Lobes
    known_gap: Length
    known_dwell_deg: Dwell
    gap: Length | None = None
    dwell_deg: Dwell | None = None


class PulleyKeys(Record, frozen=True, kw_only=True):
    angle_deg: Angle | None = None
    diameter: Length
    arc: Length | None = None


class PremixKeys(Record, frozen=True):
    ratio: Ratio
    fuel: Volume


class TopUpKeys(Record, frozen=True):
    ratio: Ratio
    ratio_in_tank: Ratio
    held: Volume
    fuel: Volume


def _dwell(keys: DwellKeys) -> Answer:
    return {"percent": rounded(dwell_percent(keys.dwell_deg, keys.lobes))}


def _points(keys: PointsKeys) -> Answer:
    known = length_mm(keys.known_gap)
    cam = Cam.through(keys.lobes, known, keys.known_dwell_deg)
    if keys.gap and keys.dwell_deg is None:
        dwell = cam.dwell_deg(length_mm(keys.gap))
    elif keys.dwell_deg is not None and not keys.gap:
        dwell = keys.dwell_deg
    else:
        raise CoreError("one-of", "/gap", None, say("either the gap or the dwell as it is now"))
    gap = cam.gap_mm(dwell)
    return {
        "gap": shown(gap / 1e3, (keys.gap or keys.known_gap).unit, Dimension.LENGTH, 4),
        "dwell_deg": rounded(dwell, 4),
        "percent": rounded(dwell_percent(dwell, keys.lobes), 4),
        "advance_change_deg": round(advance_change_deg(keys.known_dwell_deg, dwell), 2),
        "far": not 1 / FAR <= gap / known <= FAR,
    }


def _pulley(keys: PulleyKeys) -> Answer:
    diameter = length_mm(keys.diameter) / 1e3
    if keys.arc and keys.angle_deg is None:
        return {"angle_deg": rounded(angle_deg(length_mm(keys.arc) / 1e3, diameter))}
    if keys.angle_deg is not None and not keys.arc:
        along = arc_m(keys.angle_deg, diameter)
        return {"arc": shown(along, keys.diameter.unit, Dimension.LENGTH)}
    raise CoreError("one-of", "/angle_deg", None, say("either the angle or the arc"))


def _poured(unit: str) -> str:
    """Oil is poured in millilitres where fuel comes in litres."""
    return "fl-oz" if unit == "fl-oz" else "mL"


def _premix(keys: PremixKeys) -> Answer:
    fuel = Quantity.read(keys.fuel, Dimension.VOLUME)
    return {"oil": shown(oil_m3(keys.ratio, fuel.si), _poured(fuel.unit), Dimension.VOLUME)}


def _top_up(keys: TopUpKeys) -> Answer:
    held, fuel = (Quantity.read(one, Dimension.VOLUME) for one in (keys.held, keys.fuel))
    made = top_up(keys.ratio, keys.ratio_in_tank, held.si, fuel.si)
    return {
        "oil": shown(made.oil_m3, _poured(fuel.unit), Dimension.VOLUME),
        "ratio_then": rounded(made.ratio, 4),
        "too_rich": made.too_rich,
    }


TUNING_CALCULATORS: dict[str, Calculator[Any]] = {
    "dwell": Calculator(DwellKeys, _dwell),
    "points": Calculator(PointsKeys, _points),
    "pulley": Calculator(PulleyKeys, _pulley),
    "premix": Calculator(PremixKeys, _premix),
    "top-up": Calculator(TopUpKeys, _top_up),
}
