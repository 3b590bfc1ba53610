"""One engine's inspections beside each other, over the API."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import msgspec
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.history.due import due
from core.history.over_time import (
    Visit,
    compression_drift,
    dry_finals,
    faults_between,
    gap_growth,
    kept_sets,
)
from core.history.story import costs, events, plugs_in, run_at
from server.api.fields import CylindersField, EngineField, QuantityField
from server.api.views import ShopView
from server.engines.models import Engine
from server.engines.views import PlanSerializer, called, plan_of
from server.inspections.due import DueSerializer, visit
from server.inspections.models import Inspection, is_signed

MOST_VISITS = 50
EVENTS = ("asked", "done", "kept", "proof", "again", "opened", "left", "cost")


class GapGrowthSerializer(serializers.Serializer[Any]):
    """Millimetres for each 1,000 of the unit; distances on the plugs, in the unit."""

    cylinder = serializers.IntegerField()
    readings = serializers.IntegerField()
    unit = serializers.ChoiceField(choices=["km", "h"])
    per_1000 = serializers.FloatField()
    run = serializers.FloatField()
    limit = serializers.FloatField(allow_null=True)
    soonest = serializers.FloatField(allow_null=True)
    latest = serializers.FloatField(allow_null=True)


class DriftSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    change = serializers.FloatField()


class SuspicionSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    fault = serializers.CharField()


class VisitStepSerializer(serializers.Serializer[Any]):
    """From one inspection to the next."""

    since = serializers.CharField()
    date = serializers.CharField()
    appeared = SuspicionSerializer(many=True)
    gone = SuspicionSerializer(many=True)


class KeptSetSerializer(serializers.Serializer[Any]):
    """Plugs that came out and were put away under a label."""

    inspection = serializers.UUIDField()
    date = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    where = serializers.CharField(allow_blank=True)
    plugs = CylindersField()


class EventSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=EVENTS)
    text = serializers.CharField()


class PressureReadSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    pressure = QuantityField()


class VisitSerializer(serializers.Serializer[Any]):
    """One inspection of the engine's story."""

    inspection = serializers.UUIDField()
    date = serializers.CharField(allow_blank=True)
    run = serializers.CharField(allow_blank=True)
    grade = serializers.CharField()
    grade_left = serializers.CharField(allow_blank=True)
    verdict = serializers.CharField(allow_blank=True)
    left = serializers.CharField(allow_blank=True)
    signed = serializers.BooleanField()
    events = EventSerializer(many=True)
    cylinders = CylindersField()
    pressures = PressureReadSerializer(many=True)


class PlugsInSerializer(serializers.Serializer[Any]):
    """Plugs of one age that are in the engine."""

    cylinders = serializers.ListField(child=serializers.IntegerField())
    since = serializers.CharField(allow_blank=True)
    run = QuantityField(allow_null=True)


class OverTimeSerializer(serializers.Serializer[Any]):
    title = serializers.CharField()
    identifier = serializers.CharField(allow_blank=True)
    engine = EngineField()
    plan = PlanSerializer()
    visits = VisitSerializer(many=True)
    plugs = PlugsInSerializer(many=True)
    due = DueSerializer(many=True)
    gaps = GapGrowthSerializer(many=True)
    drift = DriftSerializer(many=True)
    steps = VisitStepSerializer(many=True)
    sets = KeptSetSerializer(many=True)


class OverTimeView(ShopView):
    """What became of one engine from inspection to inspection."""

    @extend_schema(operation_id="over_time", responses=OverTimeSerializer)
    def get(self, request: Request, engine_id: str) -> Response:
        engine = called(self.user, engine_id)
        rows, visits = visits_of(engine)
        drift = compression_drift(visits)
        body = {
            "title": engine.title,
            "identifier": engine.identifier,
            "engine": engine.data,
            "plan": plan_of(engine.data),
            "visits": [_told(row, visit) for row, visit in zip(rows, visits, strict=True)],
            "plugs": msgspec.to_builtins(plugs_in(visits)),
            "due": due(visits),
            "gaps": gap_growth(visits),
            "drift": [{"cylinder": number, "change": change} for number, change in drift.items()],
            "steps": [
                {"since": before.date, "date": after.date, **_named(faults_between(before, after))}
                for before, after in pairwise(visits)
            ],
            "sets": [
                {
                    "inspection": rows[one.visit].pk,
                    "date": visits[one.visit].date,
                    "label": one.label,
                    "where": one.where,
                    "plugs": msgspec.to_builtins(one.plugs),
                }
                for one in kept_sets(visits)
            ],
        }
        return Response(OverTimeSerializer(body).data)


def visits_of(engine: Engine) -> tuple[list[Inspection], list[Visit]]:
    """Its inspections of late, in the order of their dates, and what the core makes of them."""
    newest = engine.inspections.filter(removed__isnull=True).annotate(signed=is_signed())
    rows = list(newest.order_by("-date", "-opened")[:MOST_VISITS])[::-1]
    return rows, [visit(one) for one in rows]


def _told(row: Inspection, visit: Visit) -> dict[str, Any]:
    """One chapter of the story."""
    read = dry_finals(visit.document)
    left = visit.assessment.engine.as_left
    return {
        "inspection": row.pk,
        "date": visit.date,
        "run": run_at(visit.document),
        "grade": row.grade,
        "grade_left": row.grade_left,
        "verdict": visit.assessment.engine.verdict,
        "left": left.verdict if left else "",
        "signed": getattr(row, "signed"),  # noqa: B009 - annotated
        "events": [*events(visit.document), *costs(visit.assessment)],
        "cylinders": row.document.get("cylinders", []),
        "pressures": [
            {"cylinder": number, "pressure": msgspec.to_builtins(final)}
            for number, final in read.items()
        ],
    }


def _named(steps: dict[str, list[tuple[int, str]]]) -> dict[str, list[dict[str, Any]]]:
    return {
        name: [{"cylinder": number, "fault": fault} for number, fault in listed]
        for name, listed in steps.items()
    }
