"""The shop's own record: predictions beside outcomes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.learning.own_odds import LEAST_PLACES, Proposal, proposals, tallies
from core.learning.track_record import Scored, scored, track_record
from core.vocabulary import AnyFault, Cycle, words_of
from server.api.downloads import table
from server.api.views import ShopView
from server.inspections.models import Inspection
from server.inspections.services import reasons
from server.learning.record import HEAD, record_row
from server.shops.models import User
from server.shops.rules import in_force

MOST_WEIGHED = 2_000  # The newest; a shop's record is about how it judges now.
MOST_EXPLAINED = 50


class CalibrationSerializer(serializers.Serializer[Any]):
    low = serializers.FloatField()
    high = serializers.FloatField()
    claims = serializers.IntegerField()
    claimed = serializers.FloatField()
    held = serializers.FloatField()


class MisledSerializer(serializers.Serializer[Any]):
    finding = serializers.CharField()
    times = serializers.IntegerField()


class ProposalSerializer(serializers.Serializer[Any]):
    """Odds of its own that the shop may put in force as a house rule."""

    cycle = serializers.ChoiceField(choices=words_of(Cycle))
    fault = serializers.ChoiceField(choices=words_of(AnyFault))
    places = serializers.IntegerField(help_text="cylinders, pairs of neighbours and engines")
    claimed = serializers.FloatField()
    found = serializers.IntegerField()
    factor = serializers.FloatField()
    before = serializers.FloatField()
    after = serializers.FloatField()


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
    proposed = ProposalSerializer(many=True)
    wanted = serializers.IntegerField(help_text="places of a kind before odds are proposed")


class TrackRecordView(ShopView):
    """How the shop's predictions turned out."""

    @extend_schema(operation_id="track_record", responses=TrackRecordSerializer)
    def get(self, request: Request) -> Response:
        cylinders = [one for _, one in _known(self.user)]
        proposed = [asdict(one) for one in _proposed(self.user)]
        body = {**track_record(cylinders), "proposed": proposed, "wanted": LEAST_PLACES}
        return Response(TrackRecordSerializer(body).data)


class TrackRecordTableView(ShopView):
    """The same as CSV, a row a cylinder."""

    @extend_schema(
        operation_id="track_record_table", responses={(200, "text/csv"): OpenApiTypes.STR}
    )
    def get(self, request: Request) -> HttpResponse:
        return table([HEAD, *(record_row(*known) for known in _known(self.user))], "record.csv")


def _proposed(user: User) -> list[Proposal]:
    """Odds of the shop's own, by what was judged by the odds that are in force."""
    rules = in_force(user.shop)
    odds = rules.rules.get("odds", {}) if rules else {}
    rows = Inspection.objects.visible_to(user).filter(has_outcome=True)
    told = (
        tally
        for one in rows[:MOST_WEIGHED]
        if one.document.get("house_rules", {}).get("odds", {}) == odds
        for tally in tallies(one.document, one.assessment)
    )
    return proposals(told, odds)


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
