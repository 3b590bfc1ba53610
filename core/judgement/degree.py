"""How bad a leak is: one that is just past its threshold is watched, not opened."""

from __future__ import annotations

import numpy as np

from core.hidden.states import LEAKING, Vector
from core.inference.model import Model
from core.inference.solver import Problem, Solution
from core.knowledge import knowledge

AIR = {"leak-down", "escape"}


def areas_given(problem: Problem, solution: Solution, at: int) -> Vector:
    """Chance of each pair of leak areas given the mechanical combination and what was read.

    Returns
    -------
    ndarray, shape (rings * others, m)
    """
    leaks = problem.leaks
    sealed = leaks.weights[leaks.beside[0, 0]]
    density = problem.pressures[at].density
    if density is not None:
        by_grid = solution.cavity[at].sum(axis=(0, 1))
        sealed = (by_grid @ density[solution.kept])[:, None] * sealed
    return np.asarray(sealed / np.maximum(sealed.sum(axis=0, keepdims=True), 1e-300))


def slight_leak(model: Model, cylinder: int, first: Model | None = None) -> float:
    """Chance that a cylinder has a leak just past its threshold, and nothing else to repair. [-]

    The gasket between two cylinders is not among them: it burns itself wider. Nor is a leak that
    was measured with air as well, or heard: it was read twice, and is no passing thing.

    Parameters
    ----------
    model : Model
    cylinder : int
    first : Model or None
        Of the engine as it was found, where `model` is of the engine as left: what was not read
        again is as it was read then.
    """
    read = model if first is None or model.gauged_of(cylinder) else first
    if AIR & {one.kind for one in read.gauged_of(cylinder)}:
        return 0.0
    at = model.index(cylinder)
    problem, belief = model.problem, model.solution.beliefs[at]
    leaks = problem.leaks
    total = (leaks.ring_areas[:, None] + leaks.other_areas[None, :]).ravel()
    slight = total < knowledge().consequences["grades"]["gross"]
    combinations = problem.words[at].tables.states.mechanical.combinations
    leaks_only = np.array([bool(one) and one <= set(LEAKING) for one in combinations])
    areas = areas_given(read.problem, read.solution, at)
    chance = areas[slight].sum(axis=0) * belief.mechanical
    return float(chance[leaks_only].sum() * belief.running[0])
