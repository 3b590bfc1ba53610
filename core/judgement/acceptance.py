"""Claims that a rule makes by itself: the house's deciding schools, and several times its peers.

A school judges what was read and not set aside; what it fails is at least watched, run and read
again, however the model explains it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from statistics import median

from core.assessment import SchoolVerdict
from core.hidden.states import LEAKING
from core.judgement.claims import GASKET, Claim, base_of
from core.judgement.degree import degree_of, figure_of
from core.judgement.material import Material
from core.knowledge.case import case_tables
from core.language import say


def by_rule(
    material: Material, compression: Sequence[SchoolVerdict], leakdown: Sequence[SchoolVerdict]
) -> Iterator[Claim]:
    """What fails a deciding school, and what loses several times what its peers lose."""
    failed: dict[int, list[str]] = {}
    for rules in (compression, leakdown):
        for school in rules:
            for number in school.failing if school.decides else ():
                failed.setdefault(number, []).append(school.label)
    for number in _past_peers(material):
        failed.setdefault(number, []).append(say("several times what its fellows lose"))
    fine = [number for number in material.cylinders if number not in failed]
    for number in sorted(failed):
        yield _claim(material, number, failed[number], fine)


def _claim(material: Material, number: int, failed: Sequence[str], fine: Sequence[int]) -> Claim:
    chance = material.posterior.loses(number)
    return Claim(
        about="rule",
        cylinders=(number,),
        label=say("past the limit of this house ({rules}): run it and read it again",
                  rules="; ".join(failed)),
        basis="rule",
        probability=chance,
        base=base_of([one for one in LEAKING if one in material.posterior.marginal(number)]),
        grade="C",
        faults=_leaks(material, number),
        degree=degree_of(material.model, number),
        figure=figure_of(material.model, number, fine, material.unit),
        settles="leakdown" if number not in material.lost else "compression",
        explains=(*LEAKING, GASKET),
    )  # fmt: skip


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
