"""The sheet of a refit as the API spells it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from core.vocabulary import StepState, words_of
from server.api.fields import QuantityField


class RemarkSerializer(serializers.Serializer[Any]):
    code = serializers.CharField()
    text = serializers.CharField()
    refuse = serializers.BooleanField()


class HintSerializer(serializers.Serializer[Any]):
    code = serializers.CharField()
    text = serializers.CharField()


class SlipSerializer(serializers.Serializer[Any]):
    path = serializers.CharField()
    text = serializers.CharField()


class FittingSerializer(serializers.Serializer[Any]):
    """One cylinder on the way back."""

    cylinder = serializers.IntegerField()
    remarks = RemarkSerializer(many=True)
    unseen = serializers.ListField(child=serializers.CharField())
    gap = serializers.ChoiceField(choices=("in", "out", "cannot-say", "unmeasured"))
    gap_text = serializers.CharField()
    accepted = serializers.CharField(allow_blank=True)
    unverified = serializers.ListField(child=serializers.ChoiceField(choices=("torque", "gap")))
    handle = serializers.CharField()
    change = serializers.CharField(allow_blank=True)
    setting = QuantityField(allow_null=True)
    turn_deg = serializers.ListField(child=serializers.FloatField())
    hints = HintSerializer(many=True)
    slips = SlipSerializer(many=True)
    stage = serializers.CharField()
    fitted = serializers.BooleanField()
    torqued = serializers.BooleanField()


class FitStepSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    why = serializers.CharField()
    state = serializers.ChoiceField(choices=("open", *words_of(StepState)))


class PointsSerializer(serializers.Serializer[Any]):
    """How far the points are set; what was not measured is computed from the other."""

    basis = serializers.CharField(allow_blank=True)
    gap_mm = serializers.FloatField(allow_null=True)
    dwell_deg = serializers.FloatField(allow_null=True)
    computed = serializers.CharField(allow_blank=True)
    within = serializers.BooleanField(allow_null=True)
    undone_deg = serializers.FloatField(allow_null=True)
    timing_undone = serializers.BooleanField()
    arc = QuantityField(allow_null=True)
    care = serializers.ListField(child=serializers.CharField())
    text = serializers.CharField()


class VoltsRowSerializer(serializers.Serializer[Any]):
    gap = serializers.CharField()
    light = serializers.FloatField()
    full = serializers.FloatField()


class VoltsSerializer(serializers.Serializer[Any]):
    coil_kv = serializers.FloatField()
    rows = VoltsRowSerializer(many=True)


class BeforeAfterSerializer(serializers.Serializer[Any]):
    what = serializers.CharField()
    cylinder = serializers.IntegerField()
    before = serializers.CharField(allow_blank=True)
    after = serializers.CharField()


class RefitSerializer(serializers.Serializer[Any]):
    aim = QuantityField(allow_null=True)
    cylinders = FittingSerializer(many=True)
    missing = serializers.ListField(child=serializers.IntegerField())
    unverified = serializers.ListField(child=serializers.CharField())
    steps = FitStepSerializer(many=True)
    cautions = serializers.ListField(child=serializers.CharField())
    points = PointsSerializer(allow_null=True)
    points_steps = serializers.ListField(child=serializers.CharField())
    volts = VoltsSerializer(allow_null=True)
    before_after = BeforeAfterSerializer(many=True)
    open = serializers.ListField(child=serializers.CharField())
