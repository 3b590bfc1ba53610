"""The exact answer: sum over what is shared, pass messages along each row of cylinders.

Given the situation, the level and how all were tested, rows of cylinders are independent of each
other, and within a row only the gasket between neighbours ties two cylinders together. So each row
is a chain, and forward-backward over the gasket's states is exact.

Axes are named in the comments: s situation, x level and handling flattened, c context, a pair of
leak areas, b possible states of the gaskets beside, m mechanical combination.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from core.evidence.pressures import Gauged, Grids
from core.hidden.handling import Handling
from core.hidden.leaks import Leaks
from core.hidden.level import Level
from core.hidden.situations import Situations
from core.hidden.states import Vector
from core.hidden.strands import SOLE, Strand, Woven, weave
from core.inference.belief import Belief, work_out
from core.inference.rows import FLOOR, Gasket, Row, Sides, gathered, sides_along
from core.inference.weights import Weights
from core.inference.words import CylinderWords, kept_weights

# Points of the level's grid and states of a gasket that together hold less than this share of the
# answer are dropped; of the answer without one cylinder's gauges, which only the reasons ask for,
# less than the second: it moves no weight by a hundred-thousandth of a bit.
NEGLIGIBLE = 1e-12
UNREASONED = 1e-7
GASKET = "head-gasket-between"
LARGE = (
    3_000_000  # Numbers along all rows, from which on the level and the gaskets are narrowed first.
)
NARROWED = -4.6  # Natural logarithm: in narrowing, a hundred times what is negligible elsewhere is.
LEAST_THINNED = 400  # Points, all cylinders together: it is sooner to keep all of fewer.


@dataclass(frozen=True, eq=False)
class Problem:
    """Everything the model needs of one document.

    Attributes
    ----------
    rows : tuple of tuple of int
        Indices of cylinders; neighbours within a row share a gasket if `gaskets` says so.
    gaskets : tuple of tuple of (ndarray, shape (g,))
        For each row, the prior of each gasket between its neighbours.
    words : list of CylinderWords
        One for each cylinder.
    pressures : list of Gauged
        What gauges and the ear say of each cylinder.
    grids : Grids
        On which readings are weighed.
    shifted_grids : list of dict of (context, Grids)
        For each cylinder, the grids in the contexts that move its level; mostly empty.
    shifted : list of dict of (context, Gauged)
        What its gauges say there.
    strands : tuple of Strand
        What is said of all cylinders at once; contexts of a cylinder are counted through them.
    """

    situations: Situations
    level: Level
    handling: Handling
    leaks: Leaks
    rows: tuple[tuple[int, ...], ...]
    gaskets: tuple[tuple[Vector, ...], ...]
    words: list[CylinderWords]
    pressures: list[Gauged]
    grids: Grids
    shifted_grids: list[dict[int, Grids]]
    shifted: list[dict[int, Gauged]]
    strands: tuple[Strand, ...] = SOLE

    @cached_property
    def woven(self) -> Woven:
        return weave(self.situations, self.strands)


@dataclass(frozen=True, eq=False)
class Solution:
    """The posterior.

    Attributes
    ----------
    situation : ndarray, shape (situations,)
    level : ndarray, shape (levels,)
    beliefs : list of Belief
        Fault sets of each cylinder.
    pair : dict of (cylinder index, cylinder index) to ndarray, shape (g,)
    kept : ndarray of int
        The points x of level and handling that can matter.
    cavity : list of ndarray, shape (b, c, kept)
        What all but the cylinder itself say to it; b as in its `leak`.
    leak : list of Tables
        Likelihood of each cylinder's own pressures.
    solver : Solver
        What found it, to be asked further.
    """

    situation: Vector
    level: Vector
    beliefs: list[Belief]
    pair: dict[tuple[int, int], Vector]
    kept: NDArray[np.intp]
    cavity: list[Vector]
    leak: list[Tables]
    solver: Solver


@dataclass(frozen=True, eq=False)
class Tables:
    """Likelihood of one cylinder's gauges and escapes, by level and handling.

    Attributes
    ----------
    pairs : ndarray of int, shape (b,)
        Which states of the gaskets beside it, by number.
    plain : ndarray, shape (b, kept, m), or None
        None where it has none.
    shifted : dict of context to ndarray, shape (b, kept, m)
        In the contexts that move its level.
    """

    pairs: NDArray[np.intp]
    plain: Vector | None
    shifted: Mapping[int, Vector]

    @classmethod
    def of(
        cls,
        leaks: Leaks,
        said: Gauged,
        shifted: Mapping[int, Gauged],
        kept: NDArray[np.intp],
        pairs: NDArray[np.intp],
    ) -> Tables:
        """Tables at some points of the grid and for some states of the gaskets beside."""
        scale = 1.0 if said.density is None else float(said.density.max())
        weights = leaks.weights[pairs]

        def table(one: Gauged) -> Vector | None:
            if one.density is None and one.heard is None:
                return None
            heard = np.ones(weights.shape[::2]) if one.heard is None else one.heard[pairs]
            if one.density is None:
                shape = (len(weights), len(kept), leaks.mechanical)
                return np.broadcast_to(heard[:, None], shape)
            told = (one.density[kept] / scale) @ weights
            return np.asarray(told if one.heard is None else told * heard[:, None])

        moved = {context: table(one) for context, one in shifted.items()}
        told = {context: one for context, one in moved.items() if one is not None}
        return cls(pairs, table(said), told)

    def factor(self, reduced: Vector, kept: int, leaking: NDArray[np.intp]) -> Vector:
        """Chance of a cylinder's evidence in each context, shape (b, c, kept).

        Parameters
        ----------
        reduced : ndarray, shape (2, c, m)
            Of its words, with tight gaskets beside it and with a leaking one.
        kept : int
            How many points of level and handling.
        leaking : ndarray of int, shape (every b,)
            Which of both holds for each pair of states beside it.
        """
        own = reduced[leaking[self.pairs]]  # b, c, m
        if self.plain is None:
            shape = (len(self.pairs), reduced.shape[1], kept)
            return np.broadcast_to(own.sum(axis=2)[:, :, None], shape)
        found = own @ self.plain.transpose(0, 2, 1)
        for context, table in self.shifted.items():
            found[:, context] = np.einsum("bxm,bm->bx", table, own[:, context])
        return np.asarray(found)

    def respond(self, cavity: Vector, weights: Weights, leaking: NDArray[np.intp]) -> Vector:
        """What the rest of the engine and the own pressures say to each term, (terms, c, m)."""
        open_ = leaking[self.pairs].astype(bool)
        mechanical = weights.by_mechanical.shape[1]
        return weights.for_terms(
            self.said(cavity, ~open_, mechanical), self.said(cavity, open_, mechanical)
        )

    def said(self, cavity: Vector, which: NDArray[np.bool_], mechanical: int) -> Vector:
        """What is said where some states of the gaskets hold, shape (c, m)."""
        if self.plain is None:
            return np.repeat(cavity[which].sum(axis=(0, 2))[:, None], mechanical, axis=1)
        if not which.any():
            return np.zeros((cavity.shape[1], mechanical))
        found = (cavity[which] @ self.plain[which]).sum(axis=0)
        for context, table in self.shifted.items():
            found[context] = np.einsum("bx,bxm->m", cavity[which, context], table[which])
        return np.asarray(found)

    def only(self, which: NDArray[np.bool_]) -> Tables:
        """The same for some states of the gaskets beside it only."""
        shifted = {context: table[which] for context, table in self.shifted.items()}
        return Tables(self.pairs[which], None if self.plain is None else self.plain[which], shifted)


def solve(problem: Problem) -> Solution:
    """The exact posterior of a problem."""
    return Solver(problem, [kept_weights(words) for words in problem.words]).solution()


class Solver:
    """One pass over a problem with given words; the pressures are the problem's own."""

    def __init__(self, problem: Problem, weights: list[Weights]) -> None:
        self.problem = problem
        self.weights = weights
        reduced = [weight.by_beside for weight in weights]
        self.scale = [float(one.max()) for one in reduced]
        self.reduced = [  # tight or leaking, c, m
            one / most for one, most in zip(reduced, self.scale, strict=True)
        ]
        self.grid = (problem.level.log_prior[:, None] + problem.handling.log_prior[None, :]).ravel()
        everything = np.arange(problem.leaks.gaskets)
        self.gaskets = [[Gasket(everything, prior) for prior in row] for row in problem.gaskets]
        self.kept = np.arange(len(self.grid))
        read = any(said.density is not None for said in problem.pressures)
        if read and len(self.grid) * len(weights) > LEAST_THINNED and not any(problem.shifted):
            self.kept, self.gaskets = self._thinned()
        self.live = np.ones(len(problem.situations.members), dtype=bool)
        self.cavities: list[Vector] = []
        if read and self._size() > LARGE:
            self.kept, self.gaskets, self.live = self._narrowed()
        sides, self.leak, self.factors = self._weighed()
        self.rows, self.profile_of = [], []
        for members, between, beside in zip(problem.rows, self.gaskets, sides, strict=True):
            profiles, profile_of = self._profiles(members)
            own = [self.factors[cylinder] for cylinder in members]
            self.rows.append(Row(between, own, beside, profiles))
            self.profile_of.append(profile_of)

    def _weighed(self) -> tuple[list[list[Sides]], list[Tables], list[Vector]]:
        """By row what may be beside its cylinders; of each cylinder its tables and their factor.

        At the points and for the states of the gaskets that are kept now.
        """
        problem = self.problem
        leaks, kept = problem.leaks, self.kept
        sides = [sides_along(between, leaks.beside) for between in self.gaskets]
        beside = {
            cylinder: side
            for members, row in zip(problem.rows, sides, strict=True)
            for cylinder, side in zip(members, row, strict=True)
        }
        gauges = zip(problem.pressures, problem.shifted, strict=True)
        tables = [
            Tables.of(leaks, said, shifted, kept, beside[at].pairs)
            for at, (said, shifted) in enumerate(gauges)
        ]
        factors = [
            one.factor(reduced, len(kept), leaks.leaking)
            for one, reduced in zip(tables, self.reduced, strict=True)
        ]
        return sides, tables, factors

    def _profiles(self, members: tuple[int, ...]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """The distinct contexts of a row, and which each situation of each strand has.

        Situations that were left aside weigh nothing; they are counted with the first.
        """
        woven = self.problem.woven
        if self.live.all():
            return woven.profiles(members)
        live = np.tile(self.live, len(woven.strands))
        columns = woven.context_of[live][:, list(members)]
        profiles, of_live = np.unique(columns, axis=0, return_inverse=True)
        profile_of = np.zeros(len(live), dtype=np.intp)
        profile_of[live] = of_live.ravel()
        return profiles, profile_of

    def _size(self) -> int:
        """How many numbers the messages along all rows hold."""
        points = len(self.kept) * len(self.problem.woven.weight)
        return points * sum(
            len(side.at.ravel())
            for between in self.gaskets
            for side in sides_along(between, self.problem.leaks.beside)
        )

    @cached_property
    def joint(self) -> Vector:
        """Posterior of situation and level, strand after strand, shape (w, x).

        Signed as the strands are; their sum is a posterior.
        """
        grid = self.grid[self.kept]
        live = np.tile(self.live, len(self.problem.strands))
        weight = np.where(live, self.problem.woven.weight, 0.0)
        joint = weight[:, None] * np.exp(grid - grid.max())[None, :]
        for row, profile_of in zip(self.rows, self.profile_of, strict=True):
            joint = joint * row.total[profile_of]
            joint = joint / np.abs(joint).max()
        return np.asarray(joint / joint.sum())

    def solution(self) -> Solution:
        """Everything that is asked of the model."""
        problem, joint = self.problem, self.joint
        cavities: list[Vector] = [np.empty(0)] * len(problem.words)
        pairs: dict[tuple[int, int], Vector] = {}
        for row, profile_of, members in zip(self.rows, self.profile_of, problem.rows, strict=True):
            told = gathered(joint, profile_of, len(row.profiles))
            row.listen(told / np.maximum(row.total, FLOOR))
            for place, cylinder in enumerate(members):
                cavities[cylinder] = row.cavity(place)
            between = zip(row.gaskets[1:-1], row.posteriors(), strict=True)
            for link, (gasket, chances) in zip(pairwise(members), between, strict=True):
                pairs[link] = np.zeros(problem.leaks.gaskets)
                pairs[link][gasket.states] = chances
        self.cavities = cavities
        beliefs = [
            Belief(weights, leak.respond(cavity, weights, problem.leaks.leaking))
            for weights, cavity, leak in zip(self.weights, cavities, self.leak, strict=True)
        ]
        work_out(beliefs, "posterior")
        level = np.zeros(len(self.grid))
        level[self.kept] = np.maximum(joint.sum(axis=0), 0.0)
        level = level.reshape(len(problem.level.log_prior), -1).sum(axis=1)
        situation = np.maximum(problem.woven.by_situation(joint).sum(axis=1), 0.0)
        return Solution(situation, level, beliefs, pairs, self.kept, cavities, self.leak, self)

    def without(self, cylinders: Collection[int], faults: tuple[str, ...]) -> float:
        """Chance that none of some cylinders, by index, has any of some faults. [-]

        The gasket between two of them counts where it is among the faults.
        """
        problem, joint = self.problem, self.joint
        if len(cylinders) == 1 and self.cavities:
            (at,) = cylinders  # What the rest says to one is known already.
            said = self.cavities[at]
            share = (said * self._clear_of(at, faults)).sum() / (said * self.factors[at]).sum()
            return min(max(float(share), 0.0), 1.0)
        for members, row, between, profile_of in zip(
            problem.rows, self.rows, self.gaskets, self.profile_of, strict=True
        ):
            if not set(members) & set(cylinders):
                continue
            own = [
                self._clear_of(at, faults) if at in cylinders else self.factors[at]
                for at in members
            ]
            shut = [
                gasket.shut() if GASKET in faults and {*link} <= set(cylinders) else gasket
                for link, gasket in zip(pairwise(members), between, strict=True)
            ]
            clear = Row(shut, own, row.sides, row.profiles)
            joint = joint * (clear.total / np.maximum(row.total, FLOOR))[profile_of]
        return min(max(float(joint.sum()), 0.0), 1.0)

    def gasket_unread(self, pair: tuple[int, int], at: int) -> float:
        """Chance that the gasket of a pair is tight, without the gauges of one of the two. [-]"""
        number = next(n for n, members in enumerate(self.problem.rows) if at in members)
        members, row = self.problem.rows[number], self.rows[number]
        silent = Tables(self.leak[at].pairs, None, {})
        factor = silent.factor(self.reduced[at], len(self.kept), self.problem.leaks.leaking)
        gasket = members.index(pair[0])
        found = row.posterior_with(gasket, members.index(at), factor)
        return float(found[self.gaskets[number][gasket].states == 0].sum())

    def _clear_of(self, at: int, faults: tuple[str, ...]) -> Vector:
        """Chance of a cylinder's evidence together with none of some faults, shape (b, c, x)."""
        reduced = self.weights[at].without(faults).by_beside / self.scale[at]
        return self.leak[at].factor(reduced, len(self.kept), self.problem.leaks.leaking)

    def _thinned(self) -> tuple[NDArray[np.intp], list[list[Gasket]]]:
        """Points of the level's grid and states of the gaskets that can matter.

        With nothing shared the sum is cheap. What is shared can raise any part of it by no more
        than the product of each cylinder's largest gain, so what is negligible by that bound is
        negligible: in the answer, and without any one cylinder's gauges, as the reasons ask. A
        strand in which something is silent holds no more than the one in which it may be heard,
        and leaves at least the share that nothing brings.
        """
        problem, heard = self.problem, self._heard()
        bound = max(self._most_gain(at) for at in heard) + self._said_of_nothing()
        level = np.exp(self.grid - self.grid.max())
        alone = [self._alone(heard, at) for at in range(len(self.weights))]  # b, strand, x
        prior = np.array([problem.strands[at].weight for at in heard])[:, None] * level
        rows = []
        for members, gaskets in zip(problem.rows, self.gaskets, strict=True):
            sides = sides_along(gaskets, problem.leaks.beside)
            own = [alone[at][side.pairs] for at, side in zip(members, sides, strict=True)]
            every = np.repeat(np.arange(len(heard))[:, None], len(members), axis=1)
            rows.append((Row(gaskets, own, sides, every), np.arange(len(heard))))
        return self._mattering(rows, prior, bound)

    def _heard(self) -> list[int]:
        """Numbers of the strands in which nothing is silent."""
        return [at for at, one in enumerate(self.problem.strands) if not one.silent]

    def _narrowed(
        self,
    ) -> tuple[NDArray[np.intp], list[list[Gasket]], NDArray[np.bool_]]:
        """The same of a large engine, by its answer with at most one thing shared; and situations.

        What its cylinders share moves what their words say; where the level lies and which gasket
        leaks is decided by the pressures. So what holds nothing there is dropped. A situation is
        weighed beforehand by what it makes of each cylinder while nothing else is shared.
        """
        problem = self.problem
        situations = problem.situations
        count = len(situations.members)
        single = np.flatnonzero(situations.single)
        chosen = np.concatenate([single + strand * count for strand in self._heard()])
        grid = self.grid[self.kept]
        prior = problem.woven.weight[chosen][:, None] * np.exp(grid - grid.max())[None, :]
        sides, _, factors = self._weighed()
        rows = []
        for members, gaskets, beside in zip(problem.rows, self.gaskets, sides, strict=True):
            columns = problem.woven.context_of[chosen][:, list(members)]
            profiles, profile_of = np.unique(columns, axis=0, return_inverse=True)
            own = [factors[cylinder] for cylinder in members]
            rows.append((Row(gaskets, own, beside, profiles), profile_of.ravel()))
        kept, between = self._mattering(rows, prior, NARROWED)
        return self.kept[kept], between, self._alive(rows, factors)

    def _alive(
        self, rows: list[tuple[Row, NDArray[np.intp]]], factors: Sequence[Vector]
    ) -> NDArray[np.bool_]:
        """Which situations hold anything, by what they make of each cylinder alone, (situations,).

        The rows have listened.
        """
        problem = self.problem
        situations, contexts = problem.situations, problem.woven.contexts
        gains = np.tile(situations.log_prior, (len(self._heard()), 1))
        for (row, _), members in zip(rows, problem.rows, strict=True):
            for place, cylinder in enumerate(members):
                said = row.cavity(place)
                for at, strand in enumerate(self._heard()):
                    first = strand * contexts
                    plain, own = said[:, first], factors[cylinder][:, first : first + contexts]
                    with np.errstate(divide="ignore"):
                        gain = np.log(np.einsum("bx,bcx->c", plain, own))
                    gains[at] += (gain - gain[0])[situations.context_of[:, cylinder]]
        least = np.log(NEGLIGIBLE) - NARROWED
        return np.asarray(
            situations.single | (gains - gains.max(axis=1)[:, None] > least).any(axis=0)
        )

    def _mattering(
        self, rows: list[tuple[Row, NDArray[np.intp]]], prior: Vector, bound: float
    ) -> tuple[NDArray[np.intp], list[list[Gasket]]]:
        """Points and states of gaskets that hold anything, by some rows and their profiles."""
        problem = self.problem
        totals = [row.total[profile_of] for row, profile_of in rows]
        kept = _matters((prior * np.prod(totals, axis=0)).sum(axis=0), np.log(NEGLIGIBLE) - bound)
        between = []
        for at, ((row, profile_of), members) in enumerate(zip(rows, problem.rows, strict=True)):
            others = np.prod([one for other, one in enumerate(totals) if other != at], axis=0)
            row.listen(gathered(prior * others, profile_of, len(row.profiles)))
            states = [_matters(one, np.log(NEGLIGIBLE) - bound) for one in row.posteriors()]
            for place, cylinder in enumerate(members):
                if problem.pressures[cylinder].density is None:
                    continue
                around, least = row.around(place).sum(axis=2), np.log(UNREASONED) - bound
                kept |= _matters(around.sum(axis=(0, 1)), least)
                if place > 0:
                    states[place - 1] |= _matters(around.sum(axis=(1, 2)), least)
                if place < len(states):
                    states[place] |= _matters(around.sum(axis=(0, 2)), least)
            inner = row.gaskets[1:-1]
            between.append([one.keep(which) for one, which in zip(inner, states, strict=True)])
        return np.flatnonzero(kept), between

    def _alone(self, strands: list[int], at: int) -> Vector:
        """Chance of a cylinder's evidence with nothing shared, in some strands, (b, strand, x)."""
        said, leaks = self.problem.pressures[at], self.problem.leaks
        contexts = [strand * self.problem.woven.contexts for strand in strands]
        own = self.reduced[at][leaks.leaking][:, contexts]  # b, strand, m
        weighed = own if said.heard is None else own * said.heard[:, None]
        if said.density is None:
            shape = (*weighed.shape[:2], len(self.grid))
            return np.broadcast_to(weighed.sum(axis=2)[:, :, None], shape)
        table = weighed @ leaks.weights.transpose(0, 2, 1)  # b, strand, a
        return np.asarray(table @ said.density.T)

    def _most_gain(self, strand: int) -> float:
        """Logarithm of the most that what is shared can raise any part of one strand's sum."""
        contexts = self.problem.woven.contexts
        own = slice(strand * contexts, (strand + 1) * contexts)
        with np.errstate(divide="ignore", invalid="ignore"):
            gain = np.array(
                [np.nanmax(one[:, own] / one[:, own][:, :1], axis=(0, 2)) for one in self.reduced]
            )
            columns = np.arange(len(gain))[None, :]
            gains = np.log(gain)[columns, self.problem.situations.context_of].sum(axis=1)
        log_prior = self.problem.situations.log_prior
        return float(np.logaddexp.reduce(log_prior + gains) - log_prior[0])

    def _said_of_nothing(self) -> float:
        """Logarithm of one over the least chance of all that was complained of."""
        first = [one for one in self.problem.strands if not one.set_]
        plain = next(one.weight for one in first if not one.silent)
        silent = [one for one in first if one.silent]
        alone = [one for one in silent if not any(other.silent < one.silent for other in silent)]
        return -float(np.log([1 + one.weight / plain for one in alone]).sum())


def _matters(weight: Vector, log_least: float) -> NDArray[np.bool_]:
    """Which parts of a sum hold more than a least share."""
    with np.errstate(divide="ignore"):
        share = np.log(weight) - np.log(weight.sum())
    return np.asarray(share > log_least - np.log(len(weight)))
