"""What odd cylinders have in common: a place on the engine says what to look at first."""

from __future__ import annotations

from collections.abc import Collection

from core.document.records import Engine
from core.engine.layout import arrangement
from core.engine.sharing import coil_groups, feed_groups


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
        return "all of them: what they share, or the test"
    if len(found) == 1:
        return f"{min(found)} alone"
    for bank in arranged.banks:
        if len(arranged.banks) > 1 and found == set(bank.cylinders):
            return f"the whole bank {bank.name}"
    for shared in (*coil_groups(engine), *feed_groups(engine)):
        if found == set(shared.cylinders):
            return f"all of the {shared.name}"
    if _in_a_row(found, arranged.neighbours):
        return f"neighbours: {_listed(found)}"
    ends = _ends(arranged.neighbours)
    if len(found) == 2 and found <= ends and len(arranged.cylinders) > 3:
        return f"the ends of the row: {_listed(found)}"
    return f"{_listed(found)}, with no place in common"


def _in_a_row(found: frozenset[int], neighbours: Collection[tuple[int, int]]) -> bool:
    """Whether neighbours join all of them: a chain has one link less than members."""
    return sum(left in found and right in found for left, right in neighbours) == len(found) - 1


def _ends(neighbours: Collection[tuple[int, int]]) -> set[int]:
    linked = [number for pair in neighbours for number in pair]
    return {number for number in linked if linked.count(number) == 1}


def _listed(numbers: Collection[int]) -> str:
    return ", ".join(str(number) for number in sorted(numbers))
