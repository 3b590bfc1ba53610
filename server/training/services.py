"""A round, from its beginning to what it was worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Max
from rest_framework import status
from rest_framework.exceptions import APIException

from core.errors import CoreError
from core.knowledge import knowledge
from core.training.cases import KINDS, Case, case_of
from core.training.instruments import minutes_of, open_acts, perform
from core.training.own import OWN, nameless, own_case
from core.training.plugs import Question, Reading, question
from core.training.scoring import (
    Act,
    Score,
    Verdict,
    acts_of,
    observer,
    score,
)
from core.training.writing import write
from server.inspections.models import Inspection
from server.shops.models import Shop, User
from server.shops.rules import in_force
from server.training.models import Attempt, OwnCase, PlugReading, TrainingClass

CASES_OF_A_CLASS = 5
LABELS = {
    "school-day": "First day: one fault, plain",
    "two-faults": "Two faults at once",
    "misleading-oil": "Oil where it misleads",
    "test-run-wrong": "A test that was run wrong",
    "comes-and-goes": "It comes and goes",
    "slip-of-units": "A slip of units",
    OWN: "One of this shop's own",
}


class RoundOver(APIException):
    """What was said stands: nothing is read or claimed after it."""

    status_code = status.HTTP_409_CONFLICT
    default_code = "round-over"
    default_detail = "This round is over. Begin another."


@dataclass(frozen=True)
class Ideal:
    """How the observer played a case."""

    acts: tuple[Act, ...]
    verdict: Verdict
    score: Score

    @property
    def minutes(self) -> float:
        return sum(one.minutes for one in self.acts)


def budget() -> float:
    """Minutes that a round may take."""
    return float(knowledge().training["score"]["minutes"])


def case_for(shop: Shop, kind: str, seed: int) -> Case:
    """The case of a kind and a seed, or the shop's own of that number.

    Raises
    ------
    CoreError
        If there is none.
    """
    if kind != OWN:
        return case_of(kind, seed)
    own = OwnCase.objects.filter(shop=shop, number=seed).first()
    if own is None:
        raise CoreError("case", "seed", seed, "the number of an own case")
    return own_case(own.document, seed)


@transaction.atomic
def keep_case(*, shop: Shop, inspection: Inspection) -> OwnCase:
    """Make a case of an inspection whose outcome is known, without what tells whose it is.

    Raises
    ------
    CoreError
        If the outcome leaves a cylinder open, or nothing was wrong that is worth finding.
    """
    Shop.objects.select_for_update().get(pk=shop.pk)
    document = nameless(inspection.document)
    last = shop.own_cases.aggregate(last=Max("number"))["last"] or 0
    own_case(document, last + 1)
    return OwnCase.objects.create(shop=shop, number=last + 1, document=document)


def ideal(shop: Shop, kind: str, seed: int) -> Ideal:
    """The observer's round, played once."""
    if kind != OWN:
        return _of_drawn(kind, seed)
    return _of_own(OwnCase.objects.values_list("pk", flat=True).get(shop=shop, number=seed))


def hourly(shop: Shop) -> dict[str, Any]:
    """What an hour costs: by the house's own rules, or as usual."""
    house = in_force(shop)
    own, usual = house.rules if house else {}, knowledge().consequences["rate"]
    return {
        "rate": float(own.get("hourly_rate") or usual["hourly"]),
        "currency": own.get("currency") or usual["currency"],
    }


@lru_cache(maxsize=64)
def _of_drawn(kind: str, seed: int) -> Ideal:
    return _played(case_of(kind, seed))


@lru_cache(maxsize=64)
def _of_own(key: UUID) -> Ideal:
    """Of a case of a shop's own, which is never changed."""
    own = OwnCase.objects.get(pk=key)
    return _played(own_case(own.document, own.number))


def _played(case: Case) -> Ideal:
    done, verdict = observer(case, budget())
    acts, _ = acts_of(case, done)
    minutes = sum(one.minutes for one in acts)
    return Ideal(tuple(acts), verdict, score(case, acts, verdict, minutes))


def new_class(*, shop: Shop, name: str, seed: int) -> TrainingClass:
    """A class with five cases, each of a kind of its own; which kind is left out, the seed says."""
    left_out = seed % len(KINDS)
    kinds = [kind for at, kind in enumerate(KINDS) if at != left_out][:CASES_OF_A_CLASS]
    cases = [{"kind": kind, "seed": seed + at} for at, kind in enumerate(kinds)]
    return TrainingClass.objects.create(shop=shop, name=name, cases=cases)


