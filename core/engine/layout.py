"""Where cylinders sit, which are neighbours, and presets to start an engine from.

Numbering is the engine maker's business and makers differ. A preset is a proposal to be
confirmed on the drawn plan: the plan is the truth, not the name of the preset.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from core.document.records import Engine

HANGING = 0.7  # Of the way down a radial: about its lowest third.


@dataclass(frozen=True)
class Bank:
    """A row of cylinders in one casting, from the engine's front to its rear."""

    name: str
    cylinders: tuple[int, ...]


@dataclass(frozen=True)
class Station:
    """Where a cylinder sits in a plan drawn from above, the engine's front at the top.

    Both coordinates run from 0 to 1; a radial's stations lie on a circle.
    """

    cylinder: int
    across: float
    along: float


@dataclass(frozen=True)
class Arrangement:
    """Banks and neighbours of one engine, as far as the document tells them."""

    cylinders: tuple[int, ...]
    banks: tuple[Bank, ...]
    neighbours: tuple[tuple[int, int], ...]
    neighbours_known: bool


def arrangement(engine: Engine) -> Arrangement:
    """Read the arrangement out of a checked document's `engine`.

    An inline engine without banks runs in number order; a vee, flat or radial without banks
    has no known neighbours. Air-cooled cylinders have heads of their own and share no gasket.
    """
    count = engine.cylinders
    numbers = tuple(range(1, count + 1))
    banks = tuple(Bank(bank.name, bank.cylinders) for bank in engine.banks)
    rows = [bank.cylinders for bank in banks]
    if not banks and engine.layout in ("inline", "single"):
        rows = [numbers]
    separate_heads = engine.cooling == "air" or engine.layout == "radial"
    pairs: list[tuple[int, int]] = []
    if not separate_heads:
        for row in rows:
            pairs.extend(pairwise(row))
    known = separate_heads or bool(rows) or count == 1
    return Arrangement(numbers, banks, tuple(pairs), known)


def stations(engine: Engine) -> list[Station]:
    """Where to draw each cylinder; without banks a vee is drawn as one row, honestly."""
    arranged = arrangement(engine)
    count = len(arranged.cylinders)
    if engine.layout == "radial":
        return [
            Station(
                number,
                0.5 + 0.5 * math.sin(2 * math.pi * index / count),
                0.5 - 0.5 * math.cos(2 * math.pi * index / count),
            )
            for index, number in enumerate(arranged.cylinders)
        ]
    rows = [bank.cylinders for bank in arranged.banks] or [arranged.cylinders]
    longest = max(len(row) for row in rows)
    placed = []
    for at, row in enumerate(rows):
        across = 0.5 if len(rows) == 1 else at / (len(rows) - 1)
        # The second bank of a vee sits a little further back: rods share crankpins.
        offset = 0.5 / longest * at / max(len(rows) - 1, 1) if len(rows) > 1 else 0.0
        for index, number in enumerate(row):
            placed.append(Station(number, across, (index + 0.25) / longest + offset * 0.5))
    return sorted(placed, key=lambda station: station.cylinder)


def hanging(engine: Engine) -> frozenset[int]:
    """Cylinders of a radial that hang below its shaft; number 1 stands at the top, as is usual."""
    if engine.layout != "radial":
        return frozenset()
    return frozenset(one.cylinder for one in stations(engine) if one.along > HANGING)


@dataclass(frozen=True)
class Preset:
    """A proposal for layout, numbering and firing order."""

    id: str
    label: str
    engine: dict[str, Any]


def _banked(layout: str, left: list[int], right: list[int], order: list[int]) -> dict[str, Any]:
    return {
        "layout": layout,
        "cylinders": len(left) + len(right),
        "banks": [
            {"name": "left", "cylinders": left},
            {"name": "right", "cylinders": right},
        ],
        "firing_order": order,
    }


def _row(count: int, order: list[int]) -> dict[str, Any]:
    layout = "single" if count == 1 else "inline"
    return {"layout": layout, "cylinders": count, "firing_order": order}


# Firing orders are common practice, several exist for most layouts: to be confirmed.
PRESETS: tuple[Preset, ...] = (
    Preset("single", "Single", _row(1, [1])),
    Preset("inline-2", "Inline twin", _row(2, [1, 2])),
    Preset("inline-3", "Inline three", _row(3, [1, 3, 2])),
    Preset("inline-4", "Inline four", _row(4, [1, 3, 4, 2])),
    Preset("inline-5", "Inline five", _row(5, [1, 2, 4, 5, 3])),
    Preset("inline-6", "Inline six", _row(6, [1, 5, 3, 6, 2, 4])),
    Preset("vee-2", "Vee twin", _banked("vee", [1], [2], [1, 2])),
    Preset("flat-2", "Flat twin", _banked("flat", [1], [2], [1, 2])),
    Preset("flat-4", "Flat four, alternating", _banked("flat", [2, 4], [1, 3], [1, 3, 2, 4])),
    Preset(
        "flat-4-by-bank", "Flat four, bank by bank", _banked("flat", [3, 4], [1, 2], [1, 4, 3, 2])
    ),
    Preset(
        "flat-6",
        "Flat six, bank by bank",
        _banked("flat", [1, 2, 3], [4, 5, 6], [1, 6, 2, 4, 3, 5]),
    ),
    Preset("vee-4", "Vee four, bank by bank", _banked("vee", [1, 2], [3, 4], [1, 3, 4, 2])),
    Preset(
        "vee-4-alternating", "Vee four, alternating", _banked("vee", [1, 3], [2, 4], [1, 2, 3, 4])
    ),
    Preset(
        "vee-6-alternating",
        "Vee six, alternating",
        _banked("vee", [1, 3, 5], [2, 4, 6], [1, 2, 3, 4, 5, 6]),
    ),
    Preset(
        "vee-6-by-bank",
        "Vee six, bank by bank",
        _banked("vee", [1, 2, 3], [4, 5, 6], [1, 4, 2, 5, 3, 6]),
    ),
    Preset(
        "vee-8-alternating",
        "Vee eight, alternating",
        _banked("vee", [1, 3, 5, 7], [2, 4, 6, 8], [1, 8, 4, 3, 6, 5, 7, 2]),
    ),
    Preset(
        "vee-8-by-bank",
        "Vee eight, bank by bank",
        _banked("vee", [1, 2, 3, 4], [5, 6, 7, 8], [1, 5, 4, 2, 6, 3, 7, 8]),
    ),
    Preset(
        "vee-10",
        "Vee ten, bank by bank",
        _banked("vee", [1, 2, 3, 4, 5], [6, 7, 8, 9, 10], [1, 6, 5, 10, 2, 7, 3, 8, 4, 9]),
    ),
    Preset(
        "vee-12",
        "Vee twelve, bank by bank",
        _banked(
            "vee",
            [1, 2, 3, 4, 5, 6],
            [7, 8, 9, 10, 11, 12],
            [1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10],
        ),
    ),
    Preset(
        "radial-5",
        "Radial five",
        {"layout": "radial", "cylinders": 5, "firing_order": [1, 3, 5, 2, 4], "cooling": "air"},
    ),
)
