"""Units, blades, gaps, torque and voltage: the calculators of the bench."""

from __future__ import annotations

from typing import Annotated, Any

from core import vocabulary as words
from core.calculators.calculator import Answer, Calculator, rounded, shown
from core.document import records, shapes
from core.document.records import Blades, Flag, Length, Pressure, Record, Temperature, Torque
from core.document.shapes import Shape
from core.errors import CoreError
from core.language import say
from core.plugs.blades import MM_PER_UNIT, exact_mm, stacks
from core.plugs.breakdown import breakdown_v
from core.plugs.gap import Window
from core.plugs.torque import Wrench, setting, turn_deg
from core.quantities import (
    DIMENSION_OF,
    UNITS,
    Dimension,
    Figure,
    Quantity,
    UnitRefused,
    length_mm,
    pressure_pa,
)

MOST_SHOWN = 12
ROOM = Figure(20, "degC")
ANY_DIMENSION = tuple(one for one in Dimension if one is not Dimension.SHARE)
ANY_UNIT = tuple(unit for one in ANY_DIMENSION for unit in UNITS[one])
Kilovolts = Annotated[float, Shape({"type": "number", "exclusiveMinimum": 0, "maximum": 500})]
# A bare number is in the wrench's own unit.
OnScale = Annotated[float | Figure, Shape({"anyOf": [shapes.SCALE, shapes.TORQUE]})]


class UnitsKeys(Record, frozen=True):
    quantity: Annotated[Figure, Shape(shapes.quantity(*ANY_DIMENSION))]
    to: Annotated[str, Shape(shapes.choice(ANY_UNIT))]


class BladesKeys(Record, frozen=True):
    target: Length
    blades: Blades
    most: Annotated[int, Shape({"type": "integer", "minimum": 1, "maximum": 3})] = 3


class GapKeys(Record, frozen=True):
    minimum: Length
    maximum: Length
    passes: Length | None = None
    refuses: Length | None = None


class BreakdownKeys(Record, frozen=True):
    gap: Length
    pressure: Pressure
    temperature: Temperature = ROOM
    coil_kv: Kilovolts | None = None


class TorqueKeys(Record, frozen=True):
    maker: Torque
    seat: words.Seat | None = None
    reused: Flag = False
    threads: words.ThreadState = "dry"
    cut_percent: records.CutPercent | None = None
    wrench_unit: records.TorqueUnit | None = None
    wrench_step: OnScale | None = None
    wrench_minimum: OnScale | None = None
    wrench_maximum: OnScale | None = None
    adaptor_offset: records.SignedLength | None = None
    wrench_length: Length | None = None
    joint: Flag = False


def _units(keys: UnitsKeys) -> Answer:
    try:
        converted = Quantity.read(keys.quantity, DIMENSION_OF[keys.quantity.unit]).to(keys.to)
    except UnitRefused as refused:
        raise CoreError("unit", "/to", keys.to, refused.expected) from None
    return {"quantity": Figure(rounded(converted.value, 9), converted.unit)}


def _blades(keys: BladesKeys) -> Answer:
    unit, blades = keys.target.unit, keys.blades
    if not blades:
        raise CoreError("missing", "/blades", [], say("at least one blade"))
    ranked = stacks(exact_mm(keys.target), [exact_mm(one) for one in blades], keys.most)
    return {
        "combinations": [
            {
                "blades": [blades[at] for at in one.blades],
                "total": Figure(float(one.total_mm / MM_PER_UNIT[unit]), unit),
                "error": Figure(float(one.error_mm / MM_PER_UNIT[unit]), unit),
            }
            for one in ranked[:MOST_SHOWN]
        ]
    }


def _gap(keys: GapKeys) -> Answer:
    low, high = length_mm(keys.minimum), length_mm(keys.maximum)
    if low > high:
        raise CoreError("range", "/minimum", str(keys.minimum), say("at most the maximum"))
    window = Window(low, high)
    passes, refuses = (length_mm(blade) if blade else None for blade in (keys.passes, keys.refuses))
    return {
        "verdict": window.verdict(passes, refuses),
        "aim": shown(window.aim_mm() / 1e3, keys.minimum.unit, Dimension.LENGTH),
    }


def _breakdown(keys: BreakdownKeys) -> Answer:
    kelvin = Quantity.read(keys.temperature, Dimension.TEMPERATURE).si
    gap = length_mm(keys.gap) / 1e3
    kilovolts = breakdown_v(gap, pressure_pa(keys.pressure), kelvin) / 1e3
    answer: Answer = {"kilovolts": rounded(kilovolts, 4)}
    if keys.coil_kv:
        answer["share_of_coil"] = rounded(100 * kilovolts / keys.coil_kv, 3)
    return answer


def _on_scale(given: float | Figure | None, name: str, unit: str) -> float | None:
    """A figure of the wrench's scale, in its unit."""
    if not isinstance(given, Figure):
        return given
    if given.value <= 0:
        raise CoreError("range", f"/{name}", given.value, say("more than zero"))
    return Quantity.read(given, Dimension.TORQUE).to(unit).value


def _torque(keys: TorqueKeys) -> Answer:
    maker = Quantity.read(keys.maker, Dimension.TORQUE)
    offset, length = keys.adaptor_offset, keys.wrench_length
    unit = keys.wrench_unit or maker.unit
    wrench = Wrench(
        unit,
        step=_on_scale(keys.wrench_step, "wrench_step", unit),
        minimum=_on_scale(keys.wrench_minimum, "wrench_minimum", unit),
        maximum=_on_scale(keys.wrench_maximum, "wrench_maximum", unit),
        offset_m=length_mm(offset) / 1e3 if offset else 0.0,
        length_m=length_mm(length) / 1e3 if length else None,
        joint=keys.joint,
    )
    made = setting(
        maker.si,
        wrench,
        threads=keys.threads,
        cut_percent=keys.cut_percent,
    )
    answer: Answer = {
        "setting": Figure(made.shown.value, made.shown.unit),
        "warnings": [{"code": one.code, "text": one.text} for one in made.hints],
    }
    if keys.seat:
        answer["turn_deg"] = list(turn_deg(keys.seat, reused=keys.reused))
    return answer


BENCH_CALCULATORS: dict[str, Calculator[Any]] = {
    "units": Calculator(UnitsKeys, _units),
    "blades": Calculator(BladesKeys, _blades),
    "gap": Calculator(GapKeys, _gap),
    "breakdown": Calculator(BreakdownKeys, _breakdown),
    "torque": Calculator(TorqueKeys, _torque),
}
