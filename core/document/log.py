"""The log of an inspection: what stands where people said different things without knowing it.

A row supersedes what its author knew: every earlier row up to the sequence that was *seen* where it
was made, and whatever the same person said before on the same device. What nobody has superseded
are the *heads* of a place; heads that differ are a conflict, and it ends only by a row that knew
them all. So any number of devices may write without a network, in any order of arrival.

To take something back never wins over what it did not know: such a row is *held*. It stays in the
log and does not count, until somebody who saw both says it once more. So a test that one device
removes keeps the reading that another had added meanwhile.

Places are paths by the cylinders' first numbers (`renumbering`), so that a row from before a
renumbering meets what was said of the same cylinder after it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Any

from core.document.observations import Observation, fold_onto
from core.document.renumbering import (
    NUMBERING,
    checked_numbering,
    moved_observation,
    moves,
    renumbered,
)


@dataclass(frozen=True)
class Row:
    """One row of a log.

    `seen` is None where whoever said it knew all there was. `keeps` rows change nothing: they say
    that what stands is to stand. `author` and `device` together make one stream, in which each row
    knows those before it.
    """

    sequence: int
    place: str
    value: Any = None
    author: str | None = None
    device: str | None = None
    seen: int | None = None
    held: bool = False
    keeps: bool = False

    def knew(self, earlier: Row) -> bool:
        """Whether whoever said this knew of an earlier row."""
        if self.seen is None or earlier.sequence <= self.seen:
            return True
        same_stream = self.author == earlier.author and self.device == earlier.device
        return same_stream and self.device is not None

    @property
    def takes_back(self) -> bool:
        return self.value is None and not self.keeps


@dataclass(frozen=True)
class Conflict:
    """Rows that did not know each other: of one place, or of a thing taken back and what is in it.

    The first row stands; whoever ends the conflict has to have seen `since`.
    """

    place: str
    rows: tuple[Row, ...]

    @property
    def since(self) -> int:
        return max(row.sequence for row in self.rows)


def heads(rows: Iterable[Row]) -> list[Row]:
    """The rows of one place, in order, that no later one knew of."""
    standing: list[Row] = []
    for row in rows:
        standing = [*(one for one in standing if not row.knew(one)), row]
    return standing


def inside(place: str, outer: str) -> bool:
    """Whether a place is part of another, or that place itself."""
    return place == outer or place.startswith(f"{outer}/")


def judged(fresh: Row, known: Sequence[Row]) -> tuple[Row, set[int], list[Conflict]]:
    """What becomes of a row that is added to a log, given what it may not have known.

    Parameters
    ----------
    fresh : Row
        The row to be added; it has its sequence already.
    known : sequence of Row
        Every row of a greater sequence than `fresh.seen` at its place, within it or around it.

    Returns
    -------
    row : Row
        As it is to be added: held, if it takes back what it did not know.
    released : set of int
        Sequences of earlier rows that are to be held because of this one.
    conflicts : list of Conflict
        What now stands open at the place, or at what it is a part of.
    """
    if fresh.keeps:
        return fresh, set(), []
    rows = [row for row in known if not row.keeps]
    if fresh.takes_back:
        within = sorted(
            (row for row in rows if inside(row.place, fresh.place)), key=lambda row: row.place
        )
        lost = [
            row
            for _, group in groupby(within, key=lambda row: row.place)
            for row in heads([*group, fresh])
            if row.value is not None
        ]
        if lost:
            held = replace(fresh, held=True)
            return held, set(), [Conflict(fresh.place, (*reversed(lost), held))]
        return fresh, set(), []
    conflicts = []
    around = [
        row
        for row in rows
        if row.takes_back
        and not fresh.knew(row)
        and row.place != fresh.place
        and inside(fresh.place, row.place)
    ]
    if around:
        outermost = replace(min(around, key=lambda row: len(row.place)), held=True)
        conflicts.append(Conflict(outermost.place, (fresh, outermost)))
    standing = heads([*(row for row in rows if row.place == fresh.place), fresh])
    if any(row.value != fresh.value for row in standing):
        others = [row for row in reversed(standing) if row is not fresh]
        conflicts.append(Conflict(fresh.place, (fresh, *others)))
    return fresh, {row.sequence for row in around if not row.held}, conflicts


def place_of(path: str, numbering: Sequence[int]) -> str:
    """The place of a path that is spelt in a numbering."""
    first = {number: one for number, one in enumerate(numbering, start=1) if number != one}
    return moved_observation(path, None, first)[0]


def followed(path: str, value: Any, before: Sequence[int], after: Sequence[int]) -> Observation:
    """An observation that was made in one numbering, as it reads in another."""
    return moved_observation(path, value, moves(before, after))


def replay(
    observations: Iterable[Observation],
    document: dict[str, Any] | None = None,
    numbering: Sequence[int] = (),
) -> tuple[dict[str, Any], list[int]]:
    """The document that the rows of a log make, and the numbering in the end; held rows left out.

    An earlier document, where one is given, is a canonical one.

    Raises
    ------
    CoreError
        If a path names no field of the contract, or a value does not suit its field.
    """
    folded: dict[str, Any] = document or {}
    now = list(numbering)
    pending: list[Observation] = []
    for path, value in observations:
        if path != NUMBERING:
            pending.append((path, value))
            continue
        folded = fold_onto(folded, pending)
        pending = []
        cylinders = folded["engine"]["cylinders"]
        after = checked_numbering(value, cylinders)
        before = now or list(range(1, cylinders + 1))
        folded = renumbered(folded, moves(before, after))
        now = after
    return fold_onto(folded, pending), now
