"""What follows from the verdict: what work to expect, and what is still open."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import product
from typing import Any

from core.assessment import (
    CylinderAssessment,
    Fault,
    GasketFault,
    SharedFault,
    Unexamined,
    WorkEstimate,
)
from core.document.records import CylinderRecord, HouseRules
from core.knowledge import knowledge

RIVAL_FROM = 0.15
TEN_PERCENT = 0.9


def unseen(record: CylinderRecord, kinds: set[str]) -> list[str]:
    """What was not looked at on one cylinder, in words.

    Parameters
    ----------
    record : CylinderRecord
    kinds : set of str
        Kinds of pressure reading it has.
    """
    missing = [] if record.plug.recorded else ["the plug was not read"]
    if not record.well.recorded:
        missing.append("the well was not looked into")
    if "dry" not in kinds:
        missing.append("no compression reading")
    return missing


def rivals(faults: Sequence[Fault], pairs: Sequence[GasketFault], number: int) -> list[str]:
    """Faults that the evidence cannot yet tell apart: two or more that are each quite possible.

    A fault as probable as before anything was looked at is nobody's rival.
    """
    known = knowledge()
    named = [
        (one.probability, known.fault(one.fault, "cylinder").label)
        for one in faults
        if one.probability >= RIVAL_FROM
        and one.probability > 2 * known.fault(one.fault, "cylinder").prior
    ]
    named += [
        (pair.probability, f"gasket between {pair.cylinders[0]} and {pair.cylinders[1]}")
        for pair in pairs
        if number in pair.cylinders and pair.probability >= RIVAL_FROM
    ]
    named.sort(reverse=True)
    return [label for _, label in named] if len(named) > 1 else []


def work(
    cylinders: Sequence[CylinderAssessment], shared: Sequence[SharedFault], house: HouseRules
) -> WorkEstimate:
    """Hours and money for what was found, and with bad luck (one time in ten); no quotation.

    Only what is suspected counts; the chances of all else, on cylinders that nobody looked at
    above all, stand apart. One head off or one engine apart serves all its cylinders, so each class
    of work counts once, with the chance that any cylinder needs it.

    Parameters
    ----------
    cylinders, shared
        Of the assessment.
    house : HouseRules
        A price book and an hourly rate of its own.
    """
    table = knowledge().consequences
    classes = {name: dict(entry) for name, entry in table["class"].items() if name != "none"}
    for name, own in house.prices.items():
        classes[name].update(own.items())
    found, rest = dict.fromkeys(classes, 1.0), dict.fromkeys(classes, 1.0)
    for name, chance in _chances(cylinders, shared, classes):
        spared = found if chance >= knowledge().suspected_from else rest
        spared[name] *= 1 - chance
    hours, unlucky = _hours(classes, found)
    rate = house.hourly_rate or table["rate"]["hourly"]
    aside = [_money(one * rate) for one in _hours(classes, rest)]
    return WorkEstimate(
        expected_hours=round(hours, 1),
        bad_luck_hours=round(unlucky, 1),
        hourly_rate=rate,
        currency=house.currency or table["rate"]["currency"],
        expected_cost=_money(hours * rate),
        bad_luck_cost=_money(unlucky * rate),
        note="Hours by a plain table, parts counted as hours, times the rate; no quotation.",
        unexamined=Unexamined(aside[0], aside[1]),
    )


def _chances(
    cylinders: Sequence[CylinderAssessment],
    shared: Sequence[SharedFault],
    classes: Mapping[str, Any],
) -> Iterator[tuple[str, float]]:
    """Every class of work with the chance that a cylinder, or what some share, needs it."""
    for cylinder in cylinders:
        for name in classes:
            yield name, cylinder.consequences[name]
    for one in shared:
        name = knowledge().fault(one.fault, "engine").consequence
        if name in classes:
            yield name, one.probability


def _hours(classes: Mapping[str, Any], spared: Mapping[str, float]) -> tuple[float, float]:
    """Hours to expect, and those that one engine in ten exceeds. [h]"""
    outcomes = []
    for needed in product((False, True), repeat=len(classes)):
        chance = 1.0
        for name, is_needed in zip(classes, needed, strict=True):
            chance *= 1 - spared[name] if is_needed else spared[name]
        done = {name for name, is_needed in zip(classes, needed, strict=True) if is_needed}
        if "bottom-end" in done:
            done.discard("top-end")
        hours = sum(classes[name]["hours"] for name in done)
        outcomes.append((sum(classes[name]["bad_hours"] for name in done), hours, chance))
    expected = sum(hours * chance for _, hours, chance in outcomes)
    unlucky, reached = 0.0, 0.0
    for unlucky, _, chance in sorted(outcomes):  # noqa: B007 - the last one looked at is wanted
        reached += chance
        if reached >= TEN_PERCENT:
            break
    return expected, unlucky


def _money(amount: float) -> float:
    """Rounded to two figures: nobody knows it better."""
    return float(f"{amount:.2g}")
