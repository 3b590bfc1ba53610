"""May it run meanwhile: the hazards of what is claimed, the worst first, in one voice.

An engine maker's limits go before this, and whoever has the work in hand before both.
"""

from __future__ import annotations

from collections.abc import Sequence

from core.assessment import Hazard, MayRun
from core.document.records import Document
from core.judgement.case import Case
from core.judgement.claims import Claim
from core.knowledge.case import Hazard as Row
from core.knowledge.case import case_tables
from core.language import begun, cylinders_said, say

INJECTED = ("port", "direct", "throttle-body")
WORST = ("no", "with-care", "yes")


def may_run(case: Case) -> MayRun:
    """Whether the engine may run meanwhile, and what doing so would risk."""
    document = case.material.document
    found = [
        _hazard(row, [one for one in case.standing if one.row == row.row], case)
        for row in case_tables().hazards
        if any(one.row == row.row for one in case.standing)
    ]
    found.sort(key=lambda one: WORST.index(one.answer))
    forbidden = bool(found) and found[0].answer == "no"
    if not forbidden and not runs_at_all(document):
        return MayRun("unknown", say("It is not to be run as it stands: nothing is said of it."))
    unsettled = case.grade in ("C", "D", "E")
    if found and not (unsettled and found[0].answer == "yes"):
        return MayRun(found[0].answer, found[0].text, tuple(found))
    if case.grade == "U":
        return MayRun("unknown", say("Too little was recorded to say."), tuple(found))
    if unsettled:
        settled = all(one.stands for one in case.claims if one.grade in ("C", "D", "E"))
        advice = (
            say("Nothing that was found forbids it: lightly loaded until it is seen to.")
            if settled
            else say("What is wrong is not settled: lightly loaded, and watched.")
        )
        return MayRun("with-care", advice, tuple(found))
    return MayRun("yes", say("Nothing that was examined speaks against it."))


def runs_at_all(document: Document) -> bool:
    """Whether running it is a question: not on a stand, and not before it is opened anyway."""
    job = document.inspection
    to_be_opened = job.purpose == "rebuild" and not document.proof.recorded
    return job.engine_place != "stand" and job.can_run is not False and not to_be_opened


def _hazard(row: Row, claims: Sequence[Claim], case: Case) -> Hazard:
    document = case.material.document
    own = [one for one in claims if one.scope != "engine" or case.everyone == 1]
    numbers = tuple(sorted({number for one in own for number in one.cylinders}))
    whole = len(own) < len(claims) or len(numbers) == case.everyone
    told = row.open if row.open and all(one.ways for one in claims) else row.text
    where = say("The engine") if whole else begun(cylinders_said(numbers, counted=True))
    return Hazard(
        hazard=row.hazard,
        answer=row.answer_on(document.engine.cycle),
        probability=round(min(max(one.probability for one in claims), 1.0), 6),
        cylinders=numbers,
        text=f"{where}: {say(told)}{_more(row, document)}.",
    )


def _more(row: Row, document: Document) -> str:
    """A sump is spoken of where there is one, a catalyst where there may be one."""
    told = ""
    four_stroke = document.engine.cycle == "four-stroke"
    if row.four_stroke and four_stroke:
        told += say(row.four_stroke)
    if row.catalyst and four_stroke and document.engine.fuel_system in INJECTED:
        told += say(row.catalyst)
    return told
