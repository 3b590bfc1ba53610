"""What a round was worth: beside the truth, and beside an observer who plays the same engine."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from core.document import check_document
from core.knowledge import knowledge
from core.simulation import Truth
from core.telling import assess
from core.training.cases import Case, grave, is_grave
from core.training.instruments import minutes_of, open_acts, perform

CLASSES = ("plug-service", "external-seal", "ignition-fuel", "top-end", "bottom-end")
NO_WORK = "none"
EVEN = 0.5  # From here on a work is likelier needed than not.
LEAST = 1e-4  # A chance below this counts as this: one overconfident claim is not everything.
GRAVE = ("C", "D", "E")
Json = dict[str, Any]


@dataclass(frozen=True)
class Claim:
    """What somebody says of one cylinder, and how sure they are.

    Attributes
    ----------
    fault : str
        Empty: it is sound, or wants no more than a plug or a seal.
    percent : float
        How sure, from 0 to 100.
    """

    cylinder: int
    fault: str
    percent: float


@dataclass(frozen=True)
class Verdict:
    """What somebody ends with."""

    claims: tuple[Claim, ...]
    may_run: bool
    needs: str = ""  # The dearest work that the buyer is told of: a class; nothing said if empty.


@dataclass(frozen=True)
class Act:
    """One act that was done."""

    test: str
    cylinders: tuple[int, ...]
    minutes: float
    bits: float


@dataclass(frozen=True)
class Score:
    """What a round was worth; `docs/training.md` has the formulas.

    Attributes
    ----------
    points : int
        From 0 to 100.
    found, of : float, int
        Faulty cylinders named rightly, half for the right end of the engine; of how many.
    wrong : tuple of int
        Sound cylinders that were convicted.
    for_nothing : float
        Hours of work that those convictions would cost. [h]
    missed_danger : bool
        It was let run and must not.
    brier : float
        Mean square of what was claimed less what was so. [-]
    minutes, bits : float
        Spent, and learnt about what the cylinders need.
    """

    points: int
    found: float
    of: int
    wrong: tuple[int, ...]
    for_nothing: float
    missed_danger: bool
    brier: float
    minutes: float
    bits: float


def told(truth: Truth, asked: Collection[int], said: Json) -> float:
    """How likely what is so is called, over what each cylinder needs. [bit, at or below zero]

    A class counts by its rank, as in the ranking of acts; where a code names cylinders, those
    alone count, because that was asked.
    """
    known = knowledge()
    weights = known.consequences["weights"]["by_rank"]
    total = 0.0
    for one in said["cylinders"]:
        if asked and one["number"] not in asked:
            continue
        own = truth.cylinders[one["number"]].faults
        needs = {known.fault(fault, "cylinder").consequence for fault in own}
        beside = any(one["number"] in pair for pair in truth.gaskets)
        for name in CLASSES:
            so = name in needs or (name == "top-end" and beside)
            weight = weights[known.consequences["class"][name]["rank"]]
            total += weight * log_of(one["consequences"][name], so)
    for one in said["engine"]["faults"]:
        total += log_of(one["probability"], one["fault"] in truth.engine_faults)
    return total


def log_of(chance: float, so: bool) -> float:
    """The logarithm of the chance of what is so. [bit]"""
    return math.log2(max(chance if so else 1 - chance, LEAST))


def answer(document: Json, *, advise: bool = False) -> Json:
    """What the model says of a document."""
    return assess(check_document(document), explain=False, advise=advise)


def acts_of(case: Case, done: Sequence[tuple[str, Sequence[int]]]) -> tuple[list[Act], Json]:
    """A round played again: each act with its minutes and what it told, and what is known then."""
    known, acts = case.begun, []
    before = told(case.truth, (), answer(known))
    for test, cylinders in done:
        after = perform(case.whole, known, test, cylinders)
        if after is None:
            continue
        now = told(case.truth, (), answer(after))
        minutes = minutes_of(test, len(cylinders))
        acts.append(Act(test, tuple(cylinders), minutes, round(now - before, 2)))
        known, before = after, now
    return acts, known


def observer(case: Case, budget: float) -> tuple[list[tuple[str, tuple[int, ...]]], Verdict]:
    """Somebody who knows the model and nothing else: the act that tells most, until none does."""
    known, spent = case.begun, 0.0
    done: list[tuple[str, tuple[int, ...]]] = []
    while True:
        said = answer(known, advise=True)
        possible = open_acts(case.whole, known)
        for one in said["next_tests"]:
            cylinders = tuple(n for n in one["cylinders"] if n in possible.get(one["test"], []))
            minutes = minutes_of(one["test"], len(cylinders)) if cylinders else 0.0
            if cylinders and spent + minutes <= budget:
                break
        else:
            return done, by_model(said)
        after = perform(case.whole, known, one["test"], cylinders)
        if after is None:
            return done, by_model(said)
        known, spent = after, spent + minutes
        done.append((one["test"], cylinders))


def by_model(said: Json) -> Verdict:
    """The model's own verdict, in the words of an apprentice."""
    claims = []
    for one in said["cylinders"]:
        likeliest = max(
            (fault for fault in one["faults"] if is_grave(fault["fault"])),
            key=lambda fault: fault["probability"],
        )
        chance = likeliest["probability"]
        if one["grade"] in GRAVE and chance >= knowledge().suspected_from:
            claims.append(Claim(one["number"], likeliest["fault"], 100 * chance))
        else:
            sound = 1 - max(one["consequences"]["repair"], one["consequences"]["cut-out"])
            claims.append(Claim(one["number"], "", 100 * sound))
    chance = {
        name: max(one["consequences"][name] for one in said["cylinders"]) for name in CLASSES
    }  # fmt: skip
    likely = [name for name in CLASSES if chance[name] >= EVEN]
    needs = likely[-1] if likely else NO_WORK
    return Verdict(tuple(claims), said["engine"]["may_run"]["answer"] != "no", needs)


