"""The exact answer: sum over what is shared, pass messages along each row of cylinders.

Given the situation, the level and the dose, rows of cylinders are independent of each other, and
within a row only the gasket between neighbours ties two cylinders together. So each row is a
chain, and forward-backward over the gasket's states is exact.

Axes are named in the comments: s situation, x level and dose flattened, c context, a pair of leak
areas, b gaskets beside, m mechanical combination.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from core.diagnosis.belief import Belief, Weights
from core.diagnosis.leaks import Leaks
from core.diagnosis.level import Level
from core.diagnosis.pressures import Doses, Gauged, Grids
from core.diagnosis.rows import FLOOR, Row
from core.diagnosis.situations import Situations
from core.diagnosis.states import Vector
from core.diagnosis.words import CylinderWords

# Points of the level's grid that together hold less than this share of the answer are dropped.
NEGLIGIBLE = 1e-13


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
    """

    situations: Situations
    level: Level
    dose: Doses
    leaks: Leaks
    rows: tuple[tuple[int, ...], ...]
    gaskets: tuple[tuple[Vector, ...], ...]
    words: list[CylinderWords]
    pressures: list[Gauged]
    grids: Grids


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
        The points x of level and dose that can matter.
    cavity : list of ndarray, shape (c, kept, b)
        What all but the cylinder itself say to it.
    leak : list of (ndarray, shape (kept, b, m), or None)
        Likelihood of each cylinder's own pressures; None where it has none.
    """

    situation: Vector
    level: Vector
    beliefs: list[Belief]
    pair: dict[tuple[int, int], Vector]
    kept: NDArray[np.intp]
    cavity: list[Vector]
    leak: list[Vector | None]


def solve(problem: Problem) -> Solution:
    """The exact posterior of a problem."""
    return Solver(problem, [words.weights() for words in problem.words]).solution()


class Solver:
    """One pass over a problem with given words; the pressures are the problem's own."""

    def __init__(self, problem: Problem, weights: list[Weights]) -> None:
        self.problem = problem
        self.weights = weights
        reduced = [weight.by_mechanical for weight in weights]
        self.reduced = [one / one.max() for one in reduced]  # c, m
        self.grid = (problem.level.log_prior[:, None] + problem.dose.log_prior[None, :]).ravel()
        self.kept = self._kept()
        self.leak = [pressure_table(problem.leaks, one, self.kept) for one in problem.pressures]
        self.rows, self.profile_of = [], []
        factors = [self._factor(at) for at in range(len(weights))]
        for members, gaskets in zip(problem.rows, problem.gaskets, strict=True):
            columns = problem.situations.context_of[:, list(members)]
            profiles, profile_of = np.unique(columns, axis=0, return_inverse=True)
            chosen = [factors[cylinder] for cylinder in members]
            self.rows.append(Row(gaskets, chosen, problem.leaks.beside, profiles))
            self.profile_of.append(profile_of.ravel())

    def _factor(self, at: int) -> Vector:
        """Chance of a cylinder's evidence in each context, shape (c, x, b)."""
        reduced, leak = self.reduced[at], self.leak[at]
        shape = (len(reduced), len(self.kept), self.problem.leaks.besides)
        if leak is None:
            return np.broadcast_to(reduced.sum(axis=1)[:, None, None], shape)
        return (reduced @ leak.reshape(-1, leak.shape[2]).T).reshape(shape)

    @property
    def joint(self) -> Vector:
        """Posterior of situation and level, shape (s, x)."""
        grid = self.grid[self.kept]
        log_prior = self.problem.situations.log_prior
        joint = np.exp(log_prior)[:, None] * np.exp(grid - grid.max())[None, :]
        for row, profile_of in zip(self.rows, self.profile_of, strict=True):
            joint = joint * row.total[profile_of]
            joint = joint / joint.max()
        return np.asarray(joint / joint.sum())

    def solution(self) -> Solution:
        """Everything that is asked of the model."""
        problem, joint = self.problem, self.joint
        cavities: list[Vector] = [np.empty(0)] * len(problem.words)
        pairs: dict[tuple[int, int], Vector] = {}
        for row, profile_of, members in zip(
            self.rows, self.profile_of, problem.rows, strict=True
        ):
            gather = np.equal.outer(np.arange(len(row.profiles)), profile_of).astype(np.float64)
            row.listen(gather @ joint / np.maximum(row.total, FLOOR))
            for place, cylinder in enumerate(members):
                cavities[cylinder] = row.cavity(place)
            pairs.update(zip(zip(members, members[1:], strict=False), row.gaskets(), strict=True))
        beliefs = [
            Belief(weights, respond(cavity, leak, len(weights.by_mechanical[0])))
            for weights, cavity, leak in zip(self.weights, cavities, self.leak, strict=True)
        ]
        level = np.zeros(len(self.grid))
        level[self.kept] = joint.sum(axis=0)
        level = level.reshape(len(problem.level.log_prior), -1).sum(axis=1)
        return Solution(
            joint.sum(axis=1), level, beliefs, pairs, self.kept, cavities, self.leak
        )

    def _kept(self) -> NDArray[np.intp]:
        """Points of the grid that hold a share of the answer, or would without any one gauge.

        With nothing shared the sum is cheap. What is shared can raise a point by no more than
        the product of each cylinder's largest gain, whatever the level, so a point that is
        negligible by that bound is negligible.
        """
        problem, everything = self.problem, np.arange(len(self.grid))
        if len(everything) == 1:
            return everything
        plain = [reduced[0] for reduced in self.reduced]
        alone = []
        for at, own in enumerate(plain):
            said = problem.pressures[at]
            if said.density is None:
                heard = own.sum() if said.heard is None else said.heard @ own
                alone.append(np.broadcast_to(heard, (1, len(self.grid), problem.leaks.besides)))
            else:
                weighed = own if said.heard is None else own * said.heard  # b, m
                table = (problem.leaks.weights * weighed).sum(axis=2)  # a, b
                alone.append((said.density @ table)[None])
        with np.errstate(divide="ignore", invalid="ignore"):
            gain = np.array([np.nan_to_num(r / r[:1], nan=0.0, posinf=np.inf).max(axis=1) for r in self.reduced])
            columns = np.arange(len(gain))[None, :]
            gains = np.log(gain)[columns, problem.situations.context_of].sum(axis=1)
        log_prior = problem.situations.log_prior
        bound = np.logaddexp.reduce(log_prior + gains) - log_prior[0]
        rows = [
            Row(
                gaskets,
                [alone[at] for at in members],
                problem.leaks.beside,
                np.zeros((1, len(members)), dtype=np.intp),
            )
            for members, gaskets in zip(problem.rows, problem.gaskets, strict=True)
        ]
        level = np.exp(self.grid - self.grid.max())
        totals = [row.total[0] for row in rows]
        kept = _matters(level * np.prod(totals, axis=0), bound)
        for row, members in zip(rows, problem.rows, strict=True):
            others = [one.total[0] for one in rows if one is not row]
            row.listen((level * np.prod(others, axis=0))[None])
            for place, cylinder in enumerate(members):
                if problem.pressures[cylinder].density is not None:
                    kept |= _matters(row.cavity(place)[0].sum(axis=1), bound)
        return np.flatnonzero(kept)


