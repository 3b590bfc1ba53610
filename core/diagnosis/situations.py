"""What an engine's cylinders share: one mixture, one ignition, one carburettor, crossed leads.

A situation is one combination of shared faults and says which context each cylinder is in. At
most two shared faults of different kinds are present at once; crossed leads come alone.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from typing import Any

import numpy as np

from core.diagnosis.channels import NOTHING_SHARED, Context
from core.diagnosis.states import Mask, Vector
from core.engine.layout import Arrangement
from core.engine.sharing import Group, coil_groups, feed_groups
from core.knowledge import Fault, knowledge

PARTS = ("bank", "feed", "coil", "pair")
PLACES = ("engine", *PARTS)
PART_SHARE = 1 / 3  # A bank's or carburettor's own mixture fault, relative to the engine's prior.
COIL_PRIOR = 0.02  # A shared coil; from memory, as the single coil's.


@dataclass(frozen=True)
class Shared:
    """One shared fault: which cylinders it acts on, and how."""

    fault: str
    where: str  # One of PLACES.
    name: str
    cylinders: tuple[int, ...]
    acts_as: str
    group: str
    log_odds: float


@dataclass(frozen=True, eq=False)
class Situations:
    """Every situation of an engine.

    Attributes
    ----------
    members : tuple of tuple of Shared
        What each situation holds; the first holds nothing.
    log_prior : ndarray, shape (situations,)
    contexts : tuple of Context
        The distinct contexts, the empty one first.
    context_of : ndarray of int, shape (situations, cylinders)
    """

    members: tuple[tuple[Shared, ...], ...]
    log_prior: Vector
    contexts: tuple[Context, ...]
    context_of: Any

    def holding(self, test: Any) -> Any:
        """Which situations hold a shared fault that satisfies `test`, shape (situations,)."""
        return np.array([any(test(shared) for shared in one) for one in self.members])

    @cached_property
    def acting(self) -> dict[str, Mask]:
        """By kind of place, which situations act on which cylinder, (situations, cylinders)."""
        acts = {where: np.zeros(self.context_of.shape, dtype=bool) for where in PLACES}
        for at, one in enumerate(self.members):
            for shared in one:
                acts[shared.where][at, [cylinder - 1 for cylinder in shared.cylinders]] = True
        return acts


def situations_of(
    engine: Mapping[str, Any], arrangement: Arrangement, odds: Mapping[str, float]
) -> Situations:
    """Enumerate the situations of an engine.

    Parameters
    ----------
    engine : mapping
        A checked document's engine.
    arrangement : Arrangement
        Its banks.
    odds : mapping of fault id to factor
        What complaints and records say beforehand of engine-wide faults.

    Returns
    -------
    Situations
    """
    alone = _shared_faults(engine, arrangement, odds)
    members: list[tuple[Shared, ...]] = [()]
    members += [(shared,) for shared in alone]
    members += [
        (one, other)
        for one, other in combinations(alone, 2)
        if one.group != other.group and "leads-crossed" not in (one.fault, other.fault)
    ]
    log_prior = np.array([sum(shared.log_odds for shared in one) for one in members])
    log_prior -= np.logaddexp.reduce(log_prior)
    contexts: dict[Context, int] = {NOTHING_SHARED: 0}
    context_of = np.empty((len(members), len(arrangement.cylinders)), dtype=np.intp)
    for at, one in enumerate(members):
        for column, cylinder in enumerate(arrangement.cylinders):
            context = frozenset(s.acts_as for s in one if cylinder in s.cylinders)
            context_of[at, column] = contexts.setdefault(context, len(contexts))
    return Situations(tuple(members), log_prior, tuple(contexts), context_of)


def with_shared_findings(situations: Situations, document: Mapping[str, Any]) -> Situations:
    """Weigh what was found on parts that all cylinders share: cap, rotor, points, advance."""
    log_weight = situations.log_prior.copy()
    for field, value in document.get("distributor", {}).items():
        finding = knowledge().shared.get(f"distributor/{field}")
        if finding is None or value not in finding.values:
            continue
        fault = finding.fault
        present, absent = finding.values[value]
        held = situations.holding(lambda s, f=fault: s.fault == f and s.where == "engine")
        log_weight += np.log(np.where(held, present, absent))
    return replace(situations, log_prior=log_weight - np.logaddexp.reduce(log_weight))


def _shared_faults(
    engine: Mapping[str, Any], arrangement: Arrangement, odds: Mapping[str, float]
) -> list[Shared]:
    everyone = arrangement.cylinders
    found: list[Shared] = []
    for fault in knowledge().of_scope("engine"):
        if fault.group == "level" or not fault.possible_on(engine):
            continue
        if len(everyone) == 1 and fault.group != "premix" and fault.id != "ignition-timing":
            continue  # "This cylinder alone" and "all of them" cannot be told apart.
        factor = odds.get(fault.id, 1.0)
        if fault.id == "leads-crossed":
            pairs = list(combinations(everyone, 2))
            for pair in pairs:
                name = f"{pair[0]} and {pair[1]}"
                found.append(_shared(fault, "pair", name, pair, factor / len(pairs)))
            continue
        found.append(_shared(fault, "engine", "engine", everyone, factor))
        if fault.group == "mixture":
            for where, groups in _parts(engine, arrangement):
                share = factor * PART_SHARE / max(len(groups), 1)
                for group in groups:
                    found.append(_shared(fault, where, group.name, group.cylinders, share))
        if fault.id == "ignition-weak":
            for group in coil_groups(dict(engine)):
                factor_coil = factor * COIL_PRIOR / fault.prior
                coil = _shared(fault, "coil", group.name, group.cylinders, factor_coil)
                found.append(replace(coil, acts_as="ignition-weak"))
    return found


def _parts(
    engine: Mapping[str, Any], arrangement: Arrangement
) -> list[tuple[str, tuple[Group, ...]]]:
    banks: tuple[Group, ...] = ()
    if len(arrangement.banks) > 1 and all(len(bank.cylinders) > 1 for bank in arrangement.banks):
        banks = tuple(Group(bank.name, bank.cylinders) for bank in arrangement.banks)
    taken = {frozenset(group.cylinders) for group in banks}
    feeds = tuple(
        group
        for group in feed_groups(dict(engine))
        if len(group.cylinders) > 1 and frozenset(group.cylinders) not in taken
    )
    return [("bank", banks), ("feed", feeds)]


def _shared(
    fault: Fault, where: str, name: str, cylinders: tuple[int, ...], factor: float
) -> Shared:
    log_odds = float(np.log(fault.prior / (1 - fault.prior) * factor))
    return Shared(fault.id, where, name, cylinders, fault.acts_as, fault.group, log_odds)
