"""Drawing an engine and what is wrong with it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from scipy.stats import norm

from core.document.records import Engine
from core.engine.layout import PRESETS, arrangement
from core.engine.sharing import coil_groups
from core.knowledge import knowledge
from core.simulation.cases import draw_area
from core.simulation.world import world

Rates = Mapping[str, Mapping[str, float]]
TWO_STROKE_SHARE = 0.3  # Of singles and twins.
AIR_COOLED = ("flat-2", "vee-2", "flat-4", "radial-5")
LEAKING = frozenset(
    {
        "ring-sealing",
        "intake-valve-sealing",
        "exhaust-valve-sealing",
        "head-gasket-coolant",
        "piston-damage",
    }
)


@dataclass
class CylinderTruth:
    """What one cylinder really is: its faults, and the leak area of those that leak."""

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
    crossed: tuple[int, ...]
    gaskets: dict[tuple[int, int], float]
    test: dict[str, float]
    age: float = 0.0  # Intervals that the set of plugs has run.
    unseen: frozenset[str] = frozenset()  # What is shared and leaves the noses as they were.

    def shared_on(self, cylinder: int) -> set[str]:
        """What acts on a cylinder from outside it."""
        shared = set(self.engine_faults) - {"leads-crossed"}
        for bank in self.engine.get("banks", []):
            if cylinder in bank["cylinders"] and bank["name"] in self.bank_faults:
                shared.add(self.bank_faults[bank["name"]])
        if cylinder in self.crossed:
            shared.add("leads-crossed")
        return shared

    def gasket_area(self, cylinder: int) -> float:
        """What the gaskets beside a cylinder leak. [mm2 for each 500 cm3]"""
        return sum(area for pair, area in self.gaskets.items() if cylinder in pair)

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


def draw_truth(random: np.random.Generator, rates: Rates | None = None) -> Truth:
    """Draw an engine and its faults, at the simulator's own rates unless others are given.

    `rates` are by scope and fault, as in `world.toml`. [-]
    """
    rates = rates or world().rates
    engine = _engine(random)
    arranged = arrangement(Engine.of(engine))
    cylinders = {
        number: _cylinder(random, engine, rates["cylinder"]) for number in arranged.cylinders
    }
    engine_faults = _engine_faults(random, engine, rates["engine"])
    bank_faults: dict[str, str] = {}
    if len(arranged.banks) > 1 and min(len(bank.cylinders) for bank in arranged.banks) > 1:
        for fault in ("mixture-rich", "mixture-lean"):
            rate = rates["bank"][fault]
            if not engine_faults & {"mixture-rich", "mixture-lean"} and random.random() < rate:
                bank = arranged.banks[random.integers(len(arranged.banks))]
                bank_faults = {bank.name: fault}
    coils = coil_groups(Engine.of(engine))
    coil: tuple[int, ...] = ()
    if coils and random.random() < rates["coil"]["ignition-weak"] * len(coils):
        coil = coils[random.integers(len(coils))].cylinders
        for number in coil:
            cylinders[number].faults.add("ignition-weak")
    crossed: tuple[int, ...] = ()
    if "leads-crossed" in engine_faults:
        chosen = random.choice(arranged.cylinders, size=2, replace=False)
        crossed = tuple(int(number) for number in chosen)
    between = rates["pair"]["head-gasket-between"]
    gaskets = {
        pair: float(draw_area(random, "head-gasket-between", 1)[0])
        for pair in arranged.neighbours
        if random.random() < between
    }
    age = _worn_set(random, cylinders, rates["cylinder"]["plug-worn"])
    shows = world().shows
    unseen = frozenset(one for one in sorted(shows) if random.random() >= shows[one])
    return Truth(
        engine,
        cylinders,
        engine_faults,
        bank_faults,
        coil,
        crossed,
        gaskets,
        _test(random),
        age,
        unseen,
    )


def _worn_set(
    random: np.random.Generator, cylinders: Mapping[int, CylinderTruth], rate: float
) -> float:
    """Wear the plugs of one set together, so that in all a share of them is worn; their age.

    Returns
    -------
    float
        Intervals that the set has run. [-]
    """
    median, spread = world().set["age"]
    age, own = spread * random.standard_normal(), world().set["plug"]
    road = age + world().set["road"] * random.standard_normal()
    limit = float(norm.isf(rate)) * float(np.hypot(spread, np.hypot(world().set["road"], own)))
    for one in cylinders.values():
        if road + own * random.standard_normal() > limit:
            one.faults.add("plug-worn")
    return float(median * np.exp(age))


def _engine(random: np.random.Generator) -> dict[str, Any]:
    preset = PRESETS[random.integers(len(PRESETS))]
    small = preset.engine["cylinders"] <= 2
    two_stroke = small and random.random() < TWO_STROKE_SHARE
    injected = not two_stroke and random.random() < 0.5
    ignition = ["distributor", "coil-on-plug", "wasted-spark"]
    engine: dict[str, Any] = {
        **preset.engine,
        "cycle": "two-stroke" if two_stroke else "four-stroke",
        "fuel_system": "port" if injected else "carburettor",
        "ignition": "magneto" if two_stroke else str(random.choice(ignition)),
        "compression_ratio": round(float(random.uniform(6.2, 8.0 if two_stroke else 10.5)), 1),
    }
    if preset.id in AIR_COOLED or two_stroke:
        engine["cooling"] = "air"
    return engine


def _cylinder(
    random: np.random.Generator, engine: dict[str, Any], rates: Mapping[str, float]
) -> CylinderTruth:
    truth = CylinderTruth()
    alone = engine["cylinders"] == 1
    for fault in knowledge().of_scope("cylinder"):
        if (
            fault.id == "plug-worn"
            or not fault.possible_on(engine["cycle"], engine.get("cooling"))
            or random.random() >= rates[fault.id]
        ):
            continue
        if fault.id == "fuel-lean" and "fuel-rich" in truth.faults:
            continue
        if alone and fault.id in ("fuel-rich", "fuel-lean"):
            continue
        truth.faults.add(fault.id)
        if fault.id in LEAKING:
            truth.leaks[fault.id] = float(draw_area(random, fault.id, 1)[0])
    return truth


def _engine_faults(
    random: np.random.Generator, engine: dict[str, Any], rates: Mapping[str, float]
) -> set[str]:
    """At most one of each kind, as the contract's faults exclude each other in practice."""
    found: set[str] = set()
    for fault in knowledge().of_scope("engine"):
        if not fault.possible_on(engine["cycle"], engine.get("cooling")):
            continue
        alone = engine["cylinders"] == 1
        if alone and fault.id in ("ignition-weak", "combustion-overheat", "leads-crossed"):
            continue
        taken = any(knowledge().fault(f, "engine").group == fault.group for f in found)
        drawn = random.random() < rates[fault.id]
        if drawn and not (taken and fault.group != "level"):
            found.add(fault.id)
    return found


def _test(random: np.random.Generator) -> dict[str, float]:
    """How this test was run: its speed, the charge it got, the dose of oil."""
    return {
        "rpm": float(random.uniform(180, 280)),
        "level": float(np.exp(0.06 * random.standard_normal())),
        "timing": float(np.exp(-0.35 + 0.12 * random.standard_normal())),
        "spoilt": float(random.uniform(0.3, 0.9)),
        "closed_share": float(random.uniform(0.3, 0.9)),
        "gain": float(random.uniform(0.01, 0.16)),
        "gauge": float(np.exp(0.02 * random.standard_normal())),
    }
