"""What a leak does to the final reading of one engine's cylinders, as a table."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from core.engine.atmosphere import SEA_LEVEL_PA, pressure_at_pa
from core.engine.kinematics import Geometry
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, settled_gauge_pa
from core.quantities import length_mm

REFERENCE_M3 = 500e-6
LEAST_SHARE = 0.003
TABLE_AREAS = np.concatenate([[0.0], np.geomspace(0.2, 150.0, 28)])


@dataclass(frozen=True)
class Response:
    """Healthy final gauge pressure, and the share of it left by a leak above healthy.

    Areas are effective, in mm2 for each 500 cm3 of cylinder.
    """

    healthy_pa: float
    shares: tuple[float, ...]
    geometry_known: bool

    def share(self, area: NDArray[np.float64]) -> NDArray[np.float64]:
        """Final pressure over healthy final pressure, for leak areas above a healthy one."""
        shares: NDArray[np.float64] = np.interp(area, TABLE_AREAS, self.shares)
        return shares

    def elasticity(self, area: NDArray[np.float64]) -> NDArray[np.float64]:
        """Relative change of the share for a relative change of the leak, at or below zero. [-]"""
        wider = np.log(np.maximum(self.share(area * 1.1), LEAST_SHARE))
        narrower = np.log(np.maximum(self.share(area / 1.1), LEAST_SHARE))
        return np.asarray((wider - narrower) / np.log(1.21))


def geometry_of(engine: Mapping[str, Any]) -> tuple[Geometry, bool]:
    """The engine's geometry with documented defaults, and whether its ratio was given."""
    default = knowledge().pressure["default_geometry"]
    stroke = length_mm(engine["stroke"]) if "stroke" in engine else default["stroke_mm"]
    bore = length_mm(engine["bore"]) if "bore" in engine else default["bore_mm"]
    rod = length_mm(engine["rod"]) if "rod" in engine else stroke * default["rod_ratio"]
    closing = (
        engine.get("exhaust_closing_deg_abdc", default["exhaust_closing_deg_abdc"])
        if engine["cycle"] == "two-stroke"
        else engine.get("intake_closing_deg_abdc", default["intake_closing_deg_abdc"])
    )
    ratio = engine.get("compression_ratio", default["compression_ratio"])
    rod = max(rod, stroke * 0.55)
    geometry = Geometry(bore / 1e3, stroke / 1e3, rod / 1e3, ratio, closing)
    return geometry, "compression_ratio" in engine


def ambient_pa(document: Mapping[str, Any]) -> float:
    """Standard pressure at the recorded altitude, or at sea level. [Pa]"""
    altitude = document.get("inspection", {}).get("altitude_m")
    return SEA_LEVEL_PA if altitude is None else pressure_at_pa(altitude)


def response_of(engine: Mapping[str, Any], rpm: float, surrounding_pa: float) -> Response:
    """The response of this engine's cylinders at a cranking speed.

    Parameters
    ----------
    engine : mapping
        A checked document's engine; what it does not say has a documented default.
    rpm : float
        Cranking speed. [1/min]
    surrounding_pa : float
        Ambient pressure. [Pa]
    """
    geometry, known = geometry_of(engine)
    healthy, shares = _table(geometry, round(rpm / 10) * 10.0, round(surrounding_pa, -1))
    return Response(healthy, shares, known)


@lru_cache(maxsize=256)
def _table(
    geometry: Geometry, rpm: float, surrounding_pa: float
) -> tuple[float, tuple[float, ...]]:
    scale = geometry.swept_m3 / REFERENCE_M3 * 1e-6
    healthy_area = knowledge().pressure["areas"]["healthy"]
    cranking = Cranking(rpm=max(rpm, 20.0), intake_pa=surrounding_pa, ambient_pa=surrounding_pa)
    final = settled_gauge_pa(geometry, cranking, (TABLE_AREAS + healthy_area) * scale)
    # Dead cylinders: the gauge's creep by small steps is below its own resolution.
    falling = np.minimum.accumulate(final)
    healthy = max(float(falling[0]), 1e4)
    return healthy, tuple(float(share) for share in falling / healthy)
