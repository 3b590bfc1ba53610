"""Inspections and assessments as the API spells them; the assessment is the contract's."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from core.assessment import Assessment
from core.document.schema import schema_of
from core.document.shapes import MOST_CYLINDERS
from core.judgement import rules_version
from core.vocabulary import Access, NextTest, StepState, words_of
from server.api.fields import DocumentField, plain
from server.engines.views import PlanSerializer
from server.inspections.models import Inspection


@extend_schema_field(plain(schema_of(Assessment)))
class AssessmentField(serializers.JSONField):
    """An assessment, as the core made it."""


class InspectionRowSerializer(serializers.Serializer[Any]):
    """An inspection in a list."""

    id = serializers.UUIDField()
    engine = serializers.UUIDField(source="engine_id")
    title = serializers.CharField(source="engine.title")
    identifier = serializers.CharField(source="engine.identifier")
    date = serializers.DateField(allow_null=True)
    follow_up = serializers.DateField(allow_null=True)
    changed = serializers.DateTimeField()
    by = serializers.CharField(source="opened_by.name", default="")
    grade = serializers.CharField()
    grade_left = serializers.CharField(allow_blank=True)
    verdict = serializers.CharField()
    signed = serializers.BooleanField(help_text="it is signed, and keeps its own rules")
    old = serializers.SerializerMethodField()

    def get_old(self, row: Inspection) -> bool:
        """Whether it waits to be weighed again: rules changed, or something was recorded since."""
        signed: bool = getattr(row, "signed")  # noqa: B009 - annotated by the list
        return not signed and (row.rules != rules_version() or row.weighed != row.sequence)


@extend_schema_field(
    {
        "oneOf": [
            {"type": "string"},
            {"type": "number"},
            {"type": "boolean"},
            {"type": "object", "additionalProperties": True},
            {"type": "array", "items": {}},
            {"type": "null"},
        ]
    }
)
class ValueField(serializers.JSONField):
    """What was observed; null takes it back."""


class QuotedSerializer(serializers.Serializer[Any]):
    """What somebody said, and of what; held where it takes back what it did not know."""

    path = serializers.CharField()
    value = ValueField(allow_null=True)
    by = serializers.CharField(allow_blank=True)
    at = serializers.DateTimeField()
    held = serializers.BooleanField()


class ConflictSerializer(serializers.Serializer[Any]):
    """What people said differently of one thing, not knowing of each other; the first stands."""

    path = serializers.CharField()
    said = QuotedSerializer(many=True)


class SchoolSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    why = serializers.CharField()


class FiguresSerializer(serializers.Serializer[Any]):
    """As printed; empty where nobody gave them."""

    thread = serializers.CharField(allow_blank=True)
    gap = serializers.CharField(allow_blank=True)
    torque = serializers.CharField(allow_blank=True)
    torque_reused = serializers.CharField(allow_blank=True)
    plug = serializers.CharField(allow_blank=True)


class PlaceSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    access = serializers.ChoiceField(choices=words_of(Access))
    why = serializers.CharField(allow_blank=True)


class StepSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    title = serializers.CharField()
    why = serializers.CharField()
    minutes = serializers.FloatField()
    timed = serializers.BooleanField(help_text="that long it took on this engine before")
    state = serializers.ChoiceField(
        choices=("open", *words_of(StepState), "barred", "closed"),
        help_text="barred: a hazard forbids it; closed: a passed proof made it needless",
    )


class PlannedActSerializer(serializers.Serializer[Any]):
    """What comes next: the list of next tests, with its minutes."""

    test = serializers.ChoiceField(choices=words_of(NextTest))
    title = serializers.CharField()
    cylinders = serializers.ListField(child=serializers.IntegerField())
    minutes = serializers.FloatField()
    why = serializers.CharField()


class WorkOrderSerializer(serializers.Serializer[Any]):
    """The order of the work at this engine."""

    school = SchoolSerializer()
    cautions = serializers.ListField(child=serializers.CharField())
    tools = serializers.ListField(child=serializers.CharField())
    figures = FiguresSerializer()
    order = PlaceSerializer(many=True)
    steps = StepSerializer(many=True)
    acts = PlannedActSerializer(many=True)
    minutes = serializers.FloatField()


class MarkSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    value = serializers.FloatField()
    shown = serializers.CharField()
    basis = serializers.CharField()
    odd = serializers.ListField(child=serializers.CharField())


class LineSerializer(serializers.Serializer[Any]):
    label = serializers.CharField()  # type: ignore[assignment]
    value = serializers.FloatField()


class StripSerializer(serializers.Serializer[Any]):
    """One kind of evidence across the cylinders."""

    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    unit = serializers.CharField(allow_blank=True)
    low = serializers.FloatField()
    high = serializers.FloatField()
    marks = MarkSerializer(many=True)
    band = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    lines = LineSerializer(many=True)
    pattern = serializers.CharField(allow_blank=True)
    ends = serializers.ListField(child=serializers.CharField(allow_blank=True))


class OrdersSerializer(serializers.Serializer[Any]):
    """Ways to put the cylinders in a row, by bank where they sit."""

    number = serializers.ListField(child=serializers.ListField(child=serializers.IntegerField()))
    firing = serializers.ListField(
        child=serializers.ListField(child=serializers.IntegerField()), required=False
    )
    position = serializers.ListField(
        child=serializers.ListField(child=serializers.IntegerField()), required=False
    )


class BoardSerializer(serializers.Serializer[Any]):
    """The comparison board."""

    orders = OrdersSerializer()
    strips = StripSerializer(many=True)


class RecordedSerializer(serializers.Serializer[Any]):
    """An inspection as its log says it; what is told of it was weighed from its first rows."""

    id = serializers.UUIDField()
    engine = serializers.UUIDField()
    sequence = serializers.IntegerField()
    weighed = serializers.IntegerField()
    locked = serializers.BooleanField()
    numbering = serializers.ListField(
        child=serializers.IntegerField(),
        help_text="the first number of every cylinder, in the order of today's numbers",
    )
    document = DocumentField()
    plan = PlanSerializer()
    conflicts = ConflictSerializer(many=True)


class EntryAnswerSerializer(RecordedSerializer):
    """The answer to an entry; the assessment is left out where it is asked for later."""

    assessment = AssessmentField(required=False)


class InspectionSerializer(RecordedSerializer):
    """One inspection with everything its screen shows."""

    assessment = AssessmentField()


class ReasonsSerializer(serializers.Serializer[Any]):
    """An assessment with its reasons, and how much of the log it knew."""

    sequence = serializers.IntegerField()
    assessment = AssessmentField()


class OpenSerializer(serializers.Serializer[Any]):
    """What is to be inspected; with an id of one's own, to ask again changes nothing."""

    id = serializers.UUIDField(required=False)
    engine = serializers.UUIDField()
    purpose = serializers.ChoiceField(
        choices=("pre-purchase", "rebuild", "diagnosis", "routine"), required=False
    )
    date = serializers.DateField(required=False)
    device = serializers.UUIDField(required=False)
    author = serializers.UUIDField(required=False)


