"""Small stand-ins for outside devices: what they would show on a simulated engine."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from core.signals.trace import Trace

BASE_A, RISE_A = 120.0, 90.0
INRUSH_A, INRUSH_S = 380.0, 0.12


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
