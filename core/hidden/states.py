"""What a cylinder may hide: every set of faults the model tells apart.

Faults fall into three groups: mechanical, running (spark, fuel, heat) and the plug itself. Up to
two of each may be present at once, so up to six together: a scored bore, worn plug and cracked
insulator that were all seen are all believed. A well seal leaks outside the chamber, touches
nothing else, and is carried beside the sets.

Arrays over fault sets have three axes, in this order: mechanical m, running r, plug p.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import block_diag

from core.knowledge import knowledge

MECHANICAL, RUNNING, PLUG = "mechanical", "running", "plug"
GROUPS = (MECHANICAL, RUNNING, PLUG)
AT_ONCE = 2
EXCLUSIVE = frozenset({"fuel-rich", "fuel-lean"})
WELL_SEAL = "well-seal"
CHAMBER_OIL = knowledge().cylinder_faults(lambda fault: fault.oils)
LEAKING = knowledge().cylinder_faults(lambda fault: fault.leaks)

# What acts on a cylinder from outside it: shared faults, as they act.
Context = frozenset[str]
NOTHING_SHARED: Context = frozenset()
Vector = NDArray[np.float64]
Mask = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Group:
    """The combinations of one group's faults, none of them first.

    Attributes
    ----------
    faults : the group's fault ids, in the columns of `has`.
    combinations : tuple of frozenset
    has : bool array, shape (combinations, faults)
    """

    faults: tuple[str, ...]
    combinations: tuple[frozenset[str], ...]
    has: Mask

    @classmethod
    def of(cls, faults: tuple[str, ...]) -> Group:
        """Every way to have at most two of some faults."""
        found = [
            frozenset(combination)
            for size in range(AT_ONCE + 1)
            for combination in combinations(faults, size)
        ]
        allowed = tuple(one for one in found if not one >= EXCLUSIVE)
        has = np.array([[fault in one for fault in faults] for one in allowed])
        return cls(faults, allowed, has.reshape(len(allowed), len(faults)))

    def active(self, causes: tuple[str, ...]) -> Mask:
        """Which combinations hold any of the causes, shape (combinations,)."""
        columns = [at for at, fault in enumerate(self.faults) if fault in causes]
        return np.asarray(self.has[:, columns].any(axis=1))

    @lru_cache(maxsize=4096)  # noqa: B019 - there are a handful of groups, all kept for good
    def prior(self, factors: tuple[tuple[str, float], ...]) -> Vector:
        """Normalised prior of every combination, `factors` multiplying the usual odds."""
        odds = dict(factors)
        logit = np.empty(len(self.faults))
        for at, fault in enumerate(self.faults):
            usual = knowledge().fault(fault, "cylinder").prior
            logit[at] = np.log(usual / (1 - usual) * odds.get(fault, 1.0))
        weight = np.exp(self.has @ logit)
        return np.asarray(weight / weight.sum())


@dataclass(frozen=True, eq=False)
class States:
    """All fault sets of a cylinder as the product of its three groups."""

    mechanical: Group
    running: Group
    plug: Group

    @property
    def groups(self) -> tuple[Group, Group, Group]:
        return self.mechanical, self.running, self.plug

    @cached_property
    def faults(self) -> tuple[str, ...]:
        return tuple(fault for group in self.groups for fault in group.faults)

    @cached_property
    def has(self) -> Vector:
        """Which fault each combination holds, the groups one after the other."""
        return np.asarray(block_diag(*(group.has for group in self.groups)), dtype=np.float64)

    @cached_property
    def oily(self) -> NDArray[np.intp]:
        """Zero or one for each mechanical combination: whether it oils the chamber."""
        return self.mechanical.active(CHAMBER_OIL).astype(np.intp)

    @cached_property
    def chamber_oil(self) -> Vector:
        """One where a combination brings oil into the chamber, shape (combinations,)."""
        others = len(self.running.has) + len(self.plug.has)
        return np.concatenate([self.mechanical.active(CHAMBER_OIL), np.zeros(others)])


@cache
def states_of(cycle: str, cooling: str) -> States:
    """The fault sets of one cylinder of an engine of this kind."""
    faults = [f for f in knowledge().of_scope("cylinder") if f.possible_on(cycle, cooling)]
    members = [tuple(f.id for f in faults if f.group == group) for group in GROUPS]
    return States(*(Group.of(ids) for ids in members))
