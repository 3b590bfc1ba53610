"""What is due across a shop's engines, as one list; the calendar reads it too."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.db.models import F, Window
from django.db.models.functions import RowNumber
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.assessment import Assessment
from core.document.records import Document
from core.history.due import Due, due
from core.history.over_time import Visit
from server.api.views import ShopView
from server.engines.models import Engine
from server.inspections.models import Inspection
from server.shops.models import User

DUE = ("again", "plugs", "gap", "watch")
MOST_ENGINES = 200
MOST_VISITS = 6  # Of one engine: enough to say how much it runs in a season.


@dataclass(frozen=True)
class EngineDue:
    """One thing that is due on one engine, with its newest inspection."""

    engine: Engine
    inspection: Inspection
    due: Due


def visit(inspection: Inspection) -> Visit:
    """An inspection as the engine's history knows it."""
    return Visit(
        str(inspection.date or ""),
        Document.of(inspection.document),
        Assessment.of(inspection.assessment),
    )


def due_of_shop(user: User) -> tuple[list[EngineDue], bool]:
    """What is due on the engines that were inspected last, and whether there are more engines."""
    newest = Window(
        RowNumber(), partition_by=F("engine"), order_by=[F("date").desc(), F("opened").desc()]
    )
    shown = Inspection.objects.visible_to(user).filter(archived=False)
    firsts = shown.annotate(place=newest).filter(place=1).order_by("-date", "-opened")
    engines = list(firsts.values_list("engine", flat=True)[: MOST_ENGINES + 1])
    rows = shown.filter(engine__in=engines[:MOST_ENGINES]).annotate(place=newest)
    by_engine: dict[Any, list[Inspection]] = defaultdict(list)
    for row in rows.filter(place__lte=MOST_VISITS).select_related("engine").order_by("-place"):
        by_engine[row.engine_id].append(row)
    found = [one for rows in by_engine.values() for one in _of_engine(rows)]
    found.sort(key=lambda one: (not one.due.on, one.due.on, one.engine.title, one.due.text))
    return found, len(engines) > MOST_ENGINES


def _of_engine(rows: list[Inspection]) -> Iterator[EngineDue]:
    for one in due([visit(row) for row in rows]):
        yield EngineDue(rows[-1].engine, rows[-1], one)


class DueSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=DUE)
    on = serializers.CharField(allow_blank=True)
    text = serializers.CharField()


class EngineDueSerializer(serializers.Serializer[Any]):
    engine = serializers.UUIDField(source="engine.pk")
    title = serializers.CharField(source="engine.title")
    identifier = serializers.CharField(source="engine.identifier", allow_blank=True)
    inspection = serializers.UUIDField(source="inspection.pk")
    grade = serializers.SerializerMethodField()
    kind = serializers.ChoiceField(source="due.kind", choices=DUE)
    on = serializers.CharField(source="due.on", allow_blank=True)
    text = serializers.CharField(source="due.text")

    def get_grade(self, one: EngineDue) -> str:
        return one.inspection.grade_left or one.inspection.grade


class ShopDueSerializer(serializers.Serializer[Any]):
    due = EngineDueSerializer(many=True)
    more = serializers.BooleanField(help_text="there are more engines than were looked at")


class ShopDueView(ShopView):
    """What is due on the shop's engines, what has a day first."""

    @extend_schema(operation_id="due", responses=ShopDueSerializer)
    def get(self, request: Request) -> Response:
        found, more = due_of_shop(self.user)
        return Response(ShopDueSerializer({"due": found, "more": more}).data)
