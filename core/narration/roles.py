"""Which figures of a run name a cylinder, and which say something of one.

Every way in which the run can be read is scored, with every way to part it into names and values;
the best stands. Two that are as good and say different things are a matter to ask back.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from core.narration.numbers import Number, readings

MARKED, MEASURED, FITS, BARE = 6.0, 5.0, 2.0, 1.0
MISFIT = -6.0
A_FIGURE = -0.6  # The fewer figures the better,
FEWER = 1.5  # and above all the fewer values.
KINDS = {"plain": 0.0, "said-short": -0.1, "digits": -0.4, "decimal": -0.5}
MOST_NAMES = 24
MARGIN = 0.35  # By less than this the second best is as good.


@dataclass(frozen=True)
class Around:
    """What stands around a run, as far as it decides what its figures are.

    Attributes
    ----------
    marked : bool
        A name stands before it: number, cylinder, plug.
    near : bool
        Behind "on", "of" and the like.
    owns : bool
        Its last word is followed by 's.
    unit : bool
        A unit stands behind it.
    measured : bool
        What is measured was named before it.
    opens : bool
        It opens its clause.
    alone : bool
        Its clause holds nothing else.
    speaks : bool
        A word that says something follows in its clause.
    awaited : bool
        Somebody was named of whom nothing was said yet.
    joined : bool
        By "and" to a clause that named somebody and said nothing.
    followed : bool
        The next clause begins with a figure.
    within : tuple of int
        The group that was named before it.
    counts : bool
        Something is counted by cylinder: first whose, then how many.
    """

    marked: bool = False
    near: bool = False
    owns: bool = False
    unit: bool = False
    measured: bool = False
    opens: bool = False
    alone: bool = False
    speaks: bool = False
    awaited: bool = False
    joined: bool = False
    followed: bool = False
    within: tuple[int, ...] = ()
    counts: bool = False


@dataclass(frozen=True)
class Roles:
    """The figures of a run: those who are named, first, and what is said."""

    names: tuple[int, ...]
    figures: tuple[Number, ...]
    score: float
    doubtful: bool = False


def roles(
    run: tuple[str, ...],
    around: Around,
    names: Callable[[float], bool],
    fits: Callable[[Number], float],
) -> Roles:
    """The best reading of a run.

    Parameters
    ----------
    run : tuple of str
    around : Around
    names : callable
        Whether a value is a cylinder's number.
    fits : callable
        How well a figure suits what is measured here: below nothing where it cannot be.
    """
    found: dict[tuple[tuple[int, ...], tuple[float, ...]], Roles] = {}
    for numbers in readings(run):
        for count in range(min(len(numbers), MOST_NAMES) + 1):  # First whose, then what.
            named = [at < count for at in range(len(numbers))]
            one = _scored(numbers, named, around, names, fits)
            if one is None:
                continue
            key = one.names, tuple(figure.value for figure in one.figures)
            if key not in found or found[key].score < one.score:
                found[key] = one
    ranked = sorted(found.values(), key=lambda one: -one.score)
    if not ranked:
        return Roles((), (), MISFIT)
    best = ranked[0]
    if len(ranked) > 1 and best.score - ranked[1].score < MARGIN and best.score > 0:
        return Roles(best.names, best.figures, best.score, doubtful=True)
    return best


def _scored(
    numbers: Sequence[Number],
    named: Sequence[bool],
    around: Around,
    names: Callable[[float], bool],
    fits: Callable[[Number], float],
) -> Roles | None:
    if any(
        is_name and not _can_name(one, names) for one, is_name in zip(numbers, named, strict=True)
    ):
        return None
    score = sum(A_FIGURE + KINDS[one.kind] for one in numbers)
    score += _as_placed(named, around)
    figures = [one for one, is_name in zip(numbers, named, strict=True) if not is_name]
    if figures:
        score += sum(fits(one) for one in figures) / len(figures) - FEWER * (len(figures) - 1)
    own = tuple(int(one.value) for one, is_name in zip(numbers, named, strict=True) if is_name)
    if list(own) != sorted(set(own)) and len(own) > 1:
        score += MISFIT
    if own and set(own) < set(around.within):
        score += FITS  # The right bank, two and four.
    if len(own) > 2 and own == tuple(range(own[0], own[-1] + 1)):
        score += len(own)  # One two three.
    return Roles(own, tuple(figures), score)


def _can_name(one: Number, names: Callable[[float], bool]) -> bool:
    return one.kind == "plain" and names(one.value)


def _as_placed(named: Sequence[bool], around: Around) -> float:
    """What the place of a run says of its first and its last figure."""
    first, last, several = named[0], named[-1], len(named) > 1
    score = 0.0
    if around.marked or around.near:
        score += (MARKED if around.marked else FITS + BARE) * (1 if first else -1)
    if around.counts and several and not around.awaited:
        score += FITS * (2 if first else -1)
    if around.owns:
        score += MARKED * (1 if last else -1)
    if (
        around.awaited
        and first
        and several
        and not (around.marked or around.near or around.owns or around.joined)
    ):
        score -= FITS  # Somebody was named already.
    if around.unit:
        score += MEASURED * (-1 if last else 1)
    elif around.measured and not around.marked and not around.near:
        score += FITS if not last else 0
    if around.speaks and around.opens and not around.unit:
        score += FITS * (1 if last else -1) * (0 if around.measured and several else 1)
    listed = around.joined and not around.unit
    opens = around.alone and around.followed and not around.awaited and not several
    if listed or opens:
        score += FITS * (1 if first else -1)
    elif around.alone and not around.marked:
        awaited = around.awaited and not several
        if first:
            score += BARE * (-1 if around.awaited else not several)
        score += BARE if awaited and not last else 0
    return score
