"""What a cylinder may hide: every set of faults the model tells apart.

Faults fall into three groups: mechanical, running (spark, fuel, heat) and the plug itself. Up to
two of each may be present at once, so up to six together: a scored bore, worn plug and cracked
insulator that were all seen are all believed. A well seal leaks outside the chamber, touches
nothing else, and is carried beside the sets.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from itertools import combinations, product

import numpy as np
from numpy.typing import NDArray

from core.knowledge import knowledge

GROUPS = ("mechanical", "running", "plug")
AT_ONCE = 2
EXCLUSIVE = frozenset({"fuel-rich", "fuel-lean"})
WELL_SEAL = "well-seal"
CHAMBER_OIL = ("ring-sealing", "valve-stem-oil")
LEAKING = (
    "ring-sealing",
    "intake-valve-sealing",
    "exhaust-valve-sealing",
    "head-gasket-coolant",
    "piston-damage",
)

Vector = NDArray[np.float64]
Mask = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class States:
    """All fault sets of a cylinder, in one fixed order: mechanical by running by plug.

    Attributes
    ----------
    faults : the fault ids, in the columns of `has`.
    has : bool array, shape (sets, faults)
        Which faults each set holds.
    mechanical : tuple of frozenset
        The mechanical combinations; set number s has combination s // `per_mechanical`.
    """

    faults: tuple[str, ...]
    has: NDArray[np.bool_]
    mechanical: tuple[frozenset[str], ...]
    per_mechanical: int

    @property
    def size(self) -> int:
        return len(self.has)

    def active(self, causes: tuple[str, ...]) -> NDArray[np.bool_]:
        """Which sets hold any of the causes, shape (sets,)."""
        columns = [at for at, fault in enumerate(self.faults) if fault in causes]
        return np.asarray(self.has[:, columns].any(axis=1))

    def by_mechanical(self, values: Vector) -> Vector:
        """Sum the last axis over everything but the mechanical combination."""
        shape = (*values.shape[:-1], len(self.mechanical), self.per_mechanical)
        summed: Vector = values.reshape(shape).sum(axis=-1)
        return summed

    def log_prior(self, odds: Mapping[str, float]) -> Vector:
        """Normalised log prior of every set.

        Parameters
        ----------
        odds : mapping of fault id to factor
            What was known beforehand; absent means 1.

        Returns
        -------
        ndarray, shape (sets,)
            Natural logarithms of probabilities that sum to one.
        """
        known = knowledge()
        logit = np.empty(len(self.faults))
        for at, fault in enumerate(self.faults):
            prior = known.fault(fault, "cylinder").prior
            logit[at] = np.log(prior / (1 - prior) * odds.get(fault, 1.0))
        log_prior = self.has @ logit + _couplings(self)
        log_prior -= np.logaddexp.reduce(log_prior)
        return np.asarray(log_prior)


def _couplings(states: States) -> Vector:
    """A fault that leads to another raises it instead of competing with it."""
    raised = np.zeros(states.size)
    for when, modifier in knowledge().modifiers.items():
        kind, _, name = when.partition("/")
        if kind != "fault" or name not in states.faults:
            continue
        present = states.has[:, states.faults.index(name)]
        for fault, factor in modifier.odds.items():
            if fault in states.faults:
                both = present & states.has[:, states.faults.index(fault)]
                raised += both * np.log(factor)
    return raised


@cache
def states_of(cycle: str, cooling: str) -> States:
    """The fault sets of one cylinder of an engine of this kind."""
    engine = {"cycle": cycle, "cooling": cooling}
    faults = [f for f in knowledge().of_scope("cylinder") if f.possible_on(engine)]
    groups = [[f.id for f in faults if f.group == group] for group in GROUPS]
    choices = [_choices(members) for members in groups]
    ids = tuple(fault for members in groups for fault in members)
    sets = [frozenset().union(*parts) for parts in product(*choices)]
    has = np.array([[fault in one for fault in ids] for one in sets])
    return States(ids, has, tuple(choices[0]), len(choices[1]) * len(choices[2]))


def _choices(members: list[str]) -> list[frozenset[str]]:
    """Every way to have at most two of them, none first."""
    found = [
        frozenset(combination)
        for size in range(AT_ONCE + 1)
        for combination in combinations(members, size)
    ]
    return [one for one in found if not one >= EXCLUSIVE]
