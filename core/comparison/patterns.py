"""What odd cylinders have in common: a place on the engine says what to look at first."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from core.document.records import Engine
from core.engine.layout import arrangement
from core.engine.sharing import coil_groups, feed_groups
from core.language import say


def pattern(engine: Engine, odd: Collection[int]) -> str:
    """The pattern that odd cylinders make, in words; empty where none is odd.

    Parameters
    ----------
    engine : Engine
    odd : collection of int
        The cylinders that stand out.
    """
    arranged = arrangement(engine)
    found = frozenset(odd)
    if not found:
        return ""
    if len(found) == len(arranged.cylinders) > 1:
        return say("all of them: what they share, or the test")
    if len(found) == 1:
        return say("{found} alone", found=min(found))
    for bank in arranged.banks:
        if len(arranged.banks) > 1 and found == set(bank.cylinders):
            return say("the whole bank {name}", name=bank.name)
    for shared in (*coil_groups(engine), *feed_groups(engine)):
        if found == set(shared.cylinders):
            return say("all of the {name}", name=shared.said)
    if _in_a_row(found, arranged.neighbours):
        return say("neighbours: {found}", found=_listed(found))
    ends = _ends(arranged.neighbours)
    if len(found) == 2 and found <= ends and len(arranged.cylinders) > 3:
        return say("the ends of the row: {found}", found=_listed(found))
    return say("{found}, with no place in common", found=_listed(found))


def split(engine: Engine, values: Mapping[int, float], least: float) -> str:
    """Whether all figures of one bank, carburettor or coil lie apart from all others; else empty.

    Parameters
    ----------
    engine : Engine
    values : mapping of cylinder to figure
    least : float
        Share of the others' nearest figure by which they have to lie apart. [-]
    """
    banks = [
        (say("the whole bank {name}", name=bank.name), bank.cylinders)
        for bank in arrangement(engine).banks
    ]
    parts = (*feed_groups(engine), *coil_groups(engine))
    for name, cylinders in [
        *banks,
        *((say("all of the {name}", name=one.said), one.cylinders) for one in parts),
    ]:
        own = [value for number, value in values.items() if number in cylinders]
        others = [value for number, value in values.items() if number not in cylinders]
        if len(own) < 2 or len(others) < 2:
            continue
        if max(own) < min(others) * (1 - least):
            return say("{name} lies under the others", name=name)
        if min(own) > max(others) * (1 + least):
            return say("{name} lies over the others", name=name)
    return ""


def _in_a_row(found: frozenset[int], neighbours: Collection[tuple[int, int]]) -> bool:
    """Whether neighbours join all of them: a chain has one link less than members."""
    return sum(left in found and right in found for left, right in neighbours) == len(found) - 1


def _ends(neighbours: Collection[tuple[int, int]]) -> set[int]:
    linked = [number for pair in neighbours for number in pair]
    return {number for number in linked if linked.count(number) == 1}


def _listed(numbers: Collection[int]) -> str:
    return ", ".join(str(number) for number in sorted(numbers))
