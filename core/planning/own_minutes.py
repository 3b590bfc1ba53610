"""How long each step took on this engine, by when its entries were made."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from itertools import pairwise
from statistics import median

from core.knowledge import knowledge

LONGEST_PAUSE_S = 600.0  # Who makes no entry for longer did something else.
LEAST_ENTRIES = 4  # Of a step at one inspection: fewer tell nothing of its time.
OF_ONE = re.compile(r"/(cylinders|tests/(?:compression|leakdown)|tests/\w+|\w+/cylinders)/[^/]+")

Made = tuple[str, datetime]  # The path of an entry, and when it was made.


def own_minutes(inspections: Iterable[Sequence[Made]]) -> dict[str, float]:
    """The usual time of each step that was timed. [min]

    Parameters
    ----------
    inspections : iterable of sequences of (path, when)
        The entries of each of the engine's earlier inspections, in the order in which they were
        made; those without a time left out.
    """
    timed: dict[str, list[float]] = defaultdict(list)
    for entries in inspections:
        for step, seconds in _of_one(entries).items():
            timed[step].append(seconds / 60)
    return {step: round(median(minutes), 1) for step, minutes in timed.items()}


def _of_one(entries: Sequence[Made]) -> dict[str, float]:
    """Seconds that each step took at one inspection: from entry to entry, without the pauses."""
    spent: dict[str, list[float]] = defaultdict(list)
    for (_, before), (path, made) in pairwise(entries):
        passed = (made - before).total_seconds()
        for step in _steps_of(path) if 0 <= passed <= LONGEST_PAUSE_S else ():
            spent[step].append(passed)
    return {step: sum(them) for step, them in spent.items() if len(them) >= LEAST_ENTRIES}


def _steps_of(path: str) -> list[str]:
    """The steps of the plan that an entry is a record of."""
    place = OF_ONE.sub(r"/\1", path).removeprefix("/")
    return [step["id"] for step in knowledge().plan["step"] if _records(step, place)]


def _records(step: Mapping[str, str], place: str) -> bool:
    head, _, fields = step.get("records", "").partition("/")
    if head in ("refit", "proof"):
        head = f"{head}/cylinders"
    return any(
        place == f"{head}/{field}" or place.startswith(f"{head}/{field}/")
        for field in fields.split("|")
        if field
    )
