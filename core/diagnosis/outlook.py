"""What follows from the verdict: may it run, what work to expect, what is still open."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

from core.assessment import CylinderAssessment, Fault, GasketFault, MayRun, WorkEstimate
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


def may_run(grade: str, cylinders: Sequence[CylinderAssessment]) -> MayRun:
    """Whether the engine may run meanwhile; an engine maker's limits go before this."""
    stopped = [str(one.number) for one in cylinders if one.grade == "E"]
    if stopped:
        where = " and ".join(stopped)
        return MayRun(
            "no",
            f"Do not crank or run it: on cylinder {where} something may be loose in the chamber or "
            "liquid above the piston. Find the missing piece first.",
        )
    missing = [str(one.number) for one in cylinders if one.consequences["ignition-fuel"] >= 0.5]
    if missing:
        return MayRun(
            "with-care",
            f"Cylinder {' and '.join(missing)} may be passing unburnt fuel: short runs for testing "
            "only, a catalyst does not survive long ones.",
        )
    if grade in ("D", "C"):
        return MayRun(
            "with-care",
            "Lightly loaded and watched: a leak that is left alone burns itself wider.",
        )
    if grade == "U":
        return MayRun("unknown", "Too little was recorded to say.")
    return MayRun("yes", "Nothing that was examined speaks against it.")


def work(
    cylinders: Sequence[CylinderAssessment],
    engine_faults: Sequence[Fault],
    house: HouseRules,
) -> WorkEstimate:
    """Hours and money to expect, and with bad luck (one time in ten); no quotation.

    One head off or one engine apart serves all its cylinders, so each class of work counts once,
    with the chance that any cylinder needs it; an engine apart has its head off already.

    Parameters
    ----------
    cylinders, engine_faults
        Of the assessment.
    house : HouseRules
        The document's `house_rules`: a price book and an hourly rate of its own.
    """
    table = knowledge().consequences
    classes = {name: dict(entry) for name, entry in table["class"].items() if name != "none"}
    for name, own in house.prices.items():
        classes[name].update(own.items())
    spared = dict.fromkeys(classes, 1.0)
    for cylinder in cylinders:
        for name in spared:
            spared[name] *= 1 - cylinder.consequences[name]
    for fault in engine_faults:
        name = knowledge().fault(fault.fault, "engine").consequence
        if name in spared:
            spared[name] *= 1 - fault.probability
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
    rate = house.hourly_rate or table["rate"]["hourly"]
    return WorkEstimate(
        expected_hours=round(expected, 1),
        bad_luck_hours=round(unlucky, 1),
        hourly_rate=rate,
        currency=house.currency or table["rate"]["currency"],
        expected_cost=_money(expected * rate),
        bad_luck_cost=_money(unlucky * rate),
        note="Hours by a plain table, parts counted as hours, times the rate; no quotation.",
    )


def _money(amount: float) -> float:
    """Rounded to two figures: nobody knows it better."""
    return float(f"{amount:.2g}")
