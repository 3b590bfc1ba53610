"""Breaker points: gap, dwell and timing through the geometry of the cam.

The model: each lobe lifts the block as a raised cosine over its pitch (360 degrees over the number
of lobes). The points are open where the lift lies within one gap of the top, so

    gap = lift * sin(pi * open / (2 * pitch)) ** 2

with the open angle `open` = pitch - dwell. One maker's pair of gap and dwell fixes the lift. Real
cams have flatter flanks, so the model is good near its pair and poor far from it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from core.errors import OutOfRange
from core.language import say

FAR = 2.0  # A gap this many times off the maker's pair is beyond the model; an assumption.


@dataclass(frozen=True)
class Cam:
    """The cam of a distributor.

    Attributes
    ----------
    lobes : int
        Usually one a cylinder. [-]
    lift_mm : float
        What the block is lifted, from flank to top. [mm]
    """

    lobes: int
    lift_mm: float

    def __post_init__(self) -> None:
        if self.lobes < 1:
            raise OutOfRange("lobes", self.lobes, say("at least 1"))
        if self.lift_mm <= 0:
            raise OutOfRange("lift", self.lift_mm, say("more than zero"))

    @classmethod
    def through(cls, lobes: int, gap_mm: float, dwell_deg: float) -> Cam:
        """The cam that shows this gap at this dwell.

        Parameters
        ----------
        lobes : int
            [-]
        gap_mm : float
            At the top of the cam. [mm]
        dwell_deg : float
            Distributor degrees closed, for one lobe. [deg]

        Raises
        ------
        OutOfRange
            If the dwell leaves the points no angle to open in.
        """
        if lobes < 1:
            raise OutOfRange("lobes", lobes, say("at least 1"))
        pitch = 360 / lobes
        if not 0 < dwell_deg < pitch:
            raise OutOfRange(
                "dwell_deg", dwell_deg, say("between 0 and {pitch:g} degrees", pitch=pitch)
            )
        return cls(lobes, gap_mm / math.sin(math.pi * (pitch - dwell_deg) / pitch / 2) ** 2)

    @property
    def pitch_deg(self) -> float:
        return 360 / self.lobes

    def dwell_deg(self, gap_mm: float) -> float:
        """Degrees closed for one lobe at a gap. [deg]"""
        if not 0 < gap_mm < self.lift_mm:
            raise OutOfRange(
                "gap",
                gap_mm,
                say("between 0 and the cam's lift, {lift_mm:.3g} mm", lift_mm=self.lift_mm),
            )
        return self.pitch_deg * (1 - 2 / math.pi * math.asin(math.sqrt(gap_mm / self.lift_mm)))

    def gap_mm(self, dwell_deg: float) -> float:
        """The gap at the top of the cam that goes with a dwell. [mm]"""
        if not 0 < dwell_deg < self.pitch_deg:
            raise OutOfRange(
                "dwell_deg",
                dwell_deg,
                say("between 0 and {pitch_deg:g} degrees", pitch_deg=self.pitch_deg),
            )
        open_share = (self.pitch_deg - dwell_deg) / self.pitch_deg
        return self.lift_mm * math.sin(math.pi * open_share / 2) ** 2


def dwell_percent(dwell_deg: float, lobes: int) -> float:
    """Share of the time that the points are closed. [%]"""
    if lobes < 1:
        raise OutOfRange("lobes", lobes, say("at least 1"))
    percent = 100 * dwell_deg * lobes / 360
    if not 0 <= percent <= 100:
        raise OutOfRange(
            "dwell_deg", dwell_deg, say("from 0 to {most:g} degrees", most=360 / lobes)
        )
    return percent


def advance_change_deg(dwell_before: float, dwell_now: float, cam_to_crank: float = 2.0) -> float:
    """How far the spark moved because the dwell did; positive is earlier. [crank deg]

    Half of a change in dwell happens where the points open, and that is where the spark is. A
    distributor at half speed doubles it on the crank: a degree of dwell is a degree of timing.

    Parameters
    ----------
    dwell_before, dwell_now : float
        [distributor deg]
    cam_to_crank : float
        Crank degrees to a distributor degree: 2 on a four-stroke, 1 on a two-stroke. [-]
    """
    return (dwell_before - dwell_now) / 2 * cam_to_crank


def arc_m(angle_deg: float, diameter_m: float) -> float:
    """Length along the rim of a pulley. [m]"""
    if diameter_m <= 0:
        raise OutOfRange("diameter", diameter_m, say("more than zero"))
    return math.pi * diameter_m * angle_deg / 360


def angle_deg(arc_length_m: float, diameter_m: float) -> float:
    """The crank angle of a length along the rim of its pulley. [deg]"""
    if diameter_m <= 0:
        raise OutOfRange("diameter", diameter_m, say("more than zero"))
    return 360 * arc_length_m / (math.pi * diameter_m)
