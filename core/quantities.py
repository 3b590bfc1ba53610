"""Quantities as they are read: a number and the unit on the instrument.

Inside the core everything is SI with the unit in the name; this is the only door.
Factors are SciPy's exact definitions; the tests hold them to NIST SP 811.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import msgspec
from scipy import constants

from core.errors import CoreError
from core.language import number_said, say


class Dimension(StrEnum):
    """What a quantity measures; each has a closed list of units."""

    PRESSURE = "pressure"
    LENGTH = "length"
    TORQUE = "torque"
    DISTANCE = "distance"
    VOLUME = "volume"
    TEMPERATURE = "temperature"
    SHARE = "share"


# Unit as the document spells it -> its slope and offset to SI (km for distances). Running hours
# `h` are a distance to the trade on engines without an odometer: kept as hours, never converted.
LINES: dict[Dimension, dict[str, tuple[float, float]]] = {
    Dimension.PRESSURE: {
        "psi": (constants.psi, 0.0),
        "kPa": (constants.kilo, 0.0),
        "bar": (constants.bar, 0.0),
        "kgf/cm2": (constants.kilogram_force / constants.centi**2, 0.0),
    },
    Dimension.LENGTH: {
        "mm": (constants.milli, 0.0),
        "in": (constants.inch, 0.0),
        "thou": (constants.mil, 0.0),
    },
    Dimension.TORQUE: {
        "N.m": (1.0, 0.0),
        "lbf.ft": (constants.pound_force * constants.foot, 0.0),
        "lbf.in": (constants.pound_force * constants.inch, 0.0),
        "kgf.m": (constants.kilogram_force, 0.0),
    },
    Dimension.DISTANCE: {"km": (1.0, 0.0), "mi": (constants.mile / 1e3, 0.0), "h": (1.0, 0.0)},
    Dimension.VOLUME: {
        "mL": (constants.liter * constants.milli, 0.0),
        "L": (constants.liter, 0.0),
        "fl-oz": (constants.fluid_ounce_US, 0.0),
    },
    Dimension.TEMPERATURE: {
        "degC": (1.0, constants.zero_Celsius),
        "degF": (
            constants.degree_Fahrenheit,
            constants.zero_Celsius - 32 * constants.degree_Fahrenheit,
        ),
    },
    Dimension.SHARE: {"%": (0.01, 0.0)},
}
UNITS: dict[Dimension, tuple[str, ...]] = {kind: tuple(lines) for kind, lines in LINES.items()}
# What a unit measures: no unit measures two things.
DIMENSION_OF: dict[str, Dimension] = {unit: kind for kind, units in UNITS.items() for unit in units}

PSI_PA = constants.psi


class UnitRefused(CoreError):
    """A unit that does not belong to the quantity, or that cannot be converted."""

    def __init__(self, unit: str, expected: str) -> None:
        super().__init__("unit", "unit", unit, expected)


class Figure(msgspec.Struct, frozen=True):
    """A number and its unit as a document spells them; which dimension it has, its field says."""

    value: float
    unit: str

    def __str__(self) -> str:
        """As it was written: 0.9 mm."""
        return f"{number_said(f'{self.value:g}')} {self.unit}"


@dataclass(frozen=True)
class Quantity:
    """A number with its unit, exactly as it was read."""

    value: float
    unit: str
    dimension: Dimension

    def __post_init__(self) -> None:
        if self.unit not in UNITS[self.dimension]:
            raise UnitRefused(
                self.unit, say("one of {known}", known=", ".join(UNITS[self.dimension]))
            )
        if not math.isfinite(self.value):
            raise CoreError("not-finite", "value", self.value, say("a finite number"))

    @classmethod
    def read(cls, raw: Figure, dimension: Dimension) -> Quantity:
        """What a checked document's figure says.

        Raises
        ------
        UnitRefused
            If its unit measures something else.
        CoreError
            If it is not finite.
        """
        return cls(float(raw.value), raw.unit, dimension)

    @property
    def si(self) -> float:
        """The value in SI (Pa, m, N m, m3, K; km for distances, hours kept as hours)."""
        slope, offset = LINES[self.dimension][self.unit]
        return self.value * slope + offset

    def to(self, unit: str) -> Quantity:
        """The same quantity in another unit of its dimension."""
        if unit == self.unit:
            return self
        if "h" in (unit, self.unit):
            raise UnitRefused(unit, say("running hours cannot be turned into a distance"))
        if unit not in UNITS[self.dimension]:
            raise UnitRefused(unit, say("one of {known}", known=", ".join(UNITS[self.dimension])))
        slope, offset = LINES[self.dimension][unit]
        return Quantity((self.si - offset) / slope, unit, self.dimension)

    def spoken(self, digits: int = 3) -> str:
        """The quantity as a person would say it, to a few significant figures."""
        return f"{figure(self.value, digits)} {self.unit}"


def figure(value: float, digits: int = 3) -> str:
    """A number to a few significant figures as a workshop writes it: never with an exponent."""
    told = f"{value:.{digits}g}"
    if "e" in told:
        told = f"{float(told):.12f}".rstrip("0").rstrip(".")
    return number_said(told)


def spoken(raw: Figure, digits: int = 3) -> str:
    """A quantity as it was written, as a person would say it."""
    return Quantity.read(raw, DIMENSION_OF[raw.unit]).spoken(digits)


def percent(share: float, sign: str = "") -> str:
    """A share as it is printed, in whole per cent: 31 %; with the sign "+" a change, +31 %."""
    return number_said(f"{share:{sign}.0%}").replace("%", " %")


def from_si(value_si: float, unit: str, dimension: Dimension) -> Quantity:
    """A quantity in `unit` from its SI value."""
    slope, offset = LINES[dimension][unit]
    return Quantity((value_si - offset) / slope, unit, dimension)


def pressure_pa(raw: Figure) -> float:
    """Gauge or absolute pressure as written. [Pa]"""
    return Quantity.read(raw, Dimension.PRESSURE).si


def length_mm(raw: Figure) -> float:
    """A length as written. [mm]"""
    return Quantity.read(raw, Dimension.LENGTH).si * 1000.0


def meant_unit(raw: Figure, dimension: Dimension, low: float, high: float) -> str | None:
    """The unit in which the same number would make sense, if there is one.

    Parameters
    ----------
    raw : Figure
        The quantity as it was written.
    dimension : Dimension
    low, high : float
        Between them it would make sense. [SI]
    """
    system = raw.unit.partition(".")[0]  # Inch-pounds for foot-pounds before newton metres.
    for unit in sorted(UNITS[dimension], key=lambda one: not one.startswith(f"{system}.")):
        if unit != raw.unit:
            si = Quantity(raw.value, unit, dimension).si
            if low <= si <= high:
                return unit
    return None
