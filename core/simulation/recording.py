"""How an inspector records a simulated engine: what the gauge reads, and in which words.

Plugs are first amounts (soot, oil, fuel, heat), then words, and people differ: a shade to the
next, damp or wet, a crust or a powder.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from core.engine.kinematics import Geometry
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, settled_gauge_pa
from core.quantities import PSI_PA
from core.simulation.engines import CylinderTruth, Truth

SHADES = ("white", "grey", "tan", "brown", "black")


def record(
    truth: Truth, random: np.random.Generator, *, wet: bool = False, plugs: bool = True
) -> dict[str, Any]:
    """An inspection document of a simulated engine.

    Parameters
    ----------
    truth : Truth
    random : numpy Generator
    wet : bool
        Whether a wet test was done too.
    plugs : bool
        Whether the plugs were read.
    """
    tests = [_compression(truth, random, "dry")]
    if wet:
        tests.append(_compression(truth, random, "wet"))
    document: dict[str, Any] = {
        "format": "fiacre-inspection",
        "version": 1,
        "engine": truth.engine,
        "tests": {"compression": tests},
    }
    if plugs:
        document["cylinders"] = [
            _plug(truth, number, one, random) for number, one in sorted(truth.cylinders.items())
        ]
    return document


def _compression(truth: Truth, random: np.random.Generator, kind: str) -> dict[str, Any]:
    """Final readings of every cylinder, from the physics."""
    geometry = Geometry(0.086, 0.086, 0.142, truth.engine["compression_ratio"], 50.0)
    level = truth.test["level"] * truth.test["gauge"]
    if "valve-timing" in truth.engine_faults:
        level *= float(np.exp(-0.35 + 0.12 * random.standard_normal()))
    if "test-condition" in truth.engine_faults:
        level *= truth.test["closed_share"]
    oil = truth.test["closed_share"] if kind == "wet" else 0.0
    baseline = knowledge().pressure["areas"]["healthy"]
    areas = []
    for number, one in sorted(truth.cylinders.items()):
        rings = one.leaks.get("ring-sealing", 0.0)
        others = sum(area for fault, area in one.leaks.items() if fault != "ring-sealing")
        others += sum(area for pair, area in truth.gaskets.items() if number in pair)
        areas.append(baseline + rings * (1 - oil) + others)
    cranking = Cranking(rpm=truth.test["rpm"])
    clean = settled_gauge_pa(geometry, cranking, np.array(areas) * 1e-6) / PSI_PA * level
    if kind == "wet":
        clean = clean * (1 + truth.test["gain"])
    own = np.random.default_rng(int(truth.test["level"] * 1e9) % 2**32)
    shared = np.exp(0.03 * own.standard_normal(len(areas)))
    shown = clean * shared * np.exp(0.025 * random.standard_normal(len(areas)))
    shown = shown + random.normal(0, 1.0, len(areas))
    readings = [
        {"cylinder": number, "pressure": {"value": max(round(float(psi)), 0), "unit": "psi"}}
        for number, psi in zip(sorted(truth.cylinders), shown, strict=True)
    ]
    return {"id": f"{kind}-1", "kind": kind, "readings": readings}


def _amounts(truth: Truth, number: int, one: CylinderTruth, random: np.random.Generator) -> Any:
    """Soot, oil, fuel and heat on one plug, each about 0 to 1 and above."""
    shared = set(truth.engine_faults)
    for bank in truth.engine.get("banks", []):
        if number in bank["cylinders"] and bank["name"] in truth.bank_faults:
            shared.add(truth.bank_faults[bank["name"]])
    has = one.faults | shared
    soot = abs(random.normal(0.12, 0.12)) + (0.4 if random.random() < 0.04 else 0.0)
    oil, fuel, heat = (abs(random.normal(0, 0.08)) for _ in range(3))
    steam = 0.0
    if has & {"fuel-rich", "mixture-rich"}:
        rich = random.uniform(0.3, 1.0)
        soot, fuel = soot + rich, fuel + max(rich - 0.6, 0) * 1.6
    if has & {"fuel-lean", "mixture-lean"}:
        heat += random.uniform(0.2, 0.9)
    if "ignition-weak" in has:
        weak = random.uniform(0.2, 1.0)
        soot, fuel = soot + 0.5 * weak, fuel + weak
    if one.faults & {"plug-gap-bridged"}:
        fuel += random.uniform(0.4, 1.0)
    if "plug-insulator-cracked" in one.faults:
        fuel += random.uniform(0.0, 0.6)
    if "ring-sealing" in one.faults:
        oil += random.uniform(0, 1.0) * min(one.leaks["ring-sealing"] / 1.5, 1.0)
    if "valve-stem-oil" in one.faults:
        oil += random.uniform(0.3, 1.0)
    if "combustion-overheat" in has:
        heat += random.uniform(0.6, 1.2)
    if "ignition-timing" in has:
        soot, heat = soot + random.uniform(0, 0.5), heat + random.uniform(0, 0.6)
    if "piston-damage" in one.faults:
        oil += random.uniform(0, 1.0)
    if "head-gasket-coolant" in one.faults:
        steam = random.uniform(0.3, 1.0)
    if one.faults & {"exhaust-valve-sealing", "intake-valve-sealing"}:
        soot += random.uniform(0, 0.5)
    if "plug-fouled" in one.faults:
        soot += random.uniform(0.4, 0.9)
    if "plug-wrong-type" in one.faults:
        soot, heat = soot + random.uniform(0, 0.5), heat + random.uniform(0, 0.5)
    return soot, oil, fuel, heat, steam


def _plug(
    truth: Truth, number: int, one: CylinderTruth, random: np.random.Generator
) -> dict[str, Any]:
    """A plug and its well in an inspector's words."""
    soot, oil, fuel, heat, steam = _amounts(truth, number, one, random)
    wettest = max(oil, fuel)
    plug: dict[str, Any] = {}
    darkness = 2.2 + 2.6 * soot + 1.6 * max(oil - 0.3, 0) - 2.2 * heat - 1.5 * steam
    shade = int(np.clip(round(darkness + 0.45 * random.standard_normal()), 0, 4))
    plug["deposit_colour"] = SHADES[shade]
    if steam > 0.5 and random.random() < 0.3:
        plug["deposit_colour"] = "green"
    plug["deposit_texture"] = _texture(soot, oil, heat, steam, random)
    plug["deposit_amount"] = _amount(soot + oil - steam, random)
    wet = wettest + 0.1 * random.standard_normal() + (0.3 if steam > 0.6 else 0.0)
    plug["wetness"] = "wet" if wet > 0.75 else "damp" if wet > 0.45 else "dry"
    if plug["wetness"] != "dry":
        what = "oil" if oil > fuel else "fuel"
        if steam > wettest:
            what = "coolant"
        blurred = random.random()
        plug["wet_with"] = "unknown" if blurred < 0.2 else what
        if blurred > 0.97:
            plug["wet_with"] = "oil" if what == "fuel" else "fuel"
    has = one.faults
    plug["insulator"] = "sound"
    if "plug-insulator-cracked" in has:
        plug["insulator"] = str(random.choice(["cracked-nose", "cracked-body", "chipped"]))
    elif heat > 0.9 and random.random() < 0.6:
        plug["insulator"] = "blistered"
    worn = "plug-worn" in has
    plug["centre_electrode"] = "rounded" if random.random() < (0.86 if worn else 0.06) else "square"
    plug["ground_electrode"] = "rounded" if random.random() < (0.75 if worn else 0.05) else "square"
    plug["gap_bridged"] = "plug-gap-bridged" in has
    loose = "plug-loose" in has
    chances = [0.7, 0.25, 0.05] if loose else [0.01, 0.12, 0.87]
    plug["seating"] = str(random.choice(["loose", "snug", "tight"], p=chances))
    type_seen = "wrong-heat-range" if "plug-wrong-type" in has else "as-specified"
    plug["type_match"] = type_seen
    well = "none"
    if "well-seal" in has:
        well = str(random.choice(["trace", "pooled"], p=[0.35, 0.65]))
    elif random.random() < 0.04:
        well = "trace"
    return {"number": number, "well": {"oil": well}, "plug": plug}


def _texture(
    soot: float, oil: float, heat: float, steam: float, random: np.random.Generator
) -> str:
    if steam > 0.5:
        return "clean"
    if heat > 0.55 + 0.1 * random.standard_normal():
        return str(random.choice(["glaze", "blistered", "clean"], p=[0.45, 0.35, 0.2]))
    if oil > 0.4 + 0.1 * random.standard_normal():
        return str(random.choice(["crust", "flake", "powder"], p=[0.65, 0.15, 0.2]))
    if soot > 0.3:
        return str(random.choice(["powder", "crust", "flake"], p=[0.9, 0.05, 0.05]))
    return str(random.choice(["clean", "powder"], p=[0.55, 0.45]))


def _amount(thickness: float, random: np.random.Generator) -> str:
    seen = thickness + 0.12 * random.standard_normal()
    return (
        "heavy" if seen > 1.0 else "moderate" if seen > 0.5 else "light" if seen > 0.1 else "none"
    )
