"""The answer, asked: of one cylinder, of some of them together, and of the whole engine at once.

Whoever stands behind it touches no likelihood: it gives chances, and joint draws of what may be so.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from core.hidden.level import TEST, TIMING
from core.hidden.situations import HABIT, PARTS
from core.hidden.states import Vector
from core.hidden.strands import Strand
from core.inference.model import Model
from core.inference.rows import FLOOR
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
        tight = self._tight[at][:: self.model.problem.woven.contexts, 0]
        return 1 - self._not(float(self._weights(at).clean() @ tight), at)

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
        """What is said to each cylinder where no gasket beside it leaks, shape (w, m)."""
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
        """Of every context of a cylinder, the share that no shared part makes, shape (w,)."""
        woven, chances = self.model.problem.woven, self._by_woven
        contexts, count = woven.context_of[:, at], len(woven.strands) * woven.contexts
        by_parts = np.tile(self._by_parts[:, at], len(woven.strands))
        every = np.bincount(contexts, chances, count)
        acting = np.bincount(contexts, chances * by_parts, count)
        return np.asarray(1 - acting / np.maximum(every, 1e-300))

    @cached_property
    def _by_woven(self) -> Vector:
        """Size of every situation's weight in each strand, shape (w,)."""
        return np.asarray(np.abs(self.model.solution.solver.joint.sum(axis=1)))

    @cached_property
    def _by_parts(self) -> Vector:
        """Whether a bank, feed, coil or lead acts on a cylinder, shape (situations, cylinders)."""
        acting = self.model.situations.acting
        return np.asarray(np.any([acting[where] for where in PARTS], axis=0))

    @cached_property
    def draws(self) -> Draws:
        """Draws from the joint answer; of the same record always the same ones.

        The set's state, the situation and the level first, then each row of neighbours backwards:
        the gasket on the left of a cylinder given the one on its right, then its own faults given
        both.
        """
        problem, solver = self.model.problem, self.model.solution.solver
        strands = strands_by_set(problem.strands)
        joint = solver.joint.reshape(len(problem.strands), -1, solver.joint.shape[1])
        by_set = np.maximum(np.array([joint[own].sum(axis=0) for own in strands]), 0.0)
        flat = np.cumsum(by_set.ravel())
        drawn = np.searchsorted(flat, _spread(0) * flat[-1]).clip(max=len(flat) - 1)
        state, situation, level = np.unravel_index(drawn, by_set.shape)
        cylinders = len(problem.words)
        mechanical, running, plug = np.zeros((3, cylinders, DRAWS), dtype=np.intp)
        links = [link for members in problem.rows for link in pairwise(members)]
        found = Draws(
            situation,
            self._level_faults(level),
            mechanical,
            running,
            plug,
            np.zeros((cylinders, DRAWS), dtype=bool),
            {link: np.zeros(DRAWS, dtype=bool) for link in links},
        )
        for at, own in enumerate(strands):
            which = np.flatnonzero(state == at)
            if len(which):
                Walk(solver, own, which, situation[which], level[which]).through(found)
        return found

    def _level_faults(self, level: Index) -> list[str]:
        """What moves every reading alike in each draw, given its level."""
        problem, kept = self.model.problem, self.model.solution.kept
        at = kept[level] // len(problem.handling.log_prior)
        responsible = problem.level.responsibility[:, at]
        names = {TEST: "test-condition", TIMING: "valve-timing"}
        drawn = _drawn(responsible.T, _spread(6))
        return [names.get(int(one), NO_LEVEL_FAULT) for one in drawn]


def strands_by_set(strands: Sequence[Strand]) -> list[list[int]]:
    """Numbers of the strands of each state of the set; those of one differ in what is silent."""
    found: dict[int, list[int]] = {}
    for at, one in enumerate(strands):
        found.setdefault(one.set_, []).append(at)
    return list(found.values())


class Walk:
    """Some draws of one state of the set, cylinder by cylinder.

    What is silent is summed over, signed; what was drawn already weighs each of its terms.
    Axes: t strand, d draw.
    """

    def __init__(
        self, solver: Solver, strands: list[int], which: Index, situation: Index, level: Index
    ) -> None:
        self.solver, self.which, self.level = solver, which, level
        woven = solver.problem.woven
        count = len(woven.situations.members)
        self.place = np.array(strands)[:, None] * count + situation  # t, d
        self.strands = strands
        self.terms: Vector = solver.joint[self.place, level]  # Of every row yet to be walked.

    def through(self, found: Draws) -> None:
        """Draw every cylinder."""
        for number, members in enumerate(self.solver.problem.rows):
            self._row(number, members, found)

    def _row(self, number: int, members: tuple[int, ...], found: Draws) -> None:
        solver, level, which = self.solver, self.level, self.which
        words = solver.problem.words
        row, gasket_of = solver.rows[number], solver.gaskets[number]
        profile = solver.profile_of[number][self.place]  # t, d
        self.terms = self._scaled(self.terms / np.maximum(row.total[profile, level], FLOOR))
        right = np.zeros(len(which), dtype=np.intp)
        for place in range(len(members) - 1, -1, -1):
            at = members[place]
            before = row.forward[place][:, profile, level] * self.terms  # l, t, d
            weighed = (before * row.chosen[place][:, right, profile, level]).sum(axis=1)
            left = _drawn(weighed.T, _spread(1 + 6 * at)[which])
            beside = row.sides[place].at[left, right]
            own = Own(
                solver, at, self.strands, row.sides[place].pairs[beside], beside,
                solver.problem.woven.context_of[self.place, at], level,
            )  # fmt: skip
            spread = [_spread(kind + 6 * at)[which] for kind in (2, 3, 4)]
            leading = np.take_along_axis(before, left[None, None], axis=0)[0]
            m, r, p = own.drawn(leading, spread)
            found.mechanical[at, which], found.running[at, which] = m, r
            found.plug[at, which] = p
            self.terms = self._scaled(self.terms * own.silent(m, r, p))
            rows = words[at].well_rows()
            sealed = (rows[1] / rows.sum(axis=0))[words[at].tables.states.oily[m]]
            found.seal[at, which] = _spread(5 + 6 * at)[which] < sealed
            if place:
                link = (members[place - 1], at)
                found.gaskets[link][which] = gasket_of[place - 1].states[left] > 0
            right = left

    @staticmethod
    def _scaled(terms: Vector) -> Vector:
        return np.asarray(terms / np.abs(terms).max(axis=0))


