"""A round, from its beginning to what it was worth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any

from django.db import transaction
from rest_framework import status
from rest_framework.exceptions import APIException

from core.errors import CoreError
from core.knowledge import knowledge
from core.training.cases import KINDS, Case, case_of
from core.training.instruments import minutes_of, open_acts, perform
from core.training.plugs import Question, Reading, question
from core.training.scoring import (
    Act,
    Score,
    Verdict,
    acts_of,
    observer,
    score,
)
from server.shops.models import Shop, User
from server.training.models import Attempt, PlugReading, TrainingClass

LABELS = {
    "school-day": "First day: one fault, plain",
    "two-faults": "Two faults at once",
    "misleading-oil": "Oil where it misleads",
    "test-run-wrong": "A test that was run wrong",
    "comes-and-goes": "It comes and goes",
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


@lru_cache(maxsize=64)
def ideal(kind: str, seed: int) -> Ideal:
    """The observer's round, played once."""
    case = case_of(kind, seed)
    done, verdict = observer(case, budget())
    acts, _ = acts_of(case, done)
    minutes = sum(one.minutes for one in acts)
    return Ideal(tuple(acts), verdict, score(case, acts, verdict, minutes))


def new_class(*, shop: Shop, name: str, seed: int) -> TrainingClass:
    """A class with a case of each kind."""
    cases = [{"kind": kind, "seed": seed + at} for at, kind in enumerate(KINDS)]
    return TrainingClass.objects.create(shop=shop, name=name, cases=cases)


def begin(*, person: User, kind: str, seed: int, of_class: TrainingClass | None) -> Attempt:
    """A round of a case; one that is under way goes on.

    Raises
    ------
    CoreError
        If there is no such case, or the class has not that one.
    """
    case_of(kind, seed)
    if of_class is not None and {"kind": kind, "seed": seed} not in of_class.cases:
        raise CoreError("case", "seed", seed, "a case of the class")
    own = {"person": person, "kind": kind, "seed": seed, "of_class": of_class}
    under_way = Attempt.objects.filter(**own, answer__isnull=True).last()
    return under_way or Attempt.objects.create(**own)


def known_of(attempt: Attempt) -> tuple[Case, dict[str, Any]]:
    """The case, and what is known of it by now."""
    case = case_of(attempt.kind, attempt.seed)
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
def finish(*, attempt_id: Any, person: User, verdict: Verdict) -> Attempt:
    """Say what it is; the truth is shown then.

    Raises
    ------
    RoundOver
        If that was done already.
    """
    attempt = _locked(attempt_id, person)
    case = case_of(attempt.kind, attempt.seed)
    acts, _ = acts_of(case, attempt.acts)
    worth = score(case, acts, verdict, ideal(attempt.kind, attempt.seed).minutes)
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