def _matters(weight: Vector, log_bound: float) -> NDArray[np.bool_]:
    """Which points hold more than a negligible share, however far they may yet be raised."""
    with np.errstate(divide="ignore"):
        share = np.log(weight) - np.log(weight.sum())
    return np.asarray(share + log_bound > np.log(NEGLIGIBLE / len(weight)))


def pressure_table(leaks: Leaks, said: Gauged, kept: NDArray[np.intp]) -> Vector | None:
    """Likelihood of a cylinder's gauges and escapes, shape (kept, b, m); None where it has none."""
    if said.density is None:
        if said.heard is None:
            return None
        return np.broadcast_to(said.heard, (len(kept), *said.heard.shape))
    density = said.density[kept]
    shape = leaks.weights.shape
    table = (density / density.max()) @ leaks.weights.reshape(shape[0], -1)
    table = table.reshape(-1, *shape[1:])
    return table if said.heard is None else table * said.heard


def respond(cavity: Vector, leak: Vector | None, mechanical: int) -> Vector:
    """What the rest of the engine and the cylinder's own pressures say, shape (c, m)."""
    if leak is None:
        return np.repeat(cavity.sum(axis=(1, 2))[:, None], mechanical, axis=1)
    return np.asarray(cavity.reshape(len(cavity), -1) @ leak.reshape(-1, leak.shape[2]))