class Own:
    """One cylinder in some draws, given the gaskets beside it, its contexts and the level."""

    def __init__(
        self,
        solver: Solver,
        at: int,
        strands: list[int],
        pairs: Index,
        beside: Index,
        contexts: Index,
        level: Index,
    ) -> None:
        self.solver, self.at, self.strands = solver, at, strands
        self.weights: Weights = solver.weights[at]
        self.leaking = solver.problem.leaks.leaking[pairs]  # d
        self.beside, self.contexts, self.level = beside, contexts, level

    def drawn(self, leading: Vector, spread: Sequence[Vector]) -> tuple[Index, Index, Index]:
        """Mechanical, running and plug combination, shape (d,) each.

        Parameters
        ----------
        leading : ndarray, shape (t, d)
            What all else weighs in each strand.
        spread : sequence of three ndarrays, shape (d,)
        """
        mechanical, leading = self._mechanical(leading, spread[0])
        parts = list(self._parts(leading))
        tables, weights = self.weights.tables, self.weights
        by_running = sum(
            own * weights.by_plug[at][tables.mode_of[context], mechanical[:, None]]
            for at, context, own in parts
        )
        running = _drawn(np.asarray(by_running), spread[1])
        draws = np.arange(len(running))
        mode = tables.mode_of[parts[0][1], running]
        by_plug = sum(
            (own[draws, running] * weights.factors[at][1][mode, mechanical])[:, None]
            * weights.factors[at][2][mode]
            for at, _, own in parts
        )
        said = weights.plugs_given(mode, mechanical)
        return mechanical, running, _drawn(np.asarray(by_plug * said), spread[2])

    def _mechanical(self, leading: Vector, spread: Vector) -> tuple[Index, Vector]:
        """Mechanical combinations, and what all weighs in each strand once they are known."""
        tables = self.solver.leak[self.at]
        told = self.solver.reduced[self.at][self.leaking, self.contexts]  # t, d, m
        if tables.plain is None:
            return _drawn((leading[:, :, None] * told).sum(axis=0), spread), leading
        gauged = np.broadcast_to(tables.plain[self.beside, self.level], told.shape)
        if tables.shifted:
            gauged = gauged.copy()
        for shifted, table in tables.shifted.items():
            strand, there = np.nonzero(self.contexts == shifted)
            gauged[strand, there] = table[self.beside[there], self.level[there]]
        found = _drawn((leading[:, :, None] * told * gauged).sum(axis=0), spread)
        return found, leading * gauged[:, np.arange(len(found)), found]

    def _parts(self, leading: Vector) -> Iterator[tuple[int, Index, Vector]]:
        """Every term of every strand: its number, contexts within it, and weights, shape (d, r)."""
        weights, terms = self.weights, len(self.weights.terms)
        robbed = 1 - knowledge().misfire_beside * self.leaking
        for place, strand in enumerate(self.strands):
            layer = weights.layers[strand]
            context = self.contexts[place] % len(layer.running)
            share = leading[place] * np.where(self.leaking, layer.beside, 1.0)
            for number, term in enumerate(weights.terms):
                at = strand * terms + number
                part, _, _, running = weights.factors[at]
                fires = robbed if term.fires is not None else 1.0
                yield at, context, (share * part * fires)[:, None] * running[context]

    def silent(self, mechanical: Index, running: Index, plug: Index) -> Vector:
        """Chance that what was drawn brings no complaint that is silent in each strand, (t, d)."""
        words, found = self.solver.problem.words[self.at], []
        for strand in self.strands:
            lay = words.lays[strand]
            m, r, p = words.still(lay)
            gasket = np.where(self.leaking, lay.beside, 1.0)
            found.append(m[mechanical] * r[running] * p[plug] * gasket)
        return np.array(found)


def _tight(model: Model, at: int) -> Vector:
    """What is said to a cylinder where no gasket beside it leaks, shape (w, m)."""
    leak, leaks = model.solution.leak[at], model.problem.leaks
    shut = leak.pairs == leaks.beside[0, 0]
    return leak.said(model.solution.cavity[at], shut, leaks.mechanical)


def _holding(model: Model, at: int) -> Vector:
    """What is said to a cylinder together with nothing that leaks at all, shape (w, m)."""
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


def _drawn(weights: Vector, spread: Vector) -> Index:
    """Which outcome each draw has, from weights of shape (d, outcomes)."""
    edges = np.cumsum(np.maximum(weights, 0.0), axis=1)
    return np.asarray((edges >= (spread * edges[:, -1])[:, None]).argmax(axis=1))


@cache
def _spread(stream: int) -> Vector:
    """Numbers spread evenly over 0 to 1 in an order of their own, shape (draws,)."""
    random = np.random.default_rng(stream)
    return np.asarray((random.permutation(DRAWS) + 0.5) / DRAWS)
