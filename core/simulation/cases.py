"""What goes on in a cylinder with some faults: leak areas, and amounts of soot, oil, fuel and heat.

A case is drawn as many times as one likes: once to be recorded, hundreds of times to reckon how
probable a record is. Nothing here looks at the tables of the diagnosis but for the threshold.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from core.knowledge import knowledge
from core.simulation.world import world

Draws = NDArray[np.float64]

MOST_AREA = 40.0


@dataclass(frozen=True)
class Case:
    """One cylinder, drawn n times with the same faults; every array has the shape (n,).

    Amounts run from 0 to about 1 and above; `miss` is the chance that it misses when it is watched.
    """

    faults: frozenset[str]
    leaks: Mapping[str, Draws]
    soot: Draws
    oil: Draws
    fuel: Draws
    heat: Draws
    steam: Draws
    ash: Draws
    rust: Draws
    miss: Draws

    @property
    def others(self) -> Draws:
        """Every leak but the rings'. [mm2 for each 500 cm3]"""
        rest = [area for fault, area in self.leaks.items() if fault != "ring-sealing"]
        return np.asarray(sum(rest, np.zeros_like(self.soot)))

    @property
    def rings(self) -> Draws:
        """Leak past the rings. [mm2 for each 500 cm3]"""
        return self.leaks.get("ring-sealing", np.zeros_like(self.soot))


def draw_area(random: np.random.Generator, fault: str, draws: int) -> Draws:
    """Leak areas above the threshold from which the fault counts as present, shape (n,).

    Some worn rings pass oil and hold: their area is zero.
    """
    median, spread = world().areas[fault]
    threshold = knowledge().pressure["areas"]["threshold"]
    areas = median * np.exp(spread * random.standard_normal(draws))
    while np.any(low := areas < threshold):
        areas[low] = median * np.exp(spread * random.standard_normal(int(low.sum())))
    holding = world().leaks["oiling"] if fault == "ring-sealing" else 0.0
    return np.where(random.random(draws) < holding, 0.0, np.minimum(areas, MOST_AREA))


def draw_case(
    random: np.random.Generator,
    faults: Collection[str],
    shared: Collection[str],
    *,
    draws: int = 1,
    leaks: Mapping[str, float] | None = None,
    unseen: Collection[str] = (),
) -> Case:
    """Draw a case.

    Parameters
    ----------
    random : numpy Generator
    faults, shared : collection of str
        The cylinder's own, and what acts on it from outside.
    draws : int
        How many times.
    leaks : mapping of fault to area, optional
        Where they are known; drawn if absent. [mm2 for each 500 cm3]
    unseen : collection of str
        What is shared and leaves the noses as they were.
    """
    own, has = frozenset(faults), frozenset(faults) | (frozenset(shared) - frozenset(unseen))

    def between(low: float, high: float) -> Draws:
        return random.uniform(low, high, draws)

    def often(chance: float, low: float, high: float) -> Draws:
        return np.where(random.random(draws) < chance, between(low, high), 0.0)

    def about(spread: float) -> Draws:
        return np.abs(random.normal(0, spread, draws))

    if leaks is None:
        areas = {
            fault: draw_area(random, fault, draws) for fault in sorted(own & world().areas.keys())
        }
    else:
        areas = {fault: np.full(draws, area) for fault, area in leaks.items()}
    # Sound engines differ too: short trips, additives in the oil, damp storage, a hard last run.
    soot = np.abs(random.normal(0.12, 0.12, draws)) + often(0.04, 0.3, 0.6)
    oil, fuel = about(0.08), about(0.08)
    heat = about(0.08) + often(0.007, 0.4, 0.9)
    ash, rust = often(0.015, 0.5, 1.0), often(0.007, 0.5, 1.0)
    steam, miss = np.zeros(draws), np.full(draws, 0.01)

    def misses(chance: Draws | float) -> None:
        nonlocal miss
        miss = 1 - (1 - miss) * (1 - chance)

    if has & {"fuel-rich", "mixture-rich"}:
        rich = between(0.3, 1.0)
        soot, fuel = soot + rich, fuel + np.maximum(rich - 0.6, 0) * 1.6
        misses(0.4 * np.maximum(rich - 0.5, 0))
    if has & {"fuel-lean", "mixture-lean"}:
        lean = between(0.2, 0.9)
        heat = heat + lean
        misses(0.8 * lean if "fuel-lean" in has else 0.2 * lean)
    if "ignition-weak" in has:
        weak = between(0.2, 1.0)
        soot, fuel = soot + 0.5 * weak, fuel + weak
        misses(np.minimum(0.4 + 0.7 * weak, 0.97))
    if "leads-crossed" in has:
        fuel = fuel + between(0.5, 1.0)
        misses(0.97)
    if "plug-gap-bridged" in own:
        fuel = fuel + between(0.4, 1.0)
        misses(0.95)
    if "plug-insulator-cracked" in own:
        leak = between(0.0, 0.6)
        fuel = fuel + leak
        misses(0.3 + leak)
    if "ring-sealing" in own:
        leak = areas["ring-sealing"]
        oil = oil + between(0, 1.0) * np.where(leak > 0, np.minimum(leak / 1.5, 1.0), 1.0)
    if "valve-stem-oil" in own:
        guides = between(0.3, 1.0)
        wet = random.random(draws) < 0.5  # Burnt dry to a crust, or not.
        oil, ash = oil + np.where(wet, guides, 0.2 * guides), ash + np.where(wet, 0.0, guides)
    if "premix-oil-rich" in has:
        oil = oil + between(0.3, 1.0)
    if "premix-oil-lean" in has:
        heat = heat + between(0.2, 0.9)
    if "combustion-overheat" in has:
        heat = heat + between(0.6, 1.2)
    if "ignition-timing" in has:
        soot, heat = soot + between(0, 0.5), heat + between(0, 0.6)
    if "piston-damage" in own:
        oil = oil + between(0, 1.0)
        misses(np.minimum(areas["piston-damage"] / 12, 0.9))
    if "head-gasket-coolant" in own:
        steam = steam + between(0.3, 1.0)
        misses(0.4 * steam)
    for valve in own & {"exhaust-valve-sealing", "intake-valve-sealing"}:
        soot = soot + between(0, 0.5)
        misses(np.minimum(areas[valve] / 9, 0.9))
    if "plug-fouled" in own:
        fouled = between(0.4, 0.9)
        crusty = random.random(draws) < 0.25
        soot, ash = soot + np.where(crusty, 0.1, fouled), ash + np.where(crusty, fouled, 0.0)
        misses(0.5 * fouled)
    if "plug-wrong-type" in own:
        cold = random.random(draws) < 0.5
        soot = soot + np.where(cold, between(0.1, 0.6), 0.0)
        heat = heat + np.where(cold, 0.0, between(0.1, 0.6))
    if "plug-worn" in own:
        misses(0.1)
    if "ignition-weak" in unseen:
        misses(between(0.2, 0.8))
    return Case(own, areas, soot, oil, fuel, heat, steam, ash, rust, miss)
