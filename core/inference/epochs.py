"""What one epoch of an engine leaves to the next: its answer, and what is heard from then on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from core.document.records import Document
from core.evidence.beforehand import Known
from core.hidden.level import Level
from core.hidden.situations import BankShift, Situations
from core.hidden.states import Group, Vector
from core.knowledge.limits import limits

NEVER = 1e-12
ANOTHER_DAY = limits().test.another_day  # Of one level between two days, natural logarithm.
SAME_TEST = limits().test.same_test


@dataclass(frozen=True, eq=False)
class Carried:
    """What was believed of one cylinder, as the prior of what comes after.

    Attributes
    ----------
    groups : dict of Group to ndarray, shape (combinations,)
        Chance of every combination of each group.
    seal : float
        Chance that its well seal leaks. [-]
    """

    groups: Mapping[Group, Vector]
    seal: float

    @cached_property
    def key(self) -> tuple[bytes, ...]:
        """Equal for those of which the same was believed."""
        return tuple(one.tobytes() for one in self.groups.values())

    def prior(self, group: Group, odds: Mapping[str, float]) -> Vector:
        """Of one group, `odds` multiplying what was carried. [-]"""
        raised = np.log([odds.get(fault, 1.0) for fault in group.faults])
        weight = self.groups[group] * np.exp(group.has @ raised)
        return np.asarray(weight / weight.sum())


@dataclass(frozen=True, eq=False)
class Second:
    """What the model of an engine as left begins with, and what it hears.

    Attributes
    ----------
    heard : Document
        What was read after the work, alone.
    known : list of Known
        What the complaint did since.
    carried : list of Carried
        One for each cylinder, in order.
    pairs : dict of (cylinder index, cylinder index) to ndarray, shape (g,)
        Prior of each gasket between neighbours.
    nodes, level : ndarray, shape (levels,)
        The level of the first test and its chances; None where there was no reading.
    recorded : frozenset of int
        Cylinders of which anything was recorded as they were found.
    examined : frozenset of int
        Of those the ones whose plug, pressure or running was looked at.
    seen : dict of int to frozenset of str
        By cylinder what need not be looked at again: channels, and kinds of evidence.
    """

    heard: Document
    known: list[Known]
    carried: Sequence[Carried]
    situations: Situations
    pairs: Mapping[tuple[int, int], Vector]
    shifts: list[BankShift]
    worn: list[float]
    nodes: Vector | None
    level: Vector
    recorded: frozenset[int]
    examined: frozenset[int]
    seen: Mapping[int, frozenset[str]]


def level_after(level: Level, second: Second) -> Level:
    """The level of the second test, near that of the first: the same engine on another day."""
    if second.nodes is None or len(level.log_level) < 2:
        return level
    apart = (level.log_level[:, None] - second.nodes[None, :]) / ANOTHER_DAY
    width = np.gradient(level.log_level)
    near = np.exp(-0.5 * apart**2) @ second.level * width
    anew = (1 - SAME_TEST) * np.exp(level.log_prior)
    weight = SAME_TEST * near / max(float(near.sum()), NEVER) + anew
    return replace(level, log_prior=np.log(np.maximum(weight / weight.sum(), NEVER)))
