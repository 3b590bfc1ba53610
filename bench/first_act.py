"""What the first proposed act gains, performed on simulated engines, beside a random sensible one.

python -m bench.first_act [--engines 300] [--seed 9]

An engine is drawn and everything about it recorded; the diagnosis starts from a part of that. Then
the first proposed act is performed, which puts its part of the record in, and the gain is what the
truth has become likelier by, in two measures. *Faults*: the sum over cylinders and faults of log2
of the chance of what is so. *Consequences*: the same over what each cylinder needs (a plug, a seal,
ignition or fuel, its head off, the engine apart), a class counting by its rank as in the ranking
of acts, and where a code names cylinders of those alone, because that was asked. A random act is
any other that is still open, on all cylinders. Both for each minute they take.
One drawn reading says little of an act's worth, so the first act is also held against what a random
choice gains on the average of all that are open.
"""

from __future__ import annotations

import argparse
import math
from collections.abc import Callable, Set
from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from core.document import check_document
from core.document.records import Document
from core.evidence.findings import coded_cylinders
from core.judgement import assess
from core.judgement.open_tests import RANK_WEIGHT
from core.knowledge import knowledge
from core.simulation import Truth, draw_truth, record
from core.simulation.recording import Style

EVERYTHING = Style(
    plugs=True, dry=True, wet=True, leakdown=True, balance=True, codes=True, spark=True,
    borescope=True,
)  # fmt: skip
CLASSES = ("plug-service", "external-seal", "ignition-fuel", "top-end", "bottom-end")
STARTS = ("codes", "plug", "compression")
LEAST = 1e-4  # A chance below this counts as this: one overconfident claim is not everything.
Json = dict[str, Any]


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--engines", type=int, default=300)
    parser.add_argument("--seed", type=int, default=9)
    options = parser.parse_args()
    random = np.random.default_rng(options.seed)
    acts: dict[str, int] = {}
    tallies = {"faults": Tally(_of_faults), "consequences": Tally(_of_consequences)}
    for at in range(options.engines):
        truth = draw_truth(random)
        if not any(one.faults for one in truth.cylinders.values()) and not truth.engine_faults:
            continue
        whole = record(truth, random, EVERYTHING)
        begun = _begun(whole, STARTS[at % len(STARTS)])
        before = assess(check_document(begun), explain=False)
        offered = [one for one in before["next_tests"] if _tells(whole, begun, one)]
        rivals = _open(whole, begun)
        if not offered or not rivals:
            continue
        acts[offered[0]["test"]] = acts.get(offered[0]["test"], 0) + 1
        performed = []
        for act in (offered[0], *rivals):
            document = check_document(_performed(whole, begun, act))
            performed.append((assess(document, explain=False, advise=False), act["minutes"]))
        drawn = int(random.integers(len(rivals)))
        asked = coded_cylinders(Document.of(check_document(begun))).keys()
        for tally in tallies.values():
            tally.count(truth, asked, before, performed, drawn)
    print(f"first acts: {acts}")
    for name, tally in tallies.items():
        print(tally.told(name))


Measure = Callable[[Truth, Set[int], Json], float]


@dataclass
class Tally:
    """What first acts and others gained, by one measure."""

    measure: Measure
    bits: list[float] = field(default_factory=lambda: [0.0, 0.0])
    minutes: list[float] = field(default_factory=lambda: [0.0, 0.0])
    worse: int = 0
    under: int = 0
    tried: int = 0

    def count(
        self, truth: Truth, asked: Set[int], before: Json, performed: list[Any], drawn: int
    ) -> None:
        """Of one engine: what the first act left, then what each rival did; one of them drawn."""
        had = self.measure(truth, asked, before)
        gains = [(self.measure(truth, asked, after) - had, taken) for after, taken in performed]
        for at, (gain, taken) in enumerate((gains[0], gains[1 + drawn])):
            self.bits[at] += gain
            self.minutes[at] += taken
        speeds = [gain / taken for gain, taken in gains]
        self.tried += 1
        self.worse += speeds[0] < speeds[1 + drawn]
        self.under += speeds[0] < sum(speeds[1:]) / (len(speeds) - 1)

    def told(self, name: str) -> str:
        ours, theirs = (1e3 * self.bits[at] / self.minutes[at] for at in (0, 1))
        return (
            f"{name}: first act {ours:.1f} mbit a minute, random {theirs:.1f}, ratio "
            f"{ours / theirs:.2f}; worse than the random one in {self.worse / self.tried:.0%}, "
            f"than the average of what is open in {self.under / self.tried:.0%} of {self.tried}"
        )


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


def _open(whole: Json, begun: Json) -> list[Json]:
    """Every test that is not done yet, on all cylinders, with the minutes that it takes."""
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
    return found


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
            before = [
                one
                for test in made["tests"].get("compression", [])
                for one in test["readings"]
                if test["kind"] == kind and one["cylinder"] not in chosen
            ]
            made["tests"]["compression"] = [*tests, {**own, "readings": [*before, *readings]}]
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


def _tells(whole: Json, begun: Json, act: Json) -> bool:
    """Whether an instrument here can do it, and it is not a reading that stands already."""
    after = _performed(whole, begun, act)
    return after is not None and check_document(after) != check_document(begun)


def _of_faults(truth: Truth, asked: Set[int], said: Json) -> float:
    total = 0.0
    for one in said["cylinders"]:
        own = truth.cylinders[one["number"]].faults
        total += sum(_log(f["probability"], f["fault"] in own) for f in one["faults"])
    return total + _of_all(truth, said)


def _of_consequences(truth: Truth, asked: Set[int], said: Json) -> float:
    known = knowledge()
    total = 0.0
    for one in said["cylinders"]:
        if asked and one["number"] not in asked:
            continue
        own = truth.cylinders[one["number"]].faults
        needs = {known.fault(fault, "cylinder").consequence for fault in own}
        beside = any(one["number"] in pair for pair in truth.gaskets)
        for name in CLASSES:
            so = name in needs or (name == "top-end" and beside)
            weight = RANK_WEIGHT[known.consequences["class"][name]["rank"]]
            total += weight * _log(one["consequences"][name], so)
    return total + _of_all(truth, said)


def _of_all(truth: Truth, said: Json) -> float:
    """Of what all cylinders share."""
    return sum(
        _log(one["probability"], one["fault"] in truth.engine_faults)
        for one in said["engine"]["faults"]
    )


def _log(chance: float, so: bool) -> float:
    return math.log2(max(chance if so else 1 - chance, LEAST))


if __name__ == "__main__":
    main()
