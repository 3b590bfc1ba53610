"""Altitude, cranking pressure, leak-down: the calculators of what a cylinder holds."""

from __future__ import annotations

from typing import Annotated, Any

from core import vocabulary as words
from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document.records import (
    ClosingAngle,
    CompressionRatio,
    CrankingSpeed,
    Length,
    Percent,
    Pressure,
    Record,
    Strokes,
    Volume,
)
from core.document.shapes import Shape
from core.engine.atmosphere import SEA_LEVEL_PA, pressure_at_pa
from core.engine.kinematics import Geometry
from core.errors import CoreError
from core.knowledge import knowledge
from core.language import say
from core.pressure.cranking import Cranking, gauge_strokes_pa, leak_free_peak_pa
from core.pressure.leakdown import held_pa, leak_area_m2, percent_lost, restrictor_area_m2
from core.pressure.response import REFERENCE_M3
from core.quantities import Dimension, Figure, Quantity, length_mm, pressure_pa

Altitude = Annotated[float, Shape({"type": "number", "minimum": -500, "maximum": 11000})]
Area = Annotated[float, Shape({"type": "number", "minimum": 0, "maximum": 1000})]
Coefficient = Annotated[float, Shape({"type": "number", "exclusiveMinimum": 0, "maximum": 1})]
Exponent = Annotated[float, Shape({"type": "number", "minimum": 1, "maximum": 1.7})]


class AtmosphereKeys(Record, frozen=True):
    altitude_m: Altitude
    reading: Pressure | None = None


class CrankingKeys(Record, frozen=True):
    bore: Length
    stroke: Length
    rod: Length
    compression_ratio: CompressionRatio
    intake_closing_deg_abdc: ClosingAngle
    cranking_rpm: CrankingSpeed | None = None
    altitude_m: Altitude = 0.0
    throttle: words.Throttle = "open"
    polytropic_exponent: Exponent | None = None
    ring_leak_mm2: Area | None = None
    valve_leak_mm2: Area = 0.0
    gauge_volume: Volume | None = None
    strokes: Strokes | None = None


class LeakdownKeys(Record, frozen=True):
    supply: Pressure
    restrictor: Length
    area_mm2: Area
    discharge_coefficient: Coefficient | None = None


class LeakAreaKeys(Record, frozen=True):
    supply: Pressure
    restrictor: Length
    discharge_coefficient: Coefficient | None = None
    held: Pressure | None = None
    percent: Percent | None = None


class TestersKeys(Record, frozen=True, kw_only=True):
    supply: Pressure
    restrictor: Length
    held: Pressure | None = None
    percent: Percent | None = None
    other_supply: Pressure | None = None
    other_restrictor: Length
    discharge_coefficient: Coefficient | None = None


def _atmosphere(keys: AtmosphereKeys) -> Answer:
    pressure = pressure_at_pa(keys.altitude_m)
    answer: Answer = {"pressure": shown(pressure, "kPa", Dimension.PRESSURE, 9)}
    if keys.reading:
        # What is trapped, and so every gauge pressure of a crank, is proportional to the air's own.
        corrected = pressure_pa(keys.reading) * SEA_LEVEL_PA / pressure
        answer["at_sea_level"] = shown(corrected, keys.reading.unit, Dimension.PRESSURE, 4)
    return answer


def _cranking(keys: CrankingKeys) -> Answer:
    known = knowledge().pressure
    geometry = Geometry(
        length_mm(keys.bore) / 1e3,
        length_mm(keys.stroke) / 1e3,
        length_mm(keys.rod) / 1e3,
        keys.compression_ratio,
        keys.intake_closing_deg_abdc,
    )
    ambient = pressure_at_pa(keys.altitude_m)
    closed = keys.throttle == "closed"
    usual = Cranking()
    cranking = Cranking(
        rpm=keys.cranking_rpm or known["conditions"]["default_rpm"],
        intake_pa=ambient * (known["conditions"]["closed_intake"] if closed else 1.0),
        ambient_pa=ambient,
        exponent=keys.polytropic_exponent or usual.exponent,
        gauge_volume_m3=Quantity.read(keys.gauge_volume, Dimension.VOLUME).si
        if keys.gauge_volume
        else usual.gauge_volume_m3,
        strokes=keys.strokes or usual.strokes,
    )
    rings = keys.ring_leak_mm2
    if rings is None:
        rings = known["areas"]["healthy"] * geometry.swept_m3 / REFERENCE_M3
    leak = rings + keys.valve_leak_mm2
    gauge = gauge_strokes_pa(geometry, cranking, [leak * 1e-6])[:, 0]
    peak = leak_free_peak_pa(geometry, cranking)
    return {
        "effective_ratio": rounded(geometry.effective_ratio),
        "leak_free_peak": shown(peak, "kPa", Dimension.PRESSURE),
        "strokes": [shown(float(one), "kPa", Dimension.PRESSURE) for one in gauge],
    }


def _restrictor(diameter: Figure, coefficient: float | None) -> float:
    usual = knowledge().pressure["leakdown"]["discharge"]
    return restrictor_area_m2(length_mm(diameter) / 1e3, coefficient or usual)


def _leakdown(keys: LeakdownKeys) -> Answer:
    supply = pressure_pa(keys.supply)
    restrictor = _restrictor(keys.restrictor, keys.discharge_coefficient)
    held = float(held_pa(supply, restrictor, keys.area_mm2 * 1e-6)[0])
    return {
        "held": shown(held, keys.supply.unit, Dimension.PRESSURE),
        "percent": rounded(percent_lost(supply, held)),
    }


def _area_mm2(keys: LeakAreaKeys) -> float:
    supply = pressure_pa(keys.supply)
    if keys.held is not None and keys.percent is None:
        held = pressure_pa(keys.held)
    elif keys.percent is not None and keys.held is None:
        held = supply * (1 - keys.percent / 100)
    else:
        raise CoreError("one-of", "/held", None, say("either held or percent"))
    restrictor = _restrictor(keys.restrictor, keys.discharge_coefficient)
    return rounded(float(leak_area_m2(supply, restrictor, held)) * 1e6)


def _leak_area(keys: LeakAreaKeys) -> Answer:
    return {"area_mm2": _area_mm2(keys)}


def _testers(keys: TestersKeys) -> Answer:
    """The same leak on another tester."""
    coefficient = keys.discharge_coefficient
    area = _area_mm2(
        LeakAreaKeys(keys.supply, keys.restrictor, coefficient, keys.held, keys.percent)
    )
    other = LeakdownKeys(keys.other_supply or keys.supply, keys.other_restrictor, area, coefficient)
    return {"area_mm2": area, **_leakdown(other)}


PRESSURE_CALCULATORS: dict[str, Calculator[Any]] = {
    "atmosphere": Calculator(AtmosphereKeys, _atmosphere),
    "cranking": Calculator(CrankingKeys, _cranking),
    "leakdown": Calculator(LeakdownKeys, _leakdown),
    "leak-area": Calculator(LeakAreaKeys, _leak_area),
    "testers": Calculator(TestersKeys, _testers),
}
