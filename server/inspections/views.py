"""Inspections over the API."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema, extend_schema_view
from rest_framework import exceptions, serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from core.comparison.board import board, orders
from core.document import write_document
from core.document.reading import MOST_BYTES
from core.document.records import Document as CoreDocument
from core.document.records import Engine as DescribedEngine
from core.planning import work_order
from core.planning.carried import carried
from core.refit import refit_sheet
from core.vocabulary import CylinderFault, EngineFault, Grade, words_of
from server import turns
from server.api.downloads import download
from server.api.parsers import Bytes
from server.api.replica import from_replica
from server.api.views import ShopView
from server.engines.views import called, plan_of
from server.inspections import keeping, log, services
from server.inspections.earlier import earlier, minutes_taken
from server.inspections.finding import Order, found, ordered
from server.inspections.keeping import Kept
from server.inspections.models import Inspection, is_signed
from server.inspections.refit_serializers import RefitSerializer
from server.inspections.serializers import (
    BatchSerializer,
    BoardSerializer,
    EntryAnswerSerializer,
    InspectionRowSerializer,
    InspectionSerializer,
    LoggedSerializer,
    OpenSerializer,
    ReasonsSerializer,
    WorkOrderSerializer,
)
from server.weigher import assess

PAGE = 50
ALL_FAULTS = tuple(dict.fromkeys((*words_of(CylinderFault), *words_of(EngineFault))))


class Untouched(Bytes):
    """Hands the body on as bytes: the core reads documents, nothing before it."""

    media_type = "application/json"
    most = MOST_BYTES


class WrittenQuery(serializers.Serializer[Any]):
    """What an entry may be sent with."""

    weigh = serializers.ChoiceField(
        ["later"], required=False, help_text="answer once it is kept; `weighed` tells the rest"
    )


def whole(inspection: Inspection, *, advised: bool = False) -> Response:
    """An inspection with everything its screen shows, spelt as InspectionSerializer says.

    Most of it is the core's own answer, so it goes out as it is. What only one step shows is asked
    for by itself (SheetView); what to test next is there where somebody looks, and follows with the
    reasons where somebody records (`advised`).
    """
    current = services.up_to_date(inspection)
    assessment = current.assessment
    if current.signed_off:
        assessment = services.reasons(current)
    elif advised:
        with turns.weighing():
            assessment = assess(current.document, explain=False)
    return Response({**recorded(current), "assessment": assessment})


def recorded(inspection: Inspection) -> dict[str, Any]:
    """An inspection as its log says it, spelt as RecordedSerializer says."""
    return {
        "id": inspection.id,
        "engine": inspection.engine_id,
        "sequence": inspection.sequence,
        "weighed": inspection.weighed,
        "locked": inspection.signed_off,
        "numbering": inspection.numbers,
        "document": inspection.document,
        "plan": plan_of(inspection.document["engine"]),
        "conflicts": log.conflicts(inspection),
    }


def written(inspection: Inspection, *, later: bool) -> Response:
    """The answer to an entry: that it is kept, and what is told now unless that is for later."""
    return Response(recorded(inspection)) if later else whole(inspection)


class ListQuery(serializers.Serializer[Any]):
    """What a list may be asked for; everything given has to fit."""

    q = serializers.CharField(required=False, max_length=200, help_text="words of the engine")
    fault = serializers.ChoiceField(required=False, choices=ALL_FAULTS)
    grade = serializers.ChoiceField(required=False, choices=words_of(Grade))
    inspector = serializers.UUIDField(required=False)
    since = serializers.DateField(required=False)
    until = serializers.DateField(required=False)
    engine = serializers.UUIDField(required=False)
    due = serializers.BooleanField(default=False, help_text="those to look at again")
    kept = serializers.ChoiceField([one.value for one in Kept], required=False)
    order = serializers.ChoiceField([one.value for one in Order], required=False)
    page = serializers.IntegerField(min_value=1, max_value=2_000, default=1)


class KeptSerializer(serializers.Serializer[Any]):
    """Where an inspection is to stand."""

    kept = serializers.ChoiceField([one.value for one in Kept])


class InspectionsView(ShopView):
    """The shop's inspections, newest first."""

    @extend_schema(
        operation_id="inspections",
        parameters=[ListQuery],
        responses=InspectionRowSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        asked = ListQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        wanted = dict(asked.validated_data)
        start = (wanted.pop("page") - 1) * PAGE
        kept = wanted.pop("kept", None)
        # Asked by engine, what was put by belongs to the answer.
        visible = Inspection.objects.visible_to(self.user)
        by_engine = kept is None and "engine" in wanted
        everything = visible if by_engine else keeping.among(self.user, Kept(kept or Kept.SHOWN))
        order = Order(wanted.pop("order", Order.DUE if wanted["due"] else Order.NEWEST))
        page = ordered(found(everything, **wanted), order).values("pk")[start : start + PAGE]
        rows = everything.filter(pk__in=page).select_related("engine", "opened_by")
        rows = rows.annotate(signed=is_signed())
        rows = rows.defer("document", "assessment", "words", "engine__data", "engine__words")
        with from_replica(request):
            return Response(InspectionRowSerializer(ordered(rows, order), many=True).data)

    @extend_schema(
        operation_id="open_inspection",
        request=OpenSerializer,
        responses={201: InspectionSerializer},
    )
    def post(self, request: Request) -> Response:
        given = OpenSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        fields = dict(given.validated_data)
        by = self.written_by(fields.pop("author", None))
        made = {name: fields.pop(name, None) for name in ("id", "device")}
        if "date" in fields:
            fields["date"] = fields["date"].isoformat()
        engine = called(self.user, fields.pop("engine"))
        made["sent_by"] = self.sends_for(by)
        inspection = services.open_inspection(engine=engine, by=by, fields=fields, **made)
        response = whole(inspection)
        response.status_code = status.HTTP_201_CREATED
        return response


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
        response = whole(inspection, advised=True)
        response.status_code = status.HTTP_201_CREATED
        return response


class InspectionView(ShopView):
    """One inspection."""

    @extend_schema(operation_id="inspection", responses=InspectionSerializer)
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        return whole(inspection, advised=True)


class KeptView(ShopView):
    """Putting an inspection by, deleting it, bringing it back."""

    @extend_schema(operation_id="keep_inspection", request=KeptSerializer, responses={204: None})
    def put(self, request: Request, inspection_id: str) -> Response:
        given = KeptSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        own = Inspection.objects.filter(shop_id=self.user.shop_id)
        inspection = get_object_or_404(own, pk=inspection_id)
        keeping.keep(inspection=inspection, kept=Kept(given.validated_data["kept"]))
        return Response(status=status.HTTP_204_NO_CONTENT)


class SheetView(ShopView):
    """What one step shows, worked out when it is looked at."""

    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        return Response(self.sheet(inspection))

    def sheet(self, inspection: Inspection) -> Any:
        raise NotImplementedError


@extend_schema_view(get=extend_schema(operation_id="work_order", responses=WorkOrderSerializer))
class WorkOrderView(SheetView):
    """The order of the work at this engine."""

    def sheet(self, inspection: Inspection) -> Any:
        taken = minutes_taken(self.user, inspection)
        return work_order(inspection.document, taken, services.reasons(inspection))


@extend_schema_view(get=extend_schema(operation_id="refit_sheet", responses=RefitSerializer))
class RefitView(SheetView):
    """The way back: what arrived, what is fitted, what was proved."""

    def sheet(self, inspection: Inspection) -> Any:
        return refit_sheet(inspection.document)


@extend_schema_view(get=extend_schema(operation_id="board", responses=BoardSerializer))
class BoardView(SheetView):
    """Every kind of evidence side by side."""

    def sheet(self, inspection: Inspection) -> Any:
        current = services.up_to_date(inspection)
        strips = board(current.document, current.assessment)
        return {
            "orders": orders(DescribedEngine.of(current.document["engine"])),
            "strips": [asdict(one) for one in strips],
        }


class OfferSerializer(serializers.Serializer[Any]):
    """Something that held last time, with what taking it records: pairs of path and value."""

    id = serializers.CharField()
    title = serializers.CharField()
    text = serializers.CharField()
    date = serializers.CharField()
    entries = serializers.ListField(child=serializers.ListField(child=serializers.JSONField()))


class CarriedSerializer(serializers.Serializer[Any]):
    offers = OfferSerializer(many=True)
    renewed = serializers.ListField(child=serializers.CharField())
    left_open = serializers.ListField(child=serializers.CharField())


class CarriedView(ShopView):
    """What the engine's earlier inspections taught, offered to this one."""

    @extend_schema(operation_id="carried", responses=CarriedSerializer)
    def get(self, request: Request, inspection_id: str) -> Response:
        shown = Inspection.objects.visible_to(self.user)
        inspection = get_object_or_404(shown, pk=inspection_id)
        before = earlier(self.user, inspection)
        told = carried(
            CoreDocument.of(inspection.document),
            [(str(one.date or ""), CoreDocument.of(one.document)) for one in before],
        )
        return Response(CarriedSerializer(told).data)


class ReasonsView(ShopView):
    """What speaks for and against each fault, by the document as it stands."""

    @extend_schema(
        operation_id="reasons",
        parameters=[OpenApiParameter("today", OpenApiTypes.BOOL, description="by today's rules")],
        responses=ReasonsSerializer,
    )
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        today = "today" in request.query_params
        reasons = services.reasons_today if today else services.reasons
        body = {"sequence": inspection.sequence, "assessment": reasons(inspection)}
        return Response(ReasonsSerializer(body).data)


class WeighedView(ShopView):
    """What follows from all that is recorded by now: an entry is kept before it is weighed."""

    @extend_schema(operation_id="weighed", responses=ReasonsSerializer)
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        current = services.up_to_date(inspection)
        return Response({"sequence": current.sequence, "assessment": current.assessment})


class DocumentView(ShopView):
    """The inspection as the document that any Fiacre can import."""

    @extend_schema(operation_id="export_inspection", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        name = f"inspection-{inspection.date or 'undated'}-{str(inspection.id)[:8]}.json"
        return download(write_document(inspection.document), "application/json", name)


class ObservationsView(ShopView):
    """The log of one inspection: read it, add to it."""

    @extend_schema(operation_id="observations", responses=LoggedSerializer(many=True))
    def get(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        rows = inspection.observations.select_related("by", "sent_by")
        return Response(LoggedSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="record",
        parameters=[WrittenQuery],
        request=BatchSerializer,
        responses=EntryAnswerSerializer,
    )
    def post(self, request: Request, inspection_id: UUID) -> Response:
        given = BatchSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        asked = WrittenQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        by = self.written_by(given.validated_data.get("author"))
        said = [log.Said(**one) for one in given.validated_data["observations"]]
        sent_by = self.sends_for(by)
        kept = log.record(inspection_id=inspection_id, said=said, by=by, sent_by=sent_by)
        return written(kept, later="weigh" in asked.validated_data)
