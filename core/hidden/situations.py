"""What an engine's cylinders share: one mixture, one ignition, one carburettor, crossed leads.

A situation is one combination of shared faults and says which context each cylinder is in. At
most two shared faults of different kinds are present at once; crossed leads come alone.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache, partial
from itertools import combinations

import msgspec
import numpy as np
from numpy.typing import NDArray

from core.document.records import Document, Engine
from core.engine.layout import Arrangement
from core.engine.sharing import Group, coil_groups, feed_groups
from core.hidden.states import NOTHING_SHARED, Context, Mask, Vector
from core.knowledge import Fault, knowledge

PARTS = ("bank", "feed", "coil", "pair")
PLACES = ("engine", *PARTS)
HABIT = "habit"
WEAR = "worn-throughout"
UNSEEN = "@unseen"  # Marks what acts on a cylinder and leaves its nose as it was.
STRUCTURE = (
    "cycle",
    "layout",
    "cooling",
    "ignition",
    "firing_order",
    "cylinders",
    "feeds",
    "fuel_system",
)


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


Which = Callable[[Shared], bool]
Profiles = tuple[NDArray[np.intp], NDArray[np.intp]]


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
    alone : tuple of Shared
        Every shared fault that a situation may hold.
    holds : bool array, shape (situations, shared)
    acting : dict of bool array, shape (situations, cylinders)
        By kind of place, which situations act on which cylinder.
    """

    members: tuple[tuple[Shared, ...], ...]
    log_prior: Vector
    contexts: tuple[Context, ...]
    context_of: NDArray[np.intp]
    alone: tuple[Shared, ...]
    holds: Mask
    acting: Mapping[str, Mask]
    _profiles: dict[tuple[int, ...], Profiles] = field(default_factory=dict)

    @cached_property
    def single(self) -> Mask:
        """Situations with at most one thing shared, crossed leads aside, shape (situations,)."""
        return np.array(
            [
                len(members) <= 1 and not any(one.where == "pair" for one in members)
                for members in self.members
            ]
        )

    def profiles(self, members: tuple[int, ...]) -> Profiles:
        """The distinct contexts of some cylinders by index, and which each situation has."""
        if members not in self._profiles:
            columns = self.context_of[:, list(members)]
            profiles, profile_of = np.unique(columns, axis=0, return_inverse=True)
            self._profiles[members] = profiles, profile_of.ravel()
        return self._profiles[members]

    def which(self, test: Which) -> Mask:
        """Which situations hold a shared fault that satisfies `test`, shape (situations,)."""
        columns = [at for at, shared in enumerate(self.alone) if test(shared)]
        return np.asarray(self.holds[:, columns].any(axis=1))


def situations_of(
    engine: Engine,
    arrangement: Arrangement,
    odds: Mapping[str, float],
    habits: tuple[tuple[str, float], ...] = (),
) -> Situations:
    """Enumerate the situations of an engine.

    Parameters
    ----------
    engine : Engine
    arrangement : Arrangement
        Its banks.
    odds : mapping of fault id to factor
        What complaints and records say beforehand of shared faults; under `at_place`, of one part
        alone.
    habits : tuple of (habit, prior)
        What it may do by nature.

    Returns
    -------
    Situations
    """
    told = {field: getattr(engine, field) for field in STRUCTURE}
    plain = _structure(msgspec.json.encode(Engine(**told)), arrangement, habits)
    raised = [sum(_raised(shared, odds) for shared in one) for one in plain.members]
    log_prior = plain.log_prior + np.array(raised)
    return replace(plain, log_prior=log_prior - np.logaddexp.reduce(log_prior))


def at_place(fault: str, where: str, name: str) -> str:
    """Under what the odds of a fault at one part alone stand."""
    return f"{fault}@{where} {name}"


def _raised(shared: Shared, odds: Mapping[str, float]) -> float:
    """What is known beforehand of a shared fault, wherever it is and at its own place."""
    own = odds.get(at_place(shared.fault, shared.where, shared.name), 1.0)
    return math.log(odds.get(shared.fault, 1.0)) + math.log(own)


