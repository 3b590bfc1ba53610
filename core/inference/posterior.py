"""The answer, asked: of one cylinder, of some of them together, and of the whole engine at once.

Whoever stands behind it touches no likelihood: it gives chances, and joint draws of what may be so.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from functools import cache, cached_property

import numpy as np
from numpy.typing import NDArray

from core.hidden.level import TEST, TIMING
from core.hidden.situations import HABIT, PARTS
from core.hidden.states import Vector
from core.inference.model import Model
from core.inference.solver import Solver
from core.inference.weights import Weights
from core.knowledge import knowledge

DRAWS = 250
NO_LEVEL_FAULT = "none"

Index = NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class Draws:
    """What may be so of an engine, drawn from the joint answer; axis d counts the draws.

    Attributes
    ----------
    situation : ndarray of int, shape (d,)
        Which situation holds.
    level_fault : list of str, length d
        `valve-timing`, `test-condition` or `none`.
    mechanical, running, plug : ndarray of int, shape (cylinders, d)
        Combination of each group.
    seal : bool array, shape (cylinders, d)
        Whether its well seal leaks.
    gaskets : dict of (cylinder index, cylinder index) to bool array, shape (d,)
        Whether the gasket between two neighbours leaks.
    """

    situation: Index
    level_fault: list[str]
    mechanical: Index
    running: Index
    plug: Index
    seal: NDArray[np.bool_]
    gaskets: dict[tuple[int, int], NDArray[np.bool_]]


class Posterior:
    """What one solved model answers."""

    def __init__(self, model: Model) -> None:
        self.model = model
        self._any: dict[tuple[frozenset[int], tuple[str, ...]], float] = {}
        self._loses: dict[int, float] = {}
        self._repair: dict[int, float] = {}

    @cached_property
    def _marginals(self) -> dict[int, dict[str, float]]:
        model = self.model
        found = {}
        for at, number in enumerate(model.arranged.cylinders):
            words = model.problem.words[at]
            chances = words.marginals(model.solution.beliefs[at].posterior)
            own = {name: float(one) for name, one in zip(words.names, chances, strict=True)}
            coil = model.shared_on(number, by=("coil",))
            own["ignition-weak"] += coil * (1 - own["ignition-weak"])
            found[number] = own
        return found

    def marginal(self, cylinder: int) -> dict[str, float]:
        """Chance of every fault of one cylinder; a coil that it shares is its spark's. [-]"""
        return self._marginals[cylinder]

    def between(self, one: int, other: int) -> float:
        """Chance that the gasket between two cylinders leaks; zero where they share none. [-]"""
        index = self.model.index
        for link in ((index(one), index(other)), (index(other), index(one))):
            if link in self.model.solution.pair:
                return 1 - float(self.model.solution.pair[link][0])
        return 0.0

    def any_of(self, cylinders: Collection[int], faults: tuple[str, ...]) -> float:
        """Chance that at least one of some cylinders has at least one of some faults, exactly.

        Parameters
        ----------
        cylinders : collection of int
        faults : tuple of str
            Of a cylinder, or `head-gasket-between`, which counts between two of them.

        Returns
        -------
        float
            [-]
        """
        asked = frozenset(self.model.index(number) for number in cylinders)
        key = asked, tuple(sorted(faults))
        if key not in self._any:
            self._any[key] = 1 - self.model.solution.solver.without(asked, key[1])
        return self._any[key]

    def own_repair(self, cylinder: int) -> float:
        """Chance of a mechanical or running fault of its own, or of a part that it shares. [-]

        A gasket that leaks beside it counts. What the whole engine shares, and what it does by
        nature, is no fault of a cylinder.
        """
        if cylinder not in self._repair:
            at = self.model.index(cylinder)
            untouched = self._weights(at).untouched() * self._tight[at][:, 0]
            chance = self._not((untouched * self._not_of_parts(at)).sum(), at)
            self._repair[cylinder] = chance
        return self._repair[cylinder]

    def loses(self, cylinder: int) -> float:
        """Chance that a cylinder loses pressure, by a leak of its own or a gasket beside it. [-]

        Rings that pass oil and hold are no loss.
        """
        if cylinder not in self._loses:
            at = self.model.index(cylinder)
            holding = self._weights(at).by_mechanical * _holding(self.model, at)
            self._loses[cylinder] = self._not(holding.sum(), at)
        return self._loses[cylinder]

    def top_end(self, cylinder: int, faults: tuple[str, ...]) -> float:
        """Chance of any of some mechanical faults, or of a gasket that leaks beside it. [-]"""
        at = self.model.index(cylinder)
        mechanical = self.model.problem.words[at].tables.states.mechanical
        holding = self._weights(at).by_mechanical * self._tight[at]
        return self._not(holding[:, ~mechanical.active(faults)].sum(), at)

    def clean(self, cylinder: int) -> float:
        """Chance of no fault at all, its well seal aside. [-]"""
        at = self.model.index(cylinder)
        return 1 - self._not(self._weights(at).clean() * self._tight[at][0, 0], at)

    def _not(self, weight: float, at: int) -> float:
        """One less the share that a weight is of a cylinder's whole answer."""
        return min(max(1 - float(weight) / self._totals[at], 0.0), 1.0)

    @cached_property
    def _totals(self) -> list[float]:
        return [
            float((np.array(one.weights.by_term) * one.response).sum())
            for one in self.model.solution.beliefs
        ]

    def _weights(self, at: int) -> Weights:
        return self.model.solution.beliefs[at].weights

    @cached_property
    def _tight(self) -> list[Vector]:
        """What is said to each cylinder where no gasket beside it leaks, shape (c, m)."""
        return [_tight(self.model, at) for at in range(len(self.model.problem.words))]

    def shared_any(self) -> float:
        """Chance that anything that cylinders share is at fault, the level of a test aside. [-]"""
        situations = self.model.situations
        holds = situations.which(lambda one: one.where != HABIT)
        return float(self.model.solution.situation[holds].sum())

    def shared_somewhere(self, fault: str) -> float:
        """Chance that a fault of what is shared is there, wherever. [-]"""
        situations = self.model.situations
        holds = situations.which(lambda one: one.fault == fault and one.where != HABIT)
        return float(self.model.solution.situation[holds].sum())

    def _not_of_parts(self, at: int) -> Vector:
        """Of every context of a cylinder, the share that no bank, feed, coil or lead makes."""
        situations, chances = self.model.situations, self.model.solution.situation
        contexts = situations.context_of[:, at]
        every = np.bincount(contexts, chances, len(situations.contexts))
        acting = np.bincount(contexts, chances * self._by_parts[:, at], len(situations.contexts))
        return np.asarray(1 - acting / np.maximum(every, 1e-300))

    @cached_property
    def _by_parts(self) -> Vector:
        """Whether a bank, feed, coil or lead acts on a cylinder, shape (situations, cylinders)."""
        acting = self.model.situations.acting
        return np.asarray(np.any([acting[where] for where in PARTS], axis=0))

    @cached_property
    def draws(self) -> Draws:
        """Draws from the joint answer; of the same record always the same ones.

        The situation and the level first, then each row of neighbours backwards: the gasket on the
        left of a cylinder given the one on its right, then its own faults given both.
        """
        solver = self.model.solution.solver
        situations, words = self.model.situations, self.model.problem.words
        flat = np.cumsum(solver.joint.ravel())
        drawn = np.searchsorted(flat, _spread(0) * flat[-1]).clip(max=len(flat) - 1)
        situation, level = np.divmod(drawn, solver.joint.shape[1])
        chosen = np.zeros((3, len(words), DRAWS), dtype=np.intp)
        seal = np.zeros((len(words), DRAWS), dtype=bool)
        gaskets = {}
        for place_of_row, members in enumerate(self.model.problem.rows):
            row, gasket_of = solver.rows[place_of_row], solver.gaskets[place_of_row]
            profile = solver.profile_of[place_of_row][situation]
            right = np.zeros(DRAWS, dtype=np.intp)
            for place in range(len(members) - 1, -1, -1):
                at = members[place]
                weighed = (
                    row.forward[place][:, profile, level]
                    * row.chosen[place][:, right, profile, level]
                )
                left = _drawn(weighed.T, _spread(1 + 6 * at))
                beside = row.sides[place].at[left, right]
                context = situations.context_of[situation, at]
                chosen[:, at] = _of_cylinder(
                    solver, at, row.sides[place].pairs, beside, context, level
                )
                oil = words[at].tables.states.oily[chosen[0, at]]
                rows = words[at].well_rows()
                seal[at] = _spread(5 + 6 * at) < (rows[1] / rows.sum(axis=0))[oil]
                if place:
                    link = (members[place - 1], at)
                    gaskets[link] = gasket_of[place - 1].states[left] > 0
                right = left
        mechanical, running, plug = chosen
        faults = self._level_faults(level)
        return Draws(situation, faults, mechanical, running, plug, seal, gaskets)

    def _level_faults(self, level: Index) -> list[str]:
        """What moves every reading alike in each draw, given its level."""
        problem, kept = self.model.problem, self.model.solution.kept
        at = kept[level] // len(problem.handling.log_prior)
        responsible = problem.level.responsibility[:, at]
        names = {TEST: "test-condition", TIMING: "valve-timing"}
        drawn = _drawn(responsible.T, _spread(6))
        return [names.get(int(one), NO_LEVEL_FAULT) for one in drawn]


