"""Cranking compression with leaks, read by a gauge behind a one-way valve.

The charge follows p ~ (m/V)^n: polytropic compression that loses mass. Every stroke starts
afresh at the intake's pressure; the gauge keeps what it caught and climbs towards the peak.

Assumed: the hose's air is at ambient temperature (brass and rubber, seconds of time), the
crankcase, intake and exhaust behind a leak are at ambient pressure, one exponent for the whole
stroke. What this model cannot reproduce: the saying that a low first puff which builds means
rings and one that stays low means a valve. Leaks of one size climb alike whatever the path.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from core.engine.atmosphere import SEA_LEVEL_PA
from core.engine.kinematics import Geometry
from core.errors import OutOfRange
from core.language import say
from core.pressure.orifice import AIR_R, mass_flux

STEP_DEG = 1.0
EMPTY = 1e-6  # Share of the charge below which a cylinder counts as empty.
LATEST_DEG = 40.0  # After top dead centre no gauge fills any more.
VALVE_AREA_M2 = 2.0e-6  # The gauge's own valve and hose, effective; from memory.


@dataclass(frozen=True)
class Cranking:
    """How the engine is turned over and what it breathes."""

    rpm: float = 220.0
    intake_pa: float = SEA_LEVEL_PA
    ambient_pa: float = SEA_LEVEL_PA
    intake_k: float = 310.0
    exponent: float = 1.25
    gauge_volume_m3: float = 6.0e-6
    strokes: int = 6

    def __post_init__(self) -> None:
        limits = {
            "rpm": (1.0, 3000.0),
            "intake_pa": (1e3, 1e6),
            "ambient_pa": (1e3, 1e6),
            "intake_k": (150.0, 600.0),
            "exponent": (1.0, 1.7),
            "gauge_volume_m3": (0.0, 1e-3),
            "strokes": (1, 60),
        }
        for name, (low, high) in limits.items():
            if not low <= getattr(self, name) <= high:
                raise OutOfRange(
                    name, getattr(self, name), say("from {low:g} to {high:g}", low=low, high=high)
                )


def leak_free_peak_pa(geometry: Geometry, cranking: Cranking) -> float:
    """Absolute pressure at top dead centre of a charge that loses nothing. [Pa]"""
    return float(cranking.intake_pa * geometry.effective_ratio**cranking.exponent)


def gauge_strokes_pa(
    geometry: Geometry, cranking: Cranking, leak_area_m2: ArrayLike
) -> NDArray[np.float64]:
    """What the gauge shows after each compression stroke.

    Parameters
    ----------
    geometry : Geometry
        The cylinder.
    cranking : Cranking
        Speed, air and gauge.
    leak_area_m2 : array_like, shape (n,)
        Effective area of all leaks of each case, baseline included. [m2]

    Returns
    -------
    ndarray, shape (strokes, n)
        Gauge pressure, never below zero. [Pa]

    Raises
    ------
    OutOfRange
        If an area is negative or not finite.
    """
    area = _areas(leak_area_m2)
    volumes, seconds, charge = _stroke(geometry, cranking, LATEST_DEG)
    steps = len(volumes) // 2
    gauge_volume = max(cranking.gauge_volume_m3, 1e-9)
    stiffness = AIR_R * cranking.intake_k / gauge_volume

    def slopes(
        mass: NDArray[np.float64], gauge: NDArray[np.float64], volume: float
    ) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        mass = np.maximum(mass, charge * EMPTY)
        pressure = cranking.intake_pa * (mass / charge * volumes[0] / volume) ** cranking.exponent
        kelvin = pressure * volume / (np.maximum(mass, 1e-12) * AIR_R)
        leak = area * mass_flux(pressure, cranking.ambient_pa, kelvin)
        caught = VALVE_AREA_M2 * mass_flux(pressure, gauge, kelvin)
        caught = np.where(pressure > gauge, caught, 0.0)
        return -leak - caught, caught * stiffness

    gauge = np.full_like(area, cranking.ambient_pa)
    shown = np.empty((cranking.strokes, area.size))
    for stroke in range(cranking.strokes):
        mass = np.full_like(area, charge)
        for step in range(steps):
            first, half, last = volumes[2 * step : 2 * step + 3]
            m1, g1 = slopes(mass, gauge, first)
            m2, g2 = slopes(mass + seconds / 2 * m1, gauge + seconds / 2 * g1, half)
            m3, g3 = slopes(mass + seconds / 2 * m2, gauge + seconds / 2 * g2, half)
            m4, g4 = slopes(mass + seconds * m3, gauge + seconds * g3, last)
            mass = np.maximum(mass + seconds / 6 * (m1 + 2 * m2 + 2 * m3 + m4), charge * EMPTY)
            gauge = gauge + seconds / 6 * (g1 + 2 * g2 + 2 * g3 + g4)
        shown[stroke] = gauge - cranking.ambient_pa
    return np.maximum(shown, 0.0)


def settled_gauge_pa(
    geometry: Geometry, cranking: Cranking, leak_area_m2: ArrayLike
) -> NDArray[np.float64]:
    """What the gauge shows once the needle stops climbing.

    The one-way valve has nothing left to pass when the hose holds the highest pressure that the
    cylinder reaches, so the gauge itself drops out and one stroke is enough.

    Parameters
    ----------
    geometry : Geometry
        The cylinder.
    cranking : Cranking
        Speed and air; gauge and strokes do not matter here.
    leak_area_m2 : array_like, shape (n,)
        Effective area of all leaks of each case, baseline included. [m2]

    Returns
    -------
    ndarray, shape (n,)
        Gauge pressure, never below zero. [Pa]

    Raises
    ------
    OutOfRange
        If an area is negative or not finite.
    """
    area = _areas(leak_area_m2)
    volumes, seconds, charge = _stroke(geometry, cranking, 0.0)
    steps = len(volumes) // 2

    def pressure_of(mass: NDArray[np.float64], volume: float) -> NDArray[np.float64]:
        share = np.maximum(mass, charge * EMPTY) / charge * volumes[0] / volume
        return np.asarray(cranking.intake_pa * share**cranking.exponent)

    def leaving(mass: NDArray[np.float64], volume: float) -> NDArray[np.float64]:
        pressure = pressure_of(mass, volume)
        kelvin = pressure * volume / (np.maximum(mass, 1e-12) * AIR_R)
        return -area * mass_flux(pressure, cranking.ambient_pa, kelvin)

    mass = np.full_like(area, charge)
    highest = np.full_like(area, cranking.intake_pa)
    for step in range(steps):
        first, half, last = volumes[2 * step : 2 * step + 3]
        m1 = leaving(mass, first)
        m2 = leaving(mass + seconds / 2 * m1, half)
        m3 = leaving(mass + seconds / 2 * m2, half)
        m4 = leaving(mass + seconds * m3, last)
        mass = np.maximum(mass + seconds / 6 * (m1 + 2 * m2 + 2 * m3 + m4), charge * EMPTY)
        highest = np.maximum(highest, pressure_of(mass, last))
    return np.maximum(highest - cranking.ambient_pa, 0.0)


def _stroke(
    geometry: Geometry, cranking: Cranking, end_deg: float
) -> tuple[NDArray[np.float64], float, float]:
    """Volumes at half steps from closing to an angle, seconds of a step, mass of the charge."""
    start = -180.0 + geometry.closing_deg_abdc
    steps = int(np.ceil((end_deg - start) / STEP_DEG))
    angles = np.linspace(start, end_deg, 2 * steps + 1)
    volumes = geometry.volume_m3(angles)
    seconds = float(angles[2] - angles[0]) / (6.0 * cranking.rpm)
    charge = float(cranking.intake_pa * volumes[0] / (AIR_R * cranking.intake_k))
    return volumes, seconds, charge


def _areas(leak_area_m2: ArrayLike) -> NDArray[np.float64]:
    area = np.atleast_1d(np.asarray(leak_area_m2, dtype=np.float64))
    if not np.all(np.isfinite(area)) or np.any(area < 0):
        raise OutOfRange("leak_area_m2", leak_area_m2, say("finite areas, zero or more"))
    return area
