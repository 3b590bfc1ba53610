"""How likely a cylinder's pressure readings are under every leak, level and handling."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from copy import copy
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache, reduce
from typing import Any, Protocol, TypeGuard

import numpy as np
from numpy.typing import NDArray

from core.document.readings import final_of, made
from core.document.records import Document
from core.hidden.handling import Handling
from core.hidden.leaks import BIN_LOG_SD, RINGS, Leaks, spread
from core.hidden.level import Expectation, Level
from core.hidden.states import States, Vector
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say, word_said
from core.pressure.response import Response
from core.quantities import PSI_PA, pressure_pa, spoken

# What a hand may have meant when the unit was wrong: true pressure over written pressure.
SLIPS = (14.5038, 1 / 14.5038, 6.89476, 1 / 6.89476, 10.0, 0.1)
SLIP_CHANCE = limits().slip.chance  # For each of them.
SLIP_SPREAD = limits().slip.spread  # Of a reading in the wrong unit, as a natural logarithm.
LEAST_EXPONENT = -300.0  # Beyond it a density is nothing beside that of a blunder.
MOST_WEIGHED = 6  # Final readings of one cylinder; the work grows with their square.
SLIP_STEP = 0.001
SLIP_GRID = np.arange(-3.2, 3.2, SLIP_STEP)


class Evidence(Protocol):
    """What a gauge or the ear said of one cylinder's leaks, of whatever kind."""

    @property
    def cylinder(self) -> int: ...

    @property
    def kind(self) -> str:
        """dry, wet, leak-down, escape or relative."""

    @property
    def path(self) -> str:
        """The entry that it stands in."""

    @property
    def spoken(self) -> str:
        """The figure, or what was heard, in words."""

    @property
    def told(self) -> str:
        """The same in an argument."""

    def of_areas(self, leaks: Leaks, response: Response, handling: Handling) -> Vector | None:
        """Its density where the level of the test does not touch it, shape (rings * others,).

        Where it hangs on how all were tested, shape (handlings, rings * others).
        """

    def of_ear(self, states: States, leaks: Leaks) -> Vector | None:
        """The chance of what was heard, shape (besides, m)."""


@dataclass(frozen=True)
class Reading:
    """One gauge reading that counts as evidence; those of one cylinder are weighed together."""

    cylinder: int
    kind: str
    pressure_pa: float
    path: str
    spoken: str

    @property
    def told(self) -> str:
        kind = say("compression") if self.kind == "dry" else say("wet compression")
        return f"{kind} {self.spoken}"

    def of_areas(self, leaks: Leaks, response: Response, handling: Handling) -> Vector | None:
        """None: it hangs on the level of the test (`Grids.density`)."""
        return None

    def of_ear(self, states: States, leaks: Leaks) -> Vector | None:
        return None


def is_reading(one: Evidence) -> TypeGuard[Reading]:
    """Whether it is a pressure on a gauge, which hangs on the level of its test."""
    return one.kind in ("dry", "wet")


def readings(document: Document, doubted: frozenset[str]) -> list[Reading]:
    """The final readings that are weighed; those that are probably a slip of units are left out.

    Of a cylinder that was read time and again the newest good ones are enough: what they say
    together takes a table for each of them and for each that may be a blunder.
    """
    found: list[Reading] = []
    for test in document.tests.compression:
        for item in test.readings:
            path = f"/tests/compression/{test.id}/readings/{item.cylinder}/pressure"
            raw = final_of(item)
            if raw is None or path in doubted or not made(item):
                continue
            found.append(Reading(item.cylinder, test.kind, pressure_pa(raw), path, spoken(raw, 4)))
    beyond = {one.path for one in _beyond_count(found)}
    return [one for one in found if one.path not in beyond]


def _beyond_count(found: Sequence[Reading]) -> Iterator[Reading]:
    """Readings past the count that is weighed of a cylinder, the oldest first."""
    by_cylinder: dict[int, list[Reading]] = {}
    for one in found:
        by_cylinder.setdefault(one.cylinder, []).append(one)
    for own in by_cylinder.values():
        yield from own[:-MOST_WEIGHED]