@lru_cache(maxsize=256)
def _structure(
    key: bytes, arrangement: Arrangement, habits: tuple[tuple[str, float], ...]
) -> Situations:
    """The situations of an engine before anything is known of it."""
    alone = _shared_faults(msgspec.json.decode(key, type=Engine), arrangement)
    alone += [_habit(habit, prior, arrangement) for habit, prior in habits]
    alone = [form for one in alone for form in _forms(one)]
    members: list[tuple[Shared, ...]] = [()]
    members += [(shared,) for shared in alone]
    members += [(one, other) for one, other in combinations(alone, 2) if _come_together(one, other)]
    log_prior = np.array(
        [sum(shared.log_odds for shared in one) + _leading_on(one) for one in members]
    )
    contexts: dict[Context, int] = {NOTHING_SHARED: 0}
    context_of = np.empty((len(members), len(arrangement.cylinders)), dtype=np.intp)
    for at, one in enumerate(members):
        for column, cylinder in enumerate(arrangement.cylinders):
            context = frozenset(s.acts_as for s in one if cylinder in s.cylinders)
            context_of[at, column] = contexts.setdefault(context, len(contexts))
    holds = np.array([[shared in one for shared in alone] for one in members], dtype=bool)
    holds = holds.reshape(len(members), len(alone))
    acting = {}
    for where in PLACES:
        acts = [
            [s.where == where and c in s.cylinders for c in arrangement.cylinders] for s in alone
        ]
        reach = np.array(acts, dtype=bool).reshape(len(alone), len(arrangement.cylinders))
        acting[where] = holds @ reach
    return Situations(
        tuple(members), log_prior, tuple(contexts), context_of, tuple(alone), holds, acting
    )


def _forms(one: Shared) -> tuple[Shared, ...]:
    """A shared fault as it shows on the noses of all that it acts on, and as it does on none."""
    shows = 1.0 if one.where == HABIT else knowledge().fault(one.fault, "engine").shows
    if shows >= 1:
        return (one,)
    return (
        replace(one, log_odds=one.log_odds + math.log(shows)),
        replace(one, acts_as=one.acts_as + UNSEEN, log_odds=one.log_odds + math.log(1 - shows)),
    )


def _come_together(one: Shared, other: Shared) -> bool:
    """Whether two shared faults are reckoned with at once; what does not show comes alone."""
    if one.group == other.group or "leads-crossed" in (one.fault, other.fault):
        return False
    unseen = UNSEEN in one.acts_as + other.acts_as
    return not unseen or HABIT in (one.where, other.where)


@dataclass(frozen=True, eq=False)
class BankShift:
    """How far the valve timing of one bank alone may have moved its readings.

    Attributes
    ----------
    shifts : ndarray, shape (n,)
        Natural logarithm of reading over level, where the readings put it.
    weights : ndarray, shape (n,)
        Chance of each, given that this bank's timing slipped.
    """

    name: str
    cylinders: tuple[int, ...]
    shifts: Vector
    weights: Vector


def with_bank_timing(
    situations: Situations, banks: Sequence[BankShift], odds: Mapping[str, float]
) -> Situations:
    """Reckon with a bank whose valve timing slipped; it comes alone, as crossed leads do."""
    fault, of_a_bank = knowledge().fault("valve-timing", "bank"), knowledge().parts["bank"]
    raised = math.log(odds.get("valve-timing", 1.0))
    alone = [
        _shared(fault, "bank", bank.name, bank.cylinders, float(weight) * of_a_bank)
        for bank in banks
        for weight in bank.weights
    ]
    steps = [at for bank in banks for at in range(len(bank.weights))]
    return _with_alone(
        situations,
        [
            replace(one, acts_as=shifted_context(at), log_odds=one.log_odds + raised)
            for at, one in zip(steps, alone, strict=True)
        ],
    )


def with_wear(situations: Situations, chances: Sequence[float]) -> Situations:
    """Reckon with an engine whose rings are worn throughout, to one of some degrees; alone too.

    It is nobody's fault of its own: each cylinder's rings are claimed for themselves.
    """
    everyone = tuple(range(1, len(situations.context_of[0]) + 1))
    return _with_alone(
        situations,
        [
            Shared(WEAR, HABIT, f"{WEAR} {at}", everyone, worn_context(at), WEAR, math.log(chance))
            for at, chance in enumerate(chances)
        ],
    )


def _with_alone(situations: Situations, alone: list[Shared]) -> Situations:
    """The situations and some more, each of which holds one shared fault and no other."""
    if not alone:
        return situations
    contexts = list(situations.contexts)
    places = len(situations.context_of[0])
    context_of = np.zeros((len(alone), places), dtype=np.intp)
    for at, shared in enumerate(alone):
        context = frozenset({shared.acts_as})
        if context not in contexts:
            contexts.append(context)
        context_of[at, [cylinder - 1 for cylinder in shared.cylinders]] = contexts.index(context)
    log_prior = [situations.log_prior[0] + shared.log_odds for shared in alone]
    joined = np.concatenate([situations.log_prior, log_prior])
    before, count = len(situations.members), len(alone)
    at_place = {where: np.array([[one.where == where] for one in alone]) for where in PLACES}
    acting = {
        where: np.concatenate([acts, (context_of > 0) & at_place[where]])
        for where, acts in situations.acting.items()
    }
    holds = np.zeros((before + count, len(situations.alone) + count), dtype=bool)
    holds[:before, : len(situations.alone)] = situations.holds
    holds[before:, len(situations.alone) :] = np.eye(count, dtype=bool)
    return Situations(
        (*situations.members, *((shared,) for shared in alone)),
        joined - np.logaddexp.reduce(joined),
        tuple(contexts),
        np.concatenate([situations.context_of, context_of]),
        (*situations.alone, *alone),
        holds,
        acting,
    )


