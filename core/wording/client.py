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
from core.language import begun, cylinders_said, later, listed, number_said, one_of, say
from core.quantities import Figure

Kind = Literal["sound", "service", "watch", "outside", "plug", "inside", "stop", "unknown"]
OF_GRADE: dict[str, Kind] = {
    "A": "sound", "B": "service", "C": "watch", "E": "stop", "U": "unknown",
}  # fmt: skip
INSIDE = ("top-end", "bottom-end")
CALLED_FROM, OPEN_FROM = 0.5, 0.2
MOST_SENTENCES = 3
TO_DO = {
    "keep": later("keep {plugs}"),
    "clean": later("clean {plugs}"),
    "regap": later("set the gap of {plugs}"),
    "replace": later("renew {plugs}"),
}


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
    parts = [say(words()["answer"][kind])]
    if document.inspection.purpose == "pre-purchase":
        parts.append(say(words()["before-purchase"][kind]))
    causes = list(_causes(assessment))
    said = [sentence for sentence, _ in causes]
    if len(said) > MOST_SENTENCES:
        said = [
            *said[: MOST_SENTENCES - 1],
            say("There is more: see what was found, cylinder by cylinder."),
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
        running=f"{say(words()['may-run'][now.may_run.answer])} {now.may_run.reason}".strip(),
        money=_money(assessment),
        sure=_sure([chance for _, chance in causes], assessment),
        pressures=_pressures(document),
        plugs=_plugs(document, assessment),
        next=say(words()["next"][kind]),
        states={one.number: say(words()["state"][one.grade_now]) for one in assessment.cylinders},
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
                _has(begun(cylinders_said(pair.cylinders)), words()["cylinder"][pair.fault]),
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
        yield _has(place_of(fault), words()["shared"][fault.fault]), fault.probability
    for text, (numbers, chance) in grouped.items():
        who = begun(cylinders_said(sorted(numbers)))
        told = say("{who} each {what}.", who=who, what=text) if len(numbers) > 1 else ""
        yield told or say("{who} {what}.", who=who, what=text), chance


def _has(who: str, what: str) -> str:
    return say("{who} {what}.", who=who, what=say(what))


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
        return listed([say(told[fault.fault]) for fault in grave[:2]]), grave[0].probability
    if beside_gasket or one.grade in ("A", "U"):
        return "", 0.0
    rivals = [fault for fault in faults if fault.probability >= OPEN_FROM / 2][:2]
    if not rivals:
        return "", 0.0
    chance = min(sum(fault.probability for fault in rivals), 1.0)
    which = one_of([say(told[fault.fault]) for fault in rivals])
    return say("probably {which}", which=which) if chance >= CALLED_FROM else say(
        "perhaps {which}", which=which
    ), chance


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
    how = _well(coverage.plugs == everyone, coverage.pressures == everyone, alone=alone)
    if len(quiet) == everyone and how:
        who = say("All {count} cylinders", count=_count(everyone))
        if everyone <= 2:
            who = say("Its cylinder") if alone else say("Both cylinders")
        parts.append(f"{who} {how}.")
    elif quiet and suspects:
        who = begun(cylinders_said(quiet)) if alone else _the_other(len(quiet))
        parts.append(f"{who} {how or say('showed nothing wrong')}.")
    if len(blank) < everyone:
        for read, some, none in (
            (coverage.plugs, *PLUGS_READ),
            (coverage.pressures, *PRESSURES_READ),
        ):
            if read < everyone:
                parts.append(say(some if read else none, read=read, all=everyone))
        if blank:
            which = begun(cylinders_said(blank))
            parts.append(say("{which} could not be judged.", which=which))
    return " ".join(parts)


def _the_other(count: int) -> str:
    return say("The other {count}", count=_count(count))


def _well(look: bool, measure: bool, *, alone: bool) -> str:
    """That cylinders of which nothing was said look and measure well, as far as all were seen."""
    if look and measure:
        return say("looks and measures well") if alone else say("look and measure well")
    if look:
        return say("looks well") if alone else say("look well")
    if measure:
        return say("measures well") if alone else say("measure well")
    return ""


PLUGS_READ = (
    later("Plugs were read on {read} of {all}."),
    later("Plugs were read on none of {all}."),
)
PRESSURES_READ = (
    later("Pressures were read on {read} of {all}."),
    later("Pressures were read on none of {all}."),
)
COUNTS = (
    "", later("one"), later("two"), later("three"), later("four"), later("five"), later("six"),
    later("seven"), later("eight"), later("nine"), later("ten"),
)  # fmt: skip


def _count(number: int) -> str:
    return say(COUNTS[number]) if number < len(COUNTS) else str(number)


def _money(assessment: Assessment) -> str:
    work = (assessment.engine.as_left or assessment.engine).work
    if work.expected_hours < 0.5:
        return ""
    hours = say("about {hours:.0f} hours", hours=work.expected_hours)
    if round(work.expected_hours) == 1:
        hours = say("about 1 hour")
    if work.expected_hours < 1:
        hours = say("about half an hour")
    expected = hours
    if work.expected_cost:
        expected = f"{hours}, {_sum(work.expected_cost)} {work.currency}"
    if work.bad_luck_cost > work.expected_cost:
        expected = say(
            "{expected}; one time in ten as much as {cost} {currency}",
            expected=expected, cost=_sum(work.bad_luck_cost), currency=work.currency,
        )  # fmt: skip
    return say("To be expected: {expected}. This is no quotation.", expected=expected)


def _sum(money: float) -> str:
    return number_said(f"{money:,.0f}")


def _sure(chances: Sequence[float], assessment: Assessment) -> str:
    if not chances:
        return ""
    said = next(text for least, text in words()["sure"]["steps"] if chances[0] >= least)
    tests = assessment.next_tests
    settle = ""
    if tests and chances[0] < words()["sure"]["steps"][0][0]:
        label = say(knowledge().tests[tests[0].test]["label"])
        settle = say(
            "What would settle it best: {label}, about {minutes:.0f} minutes.",
            label=label, minutes=tests[0].minutes,
        )  # fmt: skip
    sure = begun(say(said))
    if len(chances) > 1:
        sure = say("{sure} for the first of these", sure=sure)
    return f"{sure}. {settle}".strip()


def _pressures(document: Document) -> str:
    """The readings of the dry test in the cylinders' order, and what the maker wants."""
    for test in document.tests.compression:
        finals = {item.cylinder: final_of(item) for item in test.readings}
        read = [(number, final) for number, final in sorted(finals.items()) if final]
        if test.kind == "dry" and read:
            unit = read[0][1].unit
            shown = " · ".join(
                f"{number}: {number_said(f'{final.value:g}')}" for number, final in read
            )
            return f"{shown} {unit}. {_wanted(document)}".strip()
    return ""


def _wanted(document: Document) -> str:
    limits = document.engine.specification
    low: Figure | None = limits.compression_min
    high: Figure | None = limits.compression_max
    if low and high:
        return say(
            "Wanted: {low:g} to {high:g} {unit}.", low=low.value, high=high.value, unit=high.unit
        )
    return say("Wanted: at least {low:g} {unit}.", low=low.value, unit=low.unit) if low else ""


def _plugs(document: Document, assessment: Assessment) -> str:
    """What to do with the plugs that were found; those that were fitted since are told as done."""
    fitted = {one.cylinder for one in document.refit.cylinders if one.fitted and not one.reused}
    parts = [say("{fitted} were renewed", fitted=listed(sorted(fitted)))] if fitted else []
    for action, told in TO_DO.items():
        numbers = [
            one.number
            for one in assessment.cylinders
            if one.plug_action == action and one.number not in fitted
        ]
        if numbers:
            parts.append(say(told, plugs=listed(numbers)))
    return f"{begun('; '.join(parts))}." if parts else ""
