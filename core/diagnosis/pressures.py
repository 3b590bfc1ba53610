"""How likely a cylinder's pressure readings are under every leak, level and dose of oil."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
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
SLIP_GRID = np.linspace(-3.2, 3.2, 1601)


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


def gauged(
    own: list[Evidence],
    expected: Expectation,
    level: Level,
    dose: Doses,
    leaks: Leaks,
    states: States,
) -> Gauged:
    """Weigh everything that gauges and the ear said of one cylinder."""
    read = [one for one in own if isinstance(one, Reading)]
    lost = [log_density_of(one, leaks) for one in own if isinstance(one, Leakdown)]
    density = log_density(read, expected, level, dose, leaks) if read else None
    if lost:
        flat = np.sum(lost, axis=0)[None, :]
        rows = len(level.log_level) * len(dose.gains)
        density = (
            np.broadcast_to(flat, (rows, flat.shape[1])) if density is None else density + flat
        )
    tables = [heard_table(one, states, leaks.shape[1]) for one in own if isinstance(one, Escape)]
    return Gauged(density, np.prod(tables, axis=0) if tables else None)


def log_density(
    of_cylinder: list[Reading],
    expected: Expectation,
    level: Level,
    dose: Doses,
    leaks: Leaks,
) -> Vector:
    """Joint log density of one cylinder's readings.

    A sound cylinder differs a little from its neighbours whenever it is read (a part of the
    scatter that its readings share) and the gauge differs each time. Any one reading may be a
    blunder: a slip of units, or anything at all.

    Parameters
    ----------
    of_cylinder : list of Reading
    expected, level, dose, leaks
        The hidden quantities' grids.

    Returns
    -------
    ndarray, shape (levels * doses, rings * others)
    """
    scatter = knowledge().pressure["scatter"]
    offsets, sds, predicted = [], [], []
    for reading in of_cylinder:
        mean = _predicted_pa(reading.kind, expected, level, dose, leaks)
        factor = {"good": 1.0}.get(reading.quality, scatter["doubtful"])
        relative = scatter["gauge"] * factor
        sds.append(np.hypot(relative, scatter["absolute_psi"] * PSI_PA / mean))
        shown = mean * (1 - scatter["seal_leak"]) if reading.quality == "seal-leak" else mean
        offsets.append((reading.pressure_pa - shown) / mean)
        predicted.append(mean)
    blunder = scatter["outlier"]
    shared = np.hypot(scatter["cylinder"], _within_bin(expected, leaks))
    total = _joint(offsets, sds, predicted, shared)
    total = total + len(of_cylinder) * np.log1p(-blunder)
    for at, reading in enumerate(of_cylinder):
        rest = [index for index in range(len(of_cylinder)) if index != at]
        without = _joint(
            [offsets[i] for i in rest],
            [sds[i] for i in rest],
            [predicted[i] for i in rest],
            shared,
        )
        wild = _blunder_density(reading.pressure_pa, predicted[at], expected, blunder)
        total = np.logaddexp(total, without + np.log(wild))
    areas = (len(leaks.ring_areas), len(leaks.other_areas))
    whole = np.broadcast_to(total, (len(level.log_level), len(dose.gains), *areas))
    return whole.reshape(len(level.log_level) * len(dose.gains), -1)


def _predicted_pa(
    kind: str, expected: Expectation, level: Level, dose: Doses, leaks: Leaks
) -> Vector:
    """Expected reading, shape (levels, doses, rings, others); a dry one knows no dose."""
    ring = leaks.ring_areas[None, :, None]
    other = leaks.other_areas[None, None, :]
    if kind == "wet":
        share = expected.response.share(ring * (1 - dose.closed[:, None, None]) + other)
        share = share * (1 + dose.gains[:, None, None])
    else:
        share = expected.response.share(ring + other)
    healthy = expected.pressure_pa * np.exp(level.log_level)
    return np.maximum(healthy[:, None, None, None] * share[None], 2e3)


def _within_bin(expected: Expectation, leaks: Leaks) -> Vector:
    """Relative scatter of a reading within a bin of the grid, shape (rings, others)."""
    ring, other = leaks.ring_areas[:, None], leaks.other_areas[None, :]
    total = np.maximum(ring + other, 1e-6)
    change = expected.response.elasticity(total) * BIN_LOG_SD
    return np.asarray(np.abs(change) * np.hypot(ring, other) / total)


def _joint(
    offsets: list[Vector], sds: list[Vector], predicted: list[Vector], shared_sd: Vector
) -> Vector:
    """Normal density of readings that share one part of their scatter."""
    if not offsets:
        return np.zeros(())
    weight = sum(sd**-2 for sd in sds)
    first = sum(x * sd**-2 for x, sd in zip(offsets, sds, strict=True))
    second = sum(x**2 * sd**-2 for x, sd in zip(offsets, sds, strict=True))
    exponent = second - first**2 / (weight + shared_sd**-2)
    scale = sum(np.log(sd * mean) for sd, mean in zip(sds, predicted, strict=True))
    constant = len(offsets) * 0.5 * np.log(2 * np.pi)
    return np.asarray(-0.5 * exponent - scale - 0.5 * np.log1p(shared_sd**2 * weight) - constant)


def _blunder_density(
    pressure: float, predicted: Vector, expected: Expectation, blunder: float
) -> Vector:
    """Density of a reading that is a slip of units or anything at all. [1/Pa]"""
    anything = max((blunder - len(SLIPS) * SLIP_CHANCE), 1e-4) / (2 * expected.pressure_pa)
    ratio = np.log(pressure + 1.0) - np.log(predicted)
    slips = np.interp(ratio, SLIP_GRID, _slip_density(SLIP_GRID), left=0.0, right=0.0)
    return np.asarray(anything + slips / (pressure + 1.0))


def _slip_density(log_ratio: Vector) -> Vector:
    """Density of the logarithm of a reading over its prediction, if its unit was a slip."""
    centres = -np.log(SLIPS)
    off = (log_ratio[:, None] - centres[None, :]) / SLIP_SPREAD
    normal = np.exp(-0.5 * off**2) / (SLIP_SPREAD * np.sqrt(2 * np.pi))
    return np.asarray(SLIP_CHANCE * normal.sum(axis=1))
