"""What was claimed beside what was found, as a table."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from core.learning.track_record import Scored, scored
from server.inspections.models import Inspection

HEAD = ["inspection", "date", "cylinder", "guess", "probability", "found", "hit", "inspector_hit"]


def record_rows(inspections: Iterable[Inspection]) -> Iterator[list[Any]]:
    """One row a cylinder whose outcome is known, after the heading."""
    yield HEAD
    for inspection in inspections:
        for one in scored(inspection.document, inspection.assessment):
            yield record_row(inspection, one)


def record_row(inspection: Inspection, one: Scored) -> list[Any]:
    found = " ".join(one.found) or "nothing"
    mine = "" if one.inspector_hit is None else one.inspector_hit
    row = [inspection.pk, inspection.date, one.cylinder, one.guess, one.probability]
    return [*row, found, one.hit, mine]
