"""The log of an inspection: what stands where people said different things without knowing it.

A row supersedes what its author knew: every earlier row up to the sequence that was *seen* where it
was made, and whatever the same person said before on the same device: by the order in which it was
said there, not in which it arrived. What nobody has superseded are the *heads* of a place; heads
that differ are a conflict, and it ends only by a row that knew them all. So any number of devices
may write without a network, in any order of arrival.

To take something back never wins over what it did not know: such a row is *held*. It stays in the
log and does not count, until somebody who saw both says it once more. So a test that one device
removes keeps the reading that another had added meanwhile. Held is also what arrives after a later
word of the same person on the same device; where a person sent it *again*, both stand open.

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
    knows those before it: of a lesser `order`, where the device counted, else those that arrived.
    """

    sequence: int
    place: str
    value: Any = None
    author: str | None = None
    device: str | None = None
    seen: int | None = None
    held: bool = False
    keeps: bool = False
    order: int | None = None

    def knew(self, other: Row) -> bool:
        """Whether whoever said this knew of a row that arrived before it."""
        if self.seen is None or other.sequence <= self.seen:
            return True
        return self._same_stream(other) and not other.overtook(self)

    def overtook(self, later: Row) -> bool:
        """Whether this was said after a row of the same stream that arrived later."""
        if self.order is None or later.order is None or not self._same_stream(later):
            return False
        return self.order > later.order

    def _same_stream(self, other: Row) -> bool:
        return (
            self.device is not None and self.device == other.device and self.author == other.author
        )

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
    before: list[Row] = []
    standing: list[Row] = []
    for row in rows:
        if not any(one.overtook(row) for one in before):
            standing = [*(one for one in standing if not row.knew(one)), row]
        before.append(row)
    return standing


def inside(place: str, outer: str) -> bool:
    """Whether a place is part of another, or that place itself."""
    return place == outer or place.startswith(f"{outer}/")


def judged(
    fresh: Row, known: Sequence[Row], *, again: bool = False
) -> tuple[Row, set[int], list[Conflict]]:
    """What becomes of a row that is added to a log, given what it may not have known.

    Parameters
    ----------
    fresh : Row
        The row to be added; it has its sequence already.
    known : sequence of Row
        Every row of a greater sequence than `fresh.seen` at its place, within it or around it.
    again : bool
        A person sent it once more, after it had been refused.

    Returns
    -------
    row : Row
        As it is to be added: held, if it takes back what it did not know, or was overtaken.
    released : set of int
        Sequences of earlier rows that are to be held because of this one.
    conflicts : list of Conflict
        What now stands open at the place, or at what it is a part of.
    """
    if fresh.keeps:
        return fresh, set(), []
    rows = [row for row in known if not row.keeps]
    beyond = [row for row in rows if inside(fresh.place, row.place) and row.overtook(fresh)]
    if any(row.place == fresh.place for row in beyond) or (beyond and not again):
        return _overtaken(fresh, rows, again=again)
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


def _overtaken(
    fresh: Row, rows: Sequence[Row], *, again: bool
) -> tuple[Row, set[int], list[Conflict]]:
    """What becomes of a row that the same hand has gone beyond before it arrived.

    Held without a conflict it opens nothing and ends nothing.
    """
    held = replace(fresh, held=True)
    standing = heads(row for row in rows if row.place == fresh.place)
    if again and any(row.value != fresh.value for row in standing):
        return held, set(), [Conflict(fresh.place, (*reversed(standing), held))]
    return held, set(), []


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
