"""The answer for a client, told from the claims: what it is, what is behind it, what that means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from core.assessment import Assessment, Claim
from core.document.job import cylinders_of_job
from core.document.readings import final_of
from core.document.records import Document
from core.knowledge import knowledge
from core.language import begun, cylinders_said, later, listed, number_said, say, word_said
from core.quantities import Figure
from core.telling.claim import words

Kind = Literal["sound", "service", "watch", "outside", "plug", "inside", "stop", "unknown"]
OF_GRADE: dict[str, Kind] = {
    "A": "sound", "B": "service", "C": "watch", "E": "stop", "U": "unknown",
}  # fmt: skip
INSIDE = ("top-end", "bottom-end")
MOST_SENTENCES = 3
OWN = ("cylinder", "pair", "some", "bank", "feed", "coil", "leads")
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


def client_answer(document: Document, assessment: Assessment) -> ClientAnswer:
    """Say in plain words what an assessment comes to; as left, where work was done.

    Parameters
    ----------
    document : Document
        What was recorded, in the units that are to be read.
    assessment : Assessment
        What was made of it, in the same units.
    """
    left = assessment.engine.as_left or None
    now = left or assessment.engine
    claims = now.claims
    kind = _kind(now.grade, claims)
    parts = [_question(assessment), say(words()["answer"][kind])]
    if document.inspection.purpose == "pre-purchase":
        parts.append(say(words()["before-purchase"][kind]))
    told = [one for one in claims if one.client and not _seen_already(one, claims)]
    said = [one.client for one in told]
    if len(said) > MOST_SENTENCES:
        said = [
            *said[: MOST_SENTENCES - 1],
            say("There is more: see what was found, cylinder by cylinder."),
        ]
    if left:
        said = [left.done, *said]
    return ClientAnswer(
        kind=kind,
        answer=" ".join(one for one in parts if one),
        behind=tuple(said),
        others=_others(document, assessment, claims),
        running=f"{say(words()['may-run'][now.may_run.answer])} {now.may_run.reason}".strip(),
        money=_money(assessment),
        sure=_sure(told, assessment),
        pressures=_pressures(document, assessment),
        plugs=_plugs(document, assessment),
        next=_next(assessment, kind),
        states={one.number: say(words()["state"][one.grade_now]) for one in assessment.cylinders},
    )


def _seen_already(one: Claim, claims: Sequence[Claim]) -> bool:
    """Whether what is only weighed was seen on the same cylinders, with the same consequence."""
    return one.basis == "weighed" and any(
        other.basis == "seen"
        and (other.cylinders, other.leads_to) == (one.cylinders, one.leads_to)
        and other.leads_to in INSIDE
        for other in claims
    )


def _question(assessment: Assessment) -> str:
    """What it came with, and whether that is explained."""
    asked = assessment.engine.question
    if asked.state == "none":
        return ""
    told = listed([word_said(one) for one in asked.complaints]) or say("misfire")
    if asked.cylinders:
        told = say("{complaint} on {numbers}", complaint=told, numbers=listed(asked.cylinders))
    if asked.codes:
        told = say("{told} (code {codes})", told=told, codes=listed(asked.codes))
    return say(words()["question"][asked.state], asked=told)


def _kind(grade: str, claims: Sequence[Claim]) -> Kind:
    """What it comes to: of a repair, whether inside, outside, or of its plugs alone."""
    if grade in OF_GRADE:
        return OF_GRADE[grade]
    repairs = {one.leads_to for one in claims if one.stands and one.grade == "D"}
    if repairs & set(INSIDE):
        return "inside"
    return "plug" if repairs == {"plug-service"} else "outside"


def _next(assessment: Assessment, kind: Kind) -> str:
    """What to do where no test would tell more."""
    proof = assessment.engine.as_left.proof if assessment.engine.as_left else None
    if proof and proof.state == "passed":
        return f"{begun(assessment.engine.as_left.open[-1])}." if assessment.engine.as_left else ""
    return say(words()["next"][kind])


def _others(document: Document, assessment: Assessment, claims: Sequence[Claim]) -> str:
    """How those did of whom nothing is claimed, and how far all were looked at."""
    job = cylinders_of_job(document)
    named = {n for one in claims if one.scope in OWN for n in one.cylinders}
    examined = [one.number for one in assessment.cylinders if one.examined and one.number in job]
    quiet = [number for number in examined if number not in named]
    blank = [one.number for one in assessment.cylinders if one.grade == "U" and one.number in job]
    coverage, everyone = assessment.engine.coverage, len(assessment.cylinders)
    grave = any(one.grade in ("C", "D", "E") and one.scope not in OWN for one in claims)
    parts = []
    alone = len(quiet) == 1
    how = _well(coverage.plugs == everyone, coverage.pressures == everyone, alone=alone)
    if grave or not quiet or (blank and not named):
        how = ""  # What all share is not right: nobody is praised beside it.
    if len(quiet) == everyone and how:
        who = say("All {count} cylinders", count=_count(everyone))
        if everyone <= 2:
            who = say("Its cylinder") if alone else say("Both cylinders")
        parts.append(f"{who} {how}.")
    elif quiet and named and not grave:
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


def _sure(told: Sequence[Claim], assessment: Assessment) -> str:
    """How sure the first of it is: seen, by a rule, or by its chance."""
    if not told or (told[0].basis == "rule" and not told[0].faults):
        return ""
    first, table = told[0], words()["sure"]
    sure = begun(say(table[first.basis])) if first.basis in table else ""
    if first.basis == "weighed":
        sure = begun(
            say(next(text for least, text in table["steps"] if first.probability >= least))
        )
    if len(told) > 1:
        sure = say("{sure} for the first of these", sure=sure)
    tests, settle = assessment.next_tests, ""
    if tests and first.basis == "weighed" and first.probability < table["steps"][0][0]:
        label = say(knowledge().tests[tests[0].test]["label"])
        settle = say(
            "What would settle it best: {label}, about {minutes:.0f} minutes.",
            label=label, minutes=tests[0].minutes,
        )  # fmt: skip
    return f"{sure}. {settle}".strip()


def _pressures(document: Document, assessment: Assessment) -> str:
    """The readings of the dry test in the cylinders' order, and what the maker wants."""
    aside = {"/".join(one.path.split("/")[:6]) for one in assessment.engine.read_again}
    for test in document.tests.compression:
        base = f"/tests/compression/{test.id}/readings"
        finals = {
            item.cylinder: final_of(item)
            for item in test.readings
            if f"{base}/{item.cylinder}" not in aside
        }
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


def _renewed(fitted: Sequence[int]) -> str:
    if len(fitted) == 1:
        return say("{fitted} was renewed", fitted=fitted[0])
    return say("{fitted} were renewed", fitted=listed(fitted))


def _plugs(document: Document, assessment: Assessment) -> str:
    """What to do with the plugs that were found; those that were fitted since are told as done."""
    fitted = {one.cylinder for one in document.refit.cylinders if one.fitted and not one.reused}
    parts = [_renewed(sorted(fitted))] if fitted else []
    left = assessment.engine.as_left
    if left and left.proof.state == "passed":
        return f"{begun('; '.join(parts))}." if parts else ""
    for action, told in TO_DO.items():
        numbers = [
            one.number
            for one in assessment.cylinders
            if one.plug_action == action and one.number not in fitted
        ]
        if numbers:
            parts.append(say(told, plugs=listed(numbers)))
    return f"{begun('; '.join(parts))}." if parts else ""
