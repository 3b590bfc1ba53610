"""The best that anyone could guess: the simulator's own odds, with all else about the engine known.

For a cylinder of an engine where nothing shared is wrong, the chance of its record under every set
of faults is reckoned from hundreds of draws of each set, by the simulator's own words and physics,
with the level, the gauge and the dose of oil given. Worn plugs and well seals are left aside.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray

from core.knowledge import knowledge
from core.pressure.cranking import Cranking, settled_gauge_pa
from core.pressure.leakdown import leak_area_m2, restrictor_area_m2
from core.quantities import PSI_PA
from core.simulation.cases import draw_case
from core.simulation.engines import Truth
from core.simulation.recording import (
    BLUNDER,
    CYLINDER_SPREAD,
    GAUGE_PSI,
    GAUGE_SPREAD,
    HEARD,
    RESTRICTOR_M,
    SUPPLY_PSI,
    TESTER_SPREAD,
    geometry_of,
    level_of,
)
from core.simulation.signs import borescope, felt, plug_signs, spark, wet_with
from core.simulation.world import world

DRAWS = 150
ASIDE = ("plug-worn", "well-seal")
FLOOR = 1e-12
Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Library:
    """Every set of faults, drawn many times: what each draw would show.

    Attributes
    ----------
    faults : the faults, in the columns of `has`.
    has : bool array, shape (sets, faults)
    log_prior : ndarray, shape (sets,)
    signs : dict of field to (words, ndarray of shape (sets * draws, words))
    rings, others, miss : ndarray, shape (sets * draws,)
    leaks : dict of fault to bool array, shape (sets,)
    """

    faults: tuple[str, ...]
    has: NDArray[np.bool_]
    log_prior: Array
    signs: dict[str, tuple[tuple[str, ...], Array]]
    rings: Array
    others: Array
    miss: Array


@cache
def library(cycle: str, cooling: str, alone: bool) -> Library:
    """Draw the library of one kind of engine."""
    entries = [f for f in knowledge().of_scope("cylinder") if f.possible_on(cycle, cooling)]
    entries = [f for f in entries if f.id not in ASIDE]
    if alone:
        entries = [f for f in entries if f.id not in ("fuel-rich", "fuel-lean")]
    faults = tuple(fault.id for fault in entries)
    sets = [frozenset(s) for size in range(3) for s in combinations(faults, size)]
    sets = [s for s in sets if not s >= {"fuel-rich", "fuel-lean"}]
    has = np.array([[fault in one for fault in faults] for one in sets])
    prior = np.array([world().rates["cylinder"][fault] for fault in faults])
    log_prior = np.where(has, np.log(prior), np.log1p(-prior)).sum(axis=1)
    random = np.random.default_rng(2026)
    cases = [draw_case(random, one, (), draws=DRAWS) for one in sets]
    signs: dict[str, tuple[tuple[str, ...], Array]] = {}
    for make in (
        plug_signs,
        borescope,
        lambda c: {"wet_with": wet_with(c)},
        lambda c: {"spark": spark(c)},
    ):
        made = [make(case) for case in cases]
        for field, (words, _) in made[0].items():
            signs[field] = (words, np.concatenate([one[field][1] for one in made]))
    return Library(
        faults,
        has,
        log_prior,
        signs,
        np.concatenate([case.rings for case in cases]),
        np.concatenate([case.others for case in cases]),
        np.concatenate([case.miss for case in cases]),
    )


def nothing_shared(truth: Truth) -> bool:
    """Whether all that is wrong with an engine is wrong with single cylinders."""
    return not (truth.engine_faults or truth.bank_faults or truth.coil or truth.gaskets)


def guesses(truth: Truth, document: dict[str, Any], cylinder: int) -> dict[str, float]:
    """The chance of each fault of a cylinder, as well as anyone could know it."""
    kind = (truth.engine["cycle"], truth.engine.get("cooling", "liquid"))
    known = library(*kind, truth.engine["cylinders"] == 1)
    log_chance = _words(known, document, cylinder) + _running(known, document, cylinder)
    log_chance = log_chance + _pressures(known, truth, document, cylinder)
    by_set = log_chance.reshape(len(known.has), DRAWS)
    weight = known.log_prior + np.logaddexp.reduce(by_set, axis=1)
    weight = np.exp(weight - np.logaddexp.reduce(weight))
    return dict(zip(known.faults, (weight @ known.has).tolist(), strict=True))


def _said(known: Library, field: str, word: str) -> Array:
    words, rows = known.signs[field]
    return np.log(np.maximum(rows[:, words.index(word)], FLOOR))


def _words(known: Library, document: dict[str, Any], cylinder: int) -> Array:
    total = np.zeros(len(known.rings))
    for record in document.get("cylinders", []):
        if record["number"] != cylinder:
            continue
        for field, word in [
            *record.get("plug", {}).items(),
            *record.get("borescope", {}).items(),
        ]:
            if field not in ("centre_electrode", "ground_electrode"):
                said = {True: "yes", False: "no"}.get(word, word)
                total = total + _said(known, field, said)
    for item in document["tests"].get("spark", []):
        if item["cylinder"] == cylinder:
            total = total + _said(known, "spark", item["result"])
    return total


def _running(known: Library, document: dict[str, Any], cylinder: int) -> Array:
    """Codes and the cut-out test hear whether it misses, which is drawn once."""
    fires, misses = 1 - known.miss, known.miss
    codes = document.get("inspection", {}).get("trouble_codes", [])
    if codes:
        coded = f"P03{cylinder:02d}" in codes
        misses = misses * (0.65 if coded else 0.35)
        fires = fires * (0.012 if coded else 0.988)
    for item in document["tests"].get("balance", []):
        if item["cylinder"] == cylinder:
            misses = misses * felt(True)[item["felt"]]
            fires = fires * felt(False)[item["felt"]]
    return np.asarray(np.log(fires + misses))


def _pressures(known: Library, truth: Truth, document: dict[str, Any], cylinder: int) -> Array:
    baseline = knowledge().pressure["areas"]["healthy"]
    nodes = np.concatenate([[0.0], np.geomspace(0.1, 120, 90)])
    cranking = Cranking(rpm=truth.test["rpm"])
    settled = settled_gauge_pa(geometry_of(truth), cranking, (baseline + nodes) * 1e-6) / PSI_PA
    found = {}
    for test in document["tests"]["compression"]:
        oil = truth.test["closed_share"] if test["kind"] == "wet" else 0.0
        clean = np.interp(known.rings * (1 - oil) + known.others, nodes, settled) * level_of(truth)
        clean = clean * (1 + truth.test["gain"] if test["kind"] == "wet" else 1.0)
        clean = np.maximum(clean, 0.5)
        for item in test["readings"]:
            if item["cylinder"] == cylinder:
                read = item["pressure"]["value"]
                square = GAUGE_SPREAD**2 + ((GAUGE_PSI + 0.3) / clean) ** 2
                found[test["kind"]] = (read / clean - 1, square, clean)
    total = np.zeros(len(known.rings))
    if found:
        anything = BLUNDER / 200
        joint = _joint(list(found.values()))
        for at in range(len(found)):
            rest = [one for index, one in enumerate(found.values()) if index != at]
            joint = joint + anything * _joint(rest)
        total = total + np.log(joint)
    for test in document["tests"].get("leakdown", []):
        for item in test["readings"]:
            if item["cylinder"] == cylinder:
                total = total + _leakdown(known, truth, item)
    return total


def _joint(readings: list[tuple[Array, Array, Array]]) -> Array:
    """Density of readings that share the cylinder's own scatter."""
    if not readings:
        return np.ones(1)
    weight = sum(1 / square for _, square, _ in readings)
    first = sum(off / square for off, square, _ in readings)
    second = sum(off**2 / square for off, square, _ in readings)
    shared = 1 / CYLINDER_SPREAD**2
    height = np.prod([1 / (np.sqrt(2 * np.pi * s) * c) for _, s, c in readings], axis=0)
    exponent = np.maximum(-0.5 * (second - first**2 / (weight + shared)), -600)
    return np.asarray(np.exp(exponent) * height / np.sqrt(1 + weight / shared))