NUMBERS = serializers.IntegerField(min_value=1, max_value=MOST_CYLINDERS)


class SaidSerializer(serializers.Serializer[Any]):
    """One thing seen, read or taken back; `/numbering` gives the cylinders other numbers."""

    client_id = serializers.UUIDField()
    path = serializers.CharField(max_length=300)
    value = ValueField(allow_null=True, required=False, default=None)
    device = serializers.UUIDField(required=False)
    seen = serializers.IntegerField(required=False, min_value=0)
    numbering = serializers.ListField(
        child=NUMBERS, required=False, allow_empty=False, max_length=MOST_CYLINDERS
    )
    made = serializers.DateTimeField(required=False)
    keeps = serializers.BooleanField(default=False)
    order = serializers.IntegerField(required=False, min_value=0, max_value=2**53)
    again = serializers.BooleanField(default=False)


class BatchSerializer(serializers.Serializer[Any]):
    """Observations by one person; `author` is refused where somebody else is signed in."""

    author = serializers.UUIDField(required=False)
    observations = serializers.ListField(child=SaidSerializer(), allow_empty=False, max_length=1000)


class LoggedSerializer(serializers.Serializer[Any]):
    """One row of the log."""

    sequence = serializers.IntegerField()
    client_id = serializers.UUIDField()
    path = serializers.CharField()
    value = ValueField(allow_null=True)
    by = serializers.CharField(source="by.name", default="")
    sent_by = serializers.CharField(
        source="sent_by.name", default="", help_text="the owner who sent it in their name"
    )
    at = serializers.DateTimeField()
    made = serializers.DateTimeField(allow_null=True)
    held = serializers.BooleanField()
    keeps = serializers.BooleanField()
