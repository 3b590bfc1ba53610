"""The next best test: what it would tell about the consequences, for each minute it takes.

For every test still open on a cylinder, the model says how probable each outcome is under every
fault set; the information that the outcome carries about the consequence class is worth the
trouble or not. Nothing is recommended when nothing would change much.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from core.diagnosis.model import Model
from core.diagnosis.pressures import doses
from core.diagnosis.states import LEAKING, States, Vector
from core.knowledge import knowledge

LEAST_BITS = 0.05
MOST_LISTED = 6
RANK_WEIGHT = (0.25, 0.5, 1.0, 1.5, 2.0)  # Trivial consequences count for less.
MASS_KEPT = 1e-7
WET_SCATTER = 0.035
WET_EDGES = np.array([0.03, 0.08, 0.14, 0.22, 0.35, 0.6])
SWAP_FROM = 0.05


@dataclass(frozen=True)
class Candidate:
    """One test on one cylinder with what it would tell."""

    test: str
    cylinder: int
    bits: float


def next_tests(model: Model) -> list[dict[str, Any]]:
    """Tests worth doing, the most told in a minute first.

    Returns
    -------
    list of dict
        The contract's `next_tests`.
    """
    ranked: dict[str, list[Candidate]] = {}
    for cylinder in model.arranged.cylinders:
        for test, outcomes in _open_tests(model, cylinder).items():
            bits = _information(model, cylinder, outcomes)
            if bits >= LEAST_BITS:
                ranked.setdefault(test, []).append(Candidate(test, cylinder, bits))
    listed: list[dict[str, Any]] = []
    for test, candidates in ranked.items():
        candidates.sort(key=lambda one: (-one.bits, one.cylinder))
        best = [one for one in candidates if one.bits >= 0.5 * candidates[0].bits]
        minutes = _minutes(model, test, len(best))
        bits = sum(one.bits for one in best)
        listed.append(
            {
                "test": test,
                "cylinders": [one.cylinder for one in best],
                "bits": round(bits, 3),
                "minutes": minutes,
                "reason": _reason(test, [one.cylinder for one in best]),
            }
        )
    listed.sort(key=lambda one: (-one["bits"] / one["minutes"], one["test"]))
    return listed[:MOST_LISTED]


def _minutes(model: Model, test: str, cylinders: int) -> float:
    own = model.document.get("house_rules", {}).get("minutes", {}).get(test)
    table = knowledge().tests[test]
    return float(table["setup"] + (own if own is not None else table["each"]) * cylinders)


def _reason(test: str, cylinders: list[int]) -> str:
    label = knowledge().tests[test]["label"]
    numbers = ", ".join(str(number) for number in cylinders)
    return f"{label} on {numbers}: tells most for the time it takes"


def _open_tests(model: Model, cylinder: int) -> dict[str, Vector]:
    """Outcome tables, shape (outcomes, sets), of every test that makes sense on a cylinder."""
    at = model.index(cylinder)
    words = model.problem.words[at]
    tables = words.tables
    seen = {finding.channel for finding in words.findings}
    tests: dict[str, Vector] = {}
    engine = model.document["engine"]
    posterior = model.solution.sets[at]

    def direct(channel: str) -> Vector:
        values = knowledge().channels[channel].values
        rows = [tables.finding(channel, value) for value in values]
        return np.array([row if row.ndim == 1 else row[0] for row in rows])

    if "plug/seating" not in seen:
        tests["seating"] = direct("plug/seating")
    if "plug/deposit_colour" not in seen and "plug/wetness" not in seen:
        tests["plug"] = _plug_outcomes(model, at)
    if "spark/tester" not in seen:
        tests["spark"] = direct("spark/tester")
    if not seen & {"injector/pulse", "injector/flow"} and engine.get("fuel_system") in (
        "port",
        "direct",
        "throttle-body",
    ):
        tests["injector"] = direct("injector/flow")
    if "balance" not in seen:
        miss = tables.misfire()[0]
        rows = knowledge().heard["balance"]
        tests["balance"] = np.array([f * (1 - miss) + m * miss for f, m in rows.values()])
    if not any(channel.startswith("borescope/") for channel in seen):
        tests["borescope"] = _product(direct("borescope/bore"), direct("borescope/valves"))
    if "port_look" not in seen and engine["cycle"] == "two-stroke":
        tests["port-look"] = direct("port_look")
    if "reread" not in seen and "plug/deposit_colour" in seen:
        tests["reread"] = direct("reread")
    tests.update(_swaps(model, tables.states, posterior, seen, direct))
    kinds = {reading.kind for reading in model.readings_of(cylinder)}
    if "dry" in kinds and "wet" not in kinds:
        tests["wet-compression"] = _wet_outcomes(model, at)
    if not _leakdown_done(model, cylinder):
        tests["leakdown"] = _leakdown_outcomes(tables.states)
    return tests


def _swaps(
    model: Model,
    states: States,
    posterior: Vector,
    seen: set[str],
    direct: Callable[[str], Vector],
) -> dict[str, Vector]:
    """A swap needs a second cylinder, a part that can be moved, and a suspicion."""
    if len(model.arranged.cylinders) < 2:
        return {}
    ignition = model.document["engine"].get("ignition")
    parts: dict[str, tuple[str, ...]] = {
        "plug": ("plug-insulator-cracked", "plug-gap-bridged", "plug-fouled")
    }
    if ignition in ("coil-on-plug", "wasted-spark", None):
        parts["coil"] = ("ignition-weak",)
    if ignition in ("distributor", "magneto", "wasted-spark"):
        parts["lead"] = ("ignition-weak",)
    if model.document["engine"].get("fuel_system") in ("port", "direct"):
        parts["injector"] = ("fuel-lean", "fuel-rich")
    return {
        f"swap-{part}": direct(f"swap/{part}")
        for part, faults in parts.items()
        if f"swap/{part}" not in seen and float(posterior[states.active(faults)].sum()) >= SWAP_FROM
    }


def _product(first: Vector, second: Vector) -> Vector:
    """Outcomes of two looks that are independent given the faults."""
    return np.asarray((first[:, None, :] * second[None, :, :]).reshape(-1, first.shape[-1]))


def _plug_outcomes(model: Model, at: int) -> Vector:
    """Reading a plug tells its face, for the most part."""
    words = model.problem.words[at]
    return np.asarray(words.tables.faces(injection_cut=words.injection_cut)[:, 0])


def _information(model: Model, cylinder: int, outcomes: Vector) -> float:
    """Expected information about the consequence class, weighted by its rank. [bit]"""
    at = model.index(cylinder)
    posterior = model.solution.sets[at]
    kept = posterior > MASS_KEPT
    classes = _worst_class(model.problem.words[at].tables.states)[kept]
    weight = posterior[kept] / posterior[kept].sum()
    joint = np.zeros((len(RANK_WEIGHT), len(outcomes)))
    for rank in range(len(RANK_WEIGHT)):
        members = classes == rank
        joint[rank] = outcomes[:, kept][:, members] @ weight[members]
    joint /= joint.sum()
    marginal = joint.sum(axis=1, keepdims=True) * joint.sum(axis=0, keepdims=True)
    with np.errstate(divide="ignore", invalid="ignore"):
        terms = np.where(joint > 0, joint * np.log2(joint / marginal), 0.0)
    return float(max((terms.sum(axis=1) * np.array(RANK_WEIGHT)).sum(), 0.0))


def _worst_class(states: States) -> Vector:
    """Rank of the worst consequence of each fault set, shape (sets,)."""
    known = knowledge()
    classes = known.consequences["class"]
    ranks = np.array(
        [classes[known.fault(name, "cylinder").consequence]["rank"] for name in states.faults]
    )
    return np.asarray((states.has * ranks).max(axis=1))


def _leakdown_done(model: Model, cylinder: int) -> bool:
    return any(
        item["cylinder"] == cylinder
        for test in model.document.get("tests", {}).get("leakdown", [])
        for item in test.get("readings", [])
    )


def _leakdown_outcomes(states: States) -> Vector:
    """The ear says where the air escapes; small leaks are not always heard."""
    paths = ("none", *LEAKING)
    rows = np.zeros((len(paths), len(states.mechanical)))
    for at, combination in enumerate(states.mechanical):
        leaking = [fault for fault in LEAKING if fault in combination]
        heard = 0.8 if leaking else 0.0
        rows[0, at] = 1 - heard
        for fault in leaking:
            rows[paths.index(fault), at] += heard / len(leaking)
    blurred = 0.94 * rows + 0.06 / len(paths)
    return np.asarray(np.repeat(blurred, states.per_mechanical, axis=1))


def _wet_outcomes(model: Model, at: int) -> Vector:
    """How far the wet reading would rise, in bands, for every mechanical combination."""
    words = model.problem.words[at]
    states = words.tables.states
    problem = model.problem
    leaks = problem.leaks
    dose = doses(wet=True)
    ring = leaks.ring_areas[:, None, None]
    other = leaks.other_areas[None, :, None]
    share = model.expected.response.share
    wet = share(ring * (1 - dose.closed) + other) * (1 + dose.gains)
    gain = (wet / np.maximum(share(ring + other), 0.01) - 1).reshape(-1, len(dose.gains))
    bands = _bands(gain, WET_SCATTER) @ np.exp(dose.log_prior)
    density = problem.pressures[at]
    assert density is not None
    cavity = model.solution.cavity[at]
    by_grid = cavity.sum(axis=0).reshape(len(density), -1).sum(axis=1)
    likelihood = by_grid @ np.exp(density - density.max())
    sealed = leaks.weights.reshape(len(likelihood), *leaks.shape)[:, :, 0, 0]
    areas = likelihood[:, None] * sealed
    areas = areas / np.maximum(areas.sum(axis=0, keepdims=True), 1e-300)
    outcomes = bands @ areas
    return np.asarray(np.repeat(outcomes, states.per_mechanical, axis=1))


def _bands(gain: Vector, scatter: float) -> Vector:
    """Chance that a gain is read in each band, shape (bands, *gain.shape)."""
    from scipy.special import ndtr

    below = ndtr((WET_EDGES.reshape(-1, *[1] * gain.ndim) - gain[None]) / scatter)
    padded = np.concatenate([np.zeros((1, *gain.shape)), below, np.ones((1, *gain.shape))])
    return np.asarray(np.diff(padded, axis=0))
