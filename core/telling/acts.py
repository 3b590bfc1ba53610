"""Which acts can be done here and now, and what the way in costs."""

from __future__ import annotations

from collections.abc import Iterable

from core.document.records import Document, Plug
from core.engine.layout import Arrangement
from core.judgement.seen import crown_unseen
from core.knowledge import knowledge

DEAD = {"no-start", "stopped-running"}


def can_be_done(test: str, document: Document) -> bool:
    """Whether the engine, the place and the instruments allow a test.

    Where nobody said which instruments are owned, all are.
    """
    entry = knowledge().tests[test]
    owned = document.inspection.instruments
    if owned and entry.get("instrument", owned[0]) not in owned:
        return False
    if entry.get("tries") and may_be_tried(document):
        return True
    return runs(document) or not entry.get("runs")


def may_be_tried(document: Document) -> bool:
    """Whether one that stopped can be tried to start, once something was put right."""
    job = document.inspection
    stopped = job.can_run is None and bool(DEAD & set(job.complaints))
    return stopped and job.engine_place != "stand" and not crown_unseen(document)


def suits(where: str, document: Document) -> bool:
    """Whether an engine has what a test of its shared parts is about."""
    engine = document.engine
    distributed = engine.ignition in ("distributor", "magneto")
    match where:
        case "points":
            return engine.trigger == "points" or (engine.trigger is None and distributed)
        case "distributor":
            return distributed or engine.trigger == "points"
        case _:
            return True


def gap_off(plug: Plug, band: str | None) -> bool:
    """Whether a plug's gap wants setting: shut, bent, bridged, or out of its range."""
    shut = bool(plug.gap_closed or plug.gap_bridged) or plug.ground_electrode == "bent"
    return shut or band in ("narrow", "wide")


def runs(document: Document) -> bool:
    """Whether it can be run for a test; behind a burnt plug the crown is looked at first."""
    if crown_unseen(document):
        return False
    job = document.inspection
    if job.engine_place == "stand":
        return False
    if job.can_run is not None:
        return job.can_run
    return not DEAD & set(job.complaints)


def can_be_swapped(part: str, document: Document) -> bool:
    """Whether another cylinder can lend a part: both ends of one coil are one part."""
    engine = document.engine
    ends_of_one_coil = engine.ignition == "wasted-spark" and engine.cylinders == 2
    return engine.cylinders > 1 and not (ends_of_one_coil and part != "injector")


def way_in(
    test: str, cylinders: Iterable[int], document: Document, arrangement: Arrangement
) -> float:
    """Minutes to get at the plugs of some cylinders. [min]

    What is in the way of a bank comes off once for all cylinders behind it; where a plug was read
    already, the way is open.
    """
    if not knowledge().tests[test].get("way_in"):
        return 0.0
    minutes = knowledge().judgement["access"]
    bank_of = {number: bank.name for bank in arrangement.banks for number in bank.cylinders}
    in_the_way = set()
    for number in cylinders:
        record = document.cylinder(number)
        if record.access is not None and not record.plug.recorded:
            in_the_way.add((bank_of.get(number), record.access))
    return float(sum(minutes[access] for _, access in in_the_way))
