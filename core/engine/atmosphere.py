"""Standard atmosphere up to 11 km."""

from __future__ import annotations

from core.errors import OutOfRange
from core.language import say

SEA_LEVEL_PA = 101_325.0
SEA_LEVEL_K = 288.15
LAPSE_K_PER_M = 0.0065
EXPONENT = 9.80665 * 0.0289644 / (8.31432 * LAPSE_K_PER_M)
EARTH_RADIUS_M = 6_356_766.0


def pressure_at_pa(altitude_m: float) -> float:
    """Standard pressure at a geometric altitude.

    Parameters
    ----------
    altitude_m : float
        Geometric altitude, -500 to 11,000. [m]

    Returns
    -------
    float
        Static pressure. [Pa]

    Raises
    ------
    OutOfRange
        Outside the troposphere the formula holds for.

    References
    ----------
    US Standard Atmosphere 1976, eq. 18 (geopotential altitude) and 33a.
    """
    if not -500 <= altitude_m <= 11_000:
        raise OutOfRange("altitude_m", altitude_m, say("from -500 to 11,000 m"))
    geopotential = EARTH_RADIUS_M * altitude_m / (EARTH_RADIUS_M + altitude_m)
    return float(SEA_LEVEL_PA * (1 - LAPSE_K_PER_M * geopotential / SEA_LEVEL_K) ** EXPONENT)
