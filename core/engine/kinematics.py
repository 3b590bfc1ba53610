"""Slider-crank volume."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from core.errors import OutOfRange
from core.language import say


@dataclass(frozen=True)
class Geometry:
    """One cylinder's geometry. Lengths in metres, angle in degrees after bottom dead centre."""

    bore_m: float
    stroke_m: float
    rod_m: float
    compression_ratio: float
    closing_deg_abdc: float

    def __post_init__(self) -> None:
        for name in ("bore_m", "stroke_m", "rod_m"):
            if not 0 < getattr(self, name) < 10:
                raise OutOfRange(name, getattr(self, name), say("a length above zero, under 10 m"))
        if self.rod_m <= self.stroke_m / 2:
            raise OutOfRange("rod_m", self.rod_m, say("a rod longer than half the stroke"))
        if not 1 < self.compression_ratio <= 30:
            raise OutOfRange(
                "compression_ratio", self.compression_ratio, say("above 1, at most 30")
            )
        if not -90 <= self.closing_deg_abdc < 150:
            raise OutOfRange(
                "closing_deg_abdc", self.closing_deg_abdc, say("from -90 to 150 degrees")
            )

    @property
    def swept_m3(self) -> float:
        """Displacement of the cylinder. [m3]"""
        return float(np.pi / 4 * self.bore_m**2 * self.stroke_m)

    @property
    def clearance_m3(self) -> float:
        """Volume at top dead centre. [m3]"""
        return self.swept_m3 / (self.compression_ratio - 1)

    def volume_m3(self, angle_deg: ArrayLike) -> NDArray[np.float64]:
        """Cylinder volume at a crank angle.

        Parameters
        ----------
        angle_deg : array_like, shape (n,)
            Crank angle from top dead centre. [deg]

        Returns
        -------
        ndarray, shape (n,)
            Volume. [m3]

        References
        ----------
        J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.4 to 2.6;
        equation numbers from memory.
        """
        angle = np.deg2rad(np.asarray(angle_deg, dtype=np.float64))
        crank = self.stroke_m / 2
        travel = crank * (1 - np.cos(angle))
        travel += self.rod_m - np.sqrt(self.rod_m**2 - (crank * np.sin(angle)) ** 2)
        volume: NDArray[np.float64] = self.clearance_m3 + np.pi / 4 * self.bore_m**2 * travel
        return volume

    @property
    def effective_ratio(self) -> float:
        """Volume when the valve or port closes over volume at top dead centre. [-]"""
        closing = self.volume_m3([180.0 + self.closing_deg_abdc])[0]
        return float(closing / self.clearance_m3)
