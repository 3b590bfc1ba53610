"""House rules over the API."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.api.fields import HouseRulesField
from server.api.views import ShopView
from server.shops import rules as services


class RulesSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField(read_only=True)
    by = serializers.CharField(source="by.name", read_only=True, default="")
    at = serializers.DateTimeField(read_only=True, allow_null=True)
    rules = HouseRulesField()


class DifferenceSerializer(serializers.Serializer[Any]):
    what = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()


class WouldChangeSerializer(serializers.Serializer[Any]):
    inspection = serializers.UUIDField()
    title = serializers.CharField()
    changes = DifferenceSerializer(many=True)


class RulesView(ShopView):
    """The shop's rules in force, and a new version of them."""

    owners_only = ("PUT",)

    @extend_schema(operation_id="house_rules", responses=RulesSerializer)
    def get(self, request: Request) -> Response:
        known = services.in_force(self.user.shop)
        body: Any = known or {"version": 0, "at": None, "rules": {}}
        return Response(RulesSerializer(body).data)

    @extend_schema(
        operation_id="change_house_rules", request=RulesSerializer, responses=RulesSerializer
    )
    def put(self, request: Request) -> Response:
        given = RulesSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        made = services.change(
            shop=self.user.shop, by=self.user, rules=given.validated_data["rules"]
        )
        return Response(RulesSerializer(made).data)


class TryRulesView(ShopView):
    """What other rules would make of the newest inspections; nothing is stored."""

    @extend_schema(
        operation_id="try_house_rules",
        request=RulesSerializer,
        responses=WouldChangeSerializer(many=True),
    )
    def post(self, request: Request) -> Response:
        given = RulesSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        found = services.would_change(user=self.user, rules=given.validated_data["rules"])
        return Response(WouldChangeSerializer(found, many=True).data)
