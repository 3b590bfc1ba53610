"""What follows from the verdict: may it run, what work to expect, what is still open."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import product
from typing import Any

import numpy as np

from core.knowledge import knowledge

RIVAL_FROM = 0.15
TEN_PERCENT = 0.9
LOOKS = {
    "plug": "the plug was not read",
    "well": "the well was not looked into",
}


def unseen(record: Mapping[str, Any], kinds: set[str]) -> list[str]:
    """What was not looked at on one cylinder, in words.

    Parameters
    ----------
    record : mapping
        The cylinder's record in the document; empty if it has none.
    kinds : set of str
        Kinds of pressure reading it has.
    """
    missing = [text for field, text in LOOKS.items() if not record.get(field)]
    if "dry" not in kinds:
        missing.append("no compression reading")
    return missing


def rivals(faults: list[dict[str, Any]], pairs: list[dict[str, Any]], number: int) -> list[str]:
    """Faults that the evidence cannot yet tell apart: two or more that are each quite possible.

    A fault as probable as before anything was looked at is nobody's rival.
    """
    known = knowledge()
    named = [
        (one["probability"], known.fault(one["fault"], "cylinder").label)
        for one in faults
        if one["probability"] >= RIVAL_FROM
        and one["probability"] > 2 * known.fault(one["fault"], "cylinder").prior
    ]
    named += [
        (pair["probability"], f"gasket between {pair['cylinders'][0]} and {pair['cylinders'][1]}")
        for pair in pairs
        if number in pair["cylinders"] and pair["probability"] >= RIVAL_FROM
    ]
    named.sort(reverse=True)
    return [label for _, label in named] if len(named) > 1 else []


def may_run(grade: str, cylinders: list[dict[str, Any]]) -> dict[str, str]:
    """Whether the engine may run meanwhile; an engine maker's limits go before this."""
    stopped = [str(one["number"]) for one in cylinders if one["grade"] == "E"]
    if stopped:
        where = " and ".join(stopped)
        return {
            "answer": "no",
            "reason": f"Do not crank or run it: on cylinder {where} something may be loose in the "
            "chamber or liquid above the piston. Find the missing piece first.",
        }
    missing = [
        str(one["number"]) for one in cylinders if one["consequences"]["ignition-fuel"] >= 0.5
    ]
    if missing:
        return {
            "answer": "with-care",
            "reason": f"Cylinder {' and '.join(missing)} may be passing unburnt fuel: short runs "
            "for testing only, a catalyst does not survive long ones.",
        }
    if grade in ("D", "C"):
        return {
            "answer": "with-care",
            "reason": "Lightly loaded and watched: a leak that is left alone burns itself wider.",
        }
    if grade == "U":
        return {"answer": "unknown", "reason": "Too little was recorded to say."}
    return {"answer": "yes", "reason": "Nothing that was examined speaks against it."}


def work(
    cylinders: list[dict[str, Any]], engine_faults: list[dict[str, Any]]
) -> dict[str, float | str]:
    """Hours of work to expect, and with bad luck (one time in ten); no quotation.

    One head off or one engine apart serves all its cylinders, so each class of work counts once,
    with the chance that any cylinder needs it; an engine apart has its head off already.
    """
    classes = knowledge().consequences["class"]
    spared = {name: 1.0 for name in classes if name != "none"}
    for cylinder in cylinders:
        for name in spared:
            spared[name] *= 1 - cylinder["consequences"][name]
    for fault in engine_faults:
        name = knowledge().fault(fault["fault"], "engine").consequence
        if name in spared:
            spared[name] *= 1 - fault["probability"]
    names = list(spared)
    hours, bad, chances = [], [], []
    for needed in product((False, True), repeat=len(names)):
        done = {name for name, is_needed in zip(names, needed, strict=True) if is_needed}
        if "bottom-end" in done:
            done.discard("top-end")
        chances.append(
            np.prod(
                [1 - spared[n] if on else spared[n] for n, on in zip(names, needed, strict=True)]
            )
        )
        hours.append(sum(classes[name]["hours"] for name in done))
        bad.append(sum(classes[name]["bad_hours"] for name in done))
    expected = float(np.dot(chances, hours))
    order = np.argsort(bad)
    reached = np.cumsum(np.array(chances)[order])
    unlucky = float(np.array(bad)[order][np.searchsorted(reached, TEN_PERCENT)])
    return {
        "expected_hours": round(expected, 1),
        "bad_luck_hours": round(unlucky, 1),
        "note": "Hours of work by a plain table, parts included as hours; no quotation.",
    }