def _tight(model: Model, at: int) -> Vector:
    """What is said to a cylinder where no gasket beside it leaks, shape (c, m)."""
    leak, leaks = model.solution.leak[at], model.problem.leaks
    shut = leak.pairs == leaks.beside[0, 0]
    weights = model.solution.beliefs[at].weights
    told = leak.only(shut).respond(model.solution.cavity[at][shut], weights, leaks.leaking)
    return np.asarray(told[0])


def _holding(model: Model, at: int) -> Vector:
    """What is said to a cylinder together with nothing that leaks at all, shape (c, m)."""
    problem, leak = model.problem, model.solution.leak[at]
    tight = problem.leaks.beside[0, 0]
    said, cavity = problem.pressures[at], model.solution.cavity[at][leak.pairs == tight][0]
    none = problem.leaks.weights[tight, 0]  # Of no leak area, given the combination.
    if said.density is None:
        heard = cavity.sum(axis=1)
    else:
        scale, kept = float(said.density.max()), model.solution.kept
        heard = cavity @ (said.density[kept, 0] / scale)
        for context, moved in problem.shifted[at].items():
            if moved.density is not None:
                heard[context] = cavity[context] @ (moved.density[kept, 0] / scale)
    ear = 1.0 if said.heard is None else said.heard[tight]
    return np.asarray(heard[:, None] * none * ear)


