"""Across a shop's engines: what is due, which the calendar reads too, and what several had."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
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
from core.history.alike import same_faults
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


def due_of_shop(user: User) -> list[EngineDue]:
    """What is due on the engines that were inspected last."""
    return due_on(seasons(user)[0])


@dataclass(frozen=True)
class Season:
    """An engine's newest inspection, and its latest ones as its history knows them."""

    newest: Inspection
    visits: list[Visit]


def due_on(engines: Iterable[Season]) -> list[EngineDue]:
    """What is due on some engines; what has a day first."""
    found = [
        EngineDue(one.newest.engine, one.newest, each)
        for one in engines
        for each in due(one.visits)
    ]
    found.sort(key=lambda one: (not one.due.on, one.due.on, one.engine.title, one.due.text))
    return found


def seasons(user: User) -> tuple[list[Season], bool]:
    """The latest inspections of each engine that was inspected last; whether there are more."""
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
    known = [Season(rows[-1], [visit(row) for row in rows]) for rows in by_engine.values()]
    return known, len(engines) > MOST_ENGINES


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


class EngineNamedSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField(source="pk")
    title = serializers.CharField()


class SameFaultSerializer(serializers.Serializer[Any]):
    """A fault that several engines of one kind had."""

    kind = serializers.CharField()
    fault = serializers.CharField()
    engines = EngineNamedSerializer(many=True)
    cylinder = serializers.IntegerField(allow_null=True, help_text="where it was the same on all")
    of = serializers.IntegerField(help_text="engines of that kind")


class ShopDueSerializer(serializers.Serializer[Any]):
    due = EngineDueSerializer(many=True)
    alike = SameFaultSerializer(many=True)
    more = serializers.BooleanField(help_text="there are more engines than were looked at")


class ShopDueView(ShopView):
    """What is due on the shop's engines, what has a day first, and what several of a kind had."""

    @extend_schema(operation_id="due", responses=ShopDueSerializer)
    def get(self, request: Request) -> Response:
        engines, more = seasons(self.user)
        alike = same_faults((one.newest.engine, one.visits) for one in engines)
        body = {"due": due_on(engines), "alike": alike, "more": more}
        return Response(ShopDueSerializer(body).data)