def needed(truth: Truth) -> str:
    """The class of the dearest work that an engine needs; `none` where it needs none."""
    known = knowledge()
    wanted = {
        known.fault(fault, scope).consequence
        for scope, faults in (
            ("cylinder", {fault for one in truth.cylinders.values() for fault in one.faults}),
            ("engine", truth.engine_faults),
            ("bank", set(truth.bank_faults.values())),
            ("pair", {"head-gasket-between"} if truth.gaskets else set()),
        )
        for fault in faults
    }
    ranked = [NO_WORK, *CLASSES]
    return max(wanted, key=ranked.index, default=NO_WORK)


def score(case: Case, acts: Sequence[Act], verdict: Verdict, ideal_minutes: float) -> Score:
    """What a round was worth.

    Parameters
    ----------
    case : Case
    acts : sequence of Act
    verdict : Verdict
    ideal_minutes : float
        What the observer took. [min]
    """
    rule = knowledge().training["score"]
    faults = grave(case.truth)
    claims = {one.cylinder: one for one in verdict.claims}
    found = sum(_rightness(claims.get(number), own) for number, own in faults.items())
    wrong = tuple(n for n, one in sorted(claims.items()) if one.fault and n not in faults)
    hours = knowledge().consequences["class"]
    for_nothing = sum(
        hours[knowledge().fault(claims[n].fault, "cylinder").consequence]["hours"] for n in wrong
    )
    errors = list(_errors(case.truth, faults, claims))
    brier = sum(errors) / len(errors)
    minutes = sum(one.minutes for one in acts)
    must_stop = _must_stop(case.truth)
    danger = must_stop and verdict.may_run
    economy = min(ideal_minutes / minutes, 1.0) if minutes else 0.0
    share = found / len(faults)
    points = (
        rule["found"] * share
        + rule["sure"] * (1 - min(brier / rule["worst_brier"], 1.0))
        + rule["economy"] * economy * share  # Quick and wrong is no economy.
        + rule["run"] * (verdict.may_run != must_stop)
        - rule["wrong"] * len(wrong)
        - rule["danger"] * danger
    )
    return Score(
        points=round(max(100 * points, 0.0)),
        found=found,
        of=len(faults),
        wrong=wrong,
        for_nothing=for_nothing,
        missed_danger=danger,
        brier=round(brier, 4),
        minutes=minutes,
        bits=round(sum(one.bits for one in acts), 2),
    )


def _rightness(claim: Claim | None, faults: set[str]) -> float:
    """One for a fault that is there, a half for another of the same end of the engine."""
    if claim is None or not claim.fault:
        return 0.0
    known = knowledge()
    ends = {known.fault(fault, "cylinder").consequence for fault in faults}
    if claim.fault in faults:
        return 1.0
    return 0.5 if known.fault(claim.fault, "cylinder").consequence in ends else 0.0


def _errors(
    truth: Truth, faults: Mapping[int, set[str]], claims: Mapping[int, Claim]
) -> Iterator[float]:
    """The square of what was claimed less what was so, by cylinder; silence says fifty."""
    for number in truth.cylinders:
        claim = claims.get(number, Claim(number, "", 50.0))
        so = claim.fault in faults.get(number, ()) if claim.fault else number not in faults
        yield (claim.percent / 100 - so) ** 2


def _must_stop(truth: Truth) -> bool:
    """Whether something is there that forbids running it."""
    stopping = set(knowledge().cylinder_faults(lambda fault: fault.stops)) | {"plug-loose"}
    return any(one.faults & stopping for one in truth.cylinders.values())
