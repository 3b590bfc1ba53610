"""An engine's story: what became of it at each inspection, and which plugs are in it now."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date

from core.assessment import Assessment
from core.document.records import Document
from core.history.over_time import Visit, family, gone
from core.knowledge import knowledge
from core.language import listed, one_of, say, word_said
from core.quantities import Figure, spoken
from core.refit.put_right import put_right

LEAST_DAYS = 30  # Inspections that are nearer to each other do not tell how much it runs.


@dataclass(frozen=True)
class Event:
    """One thing that happened.

    Attributes
    ----------
    kind : str
        `asked` what it came with, `done` what was put right or in, `kept` what was put away,
        `proof` how it ran then, `again` when somebody is to look again, `opened` what it turned
        out to be, `left` what was not looked at, `cost` what it was reckoned to come to.
    text : str
    """

    kind: str
    text: str


def events(document: Document) -> Iterator[Event]:
    """What became of the engine at one inspection, in the order of the work."""
    job = document.inspection
    if job.complaints:
        asked = listed([word_said(one) for one in job.complaints])
        if job.complaint_since:
            asked = say("{asked}, since {when}", asked=asked, when=job.complaint_since)
        yield Event("asked", asked)
    if job.trouble_codes:
        yield Event("asked", say("codes {codes}", codes=listed(job.trouble_codes)))
    for one in put_right(document):
        yield Event("done", one.spoken)
    for refused in document.refit.refused:
        yield Event(
            "done",
            say(
                "a new plug was not fitted: {reason}",
                reason=refused.reason or say("no reason given"),
            ),
        )
    kept = document.refit.kept
    if kept.label:
        yield Event(
            "kept",
            say("old plugs kept: {label}", label=", ".join(filter(None, (kept.label, kept.where)))),
        )
    yield from _proved(document)
    yield from _turned_out(document)
    for item in job.not_inspected:
        yield Event("left", f"{item.item}{f': {item.reason}' if item.reason else ''}")


def costs(assessment: Assessment) -> Iterator[Event]:
    """What putting right what was found was reckoned to come to on the day."""
    work = assessment.engine.work
    if work.expected_cost:
        text = say(
            "reckoned then: {cost:,.0f} {currency}, one time in ten {bad_luck:,.0f}",
            cost=work.expected_cost, currency=work.currency, bad_luck=work.bad_luck_cost,
        )  # fmt: skip
        yield Event("cost", text)


def _proved(document: Document) -> Iterator[Event]:
    proof = document.proof
    if proof.complaint:
        yield Event(
            "proof", say("the complaint: {complaint}", complaint=word_said(proof.complaint))
        )
    if proof.codes:
        yield Event("proof", say("codes: {codes}", codes=word_said(proof.codes)))
    if proof.follow_up:
        again = say("to be looked at again on {day}", day=proof.follow_up)
        if proof.followed_up:
            again = say("{again}, which was done", again=again)
        yield Event("again", again)


def _turned_out(document: Document) -> Iterator[Event]:
    opened = document.outcome.cylinders
    for one in opened:
        if one.found:
            labels = [fault_said(fault) for fault in one.found]
            text = one_of(labels) if one.one_of else listed(labels)
            yield Event(
                "opened", say("cylinder {cylinder}: {text}", cylinder=one.cylinder, text=text)
            )
    sound = [one.cylinder for one in opened if one.nothing or one.found == ()]
    if sound:
        yield Event("opened", say("nothing found on {sound}", sound=listed(sound)))
    if document.outcome.engine_faults:
        shared = listed([fault_said(one) for one in document.outcome.engine_faults])
        yield Event("opened", say("of all: {shared}", shared=shared))


def fault_said(fault: str) -> str:
    """What a fault is called; a gap that was off has no other name."""
    known = [say(one.label) for one in knowledge().faults if one.id == fault]
    return known[0] if known else word_said(fault)


@dataclass(frozen=True)
class PlugsIn:
    """Plugs that are in the engine, of one age.

    Attributes
    ----------
    cylinders : tuple of int
    since : str
        Date on which they went in; empty where nobody saw it.
    run : Figure or None
        What they have run, as of the last inspection.
    """

    cylinders: tuple[int, ...]
    since: str
    run: Figure | None


def plugs_in(visits: Sequence[Visit]) -> list[PlugsIn]:
    """The plugs of today by their age; a set that was renewed in part has several."""
    if not visits:
        return []
    groups: dict[tuple[str, Figure | None], list[int]] = defaultdict(list)
    for number in range(1, visits[-1].document.engine.cylinders + 1):
        groups[_plug_of(visits, number)].append(number)
    return [PlugsIn(tuple(cylinders), *age) for age, cylinders in groups.items()]


def _plug_of(visits: Sequence[Visit], number: int) -> tuple[str, Figure | None]:
    """Since when the plug of a cylinder is in, and what it has run."""
    fitted = [at for at, one in enumerate(visits) if _renewed(one.document, number)]
    last = visits[-1].document
    if not fitted:
        return "", last.cylinder(number).plug.distance or last.inspection.plug_distance
    when = visits[fitted[-1]]
    then, now = when.document.inspection.odometer, last.inspection.odometer
    if then is None or now is None or then.unit != now.unit:
        return when.date, None
    return when.date, Figure(round(now.value - then.value, 6), now.unit)


def _renewed(document: Document, number: int) -> bool:
    """Whether a cylinder got a new plug."""
    new = [one for one in put_right(document) if (one.part, one.action) == ("plug", "renewed")]
    return any(one.reaches(number) for one in new)


def run_at(document: Document) -> str:
    """How far the engine had gone, in words; empty where nobody read it."""
    return spoken(document.inspection.odometer, 6) if document.inspection.odometer else ""


def a_day(visits: Sequence[Visit], unit: str) -> float | None:
    """How far the engine goes in a day, from its inspections. [km or h a day]

    Parameters
    ----------
    visits : sequence of Visit
    unit : str
        The family that is asked for, km or h.

    Returns
    -------
    float or None
        None where its inspections are too few or too near each other to say.
    """
    read = [
        (date.fromisoformat(one.date).toordinal(), gone(one.document.inspection.odometer))
        for one in visits
        if one.date
        and one.document.inspection.odometer
        and family(one.document.inspection.odometer) == unit
    ]
    if len(read) < 2 or read[-1][0] - read[0][0] < LEAST_DAYS or read[-1][1] <= read[0][1]:
        return None
    return (read[-1][1] - read[0][1]) / (read[-1][0] - read[0][0])
