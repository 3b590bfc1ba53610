"""What inspections are found by: words, suspected faults, grade, date, inspector."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import TYPE_CHECKING, Any
from uuid import UUID

from django.db.models import QuerySet

from core.document.texts import texts
from core.knowledge import knowledge

if TYPE_CHECKING:
    from server.inspections.models import Inspection


MOST_WORDS = 20_000  # Of one inspection: who writes more is found by the beginning of it.
DUE_ORDER = ("follow_up", "id")


def words(inspection: Inspection) -> str:
    """The text that a search looks through."""
    engine, by = inspection.engine, inspection.opened_by
    named = [engine.title, engine.identifier, by.name if by else ""]
    return " ".join([*named, *texts(inspection.document)]).lower()[:MOST_WORDS]


def suspected(assessment: Mapping[str, Any]) -> list[str]:
    """Ids of all faults that are suspected anywhere on the engine."""
    listed = [
        *assessment["engine"]["faults"],
        *assessment["pairs"],
        *(fault for one in assessment["cylinders"] for fault in one["faults"]),
        *(fault for bank in assessment["banks"] for fault in bank["faults"]),
    ]
    least = knowledge().suspected_from
    return sorted({one["fault"] for one in listed if one["probability"] >= least})


def found(
    rows: QuerySet[Inspection],
    *,
    q: str = "",
    fault: str = "",
    grade: str = "",
    inspector: UUID | None = None,
    since: date | None = None,
    until: date | None = None,
    engine: UUID | None = None,
    due: bool = False,
) -> QuerySet[Inspection]:
    """Those of some inspections that fit everything asked for; every word of `q` must occur.

    With `due`, those that somebody is to look at again, the earliest first.
    """
    if due:
        rows = rows.filter(follow_up__isnull=False).order_by(*DUE_ORDER)
    for word in q.lower().split():
        rows = rows.filter(words__contains=word)
    exact = {
        "grade": grade,
        "opened_by_id": inspector,
        "engine_id": engine,
        "date__gte": since,
        "date__lte": until,
    }
    rows = rows.filter(**{name: value for name, value in exact.items() if value})
    return rows.filter(suspected__contains=[fault]) if fault else rows
