"""Claims that a rule makes by itself: the house's deciding schools, and several times its peers.

A school judges what was read and not set aside; what it fails is at least watched, run and read
again, however the model explains it.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from statistics import median

from core.assessment import SchoolVerdict
from core.hidden.states import LEAKING
from core.judgement.claims import GASKET, Claim, base_of
from core.judgement.degree import degree_of, figure_of
from core.judgement.material import Material
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.language import say


def by_rule(
    material: Material,
    compression: Sequence[SchoolVerdict],
    leakdown: Sequence[SchoolVerdict],
    claimed: Collection[int],
) -> Iterator[Claim]:
    """What fails a deciding school, and what loses several times what its peers lose.

    Parameters
    ----------
    material : Material
    compression, leakdown : sequence of SchoolVerdict
    claimed : collection of int
        Cylinders of which a leak is claimed already: the schools say the same of them.
    """
    failed: dict[int, list[str]] = {}
    for rules in (compression, leakdown):
        for school in rules:
            for number in school.failing if school.decides else ():
                failed.setdefault(number, []).append(school.label)
    for number in _past_peers(material):
        failed.setdefault(number, []).append(say("several times what its fellows lose"))
    fine = [number for number in material.cylinders if number not in failed]
    alike: dict[tuple[str, ...], list[int]] = {}
    for number in sorted(failed.keys() - set(claimed)):
        alike.setdefault(tuple(failed[number]), []).append(number)
    for rules_failed, numbers in alike.items():
        yield _claim(material, tuple(numbers), rules_failed, fine)


def _claim(
    material: Material, numbers: tuple[int, ...], failed: Sequence[str], fine: Sequence[int]
) -> Claim:
    chance = max(material.posterior.loses(number) for number in numbers)
    rules = "; ".join(failed)
    label = say("past the limit of this house ({rules}): run it and read it again", rules=rules)
    if chance < knowledge().suspected_from:
        label = say("{label}, though the readings taken together do not bear it out", label=label)
    first = numbers[0]
    return Claim(
        about="rule",
        cylinders=numbers,
        label=label,
        basis="rule",
        probability=chance,
        base=base_of([one for one in LEAKING if one in material.posterior.marginal(first)]),
        grade="C",
        faults=_leaks(material, first),
        degree=degree_of(material.model, first),
        figure=figure_of(material.model, numbers, fine, material.unit),
        settles="compression" if set(numbers) <= material.lost.keys() else "leakdown",
        explains=(*LEAKING, GASKET),
    )


def _leaks(material: Material, number: int) -> tuple[str, ...]:
    chances = material.posterior.marginal(number)
    own = [one for one in LEAKING if one in chances]
    return tuple(sorted(own, key=lambda one: (-chances[one], one))[:2])


def _past_peers(material: Material) -> list[int]:
    """Cylinders that lose several times what the others do, whatever the tester and the size."""
    rule = case_tables().acceptance
    lost = material.lost
    if len(lost) <= rule.least_peers:
        return []
    found = []
    for number, own in lost.items():
        usual = median(one for at, one in lost.items() if at != number)
        if own >= rule.peers_factor * usual and own >= usual + rule.peers_percent:
            found.append(number)
    return found
