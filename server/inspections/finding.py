"""What inspections are found by: words, suspected faults, grade, date, inspector."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from enum import StrEnum
from typing import TYPE_CHECKING, Any
from uuid import UUID

from django.db.models import Case, QuerySet, When

from core.document.texts import texts

if TYPE_CHECKING:
    from server.inspections.models import Inspection


MOST_WORDS = 20_000  # Of one inspection: who writes more is found by the beginning of it.
NEWEST = ("-date", "-opened", "id")
WORST = "EDCBAU"  # Grades, the worst first; what was not graded says nothing.


class Order(StrEnum):
    """How a list may be ordered; what is alike stands newest first."""

    NEWEST = "newest"
    OLDEST = "oldest"
    WORST = "worst"
    ENGINE = "engine"
    CHANGED = "changed"
    DUE = "due"


def ordered(rows: QuerySet[Inspection], order: Order) -> QuerySet[Inspection]:
    """Some inspections in an order."""
    if order is Order.OLDEST:
        return rows.order_by("date", "opened", "id")
    if order is Order.ENGINE:
        return rows.order_by("engine__title", "engine_id", *NEWEST)
    if order is Order.CHANGED:
        return rows.order_by("-changed", "id")
    if order is Order.DUE:
        return rows.order_by("follow_up", "id")
    if order is Order.WORST:
        stands = [When(grade=grade, then=place) for place, grade in enumerate(WORST)]
        return rows.order_by(Case(*stands, default=len(WORST)), *NEWEST)
    return rows.order_by(*NEWEST)


def words(inspection: Inspection) -> str:
    """The text that a search looks through."""
    engine, by = inspection.engine, inspection.opened_by
    named = [engine.title, engine.identifier, by.name if by else ""]
    return " ".join([*named, *texts(inspection.document)]).lower()[:MOST_WORDS]


def suspected(assessment: Mapping[str, Any]) -> list[str]:
    """Ids of all faults that are claimed anywhere on the engine, for certain or as suspected."""
    return sorted({fault for one in assessment["engine"]["claims"] for fault in one["faults"]})


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

    With `due`, those that somebody is to look at again.
    """
    if due:
        rows = rows.filter(follow_up__isnull=False)
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
