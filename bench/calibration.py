"""How well the diagnosis is calibrated, on simulated engines that its tables did not make.

python -m bench.calibration [--engines 2000] [--seed 1]
"""

from __future__ import annotations

import argparse
from collections import defaultdict
from typing import Any

import numpy as np

from core.diagnosis import assess
from core.document import check_document
from core.simulation import Truth, draw_truth, record

BINS = np.array([0, 0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--engines", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    claims: list[tuple[str, float, bool]] = []
    first = third = judged = 0
    baseline: dict[str, list[int]] = defaultdict(lambda: [0, 0])
    for number in range(options.engines):
        random = np.random.default_rng([options.seed, number])
        truth = draw_truth(random)
        document = check_document(record(truth, random, wet=bool(random.random() < 0.5)))
        said = assess(document, explain=False)
        claims += list(_claims(truth, said))
        for cylinder, one in truth.cylinders.items():
            wanted = {f for f in one.faults if f not in ("plug-worn", "well-seal")}
            if not wanted:
                continue
            faults = next(c for c in said["cylinders"] if c["number"] == cylinder)["faults"]
            ranked = [f["fault"] for f in faults if f["fault"] not in ("plug-worn", "well-seal")]
            judged += 1
            first += ranked[0] in wanted
            third += bool(set(ranked[:3]) & wanted)
            _baselines(document, cylinder, wanted, baseline)
    _print(claims, first, third, judged, baseline)


def _claims(truth: Truth, said: dict[str, Any]) -> Any:
    for cylinder in said["cylinders"]:
        real = truth.cylinders[cylinder["number"]].faults
        for fault in cylinder["faults"]:
            yield fault["fault"], fault["probability"], fault["fault"] in real
    for fault in said["engine"]["faults"]:
        if len(truth.cylinders) > 1:
            yield (
                f"engine {fault['fault']}",
                fault["probability"],
                fault["fault"] in truth.engine_faults,
            )
    for pair in said["pairs"]:
        yield "pair", pair["probability"], tuple(pair["cylinders"]) in truth.gaskets


def _baselines(
    document: dict[str, Any], cylinder: int, wanted: set[str], baseline: dict[str, list[int]]
) -> None:
    """Two plain schools that call every low cylinder rings."""
    readings = {
        item["cylinder"]: item["pressure"]["value"]
        for item in document["tests"]["compression"][0]["readings"]
    }
    best, mean = max(readings.values()), float(np.mean(list(readings.values())))
    for name, low in (
        ("under 75 % of the best is rings", readings[cylinder] < 0.75 * best),
        ("over 10 % under the mean is rings", readings[cylinder] < 0.9 * mean),
    ):
        baseline[name][0] += low and "ring-sealing" in wanted
        baseline[name][1] += 1


def _print(
    claims: list[tuple[str, float, bool]],
    first: int,
    third: int,
    judged: int,
    baseline: dict[str, list[int]],
) -> None:
    chance = np.array([claim[1] for claim in claims])
    true = np.array([claim[2] for claim in claims])
    place = np.clip(np.digitize(chance, BINS) - 1, 0, len(BINS) - 2)
    error = 0.0
    print("claimed      held true    claims")
    for at in range(len(BINS) - 1):
        here = place == at
        if here.any():
            claimed, held = chance[here].mean(), true[here].mean()
            error += here.sum() / len(chance) * abs(claimed - held)
            print(f"{claimed:8.3f} {held:12.3f} {here.sum():10d}")
    told = chance >= 0.05
    hot = abs(chance[told].mean() - true[told].mean())
    print(f"expected calibration error {error:.4f}; among claims of 5 % and more {hot:.4f} overall")
    print(f"Brier score {np.mean((chance - true) ** 2):.5f}, of the priors alone "
          f"{np.mean((true.mean() - true) ** 2):.5f}")  # fmt: skip
    print(f"faulty cylinders {judged}: first guess right {first / judged:.1%}, "
          f"among the first three {third / judged:.1%}")  # fmt: skip
    for name, (hits, asked) in baseline.items():
        print(f"baseline '{name}': right {hits / asked:.1%}")
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
