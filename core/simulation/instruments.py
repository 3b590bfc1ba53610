"""Small stand-ins for outside devices: what they would show on a simulated engine."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from core.document.records import Engine
from core.engine.atmosphere import SEA_LEVEL_PA
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, gauge_strokes_pa
from core.pressure.response import REFERENCE_M3, geometry_of, response_of
from core.signals.trace import Trace

ORDINARY = Engine(cycle="four-stroke", layout="single", cylinders=1)
BASE_A, RISE_A = 120.0, 90.0
INRUSH_A, INRUSH_S = 380.0, 0.12
CRANKED_RPM = 210.0
GAUGE_SCATTER = 0.01  # Of a whole test, one standard deviation; from memory.
MISSES_EACH_SECOND = 3.0  # Of a cylinder that misses, at idle; from memory.


@dataclass(frozen=True)
class BenchEngine:
    """A four-stroke that simulated instruments are put on.

    Attributes
    ----------
    cylinders : int
    leaks : mapping of cylinder to float
        Effective leak above a healthy one, for each 500 cm3 of cylinder. [mm2]
    missing : set of int
        Cylinders that miss.
    """

    cylinders: int
    leaks: Mapping[int, float] = field(default_factory=dict)
    missing: frozenset[int] = frozenset()

    def __post_init__(self) -> None:
        if not 1 <= self.cylinders <= 24:
            raise OutOfRange("cylinders", self.cylinders, "from 1 to 24")
        for number in {*self.leaks, *self.missing}:
            if not 1 <= number <= self.cylinders:
                raise OutOfRange("cylinder", number, f"from 1 to {self.cylinders}")
        for area in self.leaks.values():
            if not 0 <= area <= 150:
                raise OutOfRange("leak", area, "from 0 to 150 mm2")

    def strokes_pa(
        self, cylinder: int, count: int, random: np.random.Generator
    ) -> NDArray[np.float64]:
        """What a gauge in one cylinder shows after each stroke, shape (count,). [Pa]"""
        geometry, _ = geometry_of(ORDINARY)
        area = knowledge().pressure["areas"]["healthy"] + self.leaks.get(cylinder, 0.0)
        effective = area * geometry.swept_m3 / REFERENCE_M3 * 1e-6
        cranking = Cranking(rpm=CRANKED_RPM, strokes=count)
        shown = gauge_strokes_pa(geometry, cranking, [effective])[:, 0]
        return np.asarray(shown * (1 + GAUGE_SCATTER * random.standard_normal()))

    def shares(self, order: Sequence[int]) -> list[float]:
        """Final pressure of each cylinder against a healthy one, along an order. [-]"""
        response = response_of(ORDINARY, CRANKED_RPM, SEA_LEVEL_PA)
        leaks = np.array([self.leaks.get(number, 0.0) for number in order])
        return [float(share) for share in response.share(leaks)]

    def misses(self, seconds: float, random: np.random.Generator) -> dict[int, int]:
        """How often each cylinder misses within some seconds."""
        mean = MISSES_EACH_SECOND * seconds
        return {
            number: int(random.poisson(mean)) if number in self.missing else 0
            for number in range(1, self.cylinders + 1)
        }


def cranking_current(
    random: np.random.Generator,
    shares: Sequence[float],
    *,
    rpm: float = 210.0,
    seconds: float = 4.0,
    noise: float = 0.03,
    drift: float = 0.08,
    rate_hz: float = 1000.0,
) -> tuple[Trace, float]:
    """What a current clamp on the starter's cable shows.

    Parameters
    ----------
    random : numpy Generator
    shares : sequence of float
        Compression of each cylinder against a healthy one, in firing order. [-]
    rpm : float
        Cranking speed of a four-stroke when it starts. [1/min]
    seconds : float
        How long it is cranked. [s]
    noise : float
        One standard deviation, as a share of a healthy rise. [-]
    drift : float
        Share of the speed that the battery loses meanwhile. [-]
    rate_hz : float
        Samples each second. [1/s]

    Returns
    -------
    tuple of (Trace, float)
        The trace, and a time at which the first cylinder of the order was on compression. [s]
    """
    time = np.arange(0, seconds, 1 / rate_hz)
    speed = rpm / 120 * (1 - drift * time / seconds)  # Cycles each second.
    phase = np.cumsum(speed) / rate_hz * len(shares)
    place = np.floor(phase + 0.5).astype(int)
    within = phase - place
    heights = np.array(shares)[place % len(shares)]
    rises = heights * np.cos(np.pi * within) ** 2
    current = BASE_A + RISE_A * rises + INRUSH_A * np.exp(-time / INRUSH_S)
    current = current + noise * RISE_A * random.standard_normal(len(time))
    on_first = np.flatnonzero((place % len(shares) == 0) & (time > seconds / 3))
    inside = np.abs(within[on_first])
    return Trace("current", time, current), float(time[on_first[int(np.argmin(inside))]])
