"""What the first proposed act gains, performed on simulated engines, beside a random sensible one.

python -m bench.first_act [--engines 300] [--seed 9]

An engine is drawn and everything about it recorded; the diagnosis starts from a part of that. Then
the first proposed act is performed, which puts its part of the record in, and the gain is what the
truth has become likelier by: the sum over cylinders and faults of log2 of the chance of what is
so. A random act is any other that is still open, on all cylinders. Both for each minute they take.
"""

from __future__ import annotations

import argparse
import math
from copy import deepcopy
from typing import Any

import numpy as np

from core.document import check_document
from core.judgement import assess
from core.knowledge import knowledge
from core.simulation import Truth, draw_truth, record
from core.simulation.recording import Style

EVERYTHING = Style(
    plugs=True, dry=True, wet=True, leakdown=True, balance=True, codes=True, spark=True,
    borescope=True,
)  # fmt: skip
STARTS = ("codes", "plug", "compression")
LEAST = 1e-4  # A chance below this counts as this: one overconfident claim is not everything.
Json = dict[str, Any]


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--engines", type=int, default=300)
    parser.add_argument("--seed", type=int, default=9)
    options = parser.parse_args()
    random = np.random.default_rng(options.seed)
    first, other, minutes, other_minutes, worse, tried = 0.0, 0.0, 0.0, 0.0, 0, 0
    acts: dict[str, int] = {}
    for at in range(options.engines):
        truth = draw_truth(random)
        if not any(one.faults for one in truth.cylinders.values()) and not truth.engine_faults:
            continue
        whole = record(truth, random, EVERYTHING)
        begun = _begun(whole, STARTS[at % len(STARTS)])
        before = assess(check_document(begun), explain=False)
        offered = [one for one in before["next_tests"] if _performed(whole, begun, one) is not None]
        if not offered:
            continue
        act, rival = offered[0], _any_open(whole, begun, random)
        if rival is None:
            continue
        gains = [
            (_gain(truth, before, _performed(whole, begun, one)), one["minutes"])
            for one in (act, rival)
        ]
        tried += 1
        acts[act["test"]] = acts.get(act["test"], 0) + 1
        first, minutes = first + gains[0][0], minutes + gains[0][1]
        other, other_minutes = other + gains[1][0], other_minutes + gains[1][1]
        worse += gains[0][0] / gains[0][1] < gains[1][0] / gains[1][1]
    ours, theirs = first / minutes, other / other_minutes
    print(f"{tried} engines; first acts: {acts}")
    print(f"first act {1e3 * ours:.1f} mbit a minute, random {1e3 * theirs:.1f}")
    print(f"ratio {ours / theirs:.2f}; worse than the random one in {worse / tried:.0%}")


def _begun(whole: Json, start: str) -> Json:
    """A part of the record: its codes alone, or its plugs or its dry readings besides."""
    begun = {name: deepcopy(whole[name]) for name in ("format", "version", "engine")}
    begun["inspection"] = deepcopy(whole.get("inspection", {}))
    begun["tests"] = {}
    everyone = list(range(1, whole["engine"]["cylinders"] + 1))
    if start != "codes":
        made = _performed(whole, begun, {"test": start, "cylinders": everyone})
        return made or begun
    return begun


def _any_open(whole: Json, begun: Json, random: np.random.Generator) -> Json | None:
    """A random test that is not done yet, on all cylinders, with the minutes that it takes."""
    everyone = list(range(1, whole["engine"]["cylinders"] + 1))
    tests = ["plug", "compression", "wet-compression", "leakdown", "balance", "spark", "borescope"]
    found = []
    for test in tests:
        table = knowledge().tests[test]
        minutes = table["setup"] + table["each"] * len(everyone)
        one = {"test": test, "cylinders": everyone, "minutes": minutes}
        after = _performed(whole, begun, one)
        dry_first = test == "wet-compression" and not begun["tests"].get("compression")
        if after is not None and after != begun and not dry_first:
            found.append(one)
    return found[int(random.integers(len(found)))] if found else None


def _performed(whole: Json, begun: Json, act: Json) -> Json | None:
    """The record with what an act reads in it; None for acts that no instrument here can do."""
    made, chosen = deepcopy(begun), set(act["cylinders"])
    match act["test"]:
        case "plug" | "well" | "borescope" as part:
            known = {one["number"]: one for one in made.setdefault("cylinders", [])}
            for one in whole["cylinders"]:
                if one["number"] in chosen:
                    own = known.setdefault(one["number"], {"number": one["number"]})
                    own[part] = deepcopy(one[part])
            made["cylinders"] = [known[number] for number in sorted(known)]
        case "compression" | "wet-compression" as test:
            kind = "wet" if test == "wet-compression" else "dry"
            own = next(one for one in whole["tests"]["compression"] if one["kind"] == kind)
            readings = [one for one in own["readings"] if one["cylinder"] in chosen]
            tests = [one for one in made["tests"].get("compression", []) if one["kind"] != kind]
            made["tests"]["compression"] = [*tests, {**own, "readings": readings}]
        case "leakdown":
            own = whole["tests"]["leakdown"][0]
            readings = [one for one in own["readings"] if one["cylinder"] in chosen]
            made["tests"]["leakdown"] = [{**own, "readings": readings}]
        case "balance" | "spark" as test:
            told = [one for one in whole["tests"][test] if one["cylinder"] in chosen]
            if not told:
                return None
            made["tests"][test] = told
        case _:
            return None
    return made


def _gain(truth: Truth, before: Json, document: Json | None) -> float:
    """By how many bits the truth has become likelier."""
    assert document is not None
    after = assess(check_document(document), explain=False, advise=False)
    return _told(truth, after) - _told(truth, before)


def _told(truth: Truth, said: Json) -> float:
    total = 0.0
    for one in said["cylinders"]:
        own = truth.cylinders[one["number"]].faults
        for fault in one["faults"]:
            chance = fault["probability"]
            total += math.log2(max(chance if fault["fault"] in own else 1 - chance, LEAST))
    for fault in said["engine"]["faults"]:
        chance = fault["probability"]
        so = fault["fault"] in truth.engine_faults
        total += math.log2(max(chance if so else 1 - chance, LEAST))
    return total


if __name__ == "__main__":
    main()