def begin(*, person: User, kind: str, seed: int, of_class: TrainingClass | None) -> Attempt:
    """A round of a case; one that is under way goes on.

    Raises
    ------
    CoreError
        If there is no such case, or the class has not that one.
    """
    case_for(person.shop, kind, seed)
    if of_class is not None and {"kind": kind, "seed": seed} not in of_class.cases:
        raise CoreError("case", "seed", seed, "a case of the class")
    own = {"person": person, "kind": kind, "seed": seed, "of_class": of_class}
    under_way = Attempt.objects.filter(**own, answer__isnull=True).last()
    return under_way or Attempt.objects.create(**own)


def known_of(attempt: Attempt) -> tuple[Case, dict[str, Any]]:
    """The case, and what is known of it by now."""
    case = case_for(attempt.person.shop, attempt.kind, attempt.seed)
    known = case.begun
    for test, cylinders in attempt.acts:
        known = perform(case.whole, known, test, cylinders) or known
    return case, known


def spent(attempt: Attempt) -> float:
    """Minutes that were used."""
    return sum(minutes_of(test, len(cylinders)) for test, cylinders in attempt.acts)


@transaction.atomic
def act(*, attempt_id: Any, person: User, test: str, cylinders: Sequence[int]) -> Attempt:
    """Put an instrument to some cylinders.

    Raises
    ------
    RoundOver
        If the round was ended.
    CoreError
        If that cannot be done, tells nothing more, or there is no time for it.
    """
    attempt = _locked(attempt_id, person)
    case, known = known_of(attempt)
    possible = open_acts(case.whole, known).get(test, [])
    chosen = sorted({number for number in cylinders if number in possible})
    if not chosen:
        raise CoreError("act", "test", test, "an act that still tells something there")
    if spent(attempt) + minutes_of(test, len(chosen)) > budget():
        raise CoreError("time", "test", test, "an act for which there is time")
    attempt.acts.append([test, chosen])
    attempt.save(update_fields=["acts"])
    return attempt


@transaction.atomic
def record(*, attempt_id: Any, person: User, entries: list[tuple[str, Any]]) -> Attempt:
    """Write something down at the bench; what an instrument shows, nobody writes but oneself.

    Raises
    ------
    RoundOver
        If the round was ended.
    CoreError, DocumentRefused
        If an entry is of another place, or would break the record.
    """
    attempt = _locked(attempt_id, person)
    case = case_for(person.shop, attempt.kind, attempt.seed)
    attempt.record = write(attempt.record or case.begun, entries)
    attempt.save(update_fields=["record"])
    return attempt


@transaction.atomic
def finish(*, attempt_id: Any, person: User, verdict: Verdict) -> Attempt:
    """Say what it is; the truth is shown then.

    Raises
    ------
    RoundOver
        If that was done already.
    """
    attempt = _locked(attempt_id, person)
    case = case_for(person.shop, attempt.kind, attempt.seed)
    acts, _ = acts_of(case, attempt.acts)
    worth = score(case, acts, verdict, ideal(person.shop, attempt.kind, attempt.seed).minutes)
    attempt.answer = asdict(verdict)
    attempt.score = asdict(worth)
    attempt.save(update_fields=["answer", "score"])
    return attempt


def _locked(attempt_id: Any, person: User) -> Attempt:
    attempt = Attempt.objects.select_for_update().get(pk=attempt_id, person=person)
    if attempt.answer is not None:
        raise RoundOver
    return attempt


def next_plug(person: User) -> tuple[int, Question]:
    """The plug that is to be named next, and its number."""
    history = readings(person)
    return len(history), question(history, person.pk.int % 2**32)


def readings(person: User) -> list[Reading]:
    return [Reading(one.face, one.answered) for one in person.plug_readings.all()]


@transaction.atomic
def name_plug(*, person: User, number: int, answered: str) -> Question:
    """Name the plug of a number.

    Raises
    ------
    CoreError
        If that plug was named already, or the answer was not offered.
    """
    User.objects.select_for_update().get(pk=person.pk)
    at, asked = next_plug(person)
    if number != at:
        raise CoreError("number", "number", number, f"the plug of number {at}")
    if answered not in asked.offered:
        raise CoreError("answered", "answered", answered, f"one of {', '.join(asked.offered)}")
    PlugReading.objects.create(person=person, number=at, face=asked.face, answered=answered)
    return asked
