"""The trainer over the API: classes, rounds, and plugs to be named."""

from __future__ import annotations

import secrets
from dataclasses import asdict
from statistics import mean
from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response

from core.knowledge import knowledge
from core.training.cases import KINDS, Case
from core.training.instruments import minutes_of, open_acts
from core.training.own import OWN
from core.training.plugs import confusions, faces
from core.training.scoring import (
    CLASSES,
    NO_WORK,
    Act,
    Claim,
    Verdict,
    acts_of,
    answer,
    by_model,
    needed,
)
from core.training.writing import compared
from server.api.access import SignedIn
from server.api.views import ShopView
from server.engines.views import plan_of
from server.inspections.models import Inspection
from server.training import services
from server.training.models import Attempt, OwnCase, TrainingClass
from server.training.serializers import (
    AttemptSerializer,
    BeginSerializer,
    CaseSerializer,
    ClassSerializer,
    DoSerializer,
    KeepCaseSerializer,
    NewClassSerializer,
    PlugAnswerSerializer,
    PlugJudgedSerializer,
    PlugQuestionSerializer,
    TrainingSerializer,
    VerdictSerializer,
    WriteSerializer,
)


class PractisingView(ShopView):
    """For everybody of a shop, those who only look too: nothing here touches a record."""

    permission_classes = [SignedIn]


class TrainingView(PractisingView):
    """What there is to practise on, and how it went."""

    @extend_schema(operation_id="training", responses=TrainingSerializer)
    def get(self, request: Request) -> Response:
        named = services.readings(self.user)
        mine = {one.seed: one for one in self.user.attempts.filter(kind=OWN)}
        body = {
            "classes": [
                _class(one, self.user.pk)
                for one in TrainingClass.objects.visible_to(self.user)
            ],
            "kinds": [
                {"kind": kind, "seed": 0, "label": services.LABELS[kind], "attempt": None,
                 "points": None} for kind in KINDS
            ],
            "own": [
                _own(one, mine.get(one.number))
                for one in OwnCase.objects.visible_to(self.user)
            ],
            "plugs_read": len(named),
            "plugs_right": sum(one.face == one.answered for one in named),
            "confusions": [
                {"face": _face(face), "answered": _face(answered), "times": times}
                for face, answered, times in confusions(named)[:5]
            ],
        }  # fmt: skip
        return Response(TrainingSerializer(body).data)


class ClassesView(ShopView):
    """A class is made by an owner."""

    owners_only = ("POST",)

    @extend_schema(
        operation_id="new_class", request=NewClassSerializer, responses={201: ClassSerializer}
    )
    def post(self, request: Request) -> Response:
        given = NewClassSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        seed = secrets.randbelow(10**6)
        made = services.new_class(shop=self.user.shop, name=given.validated_data["name"], seed=seed)
        body = _class(made, self.user.pk)
        return Response(ClassSerializer(body).data, status=status.HTTP_201_CREATED)


class OwnCasesView(ShopView):
    """An engine of the shop's own becomes a case; an owner decides that."""

    owners_only = ("POST",)

    @extend_schema(
        operation_id="keep_case", request=KeepCaseSerializer, responses={201: CaseSerializer}
    )
    def post(self, request: Request) -> Response:
        given = KeepCaseSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        found = get_object_or_404(
            Inspection.objects.visible_to(self.user), pk=given.validated_data["inspection"]
        )
        made = services.keep_case(shop=self.user.shop, inspection=found)
        return Response(CaseSerializer(_own(made, None)).data, status=status.HTTP_201_CREATED)


class OwnCaseView(ShopView):
    """One of the shop's own cases, taken away again; rounds that were played of it go too."""

    owners_only = ("DELETE",)

    @extend_schema(operation_id="drop_case", responses={204: None})
    def delete(self, request: Request, number: int) -> Response:
        found = get_object_or_404(OwnCase.objects.visible_to(self.user), number=number)
        Attempt.objects.filter(person__shop=self.user.shop, kind=OWN, seed=number).delete()
        found.delete()
        return Response(status=status.HTTP_204_NO_CONTENT)


