"""Messages along one row of neighbouring cylinders, which only gaskets tie together.

Axes are named in the comments: p profile of contexts along the row, c context, x level and dose,
l and r gasket state on the left and on the right, b unordered pair of both.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from core.diagnosis.states import Vector

FLOOR = 1e-280


class Row:
    """Forward and backward messages for every profile of contexts that a row can be in.

    Parameters
    ----------
    gaskets : sequence of ndarray, shape (g,)
        Prior of the gasket between each two neighbours.
    factors : sequence of ndarray, shape (c, x, b)
        Chance of each cylinder's own evidence.
    beside : ndarray of int, shape (g, g)
        Number of each unordered pair of gasket states.
    profiles : ndarray of int, shape (p, cylinders of the row)
        Context of each cylinder.
    """

    def __init__(
        self,
        gaskets: Sequence[Vector],
        factors: Sequence[Vector],
        beside: NDArray[np.intp],
        profiles: NDArray[np.intp],
    ) -> None:
        shut = np.ones(1)  # Beyond the ends of the row there is no gasket to leak.
        self.priors = [shut, *gaskets, shut]
        self.beside = beside
        self.profiles = profiles
        self.sizes = [factor.shape for factor in factors]
        self.chosen = [
            factor[:, :, self._sides(place)][profiles[:, place]]  # p, x, l, r
            for place, factor in enumerate(factors)
        ]
        self.forward = [np.ones((*self.chosen[0].shape[:2], 1))]  # p, x, l
        for place, factor in enumerate(self.chosen):
            leaving = np.einsum("pxl,pxlr->pxr", self.forward[-1], factor)
            self.forward.append(leaving * self.priors[place + 1])
        self.total = np.maximum(self.forward[-1][:, :, 0], 0.0)  # p, x

    def _sides(self, place: int) -> NDArray[np.intp]:
        """Pairs of gasket states that a cylinder can have beside it, shape (l, r)."""
        left, right = len(self.priors[place]), len(self.priors[place + 1])
        return self.beside[:left, :right]

    def listen(self, outside: Vector) -> None:
        """Take in what the other rows say, shape (p, x), and pass it back along the row."""
        message = outside[:, :, None]
        self.backward = [message]
        for place in range(len(self.chosen) - 1, 0, -1):
            weighed = message * self.priors[place + 1]
            message = np.einsum("pxr,pxlr->pxl", weighed, self.chosen[place])
            self.backward.insert(0, message)

    def cavity(self, place: int) -> Vector:
        """What all others say to one cylinder, shape (c, x, b)."""
        contexts, _, besides = self.sizes[place]
        onward = self.backward[place] * self.priors[place + 1]
        both = self.forward[place][:, :, :, None] * onward[:, :, None, :]  # p, x, l, r
        profiles, levels = both.shape[:2]
        gather = np.equal.outer(np.arange(contexts), self.profiles[:, place]).astype(np.float64)
        heard = (gather @ both.reshape(profiles, -1)).reshape(contexts * levels, -1)
        sides = np.equal.outer(self._sides(place).ravel(), np.arange(besides)).astype(np.float64)
        return (heard @ sides).reshape(contexts, levels, besides)

    def gaskets(self) -> list[Vector]:
        """Posterior of each gasket of the row."""
        found = []
        for place in range(len(self.chosen) - 1):
            both = np.einsum("pxg,pxg->g", self.forward[place + 1], self.backward[place])
            found.append(both / both.sum())
        return found
