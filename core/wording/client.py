"""The answer for a client: what it is, what is behind it, and what that means, in plain words."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any, Literal

from core.assessment import Assessment, CylinderAssessment
from core.document.job import cylinders_of_job
from core.document.readings import final_of
from core.document.records import Document
from core.judgement.verdict import place_of
from core.knowledge import knowledge
from core.quantities import Figure, listed

Kind = Literal["sound", "service", "watch", "outside", "plug", "inside", "stop", "unknown"]
OF_GRADE: dict[str, Kind] = {
    "A": "sound", "B": "service", "C": "watch", "E": "stop", "U": "unknown",
}  # fmt: skip
INSIDE = ("top-end", "bottom-end")
CALLED_FROM, OPEN_FROM = 0.5, 0.2
MOST_SENTENCES = 3


@dataclass(frozen=True)
class ClientAnswer:
    """Page one of a report, without its drawings.

    Attributes
    ----------
    kind : str
        What the answer comes to.
    answer : str
        The first sentence, and before a purchase the one that decides.
    behind : tuple of str
        What is behind it, the gravest first; at most three, the last says if there is more.
    others : str
        How the rest did; empty where there is none.
    running, money, sure : str
        What it means; empty where nothing can be said.
    pressures, plugs : str
        How the cylinders did, as figures and as words; empty where nobody looked.
    next : str
        What to do where no test would tell more.
    states : dict of cylinder to str
        One word for each.
    """

    kind: Kind
    answer: str
    behind: tuple[str, ...]
    others: str
    running: str
    money: str
    sure: str
    pressures: str
    plugs: str
    next: str
    states: dict[int, str]


@cache
def words() -> dict[str, dict[str, Any]]:
    """The table of words for clients."""
    return tomllib.loads((Path(__file__).parent / "words.toml").read_text("utf-8"))


def client_answer(document: Document, assessment: Assessment) -> ClientAnswer:
    """Say in plain words what an assessment comes to; as left, where work was done.

    Parameters
    ----------
    document : Document
        What was recorded, in the units that are to be read.
    assessment : Assessment
        What was made of it, in the same units.
    """
    kind = _kind(assessment)
    parts = [words()["answer"][kind]]
    if document.inspection.purpose == "pre-purchase":
        parts.append(words()["before-purchase"][kind])
    causes = list(_causes(assessment))
    said = [sentence for sentence, _ in causes]
    if len(said) > MOST_SENTENCES:
        said = [
            *said[: MOST_SENTENCES - 1],
            "There is more: see what was found, cylinder by cylinder.",
        ]
    left = assessment.engine.as_left or None
    now = left or assessment.engine
    if left:
        said = [left.done, *said]
    return ClientAnswer(
        kind=kind,
        answer=" ".join(parts),
        behind=tuple(said),
        others=_others(document, assessment),
        running=f"{words()['may-run'][now.may_run.answer]} {now.may_run.reason}".strip(),
        money=_money(assessment),
        sure=_sure([chance for _, chance in causes], assessment),
        pressures=_pressures(document),
        plugs=_plugs(document, assessment),
        next=words()["next"][kind],
        states={one.number: words()["state"][one.grade_now] for one in assessment.cylinders},
    )


def _kind(assessment: Assessment) -> Kind:
    now = assessment.engine.as_left or assessment.engine
    if now.grade in OF_GRADE:
        return OF_GRADE[now.grade]
    suspects = [one for one in assessment.cylinders if one.grade_now in ("D", "E")]
    inside = any(
        one.consequences.get(name, 0) >= CALLED_FROM for one in suspects for name in INSIDE
    )
    opened = sum(one.consequences.get(name, 0) for one in suspects for name in INSIDE)
    if inside or opened >= CALLED_FROM or any(p.probability >= OPEN_FROM for p in assessment.pairs):
        return "inside"
    shared = [one for one in assessment.shared if one.probability >= OPEN_FROM]
    if any(one.fault == "valve-timing" for one in shared):
        return "inside"
    cut_out = [one.consequences.get("cut-out", 0) for one in suspects]
    if not shared and suspects and min(cut_out) >= CALLED_FROM:
        return "plug"
    return "outside"


def _causes(assessment: Assessment) -> Iterator[tuple[str, float]]:
    """What is behind it in sentences, the gravest first, each with its chance."""
    grouped: dict[str, tuple[list[int], float]] = {}
    for pair in assessment.pairs:
        if pair.probability >= CALLED_FROM:
            yield (
                f"Cylinders {listed(pair.cylinders)} {words()['cylinder'][pair.fault]}.",
                pair.probability,
            )
    leaking = {n for p in assessment.pairs if p.probability >= CALLED_FROM for n in p.cylinders}
    by_number = {one.number: one for one in assessment.cylinders}
    for number in sorted(assessment.engine.most_suspect, key=lambda n: _order(by_number[n])):
        one = by_number[number]
        if one.as_left and one.as_left.grade == "A":
            continue
        text, chance = _cause(one, beside_gasket=number in leaking)
        if text:
            numbers, least = grouped.get(text, ([], 1.0))
            grouped[text] = ([*numbers, number], min(least, chance))
    shared = [one for one in assessment.shared if one.probability >= CALLED_FROM]
    for fault in shared if not assessment.engine.as_left else []:
        yield f"{place_of(fault)} {words()['shared'][fault.fault]}.", fault.probability
    for text, (numbers, chance) in grouped.items():
        several = len(numbers) > 1
        who = f"Cylinders {listed(sorted(numbers))}" if several else f"Cylinder {numbers[0]}"
        yield f"{who}{' each' if several else ''} {text}.", chance


def _order(one: CylinderAssessment) -> tuple[str, float, int]:
    """The worst grade first (E before D), then what is likeliest."""
    return (chr(ord("Z") - ord(one.grade_now)), -one.faults[0].probability, one.number)


def _cause(one: CylinderAssessment, *, beside_gasket: bool) -> tuple[str, float]:
    """What one cylinder has, behind its number; two that cannot be told apart yet, as such."""
    told = words()["cylinder"]
    faults = one.as_left.faults if one.as_left else one.faults
    known = [fault for fault in faults if fault.probability >= CALLED_FROM]
    if known:
        grave = sorted(known, key=lambda fault: _gravity(fault.fault), reverse=True)
        return " and ".join(told[fault.fault] for fault in grave[:2]), grave[0].probability
    if beside_gasket or one.grade in ("A", "U"):
        return "", 0.0
    rivals = [fault for fault in faults if fault.probability >= OPEN_FROM / 2][:2]
    if not rivals:
        return "", 0.0
    chance = min(sum(fault.probability for fault in rivals), 1.0)
    which = " or ".join(told[fault.fault] for fault in rivals)
    return f"probably {which}" if chance >= CALLED_FROM else f"perhaps {which}", chance


def _gravity(fault: str) -> int:
    order = ("external-seal", "plug-service", "ignition-fuel", "top-end", "bottom-end")
    return order.index(knowledge().fault(fault, "cylinder").consequence)


def _others(document: Document, assessment: Assessment) -> str:
    """How those did of whom nothing was said, and how far all were looked at."""
    job = cylinders_of_job(document)
    suspects = {
        one.number
        for one in assessment.cylinders
        if one.number in assessment.engine.most_suspect
        and not (one.as_left and one.grade_now == "A")
    }
    quiet = [
        one.number
        for one in assessment.cylinders
        if one.grade_now in ("A", "B") and one.number in job and one.number not in suspects
    ]
    blank = [one.number for one in assessment.cylinders if one.grade == "U" and one.number in job]
    coverage, everyone = assessment.engine.coverage, len(assessment.cylinders)
    parts = []
    alone = len(quiet) == 1
    sides = [
        f"{verb}{'s' if alone else ''}"
        for verb, seen in (("look", coverage.plugs), ("measure", coverage.pressures))
        if seen == everyone
    ]
    if len(quiet) == everyone and sides:
        several = "Both" if everyone == 2 else f"All {_count(everyone)}"
        who = "Its cylinder" if alone else f"{several} cylinders"
        parts.append(f"{who} {' and '.join(sides)} well.")
    elif quiet and suspects:
        who = f"Cylinder {quiet[0]}" if alone else f"The other {_count(len(quiet))}"
        how = f"{' and '.join(sides)} well" if sides else "showed nothing wrong"
        parts.append(f"{who} {how}.")
    if len(blank) < everyone:
        for name, seen in (("Plugs", coverage.plugs), ("Pressures", coverage.pressures)):
            if seen < everyone:
                parts.append(f"{name} were read on {seen or 'none'} of {everyone}.")
        if blank:
            which = f"Cylinder{'s' if len(blank) > 1 else ''} {listed(blank)}"
            parts.append(f"{which} could not be judged.")
    return " ".join(parts)


def _count(number: int) -> str:
    told = ("", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
    return told[number] if number < len(told) else str(number)


def _money(assessment: Assessment) -> str:
    work = (assessment.engine.as_left or assessment.engine).work
    if work.expected_hours < 0.5:
        return ""
    hours = f"about {work.expected_hours:.0f} hour{'s' if round(work.expected_hours) != 1 else ''}"
    if work.expected_hours < 1:
        hours = "about half an hour"
    cost = f", {work.expected_cost:,.0f} {work.currency}" if work.expected_cost else ""
    bad = (
        f"; one time in ten as much as {work.bad_luck_cost:,.0f} {work.currency}"
        if work.bad_luck_cost > work.expected_cost
        else ""
    )
    return f"To be expected: {hours}{cost}{bad}. This is no quotation."


def _sure(chances: Sequence[float], assessment: Assessment) -> str:
    if not chances:
        return ""
    said = next(text for least, text in words()["sure"]["steps"] if chances[0] >= least)
    tests = assessment.next_tests
    settle = ""
    if tests and chances[0] < words()["sure"]["steps"][0][0]:
        label = knowledge().tests[tests[0].test]["label"]
        settle = f" What would settle it best: {label}, about {tests[0].minutes:.0f} minutes."
    of_which = " for the first of these" if len(chances) > 1 else ""
    return f"{said[0].upper()}{said[1:]}{of_which}.{settle}"


def _pressures(document: Document) -> str:
    """The readings of the dry test in the cylinders' order, and what the maker wants."""
    for test in document.tests.compression:
        finals = {item.cylinder: final_of(item) for item in test.readings}
        read = [(number, final) for number, final in sorted(finals.items()) if final]
        if test.kind == "dry" and read:
            unit = read[0][1].unit
            shown = " · ".join(f"{number}: {final.value:g}" for number, final in read)
            return f"{shown} {unit}.{_wanted(document)}"
    return ""


def _wanted(document: Document) -> str:
    limits = document.engine.specification
    low: Figure | None = limits.compression_min
    high: Figure | None = limits.compression_max
    if low and high:
        return f" Wanted: {low.value:g} to {high.value:g} {high.unit}."
    return f" Wanted: at least {low.value:g} {low.unit}." if low else ""


def _plugs(document: Document, assessment: Assessment) -> str:
    """What to do with the plugs that were found; those that were fitted since are told as done."""
    told = {"keep": "keep", "clean": "clean", "regap": "set the gap of", "replace": "renew"}
    fitted = {one.cylinder for one in document.refit.cylinders if one.fitted and not one.reused}
    parts = [f"{listed(sorted(fitted))} were renewed"] if fitted else []
    for action, verb in told.items():
        numbers = [
            one.number
            for one in assessment.cylinders
            if one.plug_action == action and one.number not in fitted
        ]
        if numbers:
            parts.append(f"{verb} {listed(numbers)}")
    said = "; ".join(parts)
    return f"{said[:1].upper()}{said[1:]}." if said else ""
