"""House odds: what a shop's own outcomes say of how common each fault is among its engines.

Outcomes are known of engines that were opened, which are worse than others. So they are not counted
against how common a fault is, but against what was claimed: a fault that was found more often than
the claims add up to is commoner here than the tables say. The ratio has a gamma prior around one,
conjugate to the Poisson count of what was found (Gelman et al., Bayesian Data Analysis, 3rd ed.,
section 2.6, "exposure" being the sum of the claims; from memory). A fault counts wherever it sits,
on a cylinder, between two or on all of them: it has one factor.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from core.assessment import Assessment
from core.document.records import Document
from core.knowledge import knowledge

PRIOR_COUNT = 5.0  # As many events as it takes to move the ratio half way; memory.
LEAST_PLACES = 60
NOTHING_TO_FIND = "none"  # How a test was run shows in no part.
LEAST_EVENTS = 5.0  # Claimed or found.
# A change this large is worth a rule; a smaller one where chance would hardly make it.
WORTH, LEAST_WORTH = 1.25, 1.05
BY_CHANCE = 2.0  # Standard errors of a Poisson count.
LEAST_FACTOR, MOST_FACTOR = 0.2, 5.0


@dataclass(frozen=True)
class Tally:
    """One fault on one cylinder, or all, of one kind of engine: the claim, and what it was."""

    cycle: str
    fault: str
    claimed: float
    found: bool


@dataclass(frozen=True)
class Proposal:
    """Odds of its own that a shop may put in force.

    Attributes
    ----------
    places : how many cylinders, pairs and engines the claims were made of.
    claimed, found : what the claims add up to, and how often it was.
    factor : on the odds that are in force now.
    before, after : the chance of the fault before anything is seen, now and then. [-]
    """

    cycle: str
    fault: str
    places: int
    claimed: float
    found: int
    factor: float
    before: float
    after: float


def tallies(checked: Mapping[str, Any], written: Mapping[str, Any]) -> Iterator[Tally]:
    """Of every cylinder whose outcome is known, each fault; of the engine, once all are known.

    Who names a fault of the engine and looked no further found one; those who found none seldom
    say so. Counted alone, the former would make every such fault seem common.
    """
    document, assessment = Document.of(checked), Assessment.of(written)
    cycle, known = document.engine.cycle, document.outcome.settled
    for one in assessment.cylinders:
        for fault in one.faults if one.number in known else ():
            found = fault.fault in known[one.number]
            yield Tally(cycle, fault.fault, fault.probability, found)
    for pair in assessment.pairs:
        if known.keys() >= set(pair.cylinders):
            found = all(pair.fault in known[number] for number in pair.cylinders)
            yield Tally(cycle, pair.fault, pair.probability, found)
    if known.keys() >= {one.number for one in assessment.cylinders}:
        for fault in assessment.engine.faults:
            if knowledge().fault(fault.fault, "engine").consequence == NOTHING_TO_FIND:
                continue
            found = fault.fault in document.outcome.engine_faults
            yield Tally(cycle, fault.fault, fault.probability, found)


def proposals(told: Iterable[Tally], in_force: Mapping[str, Mapping[str, float]]) -> list[Proposal]:
    """Odds worth putting in force, the largest change first; none before enough is known.

    Parameters
    ----------
    told : iterable of Tally
        Of inspections judged by the odds that are in force.
    in_force : mapping of cycle to mapping of fault to factor
        The house's odds of today.
    """
    by_fault: dict[tuple[str, str], list[Tally]] = {}
    for one in told:
        by_fault.setdefault((one.cycle, one.fault), []).append(one)
    found = [
        proposal
        for (cycle, fault), own in by_fault.items()
        if (proposal := _proposal(cycle, fault, own, in_force.get(cycle, {}))) is not None
    ]
    return sorted(found, key=lambda one: (-max(one.factor, 1 / one.factor), one.cycle, one.fault))


def _proposal(
    cycle: str, fault: str, own: list[Tally], in_force: Mapping[str, float]
) -> Proposal | None:
    claimed, found = sum(one.claimed for one in own), sum(one.found for one in own)
    if len(own) < LEAST_PLACES or max(claimed, found) < LEAST_EVENTS:
        return None
    now = in_force.get(fault, 1.0)
    ratio = (found + PRIOR_COUNT) / (claimed + PRIOR_COUNT)
    factor = min(max(now * ratio, LEAST_FACTOR), MOST_FACTOR)
    sure = abs(found - claimed) >= BY_CHANCE * claimed**0.5
    change = max(factor / now, now / factor)
    if change < (LEAST_WORTH if sure else WORTH):
        return None
    usual = next(one for one in knowledge().faults if one.id == fault)
    return Proposal(
        cycle,
        fault,
        len(own),
        round(claimed, 2),
        found,
        round(factor, 2),
        before=usual.chance({fault: now}),
        after=usual.chance({fault: factor}),
    )
