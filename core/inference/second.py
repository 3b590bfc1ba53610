"""The second epoch: what the first one believed, less what was put right.

After the work the engine is another, and most of it is the same. So the model of the engine as left
begins with the answer to the engine as found: of every set of faults its posterior, moved to the
set without what was put right. Only what was read after the work is heard on it; what the first
epoch heard is in the posterior already. Between a cylinder's three groups of faults, and between
cylinders, the posterior is carried as independent.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from core.document.records import Document
from core.evidence.beforehand import Known, odds_of
from core.hidden.situations import Shared, Situations
from core.hidden.states import WELL_SEAL, Group, Vector
from core.inference.epochs import NEVER, Carried, Second
from core.inference.model import Model
from core.knowledge.limits import limits

TURNED = limits().test.turned  # Untouched: carbon that held a valve.
Leaves = Callable[[int], Mapping[str, float]]
LeavesShared = Callable[[Shared], float]


def second_model(
    first: Model,
    document: Document,
    heard: Document,
    known: Sequence[Known],
    leaves: Leaves,
    leaves_shared: LeavesShared,
    opened: frozenset[int],
    examined: frozenset[int],
) -> Model:
    """The model of an engine as it was left.

    Parameters
    ----------
    first : Model
        Of the engine as it was found.
    document : Document
        The engine as it is now: what was not touched as it was found.
    heard : Document
        What was read after the work, alone.
    known : sequence of Known
        What the complaint did since.
    leaves : cylinder to shares
        Of every fault that was put right there, the share of its chance that stays.
    leaves_shared : shared fault to share
        The same of what cylinders share; one where nothing was done.
    opened : frozenset of int
        Cylinders that were apart: what gauges and borescope said of them is of the past.
    examined : frozenset of int
        Cylinders that were looked at as they were found, or since.
    """
    raised = odds_of(known)
    again = {one.number for one in heard.cylinders}
    carried = [
        _carried(first, at, leaves(cylinder), anew=TURNED if cylinder in again else 0.0)
        for at, cylinder in enumerate(first.arranged.cylinders)
    ]
    second = Second(
        heard=heard,
        known=list(known),
        carried=carried,
        situations=_situations(first, leaves_shared, raised),
        pairs=_pairs(first, leaves),
        shifts=first.shifts,
        worn=first.worn,
        nodes=first.problem.level.log_level if first.readings else None,
        level=first.solution.level,
        recorded=frozenset(
            cylinder
            for at, cylinder in enumerate(first.arranged.cylinders)
            if first.problem.words[at].findings or first.gauged_of(cylinder)
        ),
        examined=examined,
        seen={
            cylinder: _seen(first, cylinder, apart=cylinder in opened)
            for cylinder in first.arranged.cylinders
        },
    )
    return Model.of(document, second)


def _seen(first: Model, cylinder: int, *, apart: bool) -> frozenset[str]:
    words = first.problem.words[first.index(cylinder)]
    channels = {one.channel for one in words.findings}
    if apart:
        return frozenset(one for one in channels if not one.startswith("borescope/"))
    return frozenset(channels | {one.kind for one in first.gauged_of(cylinder)})


def _carried(first: Model, at: int, leaves: Mapping[str, float], *, anew: float) -> Carried:
    belief, words = first.solution.beliefs[at], first.problem.words[at]
    states = words.tables.states
    believed = (belief.mechanical, belief.running, belief.plug)
    groups = {
        group: (1 - anew) * _moved(group, posterior, leaves)
        + anew * group.prior(tuple(sorted(words.odds.items())))
        for group, posterior in zip(states.groups, believed, strict=True)
    }
    seal = float(words.seal_probability(belief.posterior @ states.chamber_oil))
    return Carried(groups, seal * leaves.get(WELL_SEAL, 1.0))


def _moved(group: Group, posterior: Vector, leaves: Mapping[str, float]) -> Vector:
    """The posterior of every combination, moved to the one without what was put right."""
    found = posterior.copy()
    place = {combination: at for at, combination in enumerate(group.combinations)}
    for fault, share in leaves.items():
        if fault not in group.faults:
            continue
        for at, combination in enumerate(group.combinations):
            if fault in combination:
                found[place[combination - {fault}]] += (1 - share) * found[at]
                found[at] *= share
    return found


def _situations(
    first: Model, leaves_shared: LeavesShared, raised: Mapping[str, float]
) -> Situations:
    """What may be shared, with its posterior moved, then raised by what the complaint did."""
    plain, weight = first.situations, first.solution.situation.copy()
    place = {frozenset(members): at for at, members in enumerate(plain.members)}
    for shared in plain.alone:
        share = leaves_shared(shared)
        if share >= 1:
            continue
        for at, members in enumerate(plain.members):
            if shared in members:
                weight[place[frozenset(members) - {shared}]] += (1 - share) * weight[at]
                weight[at] *= share
    odds = [
        sum(float(np.log(raised.get(shared.fault, 1.0))) for shared in members)
        for members in plain.members
    ]
    log_prior = np.log(np.maximum(weight, NEVER)) + np.array(odds)
    return replace(plain, log_prior=log_prior - np.logaddexp.reduce(log_prior))


def _pairs(first: Model, leaves: Leaves) -> dict[tuple[int, int], Vector]:
    """Of every gasket between neighbours its posterior, less a gasket that was renewed."""
    cylinders = first.arranged.cylinders
    found = {}
    for (left, right), posterior in first.solution.pair.items():
        share = min(leaves(cylinders[at]).get("head-gasket-between", 1.0) for at in (left, right))
        moved = posterior * share
        moved[0] += 1 - moved.sum()
        found[left, right] = moved
    return found
