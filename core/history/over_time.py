"""One engine's inspections beside each other: gaps that grow, pressures that drift, faults that
come and go.

A gap's growth is a straight line over the distance on the same plugs: a set ends where the distance
on it falls back. With two readings the line's uncertainty is the gauge's own; with more, theirs.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.stats import norm
from scipy.stats import t as student

from core.assessment import Assessment
from core.document.readings import final_of
from core.document.records import CylinderRecord, Document
from core.quantities import Dimension, Figure, Quantity, length_mm, pressure_pa

GAUGE_SD_MM = 0.02  # One standard deviation of a gap read by blade; from memory.
# Under it a growth is lost in the reading; to how many digits a limit is worth telling.
LEAST = {"km": 500.0, "h": 10.0}
DIGITS = {"km": -2, "h": 0}
NINE_IN_TEN = 0.95  # One-sided, so that the interval holds nine in ten.


@dataclass(frozen=True)
class Visit:
    """One inspection of the engine, in the order of their dates."""

    date: str
    document: Document
    assessment: Assessment


def family(run: Figure) -> str:
    """What a distance is counted in: kilometres, or running hours."""
    return "h" if run.unit == "h" else "km"


def gone(run: Figure) -> float:
    """A distance as a number of its family. [km or h]"""
    return Quantity.read(run, Dimension.DISTANCE).si


@dataclass(frozen=True)
class GapGrowth:
    """How one cylinder's gap grows on the plugs that are in it.

    Attributes
    ----------
    unit : str
        km, or h: what a distance on the plugs is counted in.
    per_1000 : float
        [mm for each 1,000 of `unit`]
    run : float
        On the plugs at the last reading. [unit]
    limit : float or None
        Distance on the plugs at which the specified limit is reached; None without growth or limit.
        [unit]
    soonest, latest : float or None
        Between them it lies nine times in ten; `latest` is None if it may never be reached. [unit]
    """

    cylinder: int
    readings: int
    unit: str
    per_1000: float
    run: float
    limit: float | None
    soonest: float | None
    latest: float | None


def gap_growth(visits: Sequence[Visit]) -> list[GapGrowth]:
    """The growth of every gap that was read at least twice on the same plugs."""
    if not visits:
        return []
    newest = visits[-1].document
    limit = newest.engine.specification.gap_max
    found = []
    for number in range(1, newest.engine.cylinders + 1):
        unit, points = _same_plugs(visits, number)
        if len(points) > 1 and points[-1][0] - points[0][0] >= LEAST[unit]:
            found.append(_growth(number, unit, points, length_mm(limit) if limit else None))
    return found


def _same_plugs(visits: Sequence[Visit], number: int) -> tuple[str, list[tuple[float, float]]]:
    """What is counted in; run and gap [mm] of the readings since the plug was last renewed."""
    points: list[tuple[float, float]] = []
    unit = "km"
    for visit in visits:
        plug = visit.document.cylinder(number).plug
        run = plug.distance or visit.document.inspection.plug_distance
        if run is None or plug.gap is None:
            continue
        if points and (gone(run) < points[-1][0] or family(run) != unit):
            points = []
        unit = family(run)
        points.append((gone(run), length_mm(plug.gap)))
    return unit, points


def _growth(
    number: int, unit: str, points: list[tuple[float, float]], limit: float | None
) -> GapGrowth:
    """A line by least squares; what it scatters is the readings' own, or the gauge's if less."""
    run, gap = np.array(points).T
    centred = run - run.mean()
    spread = float((centred**2).sum())
    slope = float((centred * gap).sum() / spread)
    off = gap - gap.mean() - slope * centred
    free = len(points) - 2
    slack = float(norm.ppf(NINE_IN_TEN)) * GAUGE_SD_MM
    if free > 0:
        scatter = float(np.sqrt((off**2).sum() / free))
        slack = max(slack, float(student.ppf(NINE_IN_TEN, free)) * scatter)
    ends: tuple[float | None, ...] = (None, None, None)
    if limit is not None:
        left = limit - gap.mean()
        soonest, latest = _crossing(slope, left, slack, 1 / len(points), 1 / spread)
        ends = tuple(
            None if one is None else round(max(float(run.mean()) + one, 0.0), DIGITS[unit])
            for one in (left / slope if slope > 0 else None, soonest, latest)
        )
    return GapGrowth(
        number, len(points), unit, round(1000 * slope, 4), round(float(run[-1]), 1), *ends
    )


def _crossing(
    slope: float, left: float, slack: float, at_middle: float, by_km: float
) -> tuple[float | None, float | None]:
    """Between which distances from the middle of the readings a line may reach a limit.

    All distances at which the limit lies within the line's own band (Fieller, 1954): the roots of
    `(left - slope u)^2 = slack^2 (at_middle + by_km u^2)`. Where the slope itself may be nothing
    the limit may never be reached, and the second is None.
    """
    square = slope**2 - slack**2 * by_km
    half, rest = -slope * left, left**2 - slack**2 * at_middle
    inside = half**2 - square * rest
    if inside < 0 or square == 0 or (square > 0 and slope <= 0):
        return None, None
    root = np.sqrt(inside)
    if square > 0:
        return float((-half - root) / square), float((-half + root) / square)
    ahead = [one for one in ((-half - root) / square, (-half + root) / square) if one > 0]
    return (float(min(ahead)) if ahead else None), None


@dataclass(frozen=True)
class KeptSet:
    """Plugs that came out and were put away under a label.

    Attributes
    ----------
    visit : int
        Its place among the visits.
    plugs : tuple of CylinderRecord
        With what the plug showed.
    """

    visit: int
    label: str
    where: str
    plugs: tuple[CylinderRecord, ...]


def kept_sets(visits: Sequence[Visit]) -> list[KeptSet]:
    """The sets that were put away, the oldest first; empty ones are none."""
    found = []
    for at, visit in enumerate(visits):
        kept = visit.document.refit.kept
        plugs = tuple(one for one in visit.document.cylinders if one.plug.recorded)
        if kept.label and plugs:
            found.append(KeptSet(at, kept.label, kept.where or "", plugs))
    return found


def compression_drift(visits: Sequence[Visit]) -> dict[int, float]:
    """Change of each cylinder's last dry reading since the first visit that has one. [-]"""
    seen: dict[int, list[float]] = {}
    for visit in visits:
        for number, pressure in dry_finals(visit.document).items():
            seen.setdefault(number, []).append(pressure_pa(pressure))
    return {
        number: round(values[-1] / values[0] - 1, 4)
        for number, values in sorted(seen.items())
        if len(values) > 1 and values[0] > 0
    }


def dry_finals(document: Document) -> dict[int, Figure]:
    """The last dry reading of each cylinder, as it was read."""
    return {
        item.cylinder: final
        for test in document.tests.compression
        if test.kind == "dry"
        for item in test.readings
        if (final := final_of(item))
    }


def faults_between(before: Visit, after: Visit) -> dict[str, list[tuple[int, str]]]:
    """What is suspected now and was not, and the other way about, by cylinder."""
    then, now = set(_suspected(before)), set(_suspected(after))
    looked = {one.number for one in after.assessment.cylinders if one.grade != "U"}
    return {
        "appeared": sorted(now - then),
        "gone": sorted(one for one in then - now if one[0] in looked),
    }


def _suspected(visit: Visit) -> Iterator[tuple[int, str]]:
    """What is claimed of single cylinders, the likeliest fault of each claim."""
    for one in visit.assessment.engine.claims:
        if one.scope in ("cylinder", "pair"):
            numbers = one.cylinders[:1] if one.scope == "pair" else one.cylinders
            yield from ((number, fault) for number in numbers for fault in one.faults[:1])