class AttemptsView(PractisingView):
    """A round begins."""

    @extend_schema(
        operation_id="begin_round", request=BeginSerializer, responses={201: AttemptSerializer}
    )
    def post(self, request: Request) -> Response:
        given = BeginSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        asked = given.validated_data
        of_class = (
            get_object_or_404(TrainingClass.objects.visible_to(self.user), pk=asked["of_class"])
            if "of_class" in asked
            else None
        )
        seed = asked.get("seed", secrets.randbelow(10**6))
        made = services.begin(person=self.user, kind=asked["kind"], seed=seed, of_class=of_class)
        return Response(_attempt(made), status=status.HTTP_201_CREATED)


class AttemptView(PractisingView):
    @extend_schema(operation_id="round", responses=AttemptSerializer)
    def get(self, request: Request, attempt_id: str) -> Response:
        return Response(_attempt(get_object_or_404(self.user.attempts, pk=attempt_id)))


class ActView(PractisingView):
    """An instrument is put to some cylinders."""

    @extend_schema(operation_id="do_act", request=DoSerializer, responses=AttemptSerializer)
    def post(self, request: Request, attempt_id: str) -> Response:
        get_object_or_404(self.user.attempts, pk=attempt_id)
        given = DoSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        done = services.act(attempt_id=attempt_id, person=self.user, **given.validated_data)
        return Response(_attempt(done))


class WritingView(PractisingView):
    """Something is written down at the bench."""

    @extend_schema(operation_id="write_down", request=WriteSerializer, responses=AttemptSerializer)
    def post(self, request: Request, attempt_id: str) -> Response:
        get_object_or_404(self.user.attempts, pk=attempt_id)
        given = WriteSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        entries = [(one["path"], one["value"]) for one in given.validated_data["entries"]]
        done = services.record(attempt_id=attempt_id, person=self.user, entries=entries)
        return Response(_attempt(done))


class AnswerView(PractisingView):
    """The apprentice says what it is."""

    @extend_schema(operation_id="end_round", request=VerdictSerializer, responses=AttemptSerializer)
    def post(self, request: Request, attempt_id: str) -> Response:
        get_object_or_404(self.user.attempts, pk=attempt_id)
        given = VerdictSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        claims = tuple(Claim(**one) for one in given.validated_data["claims"])
        said = given.validated_data
        verdict = Verdict(claims, said["may_run"], said["needs"])
        done = services.finish(attempt_id=attempt_id, person=self.user, verdict=verdict)
        return Response(_attempt(done))


class PlugView(PractisingView):
    """A plug to be named, and what it was."""

    @extend_schema(operation_id="next_plug", responses=PlugQuestionSerializer)
    def get(self, request: Request) -> Response:
        number, asked = services.next_plug(self.user)
        body = {
            "number": number,
            "plugs": [{"number": 1, "plug": dict(asked.plug)}],
            "offered": [{"face": one, "label": _face(one)} for one in asked.offered],
        }
        return Response(PlugQuestionSerializer(body).data)

    @extend_schema(
        operation_id="name_plug", request=PlugAnswerSerializer, responses=PlugJudgedSerializer
    )
    def post(self, request: Request) -> Response:
        given = PlugAnswerSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        answered = given.validated_data["answered"]
        asked = services.name_plug(
            person=self.user, number=given.validated_data["number"], answered=answered
        )
        table = faces()[asked.face]
        right = answered == asked.face
        body = {
            **{name: table[name] for name in ("label", "tells", "proves", "proves_not")},
            "right": right,
            "answered_tells": "" if right else faces()[answered]["tells"],
        }
        return Response(PlugJudgedSerializer(body).data)


def _face(face: str) -> str:
    return str(faces()[face]["label"])


def _class(one: TrainingClass, person: Any) -> dict[str, Any]:
    attempts = list(one.attempts.select_related("person"))
    mine = {(a.kind, a.seed): a for a in attempts if a.person_id == person}
    over = [a for a in attempts if a.score is not None]
    people = dict.fromkeys(a.person for a in over)
    players = [_player(who.name, [a for a in over if a.person == who]) for who in people]
    return {
        "id": one.pk,
        "name": one.name,
        "cases": [_case(case, mine.get((case["kind"], case["seed"]))) for case in one.cases],
        "players": sorted(players, key=lambda player: -player["points"]),
    }


