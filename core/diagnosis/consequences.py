"""From what is probable to what it means: consequence classes, grades, what to do with the plug.

The written rule stands in knowledge/consequences.toml and is shown with every grade.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Any

import numpy as np

from core.diagnosis.inference import Problem, Solution, pressure_table
from core.diagnosis.states import Mask, States
from core.knowledge import knowledge

STOPPING = ("piston-damage", "head-gasket-coolant")
REPAIR_RANK = 2
OWN_GRADE = "ABCDE"


@cache
def class_masks(states: States) -> dict[str, Mask]:
    """For each consequence class, the fault sets that hold a fault of it."""
    masks: dict[str, Mask] = {}
    for name in knowledge().consequences["class"]:
        members = tuple(
            fault
            for fault in states.faults
            if knowledge().fault(fault, "cylinder").consequence == name
        )
        masks[name] = states.active(members)
    masks["stop"] = states.active(STOPPING)
    masks["repair"] = np.any([mask for name, mask in masks.items() if name in _repairs()], axis=0)
    return masks


@cache
def _repairs() -> tuple[str, ...]:
    classes = knowledge().consequences["class"]
    return tuple(name for name, entry in classes.items() if entry["rank"] >= REPAIR_RANK)


def sound_share(problem: Problem, solution: Solution, at: int, mask: Mask) -> tuple[float, float]:
    """Chance that a cylinder has none of `mask`'s faults and no leaking gasket beside it.

    Returns
    -------
    tuple of (float, float)
        With nothing shared acting on it, and with something shared acting on it.
    """
    words = problem.words[at]
    leak = pressure_table(problem, problem.pressures[at])
    cavity = solution.cavity[at]
    gaskets = problem.leaks.shape[1] ** 2
    sealed = cavity.reshape(len(cavity), -1, gaskets)[:, :, 0]
    own = leak.reshape(-1, gaskets, leak.shape[1])[:, 0] if len(leak) > 1 else leak
    response = sealed @ own if len(leak) > 1 else sealed.sum(axis=1)[:, None] * own
    spread = np.repeat(response, words.tables.states.per_mechanical, axis=1)
    whole = np.repeat(solution.response[at], words.tables.states.per_mechanical, axis=1)
    weights = solution.weights[at]
    sound = (weights * spread * ~mask[None, :]).sum(axis=1)
    total = (weights * whole).sum()
    return float(sound[0] / total), float(sound[1:].sum() / total)


def consequence_probabilities(
    problem: Problem,
    solution: Solution,
    at: int,
    seal: float,
    part_shared: float,
    any_shared: float,
) -> dict[str, float]:
    """Chance of each consequence class for one cylinder, and of any repair.

    Parameters
    ----------
    problem, solution
    at : int
        Index of the cylinder.
    seal : float
        Posterior of its well seal. [-]
    part_shared : float
        Chance that a bank, carburettor, coil or crossed lead acts on it. [-]
    any_shared : float
        Chance that anything shared acts on it. [-]
    """
    states = problem.words[at].tables.states
    masks = class_masks(states)
    posterior = solution.sets[at]
    found = {
        name: float(posterior[masks[name]].sum())
        for name in ("plug-service", "ignition-fuel", "bottom-end", "stop")
    }
    found["external-seal"] = seal
    found["top-end"] = 1 - sum(sound_share(problem, solution, at, masks["top-end"]))
    alone, shared = sound_share(problem, solution, at, masks["repair"])
    whole_engine = 1 - part_shared / any_shared if any_shared > 0 else 1.0
    found["repair"] = 1 - (alone + shared * max(whole_engine, 0.0))
    return {name: min(max(float(chance), 0.0), 1.0) for name, chance in found.items()}


def grade(chances: Mapping[str, float], *, must_stop: bool) -> str:
    """The written rule, from A to E."""
    rule = knowledge().consequences["grades"]
    if must_stop or chances["stop"] >= rule["stop"]:
        return "E"
    if chances["repair"] >= rule["repair"]:
        return "D"
    if chances["repair"] >= rule["watch"]:
        return "C"
    if max(chances["plug-service"], chances["external-seal"]) >= rule["service"]:
        return "B"
    return "A"


def plug_action(
    plug: Mapping[str, Any], faults: Mapping[str, float], gap_band: str | None, *, overdue: bool
) -> str:
    """Keep, clean, regap or replace; `not-seen` where no plug was read."""
    seen = set(plug) - {"seating", "distance", "part"}
    if not seen:
        return "not-seen"
    service = knowledge().consequences["grades"]["service"]
    spoilt = plug.get("ground_electrode") in ("missing", "melted", "thinned")
    likely = max(
        faults[name] for name in ("plug-worn", "plug-insulator-cracked", "plug-wrong-type")
    )
    if overdue or spoilt or likely >= service:
        return "replace"
    if plug.get("gap_closed") or gap_band in ("narrow", "over", "wide"):
        return "regap"
    if max(faults["plug-fouled"], faults["plug-gap-bridged"]) >= service:
        return "clean"
    return "keep"


def worst(grades: list[str]) -> str:
    """The worst of some grades; U only where nothing else was given."""
    graded = [one for one in grades if one in OWN_GRADE]
    return max(graded, default="U")
