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
choice gains on the average of all that are open. And where nothing at all is recorded every adviser
must propose the same act for all engines: how often each act would be worse there than a random
other one says how far down that share can be brought by any ranking.
"""

from __future__ import annotations

import argparse
from collections.abc import Callable, Set
from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from core.document import check_document
from core.document.records import Document
from core.evidence.findings import coded_cylinders
from core.simulation import Truth, draw_truth, record
from core.telling import assess
from core.training.cases import EVERYTHING
from core.training.instruments import minutes_of, open_acts, perform
from core.training.scoring import log_of, told

STARTS = ("codes", "plug", "compression")
Json = dict[str, Any]


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--engines", type=int, default=300)
    parser.add_argument("--seed", type=int, default=9)
    options = parser.parse_args()
    random = np.random.default_rng(options.seed)
    acts: dict[str, int] = {}
    blank: list[dict[str, float]] = []
    tallies = {"faults": Tally(_of_faults), "consequences": Tally(told)}
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
            document = check_document(perform(whole, begun, act["test"], act["cylinders"]) or begun)
            performed.append((assess(document, explain=False, advise=False), act["minutes"]))
        drawn = int(random.integers(len(rivals)))
        asked = coded_cylinders(Document.of(check_document(begun))).keys()
        for tally in tallies.values():
            tally.count(truth, asked, before, performed, drawn)
        if STARTS[at % len(STARTS)] == "codes" and not asked:
            had = told(truth, asked, before)
            blank.append({
                act["test"]: (told(truth, asked, after) - had) / taken
                for act, (after, taken) in zip(rivals, performed[1:], strict=True)
            })  # fmt: skip
    print(f"first acts: {acts}")
    for name, tally in tallies.items():
        print(tally.told(name))
    print(_floor(blank))


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


def _floor(blank: list[dict[str, float]]) -> str:
    """Of each act, on engines of which nothing is known, how often a random other one beats it."""
    parts = []
    for act in sorted({act for speeds in blank for act in speeds}):
        own = [speeds for speeds in blank if act in speeds and len(speeds) > 1]
        beaten = [
            sum(other > speeds[act] for other in speeds.values()) / (len(speeds) - 1)
            for speeds in own
        ]
        mean = 1e3 * sum(speeds[act] for speeds in own) / len(own)
        parts.append(f"{act} {mean:.0f} mbit a minute, worse in {sum(beaten) / len(own):.0%}")
    return f"nothing recorded, {len(blank)} engines: {'; '.join(parts)}"


def _begun(whole: Json, start: str) -> Json:
    """A part of the record: its codes alone, or its plugs or its dry readings besides."""
    begun = {name: deepcopy(whole[name]) for name in ("format", "version", "engine")}
    begun["inspection"] = deepcopy(whole.get("inspection", {}))
    begun["tests"] = {}
    everyone = range(1, whole["engine"]["cylinders"] + 1)
    return perform(whole, begun, start, everyone) or begun


def _open(whole: Json, begun: Json) -> list[Json]:
    """Every test that is not done yet, on all cylinders, with the minutes that it takes."""
    everyone = range(1, whole["engine"]["cylinders"] + 1)
    return [
        {"test": test, "cylinders": list(everyone), "minutes": minutes_of(test, len(everyone))}
        for test in open_acts(whole, begun)
        if test != "well"
    ]


def _tells(whole: Json, begun: Json, act: Json) -> bool:
    """Whether an instrument here can do it, and it is not a reading that stands already."""
    return perform(whole, begun, act["test"], act["cylinders"]) is not None


def _of_faults(truth: Truth, asked: Set[int], said: Json) -> float:
    total = 0.0
    for one in said["cylinders"]:
        own = truth.cylinders[one["number"]].faults
        total += sum(log_of(f["probability"], f["fault"] in own) for f in one["faults"])
    return total + _of_all(truth, said)


def _of_all(truth: Truth, said: Json) -> float:
    """Of what all cylinders share."""
    return sum(
        log_of(one["probability"], one["fault"] in truth.engine_faults)
        for one in said["engine"]["faults"]
    )


if __name__ == "__main__":
    main()
