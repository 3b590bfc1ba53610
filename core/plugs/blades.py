"""Feeler blades: which of those at hand add up to a gap.

Worked in whole numbers of a common part of a millimetre, so that the error shown is exact.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import combinations
from math import lcm

from core.errors import OutOfRange
from core.language import say
from core.quantities import Figure

MM_PER_UNIT = {"mm": Fraction(1), "in": Fraction(254, 10), "thou": Fraction(254, 10_000)}
MOST_BLADES = 60


@dataclass(frozen=True)
class Stack:
    """One, two or three blades laid together, by their places in the list.

    Attributes
    ----------
    total_mm, error_mm : Fraction
        Exact; the error is total less target. [mm]
    """

    blades: tuple[int, ...]
    total_mm: Fraction
    error_mm: Fraction


def exact_mm(raw: Figure) -> Fraction:
    """A length exactly as it is written: 0.1 mm is one tenth. [mm]"""
    return Fraction(str(raw.value)) * MM_PER_UNIT[raw.unit]


def stacks(target_mm: Fraction, blades_mm: Sequence[Fraction], most: int = 3) -> list[Stack]:
    """Every stack of at most so many blades, the nearest to the target first.

    Of two that come equally near, the one of fewer blades is better, for each blade adds its own
    film of oil and its own bend; then the one without a flimsy blade.

    Parameters
    ----------
    target_mm : Fraction
        What they should add up to. [mm]
    blades_mm : sequence of Fraction
        The blades at hand, each usable once. [mm]
    most : int
        Blades in a stack, 1 to 3. [-]

    Returns
    -------
    list of Stack

    Raises
    ------
    OutOfRange
        If there is no blade, too many to try, or `most` is none of 1, 2, 3.
    """
    if not 1 <= most <= 3:
        raise OutOfRange("most", most, say("1, 2 or 3"))
    if not 1 <= len(blades_mm) <= MOST_BLADES:
        raise OutOfRange("blades", len(blades_mm), say("from 1 to {most} blades", most=MOST_BLADES))
    parts = lcm(target_mm.denominator, *(one.denominator for one in blades_mm))
    target = int(target_mm * parts)
    thickness = [int(one * parts) for one in blades_mm]
    ranked = sorted(
        (
            abs(sum(thickness[at] for at in places) - target),
            count,
            -min(thickness[at] for at in places),
            places,
        )
        for count in range(1, most + 1)
        for places in combinations(range(len(thickness)), count)
    )
    made = []
    for *_, places in ranked:
        total = Fraction(sum(thickness[at] for at in places), parts)
        made.append(Stack(places, total, total - target_mm))
    return made
