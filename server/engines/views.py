"""Engines over the API, and what the screens need to describe one."""

from __future__ import annotations

from dataclasses import asdict
from functools import cache
from typing import Any

from django.http import Http404
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from core.document.records import Engine as DescribedEngine
from core.engine.layout import PRESETS, arrangement, stations
from core.engine.sharing import coil_groups
from core.knowledge import knowledge
from server.api.fields import DraftField, EngineField
from server.api.replica import from_replica
from server.api.views import ChangedMeanwhile, ShopView
from server.engines import services
from server.engines.models import Engine
from server.shops.models import User

MOST_LISTED = 100


class StationSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    across = serializers.FloatField()
    along = serializers.FloatField()


class PlanSerializer(serializers.Serializer[Any]):
    stations = StationSerializer(many=True)
    neighbours = serializers.ListField(
        child=serializers.ListField(child=serializers.IntegerField())
    )
    coils = serializers.ListField(child=serializers.ListField(child=serializers.IntegerField()))


def plan_of(engine: dict[str, Any]) -> dict[str, Any]:
    """Where cylinders sit, who are neighbours, who share a coil; spelt as PlanSerializer says."""
    described = DescribedEngine.of(engine)
    return {
        "stations": [asdict(one) for one in stations(described)],
        "neighbours": arrangement(described).neighbours,
        "coils": [group.cylinders for group in coil_groups(described)],
    }


class EngineSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField(read_only=True)
    title = serializers.CharField(read_only=True)
    identifier = serializers.CharField(read_only=True)
    data = EngineField()  # type: ignore[assignment]
    version = serializers.IntegerField(
        help_text="counts its descriptions; who replaces one names the one that was seen"
    )
    plan = serializers.SerializerMethodField()

    @extend_schema_field(PlanSerializer)
    def get_plan(self, engine: Engine) -> dict[str, Any]:
        """Where its cylinders sit: an inspection is drawn from it without a network."""
        return plan_of(engine.data)


class AddEngineSerializer(serializers.Serializer[Any]):
    """An engine to be added; with an id of one's own, to ask again changes nothing."""

    id = serializers.UUIDField(required=False)
    author = serializers.UUIDField(required=False)
    data = EngineField()  # type: ignore[assignment]


class EngineQuery(serializers.Serializer[Any]):
    """What a list of engines may be asked for."""

    q = serializers.CharField(required=False, default="", max_length=200, allow_blank=True)


class EnginesView(ShopView):
    """The shop's engines."""

    @extend_schema(
        operation_id="engines",
        parameters=[EngineQuery],
        responses=EngineSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        asked = EngineQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        engines = Engine.objects.visible_to(self.user)
        for word in asked.validated_data["q"].lower().split():
            engines = engines.filter(words__contains=word)
        with from_replica(request):
            return Response(EngineSerializer(engines[:MOST_LISTED], many=True).data)

    @extend_schema(
        operation_id="add_engine", request=AddEngineSerializer, responses={201: EngineSerializer}
    )
    def post(self, request: Request) -> Response:
        given = AddEngineSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        asked = dict(given.validated_data)
        self.written_by(asked.pop("author", None))
        engine = services.add(shop=self.user.shop, **asked)
        return Response(EngineSerializer(engine).data, status=status.HTTP_201_CREATED)


class EngineView(ShopView):
    """One engine."""

    @extend_schema(operation_id="engine", responses=EngineSerializer)
    def get(self, request: Request, engine_id: str) -> Response:
        return Response(EngineSerializer(called(self.user, engine_id)).data)

    @extend_schema(
        operation_id="change_engine", request=EngineSerializer, responses=EngineSerializer
    )
    def put(self, request: Request, engine_id: str) -> Response:
        engine = called(self.user, engine_id)
        given = EngineSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        data, version = (given.validated_data[name] for name in ("data", "version"))
        if not services.change(engine=engine, data=data, replaces=version):
            raise ChangedMeanwhile
        return Response(EngineSerializer(engine).data)


def called(user: User, engine_id: Any) -> Engine:
    """The engine under an id, also where it was merged since; 404 where there is none."""
    try:
        return Engine.objects.called(user, engine_id)
    except Engine.DoesNotExist:
        raise Http404 from None


class MergeSerializer(serializers.Serializer[Any]):
    into = serializers.UUIDField()


class MergeView(ShopView):
    """Two records of one engine, made one."""

    @extend_schema(operation_id="merge_engine", request=MergeSerializer, responses=EngineSerializer)
    def post(self, request: Request, engine_id: str) -> Response:
        given = MergeSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        own = Engine.objects.visible_to(self.user)
        engine = get_object_or_404(own, pk=engine_id)
        into = get_object_or_404(own, pk=given.validated_data["into"])
        services.merge(engine=engine, into=into)
        return Response(EngineSerializer(into).data)


class PresetSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    engine = DraftField()
    plan = PlanSerializer()


@cache
def presets() -> list[dict[str, Any]]:
    """The proposals, each with its plan."""
    return [
        {**asdict(one), "plan": plan_of({"cycle": "four-stroke", **one.engine})} for one in PRESETS
    ]


class PresetsView(ShopView):
    """Proposals to start an engine from."""

    @extend_schema(operation_id="engine_presets", responses=PresetSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(PresetSerializer(presets(), many=True).data)


class PlanRequestSerializer(serializers.Serializer[Any]):
    engine = DraftField()


class PlanView(ShopView):
    """The drawn plan of an engine that is being described; nothing is stored."""

    @extend_schema(
        operation_id="engine_plan", request=PlanRequestSerializer, responses=PlanSerializer
    )
    def post(self, request: Request) -> Response:
        given = PlanRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        engine = services.checked(given.validated_data["engine"])
        return Response(PlanSerializer(plan_of(engine)).data)


class FaultLabelSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    scope = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    prior = serializers.FloatField()


class VocabularySerializer(serializers.Serializer[Any]):
    faults = FaultLabelSerializer(many=True)
    tests = serializers.DictField(child=serializers.CharField())
    grades = serializers.CharField()


class VocabularyView(ShopView):
    """What the faults and tests are called, and the written rule of the grades."""

    @extend_schema(operation_id="vocabulary", responses=VocabularySerializer)
    def get(self, request: Request) -> Response:
        known = knowledge()
        faults = [
            {"id": fault.id, "scope": scope, "label": fault.label, "prior": fault.prior}
            for fault in known.faults
            for scope in fault.scopes
        ]
        tests = {name: table["label"] for name, table in known.tests.items()}
        grades = known.consequences["grades"]["note"]
        body = {"faults": faults, "tests": tests, "grades": grades}
        return Response(VocabularySerializer(body).data)
