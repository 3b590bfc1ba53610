"""Instruments of a simulated engine: an act puts its part of the record into what is known."""

from __future__ import annotations

from collections.abc import Collection
from copy import deepcopy
from typing import Any

from core.knowledge import knowledge

ACTS = (
    "plug", "well", "compression", "wet-compression", "leakdown", "balance", "spark", "borescope",
)  # fmt: skip
Json = dict[str, Any]


def perform(whole: Json, known: Json, test: str, cylinders: Collection[int]) -> Json | None:
    """What is known once an act was done.

    Parameters
    ----------
    whole : dict
        The document in which every instrument has answered.
    known : dict
        What was read so far.
    test, cylinders : str, collection of int

    Returns
    -------
    dict or None
        None for an act that no instrument here can do, or that tells nothing.
    """
    made, chosen = deepcopy(known), set(cylinders)
    match test:
        case "plug" | "well" | "borescope" as part:
            own = {one["number"]: one for one in made.setdefault("cylinders", [])}
            for one in whole["cylinders"]:
                if one["number"] in chosen and part in one:
                    seen = own.setdefault(one["number"], {"number": one["number"]})
                    seen[part] = deepcopy(one[part])
            if not own:
                return None
            made["cylinders"] = [own[number] for number in sorted(own)]
        case "compression" | "wet-compression":
            kind = "wet" if test == "wet-compression" else "dry"
            tests = whole["tests"].get("compression", [])
            own_test = next((one for one in tests if one["kind"] == kind), None)
            if own_test is None:
                return None
            before = [t for t in made["tests"].get("compression", []) if t["kind"] == kind]
            others = [t for t in made["tests"].get("compression", []) if t["kind"] != kind]
            read = {r["cylinder"] for t in before for r in t["readings"]} | chosen
            readings = [r for r in own_test["readings"] if r["cylinder"] in read]
            made["tests"]["compression"] = [*others, {**own_test, "readings": readings}]
        case "leakdown":
            if not whole["tests"].get("leakdown"):
                return None
            own_test = whole["tests"]["leakdown"][0]
            read = {r["cylinder"] for t in made["tests"].get(test, []) for r in t["readings"]}
            readings = [r for r in own_test["readings"] if r["cylinder"] in read | chosen]
            made["tests"]["leakdown"] = [{**own_test, "readings": readings}]
        case "balance" | "spark":
            read = {one["cylinder"] for one in made["tests"].get(test, [])} | chosen
            told = [one for one in whole["tests"].get(test, []) if one["cylinder"] in read]
            if not told:
                return None
            made["tests"][test] = told
        case _:
            return None
    return None if made == known else made


def minutes_of(test: str, count: int) -> float:
    """How long an act takes on so many cylinders. [min]"""
    table = knowledge().tests[test]
    return float(table["setup"] + table["each"] * count)


def open_acts(whole: Json, known: Json) -> dict[str, list[int]]:
    """What can still be done, and on which cylinders it would tell something."""
    found = {}
    for test in ACTS:
        if test == "wet-compression" and not known["tests"].get("compression"):
            continue  # Nobody reads wet what was not read dry.
        cylinders = [
            number
            for number in range(1, whole["engine"]["cylinders"] + 1)
            if perform(whole, known, test, [number]) is not None
        ]
        if cylinders:
            found[test] = cylinders
    return found
