"""How long an assessment takes, by cylinders, on a record with every kind of evidence.

python -m bench.speed
"""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from itertools import cycle
from statistics import median
from typing import Any

from core.document import Document, check_document
from core.inference.model import Model, forget
from core.inference.posterior import Posterior
from core.judgement.case import Case, case_of
from core.judgement.compression_report import compression_report, leakdown_report
from core.judgement.material import Material
from core.judgement.shared_faults import shared_faults
from core.telling import assess
from core.telling.next_test import next_tests
from core.vocabulary import DepositColour, words_of

ROUNDS = 15


def full_record(cylinders: int, *, alike: bool = True) -> dict[str, Any]:
    """Every test on every cylinder; the third leaks, if there is one.

    Sound plugs are recorded alike, as they are when one act says "normal, all of it"; or else no
    two of them are, which is the worst case.
    """
    numbers = range(1, cylinders + 1)
    half = max(cylinders // 2, 1)

    def psi(value: float) -> dict[str, Any]:
        return {"value": value, "unit": "psi"}

    def reading(number: int, level: float) -> dict[str, Any]:
        leak = 40 if number == 3 else 0
        return {"cylinder": number, "pressure": psi(level - number * 7 % 11 - leak)}

    plug = {
        "seating": "tight", "type_match": "as-specified", "outside": ["clean"], "smell": "none",
        "threads": ["oily"], "deposit_colour": "tan", "deposit_texture": "powder",
        "deposit_amount": "light", "wetness": "dry", "insulator": "sound",
        "centre_electrode": "square", "ground_electrode": "square", "gap_bridged": False,
        "gap_closed": False, "gap": {"value": 1.0, "unit": "mm"},
    }  # fmt: skip
    shades = ("tan", "brown", "grey", "tan")
    amounts, seats = (
        ("light", "none", "moderate"),
        ("tight", "snug", "over-tight", "tight", "seized"),
    )

    def plug_of(number: int) -> dict[str, Any]:
        if alike:
            return plug
        differing = {
            "deposit_colour": shades[number % 4],
            "deposit_amount": amounts[number % 3],
            "seating": seats[number % 5],
        }
        return {**plug, **differing}

    inside = {"bore": "cross-hatched", "crown": "dry-carbon", "valves": "even"}
    well = {"oil": "none", "water": "none", "combustion_leak": "none"}
    return check_document(
        {
            "format": "fiacre-inspection",
            "version": 1,
            "engine": {
                "cycle": "four-stroke",
                "layout": "single" if cylinders == 1 else "vee",
                "cylinders": cylinders,
                **(
                    {}
                    if cylinders == 1
                    else {
                        "banks": [
                            {"name": "left", "cylinders": list(range(1, half + 1))},
                            {"name": "right", "cylinders": list(range(half + 1, cylinders + 1))},
                        ]
                    }
                ),
                "firing_order": list(numbers),
                "ignition": "wasted-spark",
                "fuel_system": "port",
                "specification": {"gap_max": {"value": 1.0, "unit": "mm"}},
            },
            "inspection": {"complaints": ["misfire"], "trouble_codes": ["P0301"]},
            "cylinders": [
                {
                    "number": n,
                    "well": well,
                    "boot": ["clean"],
                    "coil": ["sound"],
                    "plug": plug_of(n),
                    "borescope": inside,
                }
                for n in numbers
            ],
            "tests": {
                "compression": [
                    {"kind": "dry", "readings": [reading(n, 150) for n in numbers]},
                    {"kind": "wet", "readings": [reading(n, 160) for n in numbers]},
                ],
                "leakdown": [
                    {
                        "supply": psi(80),
                        "restrictor": {"value": 0.04, "unit": "in"},
                        "readings": [
                            {"cylinder": n, "held": psi(52 if n == 3 else 73)} for n in numbers
                        ],
                    }
                ],
                "spark": [{"cylinder": n, "result": "strong"} for n in numbers],
                "injector": [{"cylinder": n, "pulse": "present", "flow": "good"} for n in numbers],
                "balance": [{"cylinder": n, "felt": "clear"} for n in numbers],
                "misfires": [{"cylinder": n, "count": 0} for n in numbers],
            },
        }
    )


def milliseconds(run: Callable[[], object], before: Callable[[], object] | None = None) -> float:
    """Median of some rounds after a warm-up; what comes before each is not counted."""
    taken = []
    for at in range(ROUNDS + 2):
        if before:
            before()
        started = time.perf_counter()
        run()
        if at >= 2:
            taken.append(time.perf_counter() - started)
    return 1e3 * median(taken)


def after_an_entry(document: dict[str, Any], *, explain: bool) -> float:
    """The same engine again and again, each time with one more word about its first plug."""
    shades = cycle(words_of(DepositColour))
    plug = document["cylinders"][0]["plug"]

    def enter() -> None:
        plug["deposit_colour"] = next(shades)

    return milliseconds(partial(assess, document, explain=explain, advise=False), enter)


def claimed(document: dict[str, Any]) -> Case:
    """What is claimed of an engine, as it was found."""
    model = Model.of(Document.of(document))
    material = Material(model, Posterior(model))
    return case_of(
        material,
        shared_faults(model, None),
        compression_report(material.document, model.expected, material.dry),
        leakdown_report(material.document, material.lost),
    )


def row(document: dict[str, Any]) -> list[float]:
    """A record never seen before without and with reasons, then the same after each entry."""
    timed = [
        milliseconds(partial(assess, document, explain=explain, advise=False), forget)
        for explain in (False, True)
    ]
    return [*timed, *(after_an_entry(document, explain=explain) for explain in (False, True))]


def main() -> None:
    print("              never seen before      after one more entry")
    print("cylinders   plain   with reasons   plain   with reasons   next tests   to one cylinder")
    one = 0.0
    for cylinders in (1, 2, 4, 8, 12, 16):
        document = full_record(cylinders)
        timed = row(document)
        following = milliseconds(partial(next_tests, claimed(document)))
        one = one or timed[1]
        figures = "{:8.1f} {:14.1f} {:7.1f} {:14.1f}".format(*timed)
        print(f"{cylinders:9d}{figures} {following:9.1f} ms {timed[1] / one:17.1f}")
    figures = "{:8.1f} {:14.1f} {:7.1f} {:14.1f}".format(*row(full_record(12, alike=False)))
    print(f"12 unlike{figures} ms: no two plugs alike")
    loop = milliseconds(lambda: sum(range(1_000_000)))
    print(f"to judge the machine: adding up a million numbers in Python takes {loop:.0f} ms")


if __name__ == "__main__":
    main()