def worn_context(at: int) -> str:
    """What a cylinder hears of wear throughout: the number of its degree."""
    return f"{WEAR}@{at}"


def shifted_context(at: int) -> str:
    """What a cylinder hears of its bank's timing: the number of the shift."""
    return f"valve-timing@{at}"


def is_fault(fault: str, where: Iterable[str], name: str | None = None) -> Which:
    """A test for one shared fault at some kinds of place."""
    return partial(_fits, fault, frozenset(where), name)


def _fits(fault: str, where: frozenset[str], name: str | None, one: Shared) -> bool:
    return one.fault == fault and one.where in where and (name is None or one.name == name)


def _shared_faults(engine: Engine, arrangement: Arrangement) -> list[Shared]:
    everyone = arrangement.cylinders
    found: list[Shared] = []
    for fault in knowledge().of_scope("engine"):
        if fault.group == "level" or not fault.possible_on(engine.cycle, engine.cooling):
            continue
        if len(everyone) == 1 and fault.group != "premix" and fault.id != "ignition-timing":
            continue  # "This cylinder alone" and "all of them" cannot be told apart.
        if fault.id == "leads-crossed":
            pairs = list(combinations(everyone, 2))
            for pair in pairs:
                name = f"{pair[0]} and {pair[1]}"
                found.append(_shared(fault, "pair", name, pair, 1 / len(pairs)))
            continue
        found.append(_shared(fault, "engine", "engine", everyone, 1.0))
        if fault.group == "mixture":
            for where, groups in _parts(engine, arrangement):
                share = knowledge().parts[where] / max(len(groups), 1)
                for group in groups:
                    found.append(_shared(fault, where, group.name, group.cylinders, share))
        if fault.id == "ignition-weak":
            for group in coil_groups(engine):
                share = knowledge().parts["coil"] / fault.prior
                coil = _shared(fault, "coil", group.name, group.cylinders, share)
                found.append(replace(coil, acts_as="ignition-weak"))
    return found


def _leading_on(members: tuple[Shared, ...]) -> float:
    """By how much one shared fault brings another: a lean mixture overheats. [natural log odds]"""
    known = knowledge().modifiers
    return sum(
        math.log(known[f"fault/{one.fault}"].odds.get(other.fault, 1.0))
        for one in members
        for other in members
        if one is not other and f"fault/{one.fault}" in known
    )


def _habit(habit: str, prior: float, arrangement: Arrangement) -> Shared:
    """What the engine does by nature acts on all cylinders, and is listed as no fault."""
    odds = math.log(prior / (1 - prior))
    return Shared(habit, HABIT, habit, arrangement.cylinders, habit, HABIT, odds)


def habits_of(document: Document) -> tuple[tuple[str, float], ...]:
    """What an engine may do by nature, and how likely; none where no plug's face was read."""
    read = [one.plug for one in document.cylinders if one.plug.recorded]
    if not read:
        return ()
    wrong = all(plug.type_match == "wrong-heat-range" for plug in read)
    rich = "touch-rich" if document.house_rules.mixture == "touch-rich" else ""
    found = []
    for habit in knowledge().habits:
        prior = max(
            habit.prior.get(kind, 0.0)
            for kind in (
                document.engine.fuel_system or "",
                rich,
                document.inspection.last_run or "",
                "wrong-heat" if wrong else "",
            )
        )
        if prior > 0:
            found.append((habit.id, prior))
    return tuple(found)


def _parts(engine: Engine, arrangement: Arrangement) -> list[tuple[str, tuple[Group, ...]]]:
    banks: tuple[Group, ...] = ()
    if len(arrangement.banks) > 1 and all(len(bank.cylinders) > 1 for bank in arrangement.banks):
        banks = tuple(Group(bank.name, bank.cylinders) for bank in arrangement.banks)
    taken = {frozenset(group.cylinders) for group in banks}
    feeds = tuple(
        group
        for group in feed_groups(engine)
        if len(group.cylinders) > 1 and frozenset(group.cylinders) not in taken
    )
    return [("bank", banks), ("feed", feeds)]


def _shared(
    fault: Fault, where: str, name: str, cylinders: tuple[int, ...], factor: float
) -> Shared:
    log_odds = float(np.log(fault.prior / (1 - fault.prior) * factor))
    return Shared(fault.id, where, name, cylinders, fault.acts_as, fault.group, log_odds)
