"""The exact answer: sum over what is shared, pass messages along each row of cylinders.

Given the situation, the level and the dose, rows of cylinders are independent of each other, and
within a row only the gasket between neighbours ties two cylinders together. So each row is a
chain, and forward-backward over the gasket's states is exact.

Axes are named in the comments: p profile of contexts along a row, x level and dose flattened,
c context, m mechanical combination, g gasket state (on the left, on the right).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from core.diagnosis.cylinder import CylinderWords, Posterior, Weights
from core.diagnosis.leaks import Leaks
from core.diagnosis.level import Level
from core.diagnosis.pressures import Doses, Gauged, Grids
from core.diagnosis.situations import Situations
from core.diagnosis.states import Vector

FLOOR = 1e-280


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
    posteriors : list of Posterior
        Fault sets of each cylinder.
    pair : dict of (cylinder index, cylinder index) to ndarray, shape (g,)
    cavity : list of ndarray, shape (c, x * g * g)
        What all but the cylinder itself say to it.
    leak : list of ndarray, shape (x * g * g, m)
        Likelihood of each cylinder's own pressures.
    response : list of ndarray, shape (c, m)
        The cavity with the cylinder's own pressures.
    weights : list of Weights
    """

    situation: Vector
    level: Vector
    posteriors: list[Posterior]
    pair: dict[tuple[int, int], Vector]
    cavity: list[Vector]
    leak: list[Vector]
    response: list[Vector]
    weights: list[Weights]


def solve(problem: Problem) -> Solution:
    """The exact posterior of a problem."""
    grid = (problem.level.log_prior[:, None] + problem.dose.log_prior[None, :]).ravel()
    weights = [words.weights() for words in problem.words]
    reduced = [weight.by_mechanical() for weight in weights]
    reduced = [one / one.max() for one in reduced]
    leak = [pressure_table(problem, pressure) for pressure in problem.pressures]
    rows = [_Row(problem, at, reduced, leak, len(grid)) for at in range(len(problem.rows))]

    joint = np.exp(problem.situations.log_prior)[:, None] * np.exp(grid - grid.max())[None, :]
    for row in rows:
        joint = joint * row.total[row.profile_of]
        joint = joint / joint.max()
    joint = joint / joint.sum()  # s, x

    cavities: list[Vector] = [np.empty(0)] * len(problem.words)
    pairs: dict[tuple[int, int], Vector] = {}
    for row in rows:
        row.listen(joint)
        for place, cylinder in enumerate(row.members):
            cavities[cylinder] = row.cavity(place)
        pairs.update(row.pairs())

    responses, posteriors = [], []
    for at, cavity in enumerate(cavities):
        response = respond(cavity, leak[at])
        responses.append(response)
        posteriors.append(weights[at].posterior(response))
    level = joint.sum(axis=0).reshape(len(problem.level.log_prior), -1).sum(axis=1)
    return Solution(joint.sum(axis=1), level, posteriors, pairs, cavities, leak, responses, weights)


def pressure_table(problem: Problem, said: Gauged) -> Vector:
    """Likelihood of a cylinder's readings by m, shape (x * g * g, m); ones where it has none."""
    m, g, _ = problem.leaks.shape
    if said.density is None:
        if said.heard is None:
            return np.ones((1, m))
        return np.tile(said.heard, (len(problem.level.log_level) * len(problem.dose.gains), 1))
    density = np.exp(said.density - said.density.max())
    table = (density @ problem.leaks.weights).reshape(-1, m, g * g)
    table = np.ascontiguousarray(table.transpose(0, 2, 1))
    if said.heard is not None:
        table *= said.heard[None]
    return table.reshape(-1, m)


def respond(cavity: Vector, leak: Vector) -> Vector:
    """What the rest of the engine and the cylinder's own pressures say, shape (c, m)."""
    if len(leak) == 1:
        return np.asarray(cavity.sum(axis=1)[:, None] * leak)
    return np.asarray(cavity @ leak)


