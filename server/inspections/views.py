"""Inspections over the API."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import exceptions, serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from core.document import write_document
from core.document.reading import MOST_BYTES
from core.planning import work_order
from server.api.parsers import Bytes
from server.api.views import ShopView
from server.engines.models import Engine
from server.engines.views import plan_of
from server.inspections import services
from server.inspections.models import Inspection
from server.inspections.serializers import (
    BatchSerializer,
    InspectionRowSerializer,
    InspectionSerializer,
    LoggedSerializer,
    OpenSerializer,
    RenumberSerializer,
)

PAGE = 50


class Untouched(Bytes):
    """Hands the body on as bytes: the core reads documents, nothing before it."""

    media_type = "application/json"
    most = MOST_BYTES


def whole(inspection: Inspection) -> Response:
    """An inspection with its plan."""
    plan = plan_of(inspection.document["engine"])
    body = {
        "id": inspection.id,
        "engine_id": inspection.engine_id,
        "sequence": inspection.sequence,
        "document": inspection.document,
        "assessment": inspection.assessment,
        "plan": plan,
        "conflicts": inspection.observations.undecided(),
        "work_order": work_order(inspection.document),
    }
    return Response(InspectionSerializer(body).data)


class InspectionsView(ShopView):
    """The shop's inspections, newest first."""

    @extend_schema(
        operation_id="inspections",
        parameters=[
            OpenApiParameter("engine", OpenApiTypes.UUID, description="of one engine only"),
            OpenApiParameter("page", OpenApiTypes.INT, description="from 1"),
        ],
        responses=InspectionRowSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        rows = Inspection.objects.visible_to(self.user).select_related("engine", "opened_by")
        rows = rows.defer("document", "assessment", "engine__data")
        asked = ListQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        if "engine" in asked.validated_data:
            rows = rows.filter(engine_id=asked.validated_data["engine"])
        start = (asked.validated_data["page"] - 1) * PAGE
        return Response(InspectionRowSerializer(rows[start : start + PAGE], many=True).data)

    @extend_schema(
        operation_id="open_inspection",
        request=OpenSerializer,
        responses={201: InspectionSerializer},
    )
    def post(self, request: Request) -> Response:
        given = OpenSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        fields = dict(given.validated_data)
        engine = get_object_or_404(Engine.objects.visible_to(self.user), pk=fields.pop("engine"))
        inspection = services.open_inspection(engine=engine, by=self.user, fields=fields)
        response = whole(inspection)
        response.status_code = status.HTTP_201_CREATED
        return response


class ListQuery(serializers.Serializer[Any]):
    """What a list may be asked for."""

    engine = serializers.UUIDField(required=False)
    page = serializers.IntegerField(min_value=1, max_value=100_000, default=1)


class ImportView(ShopView):
    """A document from elsewhere, all of it or nothing."""

    parser_classes = [Untouched]

    @extend_schema(
        operation_id="import_inspection",
        request=OpenApiTypes.OBJECT,
        responses={201: InspectionSerializer},
    )
    def post(self, request: Request) -> Response:
        data = request.data
        if not isinstance(data, bytes):
            raise exceptions.ParseError("Send one document as application/json.")
        inspection = services.import_document(shop=self.user.shop, by=self.user, data=data)
        response = whole(inspection)
        response.status_code = status.HTTP_201_CREATED
        return response


class InspectionView(ShopView):
    """One inspection."""

    @extend_schema(operation_id="inspection", responses=InspectionSerializer)
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        return whole(services.up_to_date(inspection))


class DocumentView(ShopView):
    """The inspection as the document that any Fiacre can import."""

    @extend_schema(operation_id="export_inspection", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        response = HttpResponse(
            write_document(inspection.document), content_type="application/json"
        )
        name = f"inspection-{inspection.date or 'undated'}-{str(inspection.id)[:8]}.json"
        response["Content-Disposition"] = f'attachment; filename="{name}"'
        return response


class RenumberView(ShopView):
    """Other numbers for the cylinders, everything recorded with them."""

    @extend_schema(
        operation_id="renumber", request=RenumberSerializer, responses=InspectionSerializer
    )
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        given = RenumberSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        numbers = dict(enumerate(given.validated_data["numbers"], start=1))
        device = given.validated_data.get("device")
        return whole(
            services.renumber(inspection=inspection, numbers=numbers, by=self.user, device=device)
        )


class ObservationsView(ShopView):
    """The log of one inspection: read it, add to it."""

    @extend_schema(operation_id="observations", responses=LoggedSerializer(many=True))
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        rows = inspection.observations.select_related("by")
        return Response(LoggedSerializer(rows, many=True).data)

    @extend_schema(operation_id="record", request=BatchSerializer, responses=InspectionSerializer)
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        given = BatchSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        said = [services.Said(**one) for one in given.validated_data["observations"]]
        return whole(services.record(inspection=inspection, said=said, by=self.user))
