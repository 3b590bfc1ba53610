"""Messages along one row of neighbouring cylinders, which only gaskets tie together.

Axes are named in the comments: p profile of contexts along the row, c context, x level and
handling, l and r gasket state on the left and on the right, b unordered pair of both that is
possible.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from core.hidden.states import Vector

FLOOR = 1e-280


@dataclass(frozen=True, eq=False)
class Gasket:
    """One gasket between two neighbours: the states it can be in, the first "does not leak".

    Attributes
    ----------
    states : ndarray of int, shape (g,)
        Numbers of the states that are reckoned with.
    prior : ndarray, shape (g,)
        Their prior.
    """

    states: NDArray[np.intp]
    prior: Vector

    def keep(self, which: NDArray[np.bool_]) -> Gasket:
        """The same gasket with some of its states left aside."""
        return Gasket(self.states[which], self.prior[which])

    def shut(self) -> Gasket:
        """The same states, where it does not leak."""
        return Gasket(self.states, np.where(self.states == 0, self.prior, 0.0))


SHUT = Gasket(np.zeros(1, dtype=np.intp), np.ones(1))  # Beyond the ends of a row nothing leaks.


@dataclass(frozen=True, eq=False)
class Sides:
    """What the gaskets beside one cylinder can be.

    Attributes
    ----------
    pairs : ndarray of int, shape (b,)
        Numbers of the unordered pairs of states that are possible.
    at : ndarray of int, shape (l, r)
        Which of them belongs to a state on the left and one on the right.
    """

    pairs: NDArray[np.intp]
    at: NDArray[np.intp]


def sides_along(gaskets: Sequence[Gasket], beside: NDArray[np.intp]) -> list[Sides]:
    """What can be beside each cylinder of a row.

    Parameters
    ----------
    gaskets : sequence of Gasket
        Between each two neighbours.
    beside : ndarray of int, shape (g, g)
        Number of each unordered pair of gasket states.
    """
    found = []
    for left, right in pairwise([SHUT, *gaskets, SHUT]):
        numbers = beside[left.states[:, None], right.states]
        possible = np.bincount(numbers.ravel()) > 0
        found.append(Sides(np.flatnonzero(possible), (np.cumsum(possible) - 1)[numbers]))
    return found


def gathered(table: Vector, labels: NDArray[np.intp], count: int) -> Vector:
    """The last axis but one of a table summed by label, shape (..., count, x)."""
    order = np.argsort(labels, kind="stable")
    present, first = np.unique(labels[order], return_index=True)
    found = np.zeros((*table.shape[:-2], count, table.shape[-1]))
    found[..., present, :] = np.add.reduceat(table[..., order, :], first, axis=-2)
    return found


class Row:
    """Forward and backward messages for every profile of contexts that a row can be in.

    Parameters
    ----------
    gaskets : sequence of Gasket
        Between each two neighbours.
    factors : sequence of ndarray, shape (b, c, x)
        Chance of each cylinder's own evidence.
    sides : sequence of Sides
        What can be beside each cylinder.
    profiles : ndarray of int, shape (p, cylinders of the row)
        Context of each cylinder.
    """

    def __init__(
        self,
        gaskets: Sequence[Gasket],
        factors: Sequence[Vector],
        sides: Sequence[Sides],
        profiles: NDArray[np.intp],
    ) -> None:
        self.gaskets = [SHUT, *gaskets, SHUT]
        self.profiles = profiles
        self.sides = sides
        self.shapes = [factor.shape for factor in factors]
        self.chosen = [
            factor[side.at[:, :, None], profiles[:, place]]  # l, r, p, x
            for place, (side, factor) in enumerate(zip(sides, factors, strict=True))
        ]
        self.forward = [np.ones((1, *self.chosen[0].shape[2:]))]  # l, p, x
        for place, factor in enumerate(self.chosen):
            leaving = np.einsum("lpx,lrpx->rpx", self.forward[-1], factor)
            self.forward.append(leaving * self._prior_right(place))
        self.total = np.maximum(self.forward[-1][0], 0.0)  # p, x

    def _prior_right(self, place: int) -> Vector:
        return self.gaskets[place + 1].prior[:, None, None]

    def listen(self, outside: Vector) -> None:
        """Take in what the other rows say, shape (p, x), and pass it back along the row."""
        message = outside[None]
        self.backward = [message]
        for place in range(len(self.chosen) - 1, 0, -1):
            weighed = message * self._prior_right(place)
            message = np.einsum("rpx,lrpx->lpx", weighed, self.chosen[place])
            self.backward.insert(0, message)

    def around(self, place: int) -> Vector:
        """What all others say to one cylinder in each profile, shape (l, r, p, x)."""
        onward = self.backward[place] * self._prior_right(place)
        return np.asarray(self.forward[place][:, None] * onward[None])

    def cavity(self, place: int) -> Vector:
        """What all others say to one cylinder, shape (b, c, x)."""
        besides, contexts, _ = self.shapes[place]
        around = self.around(place)
        beside = np.zeros((besides, *around.shape[2:]))
        for side, left, right in zip(
            self.sides[place].at.ravel(), *np.indices(around.shape[:2]).reshape(2, -1), strict=True
        ):
            beside[side] += around[left, right]
        return gathered(beside, self.profiles[:, place], contexts)

    def posteriors(self) -> list[Vector]:
        """Posterior of each gasket of the row, by its states."""
        found = []
        for place in range(len(self.chosen) - 1):
            both = np.einsum("gpx,gpx->g", self.forward[place + 1], self.backward[place])
            found.append(both / both.sum())
        return found

    def posterior_with(self, gasket: int, place: int, factor: Vector) -> Vector:
        """Posterior of one gasket, had the evidence of a cylinder beside it been another.

        Parameters
        ----------
        gasket : int
            Place of the cylinder on its left.
        place : int
            Of the cylinder: that one, or the next.
        factor : ndarray, shape (b, c, x)
        """
        chosen = factor[self.sides[place].at[:, :, None], self.profiles[:, place]]  # l, r, p, x
        if place == gasket:
            leaving = np.einsum("lpx,lrpx->rpx", self.forward[place], chosen)
            forward, backward = leaving * self._prior_right(place), self.backward[place]
        else:
            weighed = self.backward[place] * self._prior_right(place)
            forward = self.forward[place]
            backward = np.einsum("rpx,lrpx->lpx", weighed, chosen)
        both = np.einsum("gpx,gpx->g", forward, backward)
        return np.asarray(both / both.sum())
