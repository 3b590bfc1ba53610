"""Drawing an engine and what is wrong with it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from core.engine.layout import PRESETS, arrangement
from core.engine.sharing import coil_groups
from core.knowledge import knowledge

LEAK_FAULTS = (
    "ring-sealing",
    "intake-valve-sealing",
    "exhaust-valve-sealing",
    "head-gasket-coolant",
    "piston-damage",
)
# Median leak area where present and its spread (natural logarithm). [mm2 for each 500 cm3]
AREAS = {
    "ring-sealing": (1.3, 0.9),
    "intake-valve-sealing": (3.0, 1.0),
    "exhaust-valve-sealing": (3.2, 1.0),
    "head-gasket-coolant": (0.9, 0.9),
    "piston-damage": (6.0, 1.0),
    "head-gasket-between": (3.5, 1.0),
}
THRESHOLD = 0.35
LAYOUTS = tuple(preset for preset in PRESETS if preset.engine["layout"] != "radial")


@dataclass
class CylinderTruth:
    """What one cylinder really is. Severities run from 0 to 1; leaks are areas."""

    faults: set[str] = field(default_factory=set)
    leaks: dict[str, float] = field(default_factory=dict)


@dataclass
class Truth:
    """An engine with its hidden truth."""

    engine: dict[str, Any]
    cylinders: dict[int, CylinderTruth]
    engine_faults: set[str]
    bank_faults: dict[str, str]
    coil: tuple[int, ...]
    gaskets: dict[tuple[int, int], float]
    test: dict[str, float]

    def as_document(self) -> dict[str, Any]:
        """The truth in a form that can be written beside the inspection."""
        return {
            "cylinders": [
                {"number": number, "faults": sorted(one.faults)}
                for number, one in sorted(self.cylinders.items())
            ],
            "engine": sorted(self.engine_faults),
            "banks": self.bank_faults,
            "pairs": [list(pair) for pair in sorted(self.gaskets)],
        }


def draw_truth(random: np.random.Generator) -> Truth:
    """Draw an engine and its faults at the rates the knowledge tables call usual."""
    preset = LAYOUTS[random.integers(len(LAYOUTS))]
    engine: dict[str, Any] = {
        "cycle": "four-stroke",
        **preset.engine,
        "fuel_system": str(random.choice(["carburettor", "port"])),
        "ignition": str(random.choice(["distributor", "coil-on-plug", "wasted-spark"])),
        "compression_ratio": round(float(random.uniform(7.8, 10.5)), 1),
    }
    arranged = arrangement(engine)
    cylinders = {number: _cylinder(random, engine) for number in arranged.cylinders}
    engine_faults = _engine_faults(random, len(arranged.cylinders))
    bank_faults: dict[str, str] = {}
    if len(arranged.banks) > 1 and min(len(bank.cylinders) for bank in arranged.banks) > 1:
        for fault in ("mixture-rich", "mixture-lean"):
            prior = knowledge().fault(fault, "bank").prior / 3
            if not engine_faults & {"mixture-rich", "mixture-lean"} and random.random() < prior:
                bank = arranged.banks[random.integers(len(arranged.banks))]
                bank_faults = {bank.name: fault}
    coils = coil_groups(engine)
    coil: tuple[int, ...] = ()
    if coils and random.random() < 0.02 * len(coils):
        coil = coils[random.integers(len(coils))].cylinders
        for number in coil:
            cylinders[number].faults.add("ignition-weak")
    between = knowledge().fault("head-gasket-between", "pair").prior
    gaskets = {
        pair: _area(random, "head-gasket-between")
        for pair in arranged.neighbours
        if random.random() < between
    }
    return Truth(engine, cylinders, engine_faults, bank_faults, coil, gaskets, _test(random))


def _cylinder(random: np.random.Generator, engine: dict[str, Any]) -> CylinderTruth:
    truth = CylinderTruth()
    alone = engine["cylinders"] == 1
    for fault in knowledge().of_scope("cylinder"):
        if not fault.possible_on(engine) or random.random() >= fault.prior:
            continue
        if fault.id == "fuel-lean" and "fuel-rich" in truth.faults:
            continue
        if alone and fault.id in ("fuel-rich", "fuel-lean"):
            continue
        truth.faults.add(fault.id)
        if fault.id in LEAK_FAULTS:
            truth.leaks[fault.id] = _area(random, fault.id)
    return truth


def _area(random: np.random.Generator, fault: str) -> float:
    """A leak area above the threshold from which the fault counts as present."""
    median, spread = AREAS[fault]
    while True:
        area = float(median * np.exp(spread * random.standard_normal()))
        if area >= THRESHOLD:
            return min(area, 40.0)


def _engine_faults(random: np.random.Generator, cylinders: int) -> set[str]:
    found: set[str] = set()
    for fault in knowledge().of_scope("engine"):
        if fault.group in ("mixture", "ignition", "heat") and fault.id != "leads-crossed":
            if cylinders == 1 and fault.id in ("ignition-weak", "combustion-overheat"):
                continue
            if any(knowledge().fault(f, "engine").group == fault.group for f in found):
                continue
            if random.random() < fault.prior:
                found.add(fault.id)
        elif fault.id in ("valve-timing", "test-condition") and random.random() < fault.prior:
            found.add(fault.id)
    return found


def _test(random: np.random.Generator) -> dict[str, float]:
    """How this test was run: its speed, the charge it got, the dose of oil."""
    return {
        "rpm": float(random.uniform(180, 280)),
        "level": float(np.exp(0.06 * random.standard_normal())),
        "closed_share": float(random.uniform(0.3, 0.9)),
        "gain": float(random.uniform(0.01, 0.16)),
        "gauge": float(np.exp(0.02 * random.standard_normal())),
    }
