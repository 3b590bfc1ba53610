"""Building the model of one document, and asking it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from statistics import median

import numpy as np

from core.caution import Caution
from core.document.records import Document
from core.engine.layout import Arrangement, arrangement
from core.evidence import plausibility
from core.evidence.beforehand import (
    PLUGS_AGE,
    Known,
    Odds,
    known_of_cylinder,
    known_of_engine,
    manner_of,
    odds_of,
)
from core.evidence.channels import likelihoods
from core.evidence.findings import Finding, findings
from core.evidence.leakdowns import leakdowns, unmeasured
from core.evidence.pressures import (
    Evidence,
    Grids,
    Reading,
    gauged,
    grids_of,
    is_reading,
    readings,
)
from core.evidence.relatives import relatives
from core.evidence.shared_findings import found_on_all, with_found
from core.evidence.strands import of_the_set, strands_of
from core.hidden.handling import handling
from core.hidden.leaks import gasket_prior, leaks_of
from core.hidden.level import (
    TEST,
    TIMING,
    Expectation,
    Level,
    expectation,
    level_grid,
    timing_shifts,
)
from core.hidden.situations import (
    HABIT,
    PLACES,
    BankShift,
    Shared,
    Situations,
    habits_of,
    shifted_context,
    situations_of,
    with_bank_timing,
    with_wear,
    worn_context,
)
from core.hidden.states import Vector
from core.hidden.strands import SOLE
from core.inference.epochs import Second, level_after
from core.inference.solver import Problem, Solution, solve
from core.inference.surprise import Quarrel, quarrels
from core.inference.words import CylinderWords, kept_weights
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say
from core.quantities import pressure_pa

LEAST_SHIFT = limits().test.bank_shift  # Of a bank below the others; nearer, it scatters.


@dataclass(frozen=True, eq=False)
class Model:
    """One document, its evidence and the exact posterior. Built by `of`; never changed."""

    document: Document
    arranged: Arrangement
    expected: Expectation
    cautions: list[Caution]
    findings: list[Finding]
    readings: list[Reading]
    gauged: list[Evidence]
    known: list[Known]
    shifts: list[BankShift]
    worn: list[float]
    situations: Situations
    problem: Problem
    solution: Solution
    second: Second | None = None

    @classmethod
    def of(
        cls,
        document: Document,
        second: Second | None = None,
        surprises: Sequence[Caution] = (),
    ) -> Model:
        """Build and solve the model of a document; once more without what quarrels in it.

        Parameters
        ----------
        document : Document
        second : Second, optional
            What an earlier epoch leaves to it: then that is the prior, and only what was read since
            is heard; the document says how the engine stands.
        surprises : sequence of Caution
            What was found to quarrel, and is left out until somebody looked again.
        """
        engine, heard = document.engine, second.heard if second else document
        arranged = arrangement(engine)
        expected = expectation(heard)
        cautions = [*plausibility.warnings(heard, expected, arranged), *surprises]
        doubted = plausibility.doubted_by(cautions)
        found = findings(document, doubted)
        read = readings(heard, doubted)
        said: list[Evidence] = [
            *read,
            *leakdowns(heard, doubted),
            *relatives(heard),
        ]
        known = second.known if second else known_of_engine(document)
        odds = odds_of(known)
        if second:
            shifts, worn, situations = second.shifts, second.worn, second.situations
        else:
            shifts, worn = bank_shifts(document, arranged, read), chances_of_wear(document, read)
            plain = with_bank_timing(
                situations_of(engine, arranged, odds, habits_of(document)), shifts, odds
            )
            situations = with_found(with_wear(plain, worn), found_on_all(document))
        weighed = findings(heard, doubted) if second else found
        problem = _problem(
            document, arranged, expected, weighed, said, known, situations, shifts, second
        )
        solution = solve(problem)
        if not surprises:
            by_cylinder = [
                [one for one in said if one.cylinder == number] for number in arranged.cylinders
            ]
            quarrelling = [_surprise(one) for one in quarrels(problem, solution, by_cylinder)]
            if quarrelling:
                return cls.of(document, second, quarrelling)
        return cls(
            document,
            arranged,
            expected,
            cautions,
            found,
            read,
            said,
            known,
            shifts,
            worn,
            situations,
            problem,
            solution,
            second,
        )

    def index(self, cylinder: int) -> int:
        return self.arranged.cylinders.index(cylinder)

    def readings_of(self, cylinder: int) -> list[Reading]:
        return [reading for reading in self.readings if reading.cylinder == cylinder]

    def gauged_of(self, cylinder: int) -> list[Evidence]:
        """Everything that gauges and the ear said of a cylinder."""
        return [one for one in self.gauged if one.cylinder == cylinder]

    @cached_property
    def doubted(self) -> frozenset[str]:
        """Paths of what is left out of the evidence until somebody has looked again."""
        return plausibility.doubted_by(self.cautions)

    @cached_property
    def narrowed(self) -> Grids:
        """The grids at the points that the solution kept."""
        return self.problem.grids.narrowed(self.solution.kept)

    def shared(self, fault: str, where: tuple[str, ...], name: str | None = None) -> float:
        """Posterior of a shared fault at some kinds of place."""
        return sum(self._by_place.get((fault, place, name), 0.0) for place in where)

    @cached_property
    def _by_place(self) -> dict[tuple[str, str, str | None], float]:
        """Chance of every shared fault by kind of place and name, and by kind of place alone."""
        found: dict[tuple[str, str, str | None], float] = {}
        for one, chance in zip(self.situations.alone, self._chances_of_shared, strict=True):
            for name in (one.name, None):
                key = (one.fault, one.where, name)
                found[key] = found.get(key, 0.0) + chance
        return found

    @cached_property
    def parts(self) -> list[Shared]:
        """Every fault of a part that cylinders share, once; habits aside."""
        found: dict[tuple[str, str, str], Shared] = {}
        for one in self.situations.alone:
            if one.where != HABIT:
                found.setdefault((one.fault, one.where, one.name), one)
        return list(found.values())

    @cached_property
    def _chances_of_shared(self) -> list[float]:
        """Posterior of every shared fault; no situation holds two of one kind of fault."""
        chances: list[float] = (self.solution.situation @ self.situations.holds).tolist()
        return chances

    def shared_on(self, cylinder: int, by: tuple[str, ...] = PLACES) -> float:
        """Chance that something shared at some kinds of place acts on a cylinder."""
        if by not in self._acting:
            acts = np.any([self.situations.acting[where] for where in by], axis=0)
            self._acting[by] = (self.solution.situation @ acts).tolist()
        return self._acting[by][self.index(cylinder)]

    @cached_property
    def _acting(self) -> dict[tuple[str, ...], list[float]]:
        """By kinds of place, the chance for every cylinder; filled as it is asked for."""
        return {}

    def known_without(self, one: Known) -> list[Known]:
        """What else was known of the engine beforehand."""
        return [other for other in self.known if other is not one]

    @cached_property
    def plain_situations(self) -> Situations:
        """What may be shared, before anything was found on shared parts."""
        return self.situations_given(self.known)

    def situations_given(self, known: list[Known]) -> Situations:
        """The same, had other things been known beforehand."""
        odds = odds_of(known)
        habits = habits_of(self.document)
        plain = situations_of(self.document.engine, self.arranged, odds, habits)
        return with_wear(with_bank_timing(plain, self.shifts, odds), self.worn)

    def situations_without(self, family: str) -> Vector:
        """Posterior of every situation had one family of complaints not been said, (situations,)"""
        woven, joint = self.problem.woven, self.solution.solver.joint
        heard = [family not in one.silent for one in woven.strands]
        left = joint.sum(axis=1) * np.repeat(heard, len(self.situations.members))
        return np.asarray(woven.by_situation(left) / left.sum())

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


def _surprise(one: Quarrel) -> Caution:
    """An entry that all the others make rare, with the one that it quarrels with."""
    text = say(
        "Cylinder {cylinder}: {finding}, and {beside}: the two are hardly both right. Look again "
        "at both; neither is weighed until then.",
        cylinder=one.finding.cylinder,
        finding=one.finding.text,
        beside=one.beside.text,
    )
    paths = one.finding.path, one.beside.path
    number = one.finding.cylinder
    return Caution("surprise", paths[0], text, True, beside=paths[1], cylinder=number)


def forget() -> None:
    """Drop what is kept from one assessment to the next; for benchmarks and tests.

    What depends on the kind of engine alone stays: it is the same for every document.
    """
    for kept in (level_grid, grids_of, kept_weights):
        kept.cache_clear()


def _problem(
    document: Document,
    arranged: Arrangement,
    expected: Expectation,
    found: list[Finding],
    said: list[Evidence],
    known: list[Known],
    situations: Situations,
    shifts: list[BankShift],
    second: Second | None,
) -> Problem:
    engine = document.engine
    odds = odds_of(known)
    kind = (engine.cycle, engine.cooling or "liquid")
    tables = likelihoods(*kind, situations.contexts)
    strands = SOLE if second else strands_of(document, found)
    members, words = of_the_set(document), []
    of_ages = any(one.set_ for one in strands)  # Then what is known of the set's age is theirs.
    for at, cylinder in enumerate(arranged.cylinders):
        own = [finding for finding in found if finding.cylinder == cylinder]
        in_set = cylinder in members
        beforehand = [] if second else _own(document, cylinder, in_set=in_set and of_ages)
        of_own = odds_of([*known, *beforehand])
        manner = manner_of(document, cylinder, own)
        carried = second.carried[at] if second else None
        lays = tuple(one.lay if in_set else one.lay.apart() for one in strands)
        words.append(
            CylinderWords.read(tables, own, of_own, manner=manner, carried=carried, lays=lays)
        )
    read = [one for one in said if is_reading(one)]
    level = _level(document, expected, read, odds)
    if second:
        level = level_after(level, second)
    how = handling(wet=any(one.kind == "wet" for one in read), unmeasured=unmeasured(said))
    rows, gaskets = _rows(arranged, odds)
    if second:
        gaskets = tuple(
            tuple(
                second.pairs.get(pair, prior)
                for pair, prior in zip(pairwise(row), own, strict=True)
            )
            for row, own in zip(rows, gaskets, strict=True)
        )
    leaks = leaks_of(*kind)
    grids = grids_of(expected, level, how, leaks, tables.states)
    pressures = [
        gauged([one for one in said if one.cylinder == cylinder], grids)
        for cylinder in arranged.cylinders
    ]
    moved = _shifted_grids(grids, situations, shifts, arranged, len(strands))
    shifted = [
        {
            context: gauged([one for one in said if one.cylinder == cylinder], other)
            for context, other in moved[at].items()
        }
        for at, cylinder in enumerate(arranged.cylinders)
    ]
    return Problem(
        situations, level, how, leaks, rows, gaskets, words, pressures, grids, moved, shifted,
        strands,
    )  # fmt: skip


def _own(document: Document, cylinder: int, *, in_set: bool) -> list[Known]:
    """What is known of one cylinder; of one of a set that wears together its age is the set's."""
    own = known_of_cylinder(document, cylinder)
    return [one for one in own if one.entry != PLUGS_AGE] if in_set else own


