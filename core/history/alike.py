"""The same fault on several engines of one kind: what one of them had, the others may come to."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

from core.document.records import Engine
from core.history.over_time import Visit
from core.language import say, word_said

Name = TypeVar("Name", bound=Hashable)
NAMED_FROM = 0.5  # Likelier than not; what was found when it was opened counts as it is.
LEAST_ENGINES = 2


@dataclass(frozen=True)
class SameFault(Generic[Name]):
    """A fault that several engines of one kind had.

    Attributes
    ----------
    kind : str
        What the engines have in common, in words.
    fault : str
    engines : those that had it, in the order in which they were given.
    cylinder : int or None
        Where it was the same cylinder on all of them.
    of : int
        How many engines of that kind there are.
    """

    kind: str
    fault: str
    engines: tuple[Name, ...]
    cylinder: int | None
    of: int


def same_faults(engines: Iterable[tuple[Name, Sequence[Visit]]]) -> list[SameFault[Name]]:
    """Faults that at least two engines of one kind had, what most of them had first.

    Parameters
    ----------
    engines : iterable of (name, its inspections in the order of their dates)
        Engines of one kind are built alike: cycle, cylinders and how they stand, fuel, ignition,
        cooling, aspiration.
    """
    kinds: dict[Hashable, list[tuple[Name, dict[str, set[int]]]]] = {}
    told: dict[Hashable, str] = {}
    for name, visits in engines:
        if visits:
            newest = visits[-1].document.engine
            told[_kind(newest)] = _told(newest)
            kinds.setdefault(_kind(newest), []).append((name, _had(visits)))
    found = [one for kind, members in kinds.items() for one in _of_kind(told[kind], members)]
    return sorted(found, key=lambda one: (-len(one.engines) / one.of, one.kind, one.fault))


def _kind(engine: Engine) -> Hashable:
    return (
        engine.cycle, engine.layout, engine.cylinders, engine.fuel_system, engine.ignition,
        engine.cooling, engine.aspiration,
    )  # fmt: skip


def _told(engine: Engine) -> str:
    count = (
        say("1 cylinder")
        if engine.cylinders == 1
        else say("{cylinders} cylinders", cylinders=engine.cylinders)
    )
    parts = [f"{engine.cycle} {engine.layout}, {count}"]
    parts += (
        [say("fuel: {fuel_system}", fuel_system=word_said(engine.fuel_system))]
        if engine.fuel_system
        else []
    )
    parts += (
        [say("spark: {ignition}", ignition=word_said(engine.ignition))] if engine.ignition else []
    )
    parts += (
        [say("cooled by {cooling}", cooling=word_said(engine.cooling))] if engine.cooling else []
    )
    parts += ["boosted"] if engine.aspiration == "boosted" else []
    return ", ".join(parts)


def _had(visits: Sequence[Visit]) -> dict[str, set[int]]:
    """The faults that an engine had at any inspection, with their cylinders."""
    had: dict[str, set[int]] = {}
    for visit in visits:
        for cylinder, fault in _named(visit):
            had.setdefault(fault, set()).add(cylinder)
    return had


def _named(visit: Visit) -> Iterator[tuple[int, str]]:
    known = visit.document.outcome.settled
    for said in visit.assessment.cylinders:
        likely = (one.fault for one in said.faults if one.probability >= NAMED_FROM)
        yield from ((said.number, fault) for fault in known.get(said.number, likely))


def _of_kind(
    kind: str, members: list[tuple[Name, dict[str, set[int]]]]
) -> Iterator[SameFault[Name]]:
    for fault in sorted({fault for _, had in members for fault in had}):
        those = [(name, had[fault]) for name, had in members if fault in had]
        if len(those) >= LEAST_ENGINES:
            common = set.intersection(*(cylinders for _, cylinders in those))
            same = min(common) if len(common) == 1 else None
            yield SameFault(kind, fault, tuple(name for name, _ in those), same, len(members))
