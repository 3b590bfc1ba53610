"""The shop's own record: predictions beside outcomes."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.learning.track_record import Scored, scored, track_record
from server.api.downloads import table
from server.api.views import ShopView
from server.inspections.models import Inspection
from server.inspections.services import reasons
from server.shops.models import User

MOST_WEIGHED = 2_000  # The newest; a shop's record is about how it judges now.
MOST_EXPLAINED = 50
HEAD = ["inspection", "date", "cylinder", "guess", "probability", "found", "hit", "inspector_hit"]


class CalibrationSerializer(serializers.Serializer[Any]):
    low = serializers.FloatField()
    high = serializers.FloatField()
    claims = serializers.IntegerField()
    claimed = serializers.FloatField()
    held = serializers.FloatField()


class MisledSerializer(serializers.Serializer[Any]):
    finding = serializers.CharField()
    times = serializers.IntegerField()


class TrackRecordSerializer(serializers.Serializer[Any]):
    cylinders = serializers.IntegerField()
    hits = serializers.IntegerField()
    among_three = serializers.IntegerField()
    inspector_guesses = serializers.IntegerField()
    inspector_hits = serializers.IntegerField()
    brier = serializers.FloatField(allow_null=True)
    brier_of_base_rate = serializers.FloatField(allow_null=True)
    calibration = CalibrationSerializer(many=True)
    misled = MisledSerializer(many=True)


class TrackRecordView(ShopView):
    """How the shop's predictions turned out."""

    @extend_schema(operation_id="track_record", responses=TrackRecordSerializer)
    def get(self, request: Request) -> Response:
        cylinders = [one for _, one in _known(self.user)]
        return Response(TrackRecordSerializer(track_record(cylinders)).data)


class TrackRecordTableView(ShopView):
    """The same as CSV, a row a cylinder."""

    @extend_schema(
        operation_id="track_record_table", responses={(200, "text/csv"): OpenApiTypes.STR}
    )
    def get(self, request: Request) -> HttpResponse:
        return table([HEAD, *(_row(*known) for known in _known(self.user))], "record.csv")


def _row(inspection: Inspection, one: Scored) -> list[Any]:
    found = " ".join(one.found) or "nothing"
    mine = "" if one.inspector_hit is None else one.inspector_hit
    row = [inspection.pk, inspection.date, one.cylinder, one.guess, one.probability]
    return [*row, found, one.hit, mine]


def _known(user: User) -> Iterator[tuple[Inspection, Scored]]:
    """Cylinders whose outcome is known; misses with their reasons, as far as there is time."""
    rows = Inspection.objects.visible_to(user).filter(has_outcome=True)
    explained = 0
    for inspection in rows[:MOST_WEIGHED]:
        told = scored(inspection.document, inspection.assessment)
        if any(not one.hit for one in told) and explained < MOST_EXPLAINED:
            explained += 1
            told = scored(inspection.document, reasons(inspection))
        for one in told:
            yield inspection, one
