"""How bad a leak is, and its figure: one just past its threshold is watched, not opened."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

import numpy as np

from core.assessment import Degree
from core.comparison.leakdown_schools import lost_percent
from core.hidden.states import LEAKING, Vector
from core.inference.model import Model
from core.inference.solver import Problem, Solution
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.language import ranged, say
from core.quantities import Dimension, figure, from_si

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
    totals = _totals(problem)
    slight = (totals > 0) & (totals < knowledge().consequences["grades"]["gross"])
    combinations = problem.words[at].tables.states.mechanical.combinations
    leaks_only = np.array([bool(one) and one <= set(LEAKING) for one in combinations])
    areas = areas_given(read.problem, read.solution, at)
    chance = areas[slight].sum(axis=0) * belief.mechanical
    return float(chance[leaks_only].sum() * belief.running[0])


def degree_of(model: Model, cylinder: int) -> Degree:
    """How large a leak most likely is, given that there is one."""
    at = model.index(cylinder)
    problem, belief = model.problem, model.solution.beliefs[at]
    mechanical = problem.words[at].tables.states.mechanical
    leaking = mechanical.active(LEAKING)
    weight = (areas_given(problem, model.solution, at) * belief.mechanical)[:, leaking].sum(axis=1)
    totals = _totals(problem)
    weight = np.where(totals > 0, weight, 0.0)  # Rings that hold leak nothing.
    if weight.sum() <= 0:
        return "plain"
    order = np.argsort(totals)
    median = totals[order][np.searchsorted(np.cumsum(weight[order]), weight.sum() / 2)]
    if median < knowledge().consequences["grades"]["gross"]:
        return "slight"
    return "gross" if median >= case_tables().degree.gross_area else "plain"


def _totals(problem: Problem) -> Vector:
    """Everything that leaks at each pair of areas, shape (rings * others,)."""
    leaks = problem.leaks
    return np.asarray((leaks.ring_areas[:, None] + leaks.other_areas[None, :]).ravel())


def figure_of(model: Model, cylinders: Sequence[int], others: Collection[int], unit: str) -> str:
    """What some cylinders lose or read, beside those that nobody suspects.

    Parameters
    ----------
    model : Model
    cylinders : sequence of int
        Those that it is said of.
    others : collection of int
        Those to compare them with; all but themselves where they are none.
    unit : str
        Of pressure, as this inspection's people read it.
    """
    lost = lost_percent(model.document, model.doubted)
    if set(cylinders) & lost.keys():
        told = {number: f"{round(one)}" for number, one in lost.items()}
        own, beside = _ranges(told, lost, cylinders, others)
        if not beside:
            return say("leaks {own} %", own=own)
        return say("leaks {own} %, the others {others}", own=own, others=beside)
    dry = {one.cylinder: one.pressure_pa for one in model.readings if one.kind == "dry"}
    if set(cylinders) & dry.keys():
        told = {
            number: figure(from_si(one, unit, Dimension.PRESSURE).value)
            for number, one in dry.items()
        }
        own, beside = _ranges(told, dry, cylinders, others)
        if not beside:
            return say("{own} {unit}", own=own, unit=unit)
        return say("{own} {unit}, the others {others}", own=own, unit=unit, others=beside)
    return ""


def _ranges(
    told: Mapping[int, str],
    values: Mapping[int, float],
    cylinders: Sequence[int],
    others: Collection[int],
) -> tuple[str, str]:
    """The least and the most of some cylinders, and of those beside them, in words."""
    fellows = [number for number in values if number not in cylinders]
    compared = [number for number in fellows if number in others] or fellows
    return (
        _range([one for one in cylinders if one in values], told, values),
        _range(compared, told, values),
    )


def _range(numbers: Sequence[int], told: Mapping[int, str], values: Mapping[int, float]) -> str:
    ends = sorted(numbers, key=lambda number: values[number])
    return ranged(list(dict.fromkeys([told[ends[0]], told[ends[-1]]]))) if ends else ""