def _shifted_grids(
    grids: Grids,
    situations: Situations,
    shifts: list[BankShift],
    arranged: Arrangement,
    strands: int,
) -> list[dict[int, Grids]]:
    """For each cylinder the grids of every context that moves its level, through the strands."""
    found: list[dict[int, Grids]] = [{} for _ in arranged.cylinders]
    for bank in shifts:
        for at, shift in enumerate(bank.shifts):
            context = situations.contexts.index(frozenset({shifted_context(at)}))
            level = replace(grids.level, log_level=grids.level.log_level + shift)
            moved = Grids(grids.expected, level, grids.handling, grids.leaks, grids.states)
            for cylinder in bank.cylinders:
                own = found[arranged.cylinders.index(cylinder)]
                for strand in range(strands):
                    own[strand * len(situations.contexts) + context] = moved
    for at, degree in enumerate(knowledge().pressure["worn"]["degrees"]):
        if (worn := frozenset({worn_context(at)})) in situations.contexts:
            context, moved = situations.contexts.index(worn), grids.worn_to(degree)
            for own in found:
                for strand in range(strands):
                    own[strand * len(situations.contexts) + context] = moved
    return found


def bank_shifts(document: Document, arranged: Arrangement, read: list[Reading]) -> list[BankShift]:
    """Banks of which every cylinder reads low: their own valve timing may have slipped.

    The readings place the shifts to reckon with and weigh nothing.
    """
    banks = [bank for bank in arranged.banks if len(bank.cylinders) > 1]
    if document.engine.cycle != "four-stroke" or len(banks) < 2:
        return []
    logs = {
        reading.cylinder: math.log(max(reading.pressure_pa, 1e3))
        for reading in read
        if reading.kind == "dry"
    }
    found = []
    for bank in banks:
        own = [logs[cylinder] for cylinder in bank.cylinders if cylinder in logs]
        others = [log for cylinder, log in logs.items() if cylinder not in bank.cylinders]
        if len(own) < 2 or len(others) < 2:
            continue
        if max(own) - median(others) < LEAST_SHIFT:
            shifts, weights = timing_shifts(median(own) - median(others))
            found.append(BankShift(bank.name, bank.cylinders, shifts, weights))
    return found


def chances_of_wear(document: Document, read: list[Reading]) -> list[float]:
    """Chance of each degree of wear throughout, over that of none; none where nothing asks for it.

    It is reckoned with where one or a few read high among low ones, or where the middle is below
    what the maker asks. The readings decide that it is asked, and weigh nothing here.
    """
    table = knowledge().pressure["worn"]
    own = sorted(one.pressure_pa for one in read if one.kind == "dry")
    if len(own) < 3:
        return []
    low = sum(one < own[-1] * (1 - table["low"]) for one in own)
    asked = document.engine.specification.compression_min
    below = asked is not None and median(own) < pressure_pa(asked)
    if not below and low <= len(own) / 2:
        return []
    return [table["prior"] * share for share in table["chances"]]


def _level(document: Document, expected: Expectation, read: list[Reading], odds: Odds) -> Level:
    placing = tuple(reading.pressure_pa for reading in read if reading.kind == "dry")
    placing = placing or tuple(reading.pressure_pa for reading in read)
    four_stroke = document.engine.cycle == "four-stroke"
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