def not_counted(document: Document) -> int:
    """How many readings are kept and not weighed, because newer ones of the cylinder are."""
    counted: dict[int, int] = {}
    for test in document.tests.compression:
        for item in test.readings:
            if final_of(item) is not None and made(item):
                counted[item.cylinder] = counted.get(item.cylinder, 0) + 1
    return sum(max(count - MOST_WEIGHED, 0) for count in counted.values())


@dataclass(frozen=True, eq=False)
class Gauged:
    """What one cylinder's gauges and the ear say of its leaks.

    Attributes
    ----------
    density : ndarray, shape (levels * handlings, rings * others), or None
        Density of the readings, each in units of the expected pressure.
    heard : ndarray, shape (besides, mechanical), or None
        Chance of what was heard in a leak-down.
    """

    density: Vector | None
    heard: Vector | None


@dataclass(frozen=True, eq=False)
class Gauge:
    """What one kind of reading is expected to be, and how it scatters, on every grid.

    Arrays have the axes (levels, handlings, areas); a dry reading knows no dose, so that axis is of
    length one.

    Attributes
    ----------
    log_steps : natural logarithm of the expected reading over the expected pressure, in SLIP_STEP.
    inverse_mean : one over the expected reading. [1/Pa]
    precision : inverse square of the gauge's relative scatter.
    height : of a normal density with that scatter alone, in units of the expected pressure.
    """

    log_steps: Vector
    inverse_mean: Vector
    precision: Vector
    height: Vector

    def at(self, kept: NDArray[np.intp], points: tuple[int, int]) -> Gauge:
        """The same at some of the points of level and handling, as if each were a level."""

        def chosen(one: Vector) -> Vector:
            return _flat(one, points)[kept][:, None, :]

        return Gauge(
            chosen(self.log_steps),
            chosen(self.inverse_mean),
            chosen(self.precision),
            chosen(self.height),
        )


