"""How an inspector records a simulated engine: which tests are done, what the gauge reads."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from core.engine.kinematics import Geometry
from core.knowledge import knowledge
from core.pressure.cranking import Cranking, gauge_strokes_pa, settled_gauge_pa
from core.pressure.leakdown import held_pa, restrictor_area_m2
from core.quantities import PSI_PA
from core.simulation.cases import Case, draw_case
from core.simulation.engines import Truth
from core.simulation.signs import Chances, borescope, felt, plug_signs, spark, wet_with
from core.simulation.world import world

CYLINDER_SPREAD, GAUGE_SPREAD, GAUGE_PSI, TESTER_SPREAD, BLUNDER = (
    world().scatter[name] for name in ("cylinder", "gauge", "gauge_psi", "tester", "blunder")
)
SUPPLY_PSI, RESTRICTOR_M = 80.0, 0.040 * 0.0254
HEARD, LIGHT = (world().people[name] for name in ("heard", "light"))
WELL = ("oil",)


@dataclass(frozen=True)
class Style:
    """What an inspector does on one engine."""

    plugs: bool = True
    dry: bool = True
    wet: bool = False
    strokes: bool = False
    leakdown: bool = False
    balance: bool = False
    codes: bool = False
    spark: bool = False
    borescope: bool = False
    age: bool = False
    complaints: bool = False


def draw_style(random: np.random.Generator, engine: dict[str, Any]) -> Style:
    """Some do a lot, some a little; nobody does nothing."""

    def does(habit: str) -> bool:
        return bool(random.random() < world().habits[habit])

    plugs, dry = does("plugs"), does("dry")
    return Style(
        plugs=plugs or not dry,
        dry=dry,
        wet=dry and does("wet"),
        strokes=dry and does("strokes"),
        leakdown=does("leakdown"),
        balance=does("balance"),
        codes=engine["fuel_system"] == "port" and does("codes"),
        spark=does("spark"),
        borescope=does("borescope"),
        age=bool(random.random() < world().set["told"]),
        complaints=does("complaints"),
    )


def record(truth: Truth, random: np.random.Generator, style: Style | None = None) -> dict[str, Any]:
    """An inspection document of a simulated engine.

    Parameters
    ----------
    truth : Truth
    random : numpy Generator
    style : Style, optional
        What is done; drawn if absent.
    """
    style = style or draw_style(random, truth.engine)
    cases = {
        number: draw_case(
            random,
            one.faults,
            truth.shared_on(number),
            leaks=one.leaks,
            unseen=truth.unseen & truth.shared_on(number),
        )
        for number, one in sorted(truth.cylinders.items())
    }
    document: dict[str, Any] = {
        "format": "fiacre-inspection",
        "version": 1,
        "engine": truth.engine,
        "tests": {"compression": _compression(truth, cases, random, style)},
    }
    missing = {
        number: bool(random.random() < 1 - (1 - one.miss[0]) * (1 - _robbed(truth, number)))
        for number, one in cases.items()
    }
    tests, light = document["tests"], random.normal(0, LIGHT)
    valves = truth.engine["cycle"] == "four-stroke"
    if style.plugs or style.borescope:
        document["cylinders"] = [
            {
                "number": number,
                **(_plug(case, random, light) if style.plugs else {}),
                **(
                    {"borescope": _drawn(borescope(case, valves=valves), random)}
                    if style.borescope
                    else {}
                ),
            }
            for number, case in cases.items()
        ]
    if style.leakdown:
        tests["leakdown"] = [_leakdown(truth, cases, random)]
    if style.balance:
        tests["balance"] = [
            {"cylinder": number, "felt": _choose(felt(is_missing), random)}
            for number, is_missing in missing.items()
        ]
    if style.spark:
        weak = "ignition-weak" in truth.engine_faults
        tests["spark"] = [
            {"cylinder": n, "result": _pick(spark(case), random), "condition": "tester"}
            for n, case in cases.items()
            if not weak
        ]
    if style.codes:
        coded = [n for n, miss in missing.items() if random.random() < (0.65 if miss else 0.012)]
        document["inspection"] = {"trouble_codes": [f"P03{number:02d}" for number in coded]}
    if style.age:
        document["engine"] = {**truth.engine, "specification": {"plug_interval": _km(1.0)}}
        document.setdefault("inspection", {})["plug_distance"] = _km(truth.age)
    if style.complaints and (said := _complaints(truth, random)):
        document.setdefault("inspection", {})["complaints"] = said
    return document


def _complaints(truth: Truth, random: np.random.Generator) -> list[str]:
    """What an owner says of it: each complaint once, whichever fault brings it."""
    faults = [*truth.engine_faults, *truth.bank_faults.values()]
    faults += ["head-gasket-between"] * len(truth.gaskets)
    for one in truth.cylinders.values():
        faults += one.faults
    said = []
    for name, brings in world().complaints.items():
        silent = 1 - brings["else"]
        for fault in faults:
            silent *= 1 - brings.get(fault, 0.0)
        if random.random() >= silent:
            said.append(name)
    return said


def _km(intervals: float) -> dict[str, Any]:
    return {"value": round(60_000 * intervals), "unit": "km"}


def _robbed(truth: Truth, number: int) -> float:
    """Chance that a gasket leaking beside a cylinder makes it miss, as a leaking valve does."""
    return min(truth.gasket_area(number) / 9, 0.9)


def geometry_of(truth: Truth) -> Geometry:
    """The cylinder that the gauge is screwed into; its closing angle is the default's."""
    default = knowledge().pressure["default_geometry"]
    two_stroke = truth.engine["cycle"] == "two-stroke"
    name = "exhaust_closing_deg_abdc" if two_stroke else "intake_closing_deg_abdc"
    return Geometry(0.086, 0.086, 0.142, truth.engine["compression_ratio"], default[name])