def _own(one: OwnCase, attempt: Attempt | None) -> dict[str, Any]:
    engine = one.document["engine"]
    count, layout = engine["cylinders"], engine["layout"]
    label = f"{layout} {count}, {engine['cycle']}" if count > 1 else f"single, {engine['cycle']}"
    return {**_case({"kind": OWN, "seed": one.number}, attempt), "label": label}


def _case(case: dict[str, Any], attempt: Attempt | None) -> dict[str, Any]:
    return {
        **case,
        "label": services.LABELS[case["kind"]],
        "attempt": attempt.pk if attempt else None,
        "points": attempt.score["points"] if attempt and attempt.score else None,
    }


def _player(name: str, attempts: list[Attempt]) -> dict[str, Any]:
    scores = [one.score for one in attempts if one.score]
    called = [
        claim["fault"]
        for one in attempts
        for claim in (one.answer or {}).get("claims", [])
        if claim["cylinder"] in (one.score or {}).get("wrong", [])
    ]
    often = max(set(called), key=called.count) if called else ""
    return {
        "name": name,
        "done": len(scores),
        "points": round(mean(one["points"] for one in scores), 1),
        "brier": round(mean(one["brier"] for one in scores), 3),
        "wrong": len(called),
        "often": knowledge().fault(often, _scope(often)).label if often else "",
    }


def _scope(fault: str) -> str:
    return "pair" if fault == "head-gasket-between" else "cylinder"


def _attempt(attempt: Attempt) -> dict[str, Any]:
    case, known = services.known_of(attempt)
    written = attempt.record or case.begun
    over = attempt.score is not None
    acts, _ = acts_of(case, attempt.acts) if over else ([], None)
    done = acts or [
        Act(test, tuple(cylinders), minutes_of(test, len(cylinders)), 0.0)
        for test, cylinders in attempt.acts
    ]
    tables = knowledge().tests
    engine = known["engine"]
    body = {
        "id": attempt.pk,
        "kind": attempt.kind,
        "label": services.LABELS[attempt.kind],
        "shown": known,
        "document": written,
        "plan": plan_of(engine),
        "minutes": services.spent(attempt),
        "budget": services.budget(),
        **services.hourly(attempt.person.shop),
        "faults": [
            fault.id
            for fault in knowledge().of_scope("cylinder")
            if fault.possible_on(engine["cycle"], engine.get("cooling"))
        ],
        "works": [
            {"needs": name, "label": knowledge().consequences["class"][name]["label"]}
            for name in (NO_WORK, *CLASSES)
        ],
        "open": [
            {"test": test, "cylinders": cylinders,
             **{name: tables[test][name] for name in ("label", "tells", "setup", "each")}}
            for test, cylinders in (() if over else open_acts(case.whole, known).items())
        ],
        "acts": [_act(one, told=over) for one in done],
        "answer": attempt.answer,
        "score": attempt.score,
        "replay": _replay(attempt, case, known, written) if over else None,
    }  # fmt: skip
    data: dict[str, Any] = AttemptSerializer(body).data
    return data


def _act(one: Act, *, told: bool) -> dict[str, Any]:
    label = knowledge().tests[one.test]["label"]
    return {**asdict(one), "label": label, "bits": one.bits if told else None}


def _replay(
    attempt: Attempt, case: Case, known: dict[str, Any], written: dict[str, Any]
) -> dict[str, Any]:
    best = services.ideal(attempt.person.shop, attempt.kind, attempt.seed)
    shared = [*sorted(case.truth.engine_faults), *case.truth.bank_faults.values()]
    return {
        "truth": [
            {"cylinder": number, "faults": sorted(one.faults)}
            for number, one in sorted(case.truth.cylinders.items())
        ],
        "shared": shared,
        "needs": needed(case.truth),
        "ideal_needs": best.verdict.needs,
        "ideal": [_act(one, told=True) for one in best.acts],
        "ideal_claims": [asdict(one) for one in best.verdict.claims],
        "ideal_score": asdict(best.score),
        "model_claims": [asdict(one) for one in by_model(answer(known)).claims],
        "written": asdict(compared(known, written, case.straight)),
        "record_claims": [asdict(one) for one in by_model(answer(written)).claims],
    }
