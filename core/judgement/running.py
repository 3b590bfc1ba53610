"""May it run meanwhile: the hazards that were found, the worst first.

An engine maker's limits go before this, and whoever has the work in hand before both.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from core.assessment import CylinderAssessment, GasketFault, Hazard, MayRun, SharedFault
from core.document.records import Document
from core.knowledge import knowledge
from core.language import begun, cylinders_said, say
from core.vocabulary import Grade

ACCOUNTED = ("found", "burnt-away", "looked-nothing-there")
INJECTED = ("port", "direct", "throttle-body")
ENGINE = 0  # Where a hazard is no one cylinder's.
WORST = ("no", "with-care", "yes")


def may_run(
    document: Document,
    grade: Grade,
    cylinders: Sequence[CylinderAssessment],
    shared: Sequence[SharedFault],
    pairs: Sequence[GasketFault],
) -> MayRun:
    """Whether the engine may run meanwhile, and what doing so would risk."""
    least = knowledge().consequences["grades"]["repair"]
    found = []
    for entry in knowledge().judgement["hazard"]:
        chances = _chances(entry, document, cylinders, shared, pairs)
        hit = {number: chance for number, chance in chances.items() if chance >= least}
        if hit:
            numbers = tuple(sorted(number for number in hit if number != ENGINE))
            where = _where(numbers, len(cylinders))
            text = f"{where}: {say(entry['text'])}{_more(entry, document)}."
            answer, chance = _answer(entry, document), round(max(hit.values()), 6)
            found.append(Hazard(entry["hazard"], answer, chance, numbers, text))
    found.sort(key=lambda one: WORST.index(one.answer))
    unsettled = grade in ("C", "D", "E")
    if found and not (unsettled and found[0].answer == "yes"):
        return MayRun(found[0].answer, found[0].text, tuple(found))
    if grade == "U":
        return MayRun("unknown", say("Too little was recorded to say."))
    if unsettled:
        advice = say("What is wrong is not settled: lightly loaded, and watched.")
        return MayRun("with-care", advice, tuple(found))
    return MayRun("yes", say("Nothing that was examined speaks against it."))


def _answer(entry: Mapping[str, Any], document: Document) -> Any:
    if document.engine.cycle == "two-stroke" and "two_stroke" in entry:
        return entry["two_stroke"]
    return entry["answer"]


def _more(entry: Mapping[str, Any], document: Document) -> str:
    """A catalyst is mourned only where there may be one."""
    return say(str(entry.get("catalyst", ""))) if document.engine.fuel_system in INJECTED else ""


def _chances(
    entry: Mapping[str, Any],
    document: Document,
    cylinders: Sequence[CylinderAssessment],
    shared: Sequence[SharedFault],
    pairs: Sequence[GasketFault],
) -> dict[int, float]:
    """By cylinder the chance of one hazard; what is shared acts on all that share it."""
    if entry["hazard"] == "loose-piece":
        return dict.fromkeys(loose_pieces(document), 1.0)
    if entry["hazard"] == "fire":
        smells = "fuel-smell" in document.inspection.complaints
        return {ENGINE: 1.0} if smells else {}
    faults = set(entry["faults"])
    found = {
        one.number: max((f.probability for f in one.faults if f.fault in faults), default=0.0)
        for one in cylinders
    }
    ruins = "combustion-overheat" in faults
    for one in shared:
        known = knowledge().fault(one.fault, "engine")
        acts = (
            one.fault in faults or known.acts_as in faults or (ruins and known.hazard == "seizure")
        )
        misses = entry["hazard"] == "raw-fuel" and known.group == "ignition"
        for number in one.cylinders if acts or misses else ():
            found[number] = max(found[number], one.probability)
    for pair in pairs if "head-gasket-between" in faults else ():
        for number in pair.cylinders:
            found[number] = max(found[number], pair.probability)
    for number in burnt(document) if ruins else ():
        found[number] = 1.0
    if ruins and far_advanced(document):
        found[ENGINE] = 1.0
    return found


def loose_pieces(document: Document) -> Iterator[int]:
    """Cylinders that may hold a piece of their plug which nobody has accounted for."""
    pieces = document.work.pieces
    known = {one.cylinder for one in pieces if one.state in ACCOUNTED}
    named = {one.cylinder for one in pieces if one.state == "missing"} - known
    for number in range(1, document.engine.cylinders + 1):
        record = document.cylinder(number)
        missing = number in named or record.plug.ground_electrode == "missing"
        if missing and number not in known and not record.borescope.recorded:
            yield number


def far_advanced(document: Document) -> bool:
    """Whether the timing was read far before what is specified."""
    read = document.distributor.timing_deg_btdc
    given = document.engine.specification.timing_deg_btdc
    far: float = knowledge().far["timing_deg"]
    return read is not None and given is not None and read - given > far


def burnt(document: Document) -> Iterator[int]:
    """Cylinders whose plug shows that it was far too hot there."""
    for record in document.cylinders:
        plug = record.plug
        blistered = plug.deposit_texture == "blistered" or plug.insulator == "blistered"
        if blistered or "melted" in (plug.centre_electrode, plug.ground_electrode):
            yield record.number


def _where(numbers: Sequence[int], everyone: int) -> str:
    if not numbers or len(numbers) == everyone:
        return say("The engine") if everyone > 1 else begun(cylinders_said([1]))
    return begun(cylinders_said(numbers, counted=True))
