"""How likely a cylinder's pressure readings are under every leak, level and dose of oil."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any

import numpy as np

from core.diagnosis.leakdowns import Escape, Leakdown, heard_table, log_density_of
from core.diagnosis.leaks import BIN_LOG_SD, Leaks
from core.diagnosis.level import Expectation, Level
from core.diagnosis.states import States, Vector
from core.knowledge import knowledge
from core.quantities import PSI_PA, pressure_pa

# What a hand may have meant when the unit was wrong: true pressure over written pressure.
SLIPS = (14.5038, 1 / 14.5038, 6.89476, 1 / 6.89476, 10.0, 0.1)
SLIP_CHANCE = 0.0015  # For each of them; from memory.
SLIP_SPREAD = 0.06  # Of a reading in the wrong unit, as a natural logarithm; from memory.
SLIP_GRID = np.linspace(-3.2, 3.2, 6401)


@dataclass(frozen=True)
class Reading:
    """One gauge reading that counts as evidence."""

    cylinder: int
    kind: str
    pressure_pa: float
    quality: str
    path: str
    spoken: str


@dataclass(frozen=True, eq=False)
class Doses:
    """The hidden dose of oil of a wet test, shared by all cylinders."""

    gains: Vector
    closed: Vector
    log_prior: Vector


def doses(wet: bool) -> Doses:
    """The doses to reckon with; a single empty one where no wet test was done."""
    if not wet:
        return Doses(np.zeros(1), np.zeros(1), np.zeros(1))
    known = knowledge().pressure["wet"]
    weights = np.array(known["weights"])
    return Doses(
        np.array(known["gains"]), np.array(known["closed"]), np.log(weights / weights.sum())
    )


def readings(document: Mapping[str, Any], doubted: frozenset[str]) -> list[Reading]:
    """Every usable final reading; those that are probably a slip of units are left out."""
    found = []
    for test in document.get("tests", {}).get("compression", []):
        for item in test.get("readings", []):
            path = f"/tests/compression/{test.get('id', '')}/readings/{item['cylinder']}/pressure"
            raw = item.get("pressure") or (item.get("strokes") or [None])[-1]
            if raw is None or path in doubted:
                continue
            spoken = f"{raw['value']:.4g} {raw['unit']}"
            quality = item.get("quality", "good")
            found.append(
                Reading(item["cylinder"], test["kind"], pressure_pa(raw), quality, path, spoken)
            )
    return found


@dataclass(frozen=True, eq=False)
class Gauged:
    """What one cylinder's gauges and the ear say of its leaks.

    Attributes
    ----------
    density : ndarray, shape (levels * doses, rings * others), or None
        Log density of the readings.
    heard : ndarray, shape (gaskets * gaskets, mechanical), or None
        Chance of what was heard in a leak-down.
    """

    density: Vector | None
    heard: Vector | None


Evidence = Reading | Leakdown | Escape


class Grids:
    """What readings are expected to be on every grid, computed once for a document.

    Arrays have the axes (levels, doses, rings, others); a dry reading knows no dose, so that axis
    is of length one.
    """

    def __init__(
        self, expected: Expectation, level: Level, dose: Doses, leaks: Leaks, states: States
    ) -> None:
        self.expected = expected
        self.level = level
        self.dose = dose
        self.leaks = leaks
        self.states = states
        self.rows = len(level.log_level) * len(dose.gains)
        self.areas = (len(leaks.ring_areas), len(leaks.other_areas))
        self._means: dict[str, tuple[Vector, Vector]] = {}
        self._precision: dict[tuple[str, str], tuple[Vector, Vector]] = {}
        self._densities: dict[tuple[Reading, ...], Vector] = {}

    def mean(self, kind: str) -> tuple[Vector, Vector]:
        """Expected reading and its natural logarithm. [Pa]"""
        if kind not in self._means:
            ring = self.leaks.ring_areas[None, :, None]
            other = self.leaks.other_areas[None, None, :]
            response = self.expected.response
            if kind == "wet":
                share = response.share(ring * (1 - self.dose.closed[:, None, None]) + other)
                share = share * (1 + self.dose.gains[:, None, None])
            else:
                share = response.share(ring + other)
            healthy = self.expected.pressure_pa * np.exp(self.level.log_level)
            mean = np.maximum(healthy[:, None, None, None] * share[None], 2e3)
            self._means[kind] = (mean, np.log(mean))
        return self._means[kind]

    def precision(self, kind: str, quality: str) -> tuple[Vector, Vector]:
        """Inverse square of the gauge's relative scatter, and the logarithm of its scatter."""
        if (kind, quality) not in self._precision:
            scatter = knowledge().pressure["scatter"]
            relative = scatter["gauge"] * (1.0 if quality == "good" else scatter["doubtful"])
            mean = self.mean(kind)[0]
            square = relative**2 + (scatter["absolute_psi"] * PSI_PA / mean) ** 2
            self._precision[kind, quality] = (1 / square, 0.5 * np.log(square))
        return self._precision[kind, quality]

    def density(self, own: tuple[Reading, ...]) -> Vector:
        """`log_density` of a cylinder's readings, computed once however often it is asked."""
        if own not in self._densities:
            self._densities[own] = log_density(list(own), self)
        return self._densities[own]

    @cached_property
    def shared_precision(self) -> Vector:
        """Inverse square of the scatter that a cylinder's readings share, shape (rings, others).

        A sound cylinder differs a little from its neighbours whenever it is read, and a point of
        the grid stands for every leak in its bin.
        """
        ring, other = self.leaks.ring_areas[:, None], self.leaks.other_areas[None, :]
        total = np.maximum(ring + other, 1e-6)
        change = self.expected.response.elasticity(total) * BIN_LOG_SD
        within = change * np.hypot(ring, other) / total
        return np.asarray(1 / (knowledge().pressure["scatter"]["cylinder"] ** 2 + within**2))


