"""Whether the class of what is wrong is named, and whether healthy cylinders are left in peace.

python -m bench.classes [--engines 600] [--seed 1]

A class is what a rebuilder would open the engine for; claims of an engine are those of its
cylinders, pairs, banks and of what all share. Only engines with a grade of C to E that have a
fault are judged by class; every cylinder that nothing touches is judged for its peace.
"""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Iterator, Set
from typing import Any

import numpy as np

from core.document import check_document
from core.document.records import Document
from core.evidence.findings import coded_cylinders
from core.simulation import Truth, draw_truth, record
from core.telling import assess

CLASSES = {
    "rings and pistons": ("ring-sealing", "piston-damage"),
    "valves": ("intake-valve-sealing", "exhaust-valve-sealing"),
    "gasket": ("head-gasket-between", "head-gasket-coolant"),
    "stem oil": ("valve-stem-oil",),
    "fuel": ("fuel-rich", "fuel-lean", "mixture-rich", "mixture-lean"),
    "ignition": ("ignition-weak", "leads-crossed", "ignition-timing"),
    "heat": ("combustion-overheat",),
    "plug": (
        "plug-loose", "plug-worn", "plug-fouled", "plug-gap-bridged", "plug-insulator-cracked",
        "plug-wrong-type",
    ),
    "seal": ("well-seal",),
    "premix": ("premix-oil-rich", "premix-oil-lean"),
    "valve timing": ("valve-timing",),
    "test": ("test-condition",),
}  # fmt: skip
CLASS_OF = {fault: name for name, faults in CLASSES.items() for fault in faults}
GRAVE = ("C", "D", "E")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--engines", type=int, default=600)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    right: Counter[str] = Counter()
    judged: Counter[str] = Counter()
    taken_for: Counter[tuple[str, str]] = Counter()
    healthy: Counter[tuple[str, bool]] = Counter()
    for number in range(options.engines):
        random = np.random.default_rng([options.seed, number])
        truth = draw_truth(random)
        document = check_document(record(truth, random))
        said = assess(document, explain=False, advise=False)
        asked = coded_cylinders(Document.of(document)).keys()
        healthy.update(_of_the_healthy(truth, said, asked))
        true = {CLASS_OF[fault] for fault in _faults(truth)} - {"test"}
        if said["engine"]["grade"] not in GRAVE or not true:
            continue
        first = max(_claims(said), key=lambda claim: claim[1])[0]
        for name in true:
            judged[name] += 1
            alone = len(true) == 1
            right[name] += first == name or (not alone and first in true)
            if first not in true:
                taken_for[name, first] += 1
    _print(judged, right, taken_for, healthy)


def _faults(truth: Truth) -> Iterator[str]:
    for one in truth.cylinders.values():
        yield from one.faults
    yield from truth.engine_faults
    yield from truth.bank_faults.values()
    yield from ["head-gasket-between"] * len(truth.gaskets)


def _claims(said: dict[str, Any]) -> Iterator[tuple[str, float]]:
    for one in [*said["cylinders"], *said["banks"], said["engine"]]:
        for fault in one["faults"]:
            if fault["fault"] != "test-condition":
                yield CLASS_OF[fault["fault"]], fault["probability"]
    for pair in said["pairs"]:
        yield "gasket", pair["probability"]


def _of_the_healthy(
    truth: Truth, said: dict[str, Any], asked: Set[int]
) -> Iterator[tuple[str, bool]]:
    """The grades of cylinders that neither a fault of their own nor a shared one touches.

    With each whether a code names it: such a one is never let off before its code is explained.
    """
    if truth.engine_faults or truth.bank_faults:
        return
    for one in said["cylinders"]:
        number = one["number"]
        if not truth.cylinders[number].faults and not truth.gasket_area(number):
            yield one["grade"], number in asked


def _print(
    judged: Counter[str],
    right: Counter[str],
    taken_for: Counter[tuple[str, str]],
    healthy: Counter[tuple[str, bool]],
) -> None:
    print("class                 engines   named first   most often taken for")
    for name in CLASSES:
        if judged[name]:
            wrong = [(n, other) for (own, other), n in taken_for.items() if own == name]
            told = ", ".join(f"{other} {n}" for n, other in sorted(wrong, reverse=True)[:3])
            print(f"{name:20s} {judged[name]:8d} {right[name] / judged[name]:12.0%}   {told}")
    print(f"all of them {right.total() / judged.total():.1%} of {judged.total()}")
    for name, which in (("healthy cylinders", (False, True)), ("those no code names", (False,))):
        every = sum(count for (_, coded), count in healthy.items() if coded in which)
        grave = sum(healthy[one, coded] for one in GRAVE for coded in which)
        print(f"{name} graded C or worse: {grave / every:.2%} of {every}")


if __name__ == "__main__":
    main()
