"""Leak paths on a grid: which combination of faults leaks how much, and where.

Every pressure reading of a cylinder argues about the same hidden areas: the ring path, which oil
can close, and all others, which it cannot. Gasket leaks between neighbours add to both.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from itertools import combinations_with_replacement

import numpy as np
from numpy.typing import NDArray

from core.hidden.states import LEAKING, States, Vector, states_of
from core.knowledge import knowledge

RINGS = "ring-sealing"
# The grid's areas, a factor of about 1.8 apart, and one for several bad leaks together.
MOST_AREA = 60.0
# A point of the grid stands for every area between its neighbours: this is the standard
# deviation of the logarithm of an area spread evenly over such a bin.
BIN_LOG_SD = float(np.log(1.8) / np.sqrt(12))
# A gasket's leak: none, or one of these, each standing for two of the grid's areas.
GASKET_AREAS = np.array([0.0, 0.68, 2.1, 6.8, 22.0])


@dataclass(frozen=True, eq=False)
class Leaks:
    """The grid of one kind of engine.

    Attributes
    ----------
    ring_areas : ndarray, shape (rings,)
        Zero, then the grid. [mm2 for each 500 cm3]
    other_areas : ndarray, shape (others,)
    beside : ndarray of int, shape (gaskets, gaskets)
        Number of the unordered pair of gasket states on either side; what leaks is their sum.
    weights : ndarray, shape (besides, rings * others, mechanical)
        Chance of each pair of areas given the gaskets beside and the mechanical combination.
    """

    ring_areas: Vector
    other_areas: Vector
    beside: NDArray[np.intp]
    weights: Vector

    @cached_property
    def log_total(self) -> Vector:
        """Natural logarithm of all that leaks, a healthy share too, shape (rings * others,)."""
        healthy = knowledge().pressure["areas"]["healthy"]
        total = self.ring_areas[:, None] + self.other_areas[None, :] + healthy
        return np.asarray(np.log(total)).ravel()

    @cached_property
    def leaking(self) -> NDArray[np.intp]:
        """Zero or one for each pair of states beside a cylinder: whether any gasket leaks."""
        return np.asarray(np.arange(self.besides) != self.beside[0, 0], dtype=np.intp)

    @property
    def gaskets(self) -> int:
        return len(self.beside)

    @property
    def besides(self) -> int:
        return len(self.weights)

    @property
    def mechanical(self) -> int:
        return int(self.weights.shape[2])


def gasket_prior(odds: Mapping[str, float]) -> Vector:
    """Chance of each gasket state, `odds` multiplying what is usual."""
    chance = knowledge().fault("head-gasket-between", "pair").chance(odds)
    spread = np.array(knowledge().pressure["spread"]["head-gasket-between"]["weights"])
    pairs = spread.reshape(-1, 2).sum(axis=1)
    return np.concatenate([[1 - chance], chance * pairs / pairs.sum()])


@cache
def leaks_of(cycle: str, cooling: str) -> Leaks:
    """The leak grid of one kind of engine, computed once."""
    states: States = states_of(cycle, cooling)
    present = np.array(knowledge().pressure["areas"]["present"])
    ring_areas = np.concatenate([[0.0], present])
    other_areas = np.concatenate([[0.0], present, [MOST_AREA]])
    pairs = list(combinations_with_replacement(range(len(GASKET_AREAS)), 2))
    beside = np.empty((len(GASKET_AREAS), len(GASKET_AREAS)), dtype=np.intp)
    for at, (one, other) in enumerate(pairs):
        beside[one, other] = beside[other, one] = at
    shape = (len(pairs), len(ring_areas), len(other_areas), len(states.mechanical.has))
    weights = np.zeros(shape)
    for at, combination in enumerate(states.mechanical.combinations):
        rings = np.zeros(len(ring_areas))
        if RINGS in combination:
            holds = knowledge().pressure["spread"][RINGS]["holds"]
            rings[0], rings[1:] = holds, (1 - holds) * spread(RINGS)
        else:
            rings[0] = 1.0
        areas, chances = np.zeros(1), np.ones(1)
        for fault in LEAKING:
            if fault in combination and fault != RINGS:
                areas = np.add.outer(areas, present).ravel()
                chances = np.multiply.outer(chances, spread(fault)).ravel()
        for number, (one, other) in enumerate(pairs):
            total = areas + GASKET_AREAS[one] + GASKET_AREAS[other]
            weights[number, :, :, at] = np.outer(rings, _onto(other_areas, total, chances))
    return Leaks(ring_areas, other_areas, beside, weights.reshape(len(pairs), -1, shape[3]))


def spread(fault: str) -> Vector:
    """Chance of each area of the grid, given that the fault is present."""
    weights = np.array(knowledge().pressure["spread"][fault]["weights"])
    return np.asarray(weights / weights.sum())


def _onto(nodes: Vector, areas: Vector, chances: Vector) -> Vector:
    """Split each area between the two grid points beside it, its mean kept."""
    above = np.clip(np.searchsorted(nodes, areas), 1, len(nodes) - 1)
    low, high = nodes[above - 1], nodes[above]
    upper = np.clip((areas - low) / (high - low), 0.0, 1.0)
    split = np.zeros(len(nodes))
    np.add.at(split, above, chances * upper)
    np.add.at(split, above - 1, chances * (1 - upper))
    return split
