"""Reading a cranking trace: what it shows, for a person to confirm before it is recorded."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.errors import CoreError
from core.signals import read_trace, relative_compression, thinned
from core.signals.trace import MOST_BYTES
from server.api.parsers import Bytes, sent
from server.api.views import ShopView
from server.inspections.models import Inspection

MOST_DRAWN = 1200


class TraceBytes(Bytes):
    """A trace's file."""

    most = MOST_BYTES


class MarkQuery(serializers.Serializer[Any]):
    """A cylinder, and a second at which it was on compression."""

    cylinder = serializers.IntegerField(required=False, min_value=1, max_value=24)
    second = serializers.FloatField(required=False)


class ShareSerializer(serializers.Serializer[Any]):
    place = serializers.IntegerField()
    cylinder = serializers.IntegerField(allow_null=True)
    share = serializers.FloatField()
    spread = serializers.FloatField()
    rises = serializers.IntegerField()


class TraceSerializer(serializers.Serializer[Any]):
    """The trace as it is drawn, and the shares read from it."""

    quantity = serializers.CharField()
    seconds = serializers.ListField(child=serializers.FloatField())
    values = serializers.ListField(child=serializers.FloatField())
    shares = ShareSerializer(many=True)


class TraceView(ShopView):
    """Relative compression from a CSV of time and value; nothing is recorded."""

    parser_classes = [TraceBytes]

    @extend_schema(
        operation_id="read_trace",
        parameters=[
            OpenApiParameter("cylinder", OpenApiTypes.INT),
            OpenApiParameter("second", OpenApiTypes.FLOAT),
        ],
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses=TraceSerializer,
    )
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        asked = MarkQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        order = inspection.document["engine"].get("firing_order")
        if not order:
            expected = "a firing order, entered under Story"
            raise CoreError("no-order", "/engine/firing_order", None, expected)
        mark = asked.validated_data
        first = (mark["cylinder"], mark["second"]) if len(mark) == 2 else None
        if first and first[0] not in order:
            raise CoreError("mark", "/cylinder", first[0], "a cylinder of this engine")
        trace = read_trace(sent(request))
        drawn = thinned(trace, MOST_DRAWN)
        body = {
            "quantity": trace.quantity,
            "seconds": drawn.seconds.round(4).tolist(),
            "values": drawn.values.round(3).tolist(),
            "shares": [asdict(one) for one in relative_compression(trace, order, first)],
        }
        return Response(TraceSerializer(body).data)
