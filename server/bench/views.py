"""Calculators reachable without an inspection, and the blades and wrench that a person owns."""

from __future__ import annotations

from typing import Any

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.calculators import CALCULATORS, calculate
from core.document.reading import check_part
from core.document.schema import OWN_TOOLS
from core.knowledge import knowledge
from server.api.access import SignedIn
from server.api.fields import FreeField, OwnToolsField
from server.api.views import ShopView


class CalculatorSerializer(serializers.Serializer[Any]):
    """What a calculator says of itself; `keys` is the JSON Schema of what it takes."""

    name = serializers.CharField()
    title = serializers.CharField()
    formula = serializers.CharField()
    source = serializers.CharField()  # type: ignore[assignment]
    note = serializers.CharField()
    labels = serializers.DictField(child=serializers.CharField())
    example = FreeField()
    keys = FreeField()


class CalculatorsView(ShopView):
    """Every calculator, with formula, source and range."""

    @extend_schema(operation_id="calculators", responses=CalculatorSerializer(many=True))
    def get(self, request: Request) -> Response:
        rows = [
            {"name": name, "keys": CALCULATORS[name].schema, **said}
            for name, said in knowledge().calculators.items()
        ]
        return Response(CalculatorSerializer(rows, many=True).data)


class CalculateView(ShopView):
    """One calculation; nothing is stored, so whoever may look may calculate."""

    permission_classes = [SignedIn]

    @extend_schema(
        operation_id="calculate", request=OpenApiTypes.OBJECT, responses=OpenApiTypes.OBJECT
    )
    def post(self, request: Request, name: str) -> Response:
        return Response(calculate(name, request.data))


class BladeSetSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    unit = serializers.CharField()
    blades = serializers.ListField(child=serializers.FloatField())


class ToolsSerializer(serializers.Serializer[Any]):
    """A person's own tools, and common sets of blades to start from."""

    own = OwnToolsField()
    blade_sets = BladeSetSerializer(many=True, read_only=True)


class ToolsView(ShopView):
    """The tools that the signed-in person owns: theirs alone, whatever their role."""

    permission_classes = [SignedIn]

    def _told(self) -> Response:
        body = {"own": self.user.tools, "blade_sets": knowledge().bench["blade_set"]}
        return Response(ToolsSerializer(body).data)

    @extend_schema(operation_id="own_tools", responses=ToolsSerializer)
    def get(self, request: Request) -> Response:
        return self._told()

    @extend_schema(
        operation_id="change_own_tools", request=ToolsSerializer, responses=ToolsSerializer
    )
    def put(self, request: Request) -> Response:
        given = ToolsSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        self.user.tools = check_part(given.validated_data["own"], OWN_TOOLS)
        self.user.save(update_fields=["tools"])
        return self._told()
