"""What a leak does to the final reading of one engine's cylinders, as a table."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from core.document.records import Document, Engine
from core.engine.atmosphere import SEA_LEVEL_PA, pressure_at_pa
from core.engine.kinematics import Geometry
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import say
from core.pressure.cranking import Cranking, gauge_strokes_pa, settled_gauge_pa
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


def geometry_of(engine: Engine) -> tuple[Geometry, bool]:
    """The engine's geometry with documented defaults, and whether its ratio was given."""
    default = knowledge().pressure["default_geometry"]
    stroke = length_mm(engine.stroke) if engine.stroke else default["stroke_mm"]
    bore = length_mm(engine.bore) if engine.bore else default["bore_mm"]
    rod = length_mm(engine.rod) if engine.rod else stroke * default["rod_ratio"]
    if engine.cycle == "two-stroke":
        closing, usual = engine.exhaust_closing_deg_abdc, default["exhaust_closing_deg_abdc"]
    else:
        closing, usual = engine.intake_closing_deg_abdc, default["intake_closing_deg_abdc"]
    closing = usual if closing is None else closing
    ratio = engine.compression_ratio or default["compression_ratio"]
    rod = max(rod, stroke * 0.55)
    geometry = Geometry(bore / 1e3, stroke / 1e3, rod / 1e3, ratio, closing)
    return geometry, engine.compression_ratio is not None


def ambient_pa(document: Document) -> float:
    """Standard pressure at the recorded altitude, or at sea level. [Pa]"""
    altitude = document.inspection.altitude_m
    return SEA_LEVEL_PA if altitude is None else pressure_at_pa(altitude)


def response_of(engine: Engine, rpm: float, surrounding_pa: float) -> Response:
    """The response of this engine's cylinders at a cranking speed.

    Parameters
    ----------
    engine : Engine
        What it does not say has a documented default.
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


@dataclass(frozen=True, eq=False)
class PathTable:
    """What a leak on one path does to the readings.

    Attributes
    ----------
    areas : ndarray, shape (n,)
        Effective leak above a healthy one, for each 500 cm3 of cylinder. [mm2]
    final : ndarray, shape (n,)
        Final reading over a healthy one. [-]
    first_over_final : ndarray, shape (n,)
        First puff over the final reading. [-]
    wet_gain : ndarray, shape (n,)
        Rise of the final reading by a usual dose of oil, as a share of it. [-]
    """

    areas: NDArray[np.float64]
    final: NDArray[np.float64]
    first_over_final: NDArray[np.float64]
    wet_gain: NDArray[np.float64]


PATHS = ("rings", "intake", "exhaust", "gasket")


def response_table(
    engine: Engine, cranking: Cranking, *, closed_share: float, oil_share: float
) -> dict[str, PathTable]:
    """How the readings of one engine answer to a leak of each size on each path.

    The gauge cannot tell one path from another but by oil, which closes a part of the ring path
    only; the saying about first puffs finds no support in it.

    Parameters
    ----------
    engine : Engine
        What it does not say has a documented default.
    cranking : Cranking
        Speed, air and gauge.
    closed_share : float
        Share of the ring path that the oil closes. [-]
    oil_share : float
        Share by which the oil's own volume lifts any reading. [-]

    Returns
    -------
    dict of path to PathTable

    Raises
    ------
    OutOfRange
        If a share lies outside 0 to 1.
    """
    for name, share in (("closed_share", closed_share), ("oil_share", oil_share)):
        if not 0 <= share <= 1:
            raise OutOfRange(name, share, say("from 0 to 1"))
    geometry, _ = geometry_of(engine)
    scale = geometry.swept_m3 / REFERENCE_M3 * 1e-6
    healthy = knowledge().pressure["areas"]["healthy"]
    oiled = TABLE_AREAS * (1 - closed_share)
    cases = (np.concatenate([TABLE_AREAS, oiled]) + healthy) * scale
    final, oiled_final = np.split(settled_gauge_pa(geometry, cranking, cases), 2)
    first = gauge_strokes_pa(geometry, replace(cranking, strokes=1), cases[: len(TABLE_AREAS)])[0]
    least = np.maximum(final, 1.0)
    tables = {}
    for path in PATHS:
        wet = (oiled_final if path == "rings" else final) * (1 + oil_share)
        share = np.minimum(first / least, 1.0)
        tables[path] = PathTable(TABLE_AREAS, final / final[0], share, wet / least - 1)
    return tables
