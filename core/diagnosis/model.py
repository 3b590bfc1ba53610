"""Building the model of one document, and asking it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from core.diagnosis import plausibility
from core.diagnosis.beforehand import Known, Odds, known_of_cylinder, known_of_engine, odds_of
from core.diagnosis.channels import likelihoods
from core.diagnosis.evidence import Finding, coded_cylinders, findings
from core.diagnosis.inference import Problem, Solution, solve
from core.diagnosis.leakdowns import leakdowns
from core.diagnosis.leaks import gasket_prior, leaks_of
from core.diagnosis.level import (
    TEST,
    TIMING,
    Expectation,
    Level,
    expectation,
    level_grid,
)
from core.diagnosis.plausibility import Caution
from core.diagnosis.pressures import Evidence, Grids, Reading, doses, gauged, readings
from core.diagnosis.situations import (
    PLACES,
    Shared,
    Situations,
    situations_of,
    with_shared_findings,
)
from core.diagnosis.states import Vector
from core.diagnosis.words import CylinderWords
from core.engine.layout import Arrangement, arrangement
from core.knowledge import knowledge
from core.pressure.response import geometry_of


@dataclass(frozen=True, eq=False)
class Model:
    """One document, its evidence and the exact posterior. Built by `of`; never changed."""

    document: dict[str, Any]
    arranged: Arrangement
    expected: Expectation
    cautions: list[Caution]
    findings: list[Finding]
    readings: list[Reading]
    gauged: list[Evidence]
    known: list[Known]
    situations: Situations
    problem: Problem
    solution: Solution

    @classmethod
    def of(cls, document: dict[str, Any]) -> Model:
        """Build and solve the model of a checked document."""
        engine = document["engine"]
        arranged = arrangement(engine)
        compression = document.get("tests", {}).get("compression", [])
        expected = expectation(document, compression)
        cautions = plausibility.warnings(document, expected, arranged)
        doubted = frozenset(caution.path for caution in cautions if caution.doubts)
        found = findings(document, doubted)
        read = readings(document, doubted)
        said: list[Evidence] = [*read, *leakdowns(document, geometry_of(engine)[0])]
        known = known_of_engine(document)
        odds = odds_of(known)
        situations = with_shared_findings(situations_of(engine, arranged, odds), document)
        problem = _problem(document, arranged, expected, found, said, known, situations)
        solution = solve(problem)
        return cls(
            document,
            arranged,
            expected,
            cautions,
            found,
            read,
            said,
            known,
            situations,
            problem,
            solution,
        )

    def index(self, cylinder: int) -> int:
        return self.arranged.cylinders.index(cylinder)

    def readings_of(self, cylinder: int) -> list[Reading]:
        return [reading for reading in self.readings if reading.cylinder == cylinder]

    def gauged_of(self, cylinder: int) -> list[Evidence]:
        """Everything that gauges and the ear said of a cylinder."""
        return [one for one in self.gauged if one.cylinder == cylinder]

    @cached_property
    def narrowed(self) -> Grids:
        """The grids at the points that the solution kept."""
        return self.problem.grids.narrowed(self.solution.kept)

    def shared(self, fault: str, where: tuple[str, ...], name: str | None = None) -> float:
        """Posterior of a shared fault at some kinds of place."""

        def fits(one: Shared) -> bool:
            suits = one.fault == fault and one.where in where
            return suits and (name is None or one.name == name)

        return float(self.solution.situation[self.situations.which(fits)].sum())

    def shared_on(self, cylinder: int, by: tuple[str, ...] = PLACES) -> float:
        """Chance that something shared at some kinds of place acts on a cylinder."""
        at = self.index(cylinder)
        acts = np.any([self.situations.acting[where][:, at] for where in by], axis=0)
        return float(self.solution.situation[acts].sum())

    def known_without(self, one: Known) -> list[Known]:
        """What else was known of the engine beforehand."""
        return [other for other in self.known if other is not one]

    @cached_property
    def plain_situations(self) -> Situations:
        """What may be shared, before anything was found on shared parts."""
        return situations_of(self.document["engine"], self.arranged, odds_of(self.known))

    @cached_property
    def level_faults(self) -> dict[str, float]:
        """Posterior of what moves every reading alike."""
        return _level_faults(self.problem.level, self.solution.level)

    @cached_property
    def level_faults_beforehand(self) -> dict[str, float]:
        """The same before any reading."""
        return _level_faults(self.problem.level, np.exp(self.problem.level.log_prior))

    def level_faults_given(self, known: list[Known]) -> dict[str, float]:
        """The same, had other things been known beforehand."""
        level = self.problem.level
        other = _level(self.document, self.expected, self.readings, odds_of(known))
        heard = self.solution.level * np.exp(other.log_prior - level.log_prior)
        return _level_faults(other, heard / heard.sum())


def _problem(
    document: dict[str, Any],
    arranged: Arrangement,
    expected: Expectation,
    found: list[Finding],
    said: list[Evidence],
    known: list[Known],
    situations: Situations,
) -> Problem:
    engine = document["engine"]
    odds = odds_of(known)
    kind = (engine["cycle"], engine.get("cooling", "liquid"))
    direct = engine.get("fuel_system") == "direct"
    tables = likelihoods(*kind, direct, situations.contexts)
    cuts = engine.get("fuel_system") in ("port", "direct")
    coded = coded_cylinders(document) if cuts else {}
    words = [
        CylinderWords.read(
            tables,
            [finding for finding in found if finding.cylinder == cylinder],
            odds_of([*known, *known_of_cylinder(document, cylinder)]),
            injection_cut=cylinder in coded,
        )
        for cylinder in arranged.cylinders
    ]
    read = [one for one in said if isinstance(one, Reading)]
    level = _level(document, expected, read, odds)
    dose = doses(any(reading.kind == "wet" for reading in read))
    rows, gaskets = _rows(arranged, odds)
    leaks = leaks_of(*kind)
    grids = Grids(expected, level, dose, leaks, tables.states)
    pressures = [
        gauged([one for one in said if one.cylinder == cylinder], grids)
        for cylinder in arranged.cylinders
    ]
    return Problem(situations, level, dose, leaks, rows, gaskets, words, pressures, grids)


def _level(
    document: dict[str, Any], expected: Expectation, read: list[Reading], odds: Odds
) -> Level:
    placing = [reading.pressure_pa for reading in read if reading.kind == "dry"]
    placing = placing or [reading.pressure_pa for reading in read]
    four_stroke = document["engine"]["cycle"] == "four-stroke"
    timing = _moved("valve-timing", odds) if four_stroke else 0.0
    return level_grid(expected, placing, timing, _moved("test-condition", odds))


def _level_faults(level: Level, chances: Vector) -> dict[str, float]:
    given = level.responsibility @ chances
    return {"test-condition": float(given[TEST]), "valve-timing": float(given[TIMING])}


def _moved(fault: str, odds: Odds) -> float:
    """An engine-level prior with what is known beforehand."""
    return knowledge().fault(fault, "engine").chance(odds)


def _rows(
    arranged: Arrangement, odds: Odds
) -> tuple[tuple[tuple[int, ...], ...], tuple[tuple[Vector, ...], ...]]:
    """Chains of neighbours by index, and the gasket's prior between them."""
    following = dict(arranged.neighbours)
    preceded = {right for _, right in arranged.neighbours}
    rows = []
    for cylinder in arranged.cylinders:
        if cylinder in preceded:
            continue
        row = [cylinder]
        while row[-1] in following:
            row.append(following[row[-1]])
        rows.append(tuple(arranged.cylinders.index(number) for number in row))
    prior = gasket_prior(odds)
    return tuple(rows), tuple(tuple([prior] * (len(row) - 1)) for row in rows)