def _leakdown(known: Library, truth: Truth, item: dict[str, Any]) -> Array:
    baseline = knowledge().pressure["areas"]["healthy"]
    restrictor = restrictor_area_m2(RESTRICTOR_M, knowledge().pressure["leakdown"]["discharge"])
    scale = geometry_of(truth).swept_m3 / 500e-6 * 1e-6
    held = np.clip(item["held"]["value"] + np.array([0.0, -1.0, 1.0]), 0.5, SUPPLY_PSI - 0.3)
    areas = leak_area_m2(SUPPLY_PSI * PSI_PA, restrictor, held * PSI_PA) / scale
    spread = np.hypot(TESTER_SPREAD, abs(np.log(areas[1] / areas[2])) / 2)
    off = (np.log(areas[0]) - np.log(baseline + known.rings + known.others)) / spread
    total = -0.5 * off**2
    for name, faults in (
        ("intake", ("intake-valve-sealing",)),
        ("exhaust", ("exhaust-valve-sealing",)),
        ("coolant", ("head-gasket-coolant",)),
        ("crankcase", ("ring-sealing", "piston-damage")),
    ):
        columns = [at for at, fault in enumerate(known.faults) if fault in faults]
        leaking = np.repeat(known.has[:, columns].any(axis=1), DRAWS)
        mistaken = 0.12 if name == "crankcase" else 0.015
        heard = np.where(leaking, HEARD, mistaken)
        total = total + np.log(heard if name in item["escapes"] else 1 - heard)
    return np.asarray(total)