def level_of(truth: Truth) -> float:
    """What a healthy cylinder shows today, over what the physics says. [-]"""
    level = truth.test["level"] * truth.test["gauge"]
    if "valve-timing" in truth.engine_faults:
        level *= truth.test["timing"]
    if "test-condition" in truth.engine_faults:
        level *= truth.test["spoilt"]
    return level


def leaks_of(truth: Truth, number: int, case: Case) -> tuple[float, float]:
    """Leak past the rings, and every other, gaskets beside the cylinder included. [mm2]"""
    return float(case.rings[0]), float(case.others[0]) + truth.gasket_area(number)


def _compression(
    truth: Truth, cases: dict[int, Case], random: np.random.Generator, style: Style
) -> list[dict[str, Any]]:
    """Readings of every cylinder, from the physics."""
    geometry, level = geometry_of(truth), level_of(truth)
    baseline = knowledge().pressure["areas"]["healthy"]
    areas = np.array([leaks_of(truth, number, case) for number, case in cases.items()])
    own = np.exp(CYLINDER_SPREAD * random.standard_normal(len(areas)))
    cranking = Cranking(rpm=truth.test["rpm"])
    tests = []
    for kind, done in (("dry", style.dry), ("wet", style.wet)):
        if not done:
            continue
        oil = truth.test["closed_share"] if kind == "wet" else 0.0
        leaks = (baseline + areas @ np.array([1 - oil, 1.0])) * 1e-6
        clean = settled_gauge_pa(geometry, cranking, leaks) / PSI_PA * level * own
        if kind == "wet":
            clean = clean * (1 + truth.test["gain"])
        shown = _shown(clean, random)
        readings = [
            {"cylinder": number, "pressure": _psi(psi)}
            for number, psi in zip(cases, shown, strict=True)
        ]
        if kind == "dry" and style.strokes:
            climbing = gauge_strokes_pa(geometry, cranking, leaks)
            share = climbing[0] / np.maximum(climbing[-1], 1.0)
            firsts = shown * np.minimum(share * np.exp(0.04 * random.standard_normal(len(own))), 1)
            for reading, first in zip(readings, firsts, strict=True):
                reading["strokes"] = [_psi(first), reading["pressure"]]
        tests.append({"id": f"{kind}-1", "kind": kind, "readings": readings})
    return tests


def _shown(clean: NDArray[np.float64], random: np.random.Generator) -> NDArray[np.float64]:
    shown = clean * np.exp(GAUGE_SPREAD * random.standard_normal(len(clean)))
    shown = shown + random.normal(0, GAUGE_PSI, len(clean))
    anything = random.uniform(0, 1.5 * np.max(clean), len(clean))
    return np.where(random.random(len(clean)) < BLUNDER, anything, shown)


def _psi(value: float) -> dict[str, Any]:
    return {"value": max(round(float(value)), 0), "unit": "psi"}


def _leakdown(truth: Truth, cases: dict[int, Case], random: np.random.Generator) -> dict[str, Any]:
    """Held pressures and what the ear heard, cylinder by cylinder."""
    baseline = knowledge().pressure["areas"]["healthy"]
    restrictor = restrictor_area_m2(RESTRICTOR_M, knowledge().pressure["leakdown"]["discharge"])
    scale = geometry_of(truth).swept_m3 / 500e-6
    readings = []
    for number, case in cases.items():
        rings, others = leaks_of(truth, number, case)
        area = (baseline + rings + others) * float(np.exp(random.normal(0, TESTER_SPREAD)))
        held = held_pa(SUPPLY_PSI * PSI_PA, restrictor, area * 1e-6 * scale)[0] / PSI_PA
        held = float(np.clip(held + random.normal(0, 1.0), 0, SUPPLY_PSI))
        exits = {
            "intake": case.leaks.get("intake-valve-sealing"),
            "exhaust": case.leaks.get("exhaust-valve-sealing"),
            "coolant": case.leaks.get("head-gasket-coolant"),
            "crankcase": case.leaks.get("ring-sealing", case.leaks.get("piston-damage")),
            "neighbour": truth.gasket_area(number) or None,
        }
        mistaken = {"crankcase": 0.12}
        heard = [
            name
            for name, area in exits.items()
            if random.random() < (mistaken.get(name, 0.015) if area is None else HEARD)
        ]
        readings.append({"cylinder": number, "held": _psi(held), "escapes": heard or ["none"]})
    return {
        "id": "leakdown-1",
        "supply": {"value": SUPPLY_PSI, "unit": "psi"},
        "restrictor": {"value": 0.04, "unit": "in"},
        "readings": readings,
    }


def _plug(case: Case, random: np.random.Generator, light: float) -> dict[str, Any]:
    """A plug and its well in an inspector's words."""
    said = _drawn(plug_signs(case, light), random)
    well = {name: said.pop(name) for name in WELL}
    if said["wetness"] != "dry":
        said["wet_with"] = _pick(wet_with(case), random)
    said["gap_bridged"] = said["gap_bridged"] == "yes"
    return {"well": well, "plug": said}


def _drawn(signs: dict[str, Chances], random: np.random.Generator) -> dict[str, Any]:
    return {field: _pick(chances, random) for field, chances in signs.items()}


def _pick(chances: Chances, random: np.random.Generator) -> str:
    words, rows = chances
    return words[int(random.choice(len(words), p=rows[0] / rows[0].sum()))]


def _choose(chances: Any, random: np.random.Generator) -> str:
    return _pick((tuple(chances), np.array([list(chances.values())])), random)
