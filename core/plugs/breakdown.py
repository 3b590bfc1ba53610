"""The voltage that a gap wants before a spark jumps: Paschen's law for air.

In an engine the field is not even and the electrodes are hot, so a new plug fires somewhat lower
and a worn, rounded one near the figure. What holds is the direction: it grows with gap and load.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import say


def breakdown_v(gap_m: float, pressure_pa: float, temperature_k: float) -> float:
    """Breakdown voltage of air between even electrodes.

    Parameters
    ----------
    gap_m : float
        Between the electrodes. [m]
    pressure_pa : float
        Absolute, where the spark jumps. [Pa]
    temperature_k : float
        Of the charge there: what counts is how dense it is. [K]

    Returns
    -------
    float
        [V]

    Raises
    ------
    OutOfRange
        Outside the law's stated range of pressure times gap.

    References
    ----------
    E. Kuffel, W. S. Zaengl, J. Kuffel, High Voltage Engineering Fundamentals, on Paschen's law:
    V = 6.72 sqrt(pd) + 24.36 pd [kV, bar cm] for air at 20 degC. Coefficients from memory.
    """
    law: Mapping[str, Any] = knowledge().bench["breakdown"]
    if temperature_k <= 0:
        raise OutOfRange("temperature", temperature_k, say("more than zero kelvin"))
    bar_cm = pressure_pa / 1e5 * gap_m * 100 * law["reference_k"] / temperature_k
    if not law["least_bar_cm"] <= bar_cm <= law["most_bar_cm"]:
        raise OutOfRange(
            "gap",
            say("{bar_cm:.3g} bar cm", bar_cm=bar_cm),
            say(
                "pressure times gap from {least:g} to {most:g} bar cm",
                least=law["least_bar_cm"],
                most=law["most_bar_cm"],
            ),
        )
    return 1e3 * float(law["root"] * math.sqrt(bar_cm) + law["linear"] * bar_cm)
