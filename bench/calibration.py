"""How well the diagnosis is calibrated, on simulated engines that its tables did not make.

python -m bench.calibration [--engines 2000] [--seed 1] [--picture docs/reliability.png]
"""

from __future__ import annotations

import argparse
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from bench.ideal import ASIDE, guesses, nothing_shared
from bench.reliability import draw
from core.document import check_document
from core.judgement import assess
from core.simulation import Truth, draw_truth, record

BINS = np.array([0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0])
TELLS = 0.8  # The evidence tells a cylinder's faults apart if the best guess is this sure.
LOW_OF_BEST, LOW_OF_MEAN = 0.75, 0.9


@dataclass
class Skill:
    """How often guesses about faulty cylinders were right."""

    judged: int = 0
    first: int = 0
    third: int = 0
    baselines: dict[str, int] = field(default_factory=lambda: defaultdict(int))

    def count(self, ranked: list[str], wanted: set[str], baselines: dict[str, bool]) -> None:
        self.judged += 1
        self.first += ranked[0] in wanted
        self.third += bool(set(ranked[:3]) & wanted)
        for name, right in baselines.items():
            self.baselines[name] += right

    def told(self, who: str) -> str:
        return (
            f"{who}: first guess right {self.first / self.judged:.1%}, among the first three "
            f"{self.third / self.judged:.1%} of {self.judged}"
        )


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--engines", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--picture", type=Path, default=None)
    options = parser.parse_args()
    claims: list[tuple[str, float, bool]] = []
    everywhere, plain, clear = Skill(), Skill(), Skill()
    best_plain, best_clear = Skill(), Skill()
    for number in range(options.engines):
        random = np.random.default_rng([options.seed, number])
        truth = draw_truth(random)
        document = check_document(record(truth, random))
        said = assess(document, explain=False, advise=False)
        claims += list(_claims(truth, said))
        for cylinder, one in truth.cylinders.items():
            wanted = one.faults - set(ASIDE)
            if not wanted:
                continue
            faults = next(c for c in said["cylinders"] if c["number"] == cylinder)["faults"]
            ranked = [f["fault"] for f in faults if f["fault"] not in ASIDE]
            baselines = _baselines(document, cylinder, wanted)
            everywhere.count(ranked, wanted, baselines)
            if not nothing_shared(truth):
                continue
            ideal = guesses(truth, document, cylinder)
            best = sorted(ideal, key=lambda name: -ideal[name])
            plain.count(ranked, wanted, baselines)
            best_plain.count(best, wanted, {})
            if ideal[best[0]] >= TELLS:
                clear.count(ranked, wanted, baselines)
                best_clear.count(best, wanted, {})
    _print(claims)
    print(everywhere.told("faulty cylinders"))
    print(plain.told("where nothing shared is wrong"))
    print(best_plain.told("  the ideal, with all else known"))
    print(clear.told(f"where the ideal is at least {TELLS:.0%} sure"))
    print(best_clear.told("  the ideal"))
    for name, right in everywhere.baselines.items():
        print(f"baseline '{name}': right {right / everywhere.judged:.1%}")
    if options.picture:
        chance = np.array([claim[1] for claim in claims])
        true = np.array([claim[2] for claim in claims])
        draw(chance, true, BINS, options.picture)


def _claims(truth: Truth, said: dict[str, Any]) -> Iterator[tuple[str, float, bool]]:
    for cylinder in said["cylinders"]:
        real = truth.cylinders[cylinder["number"]].faults
        for fault in cylinder["faults"]:
            yield fault["fault"], fault["probability"], fault["fault"] in real
    for fault in said["engine"]["faults"]:
        if len(truth.cylinders) > 1:
            name = fault["fault"]
            yield f"engine {name}", fault["probability"], name in truth.engine_faults
    for pair in said["pairs"]:
        yield "pair", pair["probability"], tuple(pair["cylinders"]) in truth.gaskets


def _baselines(document: dict[str, Any], cylinder: int, wanted: set[str]) -> dict[str, bool]:
    """Two plain schools that call every low cylinder rings."""
    tests = document["tests"]["compression"]
    readings = {
        item["cylinder"]: item["pressure"]["value"]
        for item in (tests or [{"readings": []}])[0]["readings"]
    }
    own = readings.get(cylinder, np.inf)
    best, mean = max(readings.values(), default=0), np.mean(list(readings.values()) or [0])
    rings = "ring-sealing" in wanted
    return {
        "under 75 % of the best is rings": bool(own < LOW_OF_BEST * best and rings),
        "over 10 % under the mean is rings": bool(own < LOW_OF_MEAN * mean and rings),
    }


def _print(claims: list[tuple[str, float, bool]]) -> None:
    chance = np.array([claim[1] for claim in claims])
    true = np.array([claim[2] for claim in claims])
    place = np.clip(np.digitize(chance, BINS) - 1, 0, len(BINS) - 2)
    error = told_error = 0.0
    told = chance >= BINS[1]
    print("claimed      held true    claims")
    for at in range(len(BINS) - 1):
        here = place == at
        if here.any():
            claimed, held = chance[here].mean(), true[here].mean()
            error += here.sum() / len(chance) * abs(claimed - held)
            if at:
                told_error += here.sum() / told.sum() * abs(claimed - held)
            print(f"{claimed:8.3f} {held:12.3f} {here.sum():10d}")
    print(f"expected calibration error {error:.4f}; of claims of 5 % and more {told_error:.4f}")
    print(f"Brier score {np.mean((chance - true) ** 2):.5f}, of the priors alone "
          f"{np.mean((true.mean() - true) ** 2):.5f}")  # fmt: skip
    by_fault = defaultdict(list)
    for fault, p, t in claims:
        by_fault[fault].append((p, t))
    print("fault                          claimed     true")
    for fault, rows in sorted(by_fault.items()):
        print(
            f"{fault:28s} {np.mean([r[0] for r in rows]):9.4f} {np.mean([r[1] for r in rows]):8.4f}"
        )


if __name__ == "__main__":
    main()
