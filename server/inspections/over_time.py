"""One engine's inspections beside each other, over the API."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import msgspec
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.assessment import Assessment
from core.comparison.over_time import (
    Visit,
    compression_drift,
    faults_between,
    gap_growth,
    kept_sets,
)
from core.document.records import Document
from server.api.fields import CylindersField
from server.api.views import ShopView
from server.engines.models import Engine

MOST_VISITS = 50


class GapGrowthSerializer(serializers.Serializer[Any]):
    """Millimetres for each 1,000 km; distances on the plugs, in km."""

    cylinder = serializers.IntegerField()
    readings = serializers.IntegerField()
    per_1000_km = serializers.FloatField()
    limit_km = serializers.FloatField(allow_null=True)
    soonest_km = serializers.FloatField(allow_null=True)
    latest_km = serializers.FloatField(allow_null=True)


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


class OverTimeSerializer(serializers.Serializer[Any]):
    gaps = GapGrowthSerializer(many=True)
    drift = DriftSerializer(many=True)
    steps = VisitStepSerializer(many=True)
    sets = KeptSetSerializer(many=True)


class OverTimeView(ShopView):
    """What became of one engine from inspection to inspection."""

    @extend_schema(operation_id="over_time", responses=OverTimeSerializer)
    def get(self, request: Request, engine_id: str) -> Response:
        engine = get_object_or_404(Engine.objects.visible_to(self.user), pk=engine_id)
        rows = list(engine.inspections.order_by("-date", "-opened")[:MOST_VISITS])[::-1]
        visits = [
            Visit(str(one.date or ""), Document.of(one.document), Assessment.of(one.assessment))
            for one in rows
        ]
        drift = compression_drift(visits)
        body = {
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


def _named(steps: dict[str, list[tuple[int, str]]]) -> dict[str, list[dict[str, Any]]]:
    return {
        name: [{"cylinder": number, "fault": fault} for number, fault in listed]
        for name, listed in steps.items()
    }
