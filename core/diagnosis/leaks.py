"""Leak paths on a grid: which combination of faults leaks how much, and where.

Every pressure reading of a cylinder argues about the same hidden areas: the ring path, which oil
can close, and all others, which it cannot. Gasket leaks between neighbours add to both.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

import numpy as np

from core.diagnosis.states import LEAKING, States, Vector, states_of
from core.knowledge import knowledge

RINGS = "ring-sealing"
OTHER_NODES = np.concatenate([[0.0], np.geomspace(0.3, 90.0, 17)])
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
    weights : ndarray, shape (rings * others, mechanical * gaskets * gaskets)
        Chance of each pair of areas given the mechanical combination and the gasket's state on
        either side.
    gasket_prior : ndarray, shape (gaskets,)
        Given no knowledge; the first is "does not leak".
    """

    ring_areas: Vector
    other_areas: Vector
    weights: Vector
    shape: tuple[int, int, int]


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
    gaskets = len(GASKET_AREAS)
    shape = (len(states.mechanical.has), gaskets, gaskets)
    weights = np.zeros((len(ring_areas), len(OTHER_NODES), *shape))
    for at, combination in enumerate(states.mechanical.combinations):
        rings = np.zeros(len(ring_areas))
        if RINGS in combination:
            rings[1:] = spread(RINGS)
        else:
            rings[0] = 1.0
        areas, chances = np.zeros(1), np.ones(1)
        for fault in LEAKING:
            if fault in combination and fault != RINGS:
                areas = np.add.outer(areas, present).ravel()
                chances = np.multiply.outer(chances, spread(fault)).ravel()
        for left in range(gaskets):
            for right in range(gaskets):
                total = areas + GASKET_AREAS[left] + GASKET_AREAS[right]
                others = _onto_nodes(total, chances)
                weights[:, :, at, left, right] = np.outer(rings, others)
    flat = weights.reshape(len(ring_areas) * len(OTHER_NODES), -1)
    return Leaks(ring_areas, OTHER_NODES, np.ascontiguousarray(flat), shape)


def spread(fault: str) -> Vector:
    """Chance of each area of the grid, given that the fault is present."""
    weights = np.array(knowledge().pressure["spread"][fault]["weights"])
    return np.asarray(weights / weights.sum())


def _onto_nodes(areas: Vector, chances: Vector) -> Vector:
    """Split each area between the two grid points beside it, its mean kept."""
    above = np.clip(np.searchsorted(OTHER_NODES, areas), 1, len(OTHER_NODES) - 1)
    low, high = OTHER_NODES[above - 1], OTHER_NODES[above]
    upper = np.clip((areas - low) / (high - low), 0.0, 1.0)
    nodes = np.zeros(len(OTHER_NODES))
    np.add.at(nodes, above, chances * upper)
    np.add.at(nodes, above - 1, chances * (1 - upper))
    return nodes
