"""Compressible flow of air through a small hole."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

AIR_R = 287.05287  # Specific gas constant of dry air. [J/(kg K)]
GAMMA = 1.4
CRITICAL_RATIO = (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1))


def mass_flux(
    upstream_pa: ArrayLike, downstream_pa: ArrayLike, upstream_k: ArrayLike
) -> NDArray[np.float64]:
    """Mass flow of air for each square metre of effective area, choked where it must be.

    Parameters
    ----------
    upstream_pa, downstream_pa : array_like, shape (n,)
        Absolute pressures. Where upstream is not the higher, nothing flows. [Pa]
    upstream_k : array_like, shape (n,)
        Stagnation temperature upstream. [K]

    Returns
    -------
    ndarray, shape (n,)
        Flux; times effective area (discharge coefficient included) it is kg/s. [kg/(s m2)]

    References
    ----------
    J. B. Heywood, Internal Combustion Engine Fundamentals (1988), appendix C, eq. C.8 and C.9;
    equation numbers from memory.
    """
    up = np.asarray(upstream_pa, dtype=np.float64)
    ratio = np.minimum(np.maximum(np.asarray(downstream_pa) / up, CRITICAL_RATIO), 1.0)
    squared = ratio ** (2 / GAMMA)
    root = squared - squared * ratio ** ((GAMMA - 1) / GAMMA)
    flow = np.sqrt(2 * GAMMA / (GAMMA - 1) / AIR_R * np.maximum(root, 0.0) / upstream_k)
    return np.asarray(up * flow, dtype=np.float64)