class Grids:
    """What readings are expected to be on every grid; each figure is computed once."""

    def __init__(
        self, expected: Expectation, level: Level, handling: Handling, leaks: Leaks, states: States
    ) -> None:
        self.expected = expected
        self.level = level
        self.handling = handling
        self.leaks = leaks
        self.states = states
        self.points = (len(level.log_level), len(handling.gains))
        self._kept: NDArray[np.intp] | None = None
        self._gauges: dict[str, Gauge] = {}
        self._shapes: dict[tuple[str, ...], tuple[Vector, dict[tuple[int, int], Vector]]] = {}
        self._densities: dict[tuple[Reading, ...], Vector] = {}
        self._normals: dict[tuple[Reading, ...], Vector] = {}
        self._wilds: dict[Reading, Vector] = {}
        self._of_areas: dict[Evidence, Vector | None] = {}
        self.worn: Vector | None = None  # Over the usual chance of each pair of areas.

    def worn_to(self, degree: float) -> Grids:
        """The same for rings that are worn as those of the whole engine are: near one area.

        Parameters
        ----------
        degree : float
            The area, of rings that leak. [mm2 for each 500 cm3]
        """
        other = copy(self)
        sizes = self.leaks.ring_areas[1:]
        near = np.exp(-0.5 * (np.log(sizes / degree) / knowledge().pressure["worn"]["spread"]) ** 2)
        tilt = np.concatenate([[1.0], near / near.sum() / spread(RINGS)])
        other.worn = np.repeat(tilt, len(self.leaks.other_areas))
        return other

    def narrowed(self, kept: NDArray[np.intp]) -> Grids:
        """The same expectations at some points of level and handling, one after the other."""
        narrow = copy(self)
        narrow.points = (len(kept), 1)
        narrow._kept = kept
        narrow._of_areas = {}
        narrow._shapes = {}
        narrow._densities = {own: known[kept] for own, known in self._densities.items()}
        narrow._normals = {own: self._chosen(known, kept) for own, known in self._normals.items()}
        narrow._wilds = {one: self._chosen(known, kept) for one, known in self._wilds.items()}
        narrow._gauges = {key: gauge.at(kept, self.points) for key, gauge in self._gauges.items()}
        return narrow

    def _chosen(self, table: Vector, kept: NDArray[np.intp]) -> Vector:
        """A table at some of the points, as if each were a level."""
        return _flat(table, self.points)[kept][:, None, :]

    def gauge(self, reading: Reading) -> Gauge:
        """The expectation of a reading's kind."""
        if reading.kind not in self._gauges:
            self._gauges[reading.kind] = self._gauge(reading.kind)
        return self._gauges[reading.kind]

    def _gauge(self, kind: str) -> Gauge:
        scatter = knowledge().pressure["scatter"]
        ring, other = self.leaks.ring_areas[None, :, None], self.leaks.other_areas[None, None, :]
        response = self.expected.response
        if kind == "wet":
            open_ = 1 - self.handling.closed[:, None, None]
            share = response.share(ring * open_ + other) * (1 + self.handling.gains[:, None, None])
        else:
            share = response.share(ring + other)
        share = share.reshape(len(share), -1)
        expected = self.expected.pressure_pa
        level = np.exp(self.level.log_level)[:, None, None]
        mean = np.maximum(level * share[None], 2e3 / expected)
        square = scatter["gauge"] ** 2 + (scatter["absolute_psi"] * PSI_PA / expected / mean) ** 2
        height = 1 / (np.sqrt(2 * np.pi * square) * mean)
        return Gauge(np.log(mean) / SLIP_STEP, 1 / (expected * mean), 1 / square, height)

    def of_areas(self, reading: Evidence) -> Vector | None:
        """Density of what the level does not touch, computed once; over `points` where it spreads.

        Shape (rings * others,), or (handlings, rings * others), or where the grid is narrowed
        (kept, 1, rings * others).
        """
        if reading not in self._of_areas:
            table = reading.of_areas(self.leaks, self.expected.response, self.handling)
            if table is not None and table.ndim > 1 and self._kept is not None:
                table = table[self._kept % len(table)][:, None, :]
            self._of_areas[reading] = table
        return self._of_areas[reading]

    def density(self, own: tuple[Reading, ...]) -> Vector:
        """Joint density of one cylinder's readings, shape (levels * handlings, rings * others).

        The readings share a part of their scatter, the gauge differs each time, and any one
        reading may be a blunder: a slip of units, or anything at all; or all of them are.
        Computed once however often it is asked.
        """
        if own not in self._densities:
            self._densities[own] = self._density(own)
        return self._densities[own]

    def _density(self, own: tuple[Reading, ...]) -> Vector:
        blunder = knowledge().pressure["scatter"]["outlier"]
        wild = [self._wild(reading, blunder) for reading in own]
        total = self._normal(own) * (1 - blunder) ** len(own)
        for at in range(len(own)):
            rest = own[:at] + own[at + 1 :]
            total = total + self._normal(rest) * (wild[at] * (1 - blunder) ** len(rest))
        if len(own) > 1:
            total = total + reduce(np.multiply, wild)
        return _flat(total, self.points)

    def _normal(self, own: tuple[Reading, ...]) -> Vector:
        """Normal density of readings that share one part of their scatter, computed once."""
        if own not in self._normals:
            self._normals[own] = self._normal_density(own)
        return self._normals[own]

    def _normal_density(self, own: tuple[Reading, ...]) -> Vector:
        if not own:
            return np.ones((1, 1, 1))
        offs = [_off(reading, self.gauge(reading)) for reading in own]
        height, factors = self._shape(tuple(one.kind for one in own), own)
        exponent: Any = 0.0
        for at, off in enumerate(offs):
            pulled = factors[at, at] * off
            for other in range(at):
                pulled = pulled + factors[at, other] * offs[other]
            exponent = exponent + pulled * off
        return np.asarray(np.exp(np.maximum(exponent, LEAST_EXPONENT)) * height)

    def _shape(
        self, kinds: tuple[str, ...], own: tuple[Reading, ...]
    ) -> tuple[Vector, dict[tuple[int, int], Vector]]:
        """Height of the joint normal density, and the factors of its exponent.

        With weights w and shared precision s the exponent is
        -1/2 [sum w off^2 - (sum w off)^2 / (sum w + s)]; each pair of readings has one factor.
        """
        if kinds not in self._shapes:
            gauges = [self.gauge(reading) for reading in own]
            weight = sum(gauge.precision for gauge in gauges)
            height = reduce(np.multiply, [gauge.height for gauge in gauges])
            height = height / np.sqrt(1 + weight / self.shared_precision)
            pooled = weight + self.shared_precision
            factors = {}
            for at, gauge in enumerate(gauges):
                factors[at, at] = -0.5 * gauge.precision * (1 - gauge.precision / pooled)
                for other in range(at):
                    factors[at, other] = gauge.precision * gauges[other].precision / pooled
            self._shapes[kinds] = height, factors
        return self._shapes[kinds]

    def _wild(self, reading: Reading, blunder: float) -> Vector:
        """Density of a reading that is a slip of units or anything at all, computed once."""
        if reading not in self._wilds:
            anything = max(blunder - len(SLIPS) * SLIP_CHANCE, 1e-4) / 2
            upward = knowledge().pressure["scatter"]["upward"]
            read = (reading.pressure_pa + 1.0) / self.expected.pressure_pa
            steps = (np.log(read) - SLIP_GRID[0]) / SLIP_STEP + 0.5 - self.gauge(reading).log_steps
            slipped = _slip_density().take(steps.astype(np.intp), mode="clip")
            high = reading.pressure_pa * self.gauge(reading).inverse_mean > 1
            self._wilds[reading] = slipped / read + anything * np.where(high, upward, 1.0)
        return self._wilds[reading]

    @cached_property
    def shared_precision(self) -> Vector:
        """Inverse square of the scatter that a cylinder's readings share, shape (rings * others,).

        A sound cylinder differs a little from its neighbours whenever it is read, and a point of
        the grid stands for every leak in its bin.
        """
        ring, other = self.leaks.ring_areas[:, None], self.leaks.other_areas[None, :]
        total = np.maximum(ring + other, 1e-6)
        change = self.expected.response.elasticity(total) * BIN_LOG_SD
        within = change * np.hypot(ring, other) / total
        cylinder = knowledge().pressure["scatter"]["cylinder"]
        return np.asarray(1 / (cylinder**2 + within**2)).ravel()