class _Row:
    """Messages along one row of neighbours, for every profile of contexts it can be in."""

    def __init__(
        self,
        problem: Problem,
        at: int,
        reduced: list[Vector],
        leak: list[Vector],
        grid_size: int,
    ) -> None:
        self.members = problem.rows[at]
        self.gaskets = problem.gaskets[at]
        self.states = problem.leaks.shape[1]
        self.grid_size = grid_size
        columns = problem.situations.context_of[:, list(self.members)]
        self.profiles, self.profile_of = np.unique(columns, axis=0, return_inverse=True)
        self.profile_of = self.profile_of.ravel()
        self.contexts = reduced[0].shape[0]
        self.factors = [
            self._factor(reduced[cylinder], leak[cylinder]) for cylinder in self.members
        ]
        self.forward = self._forward()
        self.total = np.maximum(self.forward[-1][0], 0.0)  # p, x

    def _factor(self, reduced: Vector, leak: Vector) -> Vector:
        """c, g left, g right, x: chance of the cylinder's evidence in each context."""
        g = self.states
        if len(leak) == 1:
            flat = (reduced @ leak[0])[:, None, None, None]
            return np.broadcast_to(flat, (len(reduced), g, g, self.grid_size))
        table = (reduced @ leak.T).reshape(len(reduced), self.grid_size, g, g)
        return np.ascontiguousarray(table.transpose(0, 2, 3, 1))

    def _forward(self) -> list[Vector]:
        """Message arriving at each cylinder from its left, shape (g, p, x); last one: the end."""
        start = np.zeros((self.states, len(self.profiles), self.grid_size))
        start[0] = 1.0
        messages = [start]
        for place, factor in enumerate(self.factors):
            prior = self._prior_right(place)
            chosen = self.profiles[:, place]
            leaving = np.zeros_like(start)
            for right in np.flatnonzero(prior):
                for left in self._open(place):
                    leaving[right] += messages[-1][left] * factor[chosen, left, right]
                leaving[right] *= prior[right]
            messages.append(leaving)
        messages[-1] = messages[-1].sum(axis=0, keepdims=True)
        return messages

    def _prior_right(self, place: int) -> Vector:
        """Prior of the gasket to the right of a cylinder; the row's end has none to leak."""
        if place < len(self.gaskets):
            return self.gaskets[place]
        return np.asarray(np.eye(self.states)[0])

    def _open(self, place: int) -> range:
        """States that the gasket on the left of a cylinder can be in."""
        return range(self.states if 0 < place <= len(self.gaskets) else 1)

    def listen(self, joint: Vector) -> None:
        """Take in what the other rows say, and pass it back along the row."""
        gather = np.equal.outer(np.arange(len(self.profiles)), self.profile_of).astype(np.float64)
        self.outside = gather @ joint / np.maximum(self.total, FLOOR)
        message = np.zeros((self.states, len(self.profiles), self.grid_size))
        message[0] = self.outside
        self.backward = [message]
        for place in range(len(self.factors) - 1, 0, -1):
            factor = self.factors[place]
            chosen = self.profiles[:, place]
            prior = self._prior_right(place)
            arriving = np.zeros_like(message)
            for left in self._open(place):
                for right in np.flatnonzero(prior):
                    arriving[left] += (
                        self.backward[0][right] * prior[right] * factor[chosen, left, right]
                    )
            self.backward.insert(0, arriving)

    def cavity(self, place: int) -> Vector:
        """What all others say to one cylinder, shape (c, x * g * g)."""
        g = self.states
        chosen = self.profiles[:, place]
        prior = self._prior_right(place)
        gather = np.equal.outer(np.arange(self.contexts), chosen).astype(np.float64)
        heard = np.zeros((self.contexts, self.grid_size, g, g))
        for left in self._open(place):
            for right in np.flatnonzero(prior):
                both = self.forward[place][left] * self.backward[place][right] * prior[right]
                heard[:, :, left, right] = gather @ both
        return heard.reshape(self.contexts, -1)

    def pairs(self) -> dict[tuple[int, int], Vector]:
        """Posterior of each gasket of the row."""
        found = {}
        for place in range(len(self.gaskets)):
            left, right = self.members[place : place + 2]
            both = (self.forward[place + 1] * self.backward[place]).sum(axis=(1, 2))
            found[(left, right)] = both / both.sum()
        return found
