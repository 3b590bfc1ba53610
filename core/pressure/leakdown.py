"""Leak-down: air through a restrictor into a cylinder at rest, and out where it leaks.

Between the restrictor and the leak the pressure settles where both pass the same mass. Both are
compressible orifices at room temperature; the cylinder is at rest. The differential school (80 psi
through a calibrated 0.040 or 0.060 in orifice: FAA AC 43.13-1B, chapter 8; from memory) reads what
is held; the percent school reads what is lost, 100 (1 - held / supply).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from core.engine.atmosphere import SEA_LEVEL_PA
from core.errors import OutOfRange
from core.language import say
from core.pressure.orifice import mass_flux

ROOM_K = 293.15
HALVINGS = 60


def held_pa(
    supply_pa: float,
    restrictor_m2: float,
    leak_m2: ArrayLike,
    ambient_pa: float = SEA_LEVEL_PA,
) -> NDArray[np.float64]:
    """Gauge pressure that a leaking cylinder holds.

    Parameters
    ----------
    supply_pa : float
        Regulated gauge pressure before the restrictor. [Pa]
    restrictor_m2 : float
        Effective area of the restrictor, discharge coefficient included. [m2]
    leak_m2 : array_like, shape (n,)
        Effective area of all leaks. [m2]
    ambient_pa : float
        Absolute pressure behind the leaks. [Pa]

    Returns
    -------
    ndarray, shape (n,)
        Gauge pressure in the cylinder, from zero to the supply. [Pa]

    Raises
    ------
    OutOfRange
        If the supply or the restrictor is not above zero, or a leak is negative.
    """
    leak = np.atleast_1d(np.asarray(leak_m2, dtype=np.float64))
    _check(supply_pa, restrictor_m2)
    if not np.all(np.isfinite(leak)) or np.any(leak < 0):
        raise OutOfRange("leak_m2", leak_m2, say("finite areas, zero or more"))
    low = np.full_like(leak, ambient_pa)
    high = np.full_like(leak, ambient_pa + supply_pa)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        into = restrictor_m2 * mass_flux(ambient_pa + supply_pa, middle, ROOM_K)
        out = leak * mass_flux(middle, ambient_pa, ROOM_K)
        rising = into > out
        low, high = np.where(rising, middle, low), np.where(rising, high, middle)
    return np.asarray((low + high) / 2 - ambient_pa)


def leak_area_m2(
    supply_pa: float, restrictor_m2: float, held: ArrayLike, ambient_pa: float = SEA_LEVEL_PA
) -> NDArray[np.float64]:
    """Effective leak area behind a reading, so that two testers can be compared.

    Parameters
    ----------
    supply_pa : float
        Regulated gauge pressure before the restrictor. [Pa]
    restrictor_m2 : float
        Effective area of the restrictor. [m2]
    held : array_like, shape (n,)
        Gauge pressure the cylinder holds. [Pa]
    ambient_pa : float
        Absolute pressure behind the leaks. [Pa]

    Returns
    -------
    ndarray, shape (n,)
        Effective area of all leaks together. [m2]

    Raises
    ------
    OutOfRange
        If nothing is held, or more than the supply.
    """
    _check(supply_pa, restrictor_m2)
    kept = np.asarray(held, dtype=np.float64)
    if not np.all((kept > 0) & (kept <= supply_pa)):
        raise OutOfRange("held", held, say("more than zero, at most the supply"))
    into = mass_flux(ambient_pa + supply_pa, ambient_pa + kept, ROOM_K)
    out = mass_flux(ambient_pa + kept, ambient_pa, ROOM_K)
    return np.asarray(restrictor_m2 * into / out)


def restrictor_area_m2(diameter_m: float, discharge_coefficient: float = 0.65) -> float:
    """Effective area of a round restrictor; 0.65 is a sharp-edged hole, from memory. [m2]"""
    if not 0 < diameter_m < 0.1:
        raise OutOfRange("diameter_m", diameter_m, say("a diameter above zero, under 0.1 m"))
    if not 0 < discharge_coefficient <= 1:
        raise OutOfRange("discharge_coefficient", discharge_coefficient, say("above 0, at most 1"))
    return float(discharge_coefficient * np.pi / 4 * diameter_m**2)


def percent_lost(supply_pa: float, held: float) -> float:
    """The percent school's figure. [%]"""
    return 100.0 * (1 - held / supply_pa)


def _check(supply_pa: float, restrictor_m2: float) -> None:
    if not 0 < supply_pa < 1e8:
        raise OutOfRange("supply_pa", supply_pa, say("a supply above zero, under 1000 bar"))
    if not 0 < restrictor_m2 < 1e-2:
        raise OutOfRange("restrictor_m2", restrictor_m2, say("an area above zero, under 100 cm2"))