def gauged(own: list[Evidence], grids: Grids) -> Gauged:
    """Weigh everything that gauges and the ear said of one cylinder."""
    read = [one for one in own if isinstance(one, Reading)]
    lost = [log_density_of(one, grids.leaks) for one in own if isinstance(one, Leakdown)]
    density = grids.density(tuple(read)) if read else None
    if lost:
        flat = np.sum(lost, axis=0)[None, :]
        whole = np.zeros((grids.rows, 1)) if density is None else density
        density = whole + flat
    gaskets = grids.leaks.shape[1]
    tables = [heard_table(one, grids.states, gaskets) for one in own if isinstance(one, Escape)]
    return Gauged(density, np.prod(tables, axis=0) if tables else None)


def log_density(own: list[Reading], grids: Grids) -> Vector:
    """Joint log density of one cylinder's readings, shape (levels * doses, rings * others).

    The readings share a part of their scatter, the gauge differs each time, and any one reading
    may be a blunder: a slip of units, or anything at all.
    """
    blunder = knowledge().pressure["scatter"]["outlier"]
    parts = [_Part.of(reading, grids) for reading in own]
    total = _joint(parts, grids.shared_precision) + len(own) * np.log1p(-blunder)
    for at, reading in enumerate(own):
        rest = [part for index, part in enumerate(parts) if index != at]
        wild = _blunder_density(reading, grids, blunder)
        total = np.logaddexp(total, _joint(rest, grids.shared_precision) + np.log(wild))
    shape = (len(grids.level.log_level), len(grids.dose.gains), *grids.areas)
    return np.broadcast_to(total, shape).reshape(grids.rows, -1)


@dataclass(frozen=True, eq=False)
class _Part:
    """One reading's terms of the joint density."""

    precision: Vector
    first: Vector
    second: Vector
    scale: Vector

    @classmethod
    def of(cls, reading: Reading, grids: Grids) -> _Part:
        mean, log_mean = grids.mean(reading.kind)
        precision, log_sd = grids.precision(reading.kind, reading.quality)
        leak = knowledge().pressure["scatter"]["seal_leak"] if reading.quality == "seal-leak" else 0
        off = reading.pressure_pa / mean - (1 - leak)
        first = off * precision
        return cls(precision, first, first * off, log_sd + log_mean)


def _joint(parts: list[_Part], shared_precision: Vector) -> Vector:
    """Normal log density of readings that share one part of their scatter."""
    if not parts:
        return np.zeros(())
    weight = sum(part.precision for part in parts)
    first = sum(part.first for part in parts)
    second = sum(part.second for part in parts)
    exponent = second - first**2 / (weight + shared_precision)
    scale = sum(part.scale for part in parts) + 0.5 * np.log1p(weight / shared_precision)
    return np.asarray(-0.5 * exponent - scale - len(parts) * 0.5 * np.log(2 * np.pi))


def _blunder_density(reading: Reading, grids: Grids, blunder: float) -> Vector:
    """Density of a reading that is a slip of units or anything at all. [1/Pa]"""
    anything = max(blunder - len(SLIPS) * SLIP_CHANCE, 1e-4) / (2 * grids.expected.pressure_pa)
    ratio = np.log(reading.pressure_pa + 1.0) - grids.mean(reading.kind)[1]
    step = SLIP_GRID[1] - SLIP_GRID[0]
    nearest = np.clip(((ratio - SLIP_GRID[0]) / step).astype(np.intp), 0, len(SLIP_GRID) - 1)
    return np.asarray(anything + _slip_density()[nearest] / (reading.pressure_pa + 1.0))


@cache
def _slip_density() -> Vector:
    """Density, on its grid, of the logarithm of a slipped reading over its prediction."""
    off = (SLIP_GRID[:, None] + np.log(SLIPS)[None, :]) / SLIP_SPREAD
    normal = np.exp(-0.5 * off**2) / (SLIP_SPREAD * np.sqrt(2 * np.pi))
    return np.asarray(SLIP_CHANCE * normal.sum(axis=1))