def _of_cylinder(
    solver: Solver, at: int, pairs: Index, beside: Index, context: Index, level: Index
) -> tuple[Index, Index, Index]:
    """Mechanical, running and plug combination of one cylinder in every draw, shape (d,) each."""
    leaking = solver.problem.leaks.leaking[pairs[beside]]
    told = solver.reduced[at][leaking, context]  # d, m
    tables = solver.leak[at]
    if tables.plain is not None:
        own = tables.plain[beside, level]
        for shifted, table in tables.shifted.items():
            there = context == shifted
            own[there] = table[beside[there], level[there]]
        told = told * own
    mechanical = _drawn(told, _spread(2 + 6 * at))
    weights: Weights = solver.weights[at]
    robbed = 1 - knowledge().misfire_beside * leaking
    shares = [
        share * (robbed if term.fires is not None else np.ones(len(level)))
        for term, (share, *_) in zip(weights.terms, weights.factors, strict=True)
    ]
    by_running = sum(
        share[:, None] * own[context] * at_modes[context, :, mechanical]
        for share, (_, _, _, own), at_modes in zip(
            shares, weights.factors, weights.at_modes, strict=True
        )
    )
    running = _drawn(np.asarray(by_running), _spread(3 + 6 * at))
    mode = weights.tables.mode_of[context, running]
    by_plug = sum(
        (share * own[context, running])[:, None] * spread[mode, mechanical]
        for share, (_, _, _, own), spread in zip(
            shares, weights.factors, weights.spread, strict=True
        )
    )
    return mechanical, running, _drawn(np.asarray(by_plug), _spread(4 + 6 * at))


def _drawn(weights: Vector, spread: Vector) -> Index:
    """Which outcome each draw has, from weights of shape (d, outcomes)."""
    edges = np.cumsum(np.maximum(weights, 0.0), axis=1)
    return np.asarray((edges >= (spread * edges[:, -1])[:, None]).argmax(axis=1))


@cache
def _spread(stream: int) -> Vector:
    """Numbers spread evenly over 0 to 1 in an order of their own, shape (draws,)."""
    random = np.random.default_rng(stream)
    return np.asarray((random.permutation(DRAWS) + 0.5) / DRAWS)