@lru_cache(maxsize=64)
def grids_of(
    expected: Expectation, level: Level, handling: Handling, leaks: Leaks, states: States
) -> Grids:
    """The grids of a test, kept while its engine is being recorded: most entries leave them be.

    About 3 MB each: room for as many engines as a few dozen people work on at once.
    """
    return Grids(expected, level, handling, leaks, states)


def figures_said(group: Sequence[Evidence]) -> str:
    """The figures of one cylinder, each reading with the test that it is of."""
    return ", ".join(
        f"{one.spoken} {word_said(one.kind)}" if is_reading(one) else one.spoken for one in group
    )


def gauged(own: list[Evidence], grids: Grids) -> Gauged:
    """Weigh everything that gauges and the ear said of one cylinder."""
    read = tuple(one for one in own if is_reading(one))
    density = grids.density(read) if read else None
    lost = [table for one in own if (table := grids.of_areas(one)) is not None]
    if lost:
        together = reduce(np.multiply, lost)
        if density is None or together.ndim > 1:
            together = _flat(together, grids.points)
        density = together if density is None else density * together
    if density is not None and grids.worn is not None:
        density = density * grids.worn
    heard = [table for one in own if (table := one.of_ear(grids.states, grids.leaks)) is not None]
    return Gauged(density, np.prod(heard, axis=0) if heard else None)


def _flat(table: Vector, points: tuple[int, int]) -> Vector:
    """A table spread over levels and handlings, shape (levels * handlings, areas)."""
    areas = table.shape[-1]
    return np.broadcast_to(table, (*points, areas)).reshape(-1, areas)


def _off(reading: Reading, gauge: Gauge) -> Vector:
    """How far a reading lies from what is expected, as a share of it."""
    return np.asarray(reading.pressure_pa * gauge.inverse_mean - 1)


@cache
def _slip_density() -> Vector:
    """Density, on its grid, of the logarithm of a slipped reading over its prediction."""
    off = (SLIP_GRID[:, None] + np.log(SLIPS)[None, :]) / SLIP_SPREAD
    normal = np.exp(-0.5 * off**2) / (SLIP_SPREAD * np.sqrt(2 * np.pi))
    return np.asarray(SLIP_CHANCE * normal.sum(axis=1))
