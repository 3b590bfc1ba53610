"""From what is probable to what it means: consequence classes, grades, what to do with the plug.

The written rule stands in knowledge/consequences.toml and is shown with every grade.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from core.hidden.states import Group, Vector
from core.inference.solver import Problem, Solution
from core.knowledge import knowledge
from core.vocabulary import Grade

OWN_GRADE = "ABCDE"


def _faults_of(group: Group, classes: tuple[str, ...]) -> tuple[str, ...]:
    known = knowledge()
    return tuple(f for f in group.faults if known.fault(f, "cylinder").consequence in classes)


def consequence_probabilities(
    problem: Problem,
    solution: Solution,
    at: int,
    seal: float,
    part_shared: float,
    any_shared: float,
) -> dict[str, float]:
    """Chance of each consequence class for one cylinder, of none and of any repair.

    Classes may come together: a worn plug above a burnt valve is both.

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
    belief = solution.beliefs[at]

    def mechanical(faults: tuple[str, ...]) -> float:
        return float(belief.mechanical[states.mechanical.active(faults)].sum())

    tight, untouched, untouched_alone, clean = _with_tight_gaskets(problem, solution, at)
    top = states.mechanical.active(_faults_of(states.mechanical, ("top-end",)))
    whole_engine = 1 - part_shared / any_shared if any_shared > 0 else 1.0
    sound = untouched_alone + (untouched - untouched_alone) * max(whole_engine, 0.0)
    found = {
        "none": clean * (1 - seal),
        "plug-service": 1 - belief.plug[0],
        "ignition-fuel": 1 - belief.running[0],
        "top-end": 1 - tight[~top].sum(),
        "bottom-end": mechanical(_faults_of(states.mechanical, ("bottom-end",))),
        "external-seal": seal,
        "stop": mechanical(knowledge().cylinder_faults(lambda fault: fault.stops)),
        "cut-out": belief.plug[states.plug.active(_cutting_out())].sum(),
        "repair": 1 - sound,
    }
    return {name: min(max(float(chance), 0.0), 1.0) for name, chance in found.items()}


def _cutting_out() -> tuple[str, ...]:
    """Plug faults that stop their cylinder or endanger it: no mere service."""
    return knowledge().cylinder_faults(lambda fault: fault.cuts_out)


def _with_tight_gaskets(
    problem: Problem, solution: Solution, at: int
) -> tuple[Vector, float, float, float]:
    """Chances together with no gasket leaking beside the cylinder.

    Returns
    -------
    tuple of (ndarray, shape (m,); float; float; float)
        Of each mechanical combination; of no mechanical and no running fault; of that with
        nothing shared acting on it either; of that with nothing wrong with the plug either.
    """
    leak = solution.leak[at]
    cavity = solution.cavity[at]
    belief = solution.beliefs[at]
    weights = belief.weights
    shut = leak.pairs == problem.leaks.beside[0, 0]
    by_mechanical = weights.by_mechanical
    # With tight gaskets every term hears the same.
    response = leak.only(shut).respond(cavity[shut], weights, problem.leaks.leaking)[0]
    total = (np.array(weights.by_term) * belief.response).sum()
    untouched = weights.untouched() * response[:, 0]
    return (
        np.asarray((by_mechanical * response).sum(axis=0) / total),
        float(untouched.sum() / total),
        float(untouched[0] / total),
        float(weights.clean() * response[0, 0] / total),
    )


def grade(
    chances: Mapping[str, float],
    harm: float,
    *,
    must_stop: bool,
    asked: bool = False,
    slight: float = 0.0,
) -> Grade:
    """The written rule, from A to E.

    Parameters
    ----------
    chances : mapping of str to float
        As `consequence_probabilities` gives them. [-]
    harm : float
        Chance of what is shared and ruins pistons. [-]
    must_stop : bool
        Whether something seen forbids running.
    asked : bool
        Whether a code or a complaint asks about this very cylinder: then less puts it on watch.
    slight : float
        Chance that what wants a repair is a leak just past its threshold, and nothing else. [-]
    """
    known = knowledge()
    rule = known.consequences["grades"]
    if must_stop or chances["stop"] >= rule["stop"]:
        return "E"
    repair = max(chances["repair"], chances["cut-out"])
    if max(chances["repair"] - slight, chances["cut-out"]) >= rule["repair"]:
        return "D"
    # A plug that is out is seen to at once: only a repair is watched.
    if chances["repair"] >= rule["asked" if asked else "watch"] or harm >= rule["repair"]:
        return "C"
    service = max(chances["plug-service"], chances["external-seal"])
    if service >= rule["service"] or repair >= known.suspected_from:
        return "B"
    return "A"


def worst(grades: Sequence[Grade]) -> Grade:
    """The worst of some grades; U only where nothing else was given."""
    graded = [one for one in grades if one in OWN_GRADE]
    return max(graded, default="U")
