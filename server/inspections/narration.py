"""What was said at an engine, understood: proposals for its log."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.narration import Listener
from core.vocabulary import CompressionKind, SpokenRound, words_of
from server.api.views import ShopView
from server.inspections.models import Inspection

MOST_BEFORE, LONGEST = 20, 1000


class SpokenSerializer(serializers.Serializer[Any]):
    line = serializers.CharField(max_length=LONGEST)
    round = serializers.ChoiceField(choices=words_of(SpokenRound), default="faces")
    kind = serializers.ChoiceField(choices=words_of(CompressionKind), default="dry")
    cylinder = serializers.IntegerField(required=False, min_value=1, max_value=24)
    before = serializers.ListField(
        child=serializers.CharField(max_length=LONGEST), max_length=MOST_BEFORE, default=list,
        help_text="lines that were said before, for their context",
    )  # fmt: skip


class UnderstoodSerializer(serializers.Serializer[Any]):
    path = serializers.CharField()
    value = serializers.JSONField(allow_null=True)
    words = serializers.CharField()
    confidence = serializers.FloatField()
    apart = serializers.BooleanField(help_text="grave, of several or not sure: taken by itself")


class AskedBackSerializer(serializers.Serializer[Any]):
    text = serializers.CharField()
    path = serializers.CharField()
    value = serializers.JSONField(allow_null=True, help_text="what was said, if it is to stand")


class HeardSerializer(serializers.Serializer[Any]):
    line = serializers.CharField()
    kind = serializers.ChoiceField(choices=words_of(CompressionKind), default="dry")
    cylinder = serializers.IntegerField(allow_null=True)
    proposals = UnderstoodSerializer(many=True)
    not_understood = serializers.ListField(child=serializers.CharField())
    questions = AskedBackSerializer(many=True)


class SayView(ShopView):
    """Understand one line; nothing is recorded."""

    @extend_schema(operation_id="say", request=SpokenSerializer, responses=HeardSerializer)
    def post(self, request: Request, inspection_id: str) -> Response:
        given = SpokenSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        said = given.validated_data
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        listener = Listener(inspection.document, said["round"])
        for line in said["before"]:
            listener.hear(line)
        if "cylinder" in said and listener.cylinder is None:
            listener.cylinder = said["cylinder"]
        understood = listener.hear(said["line"])
        heard = {
            **understood.written(),
            "proposals": [{**one.written(), "apart": one.apart} for one in understood.proposals],
            "questions": [asdict(one) for one in understood.questions],
        }
        return Response(_placed(heard, inspection.document, said["kind"]))


def _placed(heard: dict[str, Any], document: dict[str, Any], under_way: str) -> dict[str, Any]:
    """The proposals at the tests that are under way, or at those that they begin."""
    proposals: list[dict[str, Any]] = heard["proposals"]
    wet = any(one["value"] == "wet" and one["path"].endswith("/kind") for one in proposals)
    kind = "wet" if wet else under_way
    tests = document.get("tests", {})
    own = [one for one in tests.get("compression", []) if one["kind"] == kind]
    begun = own[-1]["id"] if own else f"{kind}-1"
    leakdown = tests.get("leakdown", [])
    losing = leakdown[-1]["id"] if leakdown else "leakdown-1"
    places = {
        "/tests/compression/0/": f"/tests/compression/{begun}/",
        "/tests/leakdown/0/": f"/tests/leakdown/{losing}/",
    }
    for one in (*proposals, *heard["questions"]):
        for place, meant in places.items():
            one["path"] = one["path"].replace(place, meant)
    compression = any(one["path"].startswith("/tests/compression/") for one in proposals)
    if compression and not own:
        path = f"/tests/compression/{begun}/kind"
        proposals[:] = [one for one in proposals if one["path"] != path]
        opening = {"path": path, "value": kind, "words": kind, "confidence": 1.0, "apart": False}
        proposals.insert(0, opening)
    elif own:
        proposals[:] = [one for one in proposals if not one["path"].endswith(f"{begun}/kind")]
    return heard
