"""What the trainer takes and answers, as the API spells it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from core.training.cases import KINDS
from core.training.own import OWN
from core.training.plugs import faces
from core.training.scoring import CLASSES, NO_WORK
from core.vocabulary import CylinderFault, words_of
from server.api.fields import CylindersField, DocumentField
from server.engines.views import PlanSerializer

MOST_SEED = 2**31 - 1
MOST_ENTRIES = 200  # At once: every field of the cylinders that a hand says alike.
FACES = tuple(faces())


class ActSerializer(serializers.Serializer[Any]):
    test = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    cylinders = serializers.ListField(child=serializers.IntegerField())
    minutes = serializers.FloatField()
    bits = serializers.FloatField(allow_null=True)


class OpenActSerializer(serializers.Serializer[Any]):
    test = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    tells = serializers.CharField()
    setup = serializers.FloatField()
    each = serializers.FloatField()
    cylinders = serializers.ListField(child=serializers.IntegerField())


class ClaimSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField(min_value=1, max_value=24)
    fault = serializers.ChoiceField(choices=["", *words_of(CylinderFault)], allow_blank=True)
    percent = serializers.FloatField(min_value=0, max_value=100)


class VerdictSerializer(serializers.Serializer[Any]):
    claims = ClaimSerializer(many=True)
    may_run = serializers.BooleanField()
    needs = serializers.ChoiceField(
        choices=[NO_WORK, *CLASSES], allow_blank=True, default="",
        help_text="the dearest work that the buyer is told of",
    )  # fmt: skip


class ScoreSerializer(serializers.Serializer[Any]):
    points = serializers.IntegerField()
    found = serializers.FloatField()
    of = serializers.IntegerField()
    wrong = serializers.ListField(child=serializers.IntegerField())
    for_nothing = serializers.FloatField(help_text="hours of work on sound cylinders")
    missed_danger = serializers.BooleanField()
    brier = serializers.FloatField()
    minutes = serializers.FloatField()
    bits = serializers.FloatField()


class MiswrittenSerializer(serializers.Serializer[Any]):
    path = serializers.CharField()
    shown = serializers.JSONField()
    written = serializers.JSONField()


class WrittenSerializer(serializers.Serializer[Any]):
    """The record beside what the instruments showed."""

    right = serializers.IntegerField()
    left = serializers.IntegerField(help_text="shown, and not written down")
    slips = MiswrittenSerializer(many=True)


class TrueSerializer(serializers.Serializer[Any]):
    cylinder = serializers.IntegerField()
    faults = serializers.ListField(child=serializers.CharField())


class ReplaySerializer(serializers.Serializer[Any]):
    """What was so, and how the observer played it."""

    truth = TrueSerializer(many=True)
    shared = serializers.ListField(child=serializers.CharField())
    needs = serializers.CharField(help_text="the dearest work that is needed")
    ideal_needs = serializers.CharField()
    ideal = ActSerializer(many=True)
    ideal_claims = ClaimSerializer(many=True)
    ideal_score = ScoreSerializer()
    model_claims = ClaimSerializer(many=True, help_text="with what was shown here")
    written = WrittenSerializer()
    record_claims = ClaimSerializer(many=True, help_text="with what was written here")


class WorkSerializer(serializers.Serializer[Any]):
    """What the buyer may be told that it needs."""

    needs = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class AttemptSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    kind = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    shown = DocumentField(help_text="what the instruments showed by now")
    document = DocumentField(help_text="what was written down")
    plan = PlanSerializer()
    minutes = serializers.FloatField()
    budget = serializers.FloatField()
    rate = serializers.FloatField(help_text="what an hour costs in this shop")
    currency = serializers.CharField()
    faults = serializers.ListField(child=serializers.CharField())
    works = WorkSerializer(many=True)
    open = OpenActSerializer(many=True)
    acts = ActSerializer(many=True)
    answer = VerdictSerializer(allow_null=True)
    score = ScoreSerializer(allow_null=True)
    replay = ReplaySerializer(allow_null=True)


class BeginSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=[*KINDS, OWN])
    seed = serializers.IntegerField(min_value=0, max_value=MOST_SEED, required=False)
    of_class = serializers.UUIDField(required=False)


class DoSerializer(serializers.Serializer[Any]):
    test = serializers.CharField(max_length=40)
    cylinders = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=24), min_length=1, max_length=24
    )


class WrittenEntrySerializer(serializers.Serializer[Any]):
    path = serializers.CharField(max_length=200)
    value = serializers.JSONField(allow_null=True)


class WriteSerializer(serializers.Serializer[Any]):
    entries = serializers.ListField(
        child=WrittenEntrySerializer(), min_length=1, max_length=MOST_ENTRIES
    )


class CaseSerializer(serializers.Serializer[Any]):
    kind = serializers.CharField()
    seed = serializers.IntegerField()
    label = serializers.CharField()  # type: ignore[assignment]
    attempt = serializers.UUIDField(allow_null=True)
    points = serializers.IntegerField(allow_null=True)


class PlayerSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    done = serializers.IntegerField()
    points = serializers.FloatField()
    brier = serializers.FloatField()
    wrong = serializers.IntegerField(help_text="sound cylinders that were convicted")
    often = serializers.CharField(allow_blank=True, help_text="what they call too often")


class ClassSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    name = serializers.CharField()
    cases = CaseSerializer(many=True)
    players = PlayerSerializer(many=True)


class ConfusionSerializer(serializers.Serializer[Any]):
    face = serializers.CharField()
    answered = serializers.CharField()
    times = serializers.IntegerField()


class TrainingSerializer(serializers.Serializer[Any]):
    classes = ClassSerializer(many=True)
    kinds = CaseSerializer(many=True)
    own = CaseSerializer(many=True, help_text="engines that the shop had")
    plugs_read = serializers.IntegerField()
    plugs_right = serializers.IntegerField()
    confusions = ConfusionSerializer(many=True)


class KeepCaseSerializer(serializers.Serializer[Any]):
    inspection = serializers.UUIDField()


class NewClassSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=100)


class OfferedSerializer(serializers.Serializer[Any]):
    face = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class PlugQuestionSerializer(serializers.Serializer[Any]):
    number = serializers.IntegerField()
    plugs = CylindersField(help_text="one cylinder with the plug that is to be named")
    offered = OfferedSerializer(many=True)


class PlugAnswerSerializer(serializers.Serializer[Any]):
    number = serializers.IntegerField(min_value=0)
    answered = serializers.ChoiceField(choices=FACES)


class PlugJudgedSerializer(serializers.Serializer[Any]):
    right = serializers.BooleanField()
    label = serializers.CharField()  # type: ignore[assignment]
    tells = serializers.CharField()
    proves = serializers.CharField()
    proves_not = serializers.CharField()
    answered_tells = serializers.CharField(allow_blank=True)
