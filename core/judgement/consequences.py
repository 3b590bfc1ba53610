"""From what is probable to what it means: the chance of each class of consequence.

The written rule that grades by them stands in knowledge/consequences.toml; the ladder itself is
applied to claims (core/judgement/claims.py).
"""

from __future__ import annotations

from core.hidden.states import WELL_SEAL, Group
from core.inference.posterior import Posterior
from core.knowledge import knowledge


def _faults_of(group: Group, classes: tuple[str, ...]) -> tuple[str, ...]:
    known = knowledge()
    return tuple(f for f in group.faults if known.fault(f, "cylinder").consequence in classes)


def consequence_probabilities(posterior: Posterior, cylinder: int) -> dict[str, float]:
    """Chance of each consequence class for one cylinder, of none and of any repair.

    Classes may come together: a worn plug above a burnt valve is both.
    """
    at = posterior.model.index(cylinder)
    states = posterior.model.problem.words[at].tables.states
    belief, known = posterior.model.solution.beliefs[at], knowledge()
    seal = posterior.marginal(cylinder)[WELL_SEAL]

    def mechanical(faults: tuple[str, ...]) -> float:
        return float(belief.mechanical[states.mechanical.active(faults)].sum())

    stops = known.cylinder_faults(lambda fault: fault.stops)
    cuts_out = known.cylinder_faults(lambda fault: fault.cuts_out)
    found = {
        "none": posterior.clean(cylinder) * (1 - seal),
        "plug-service": 1 - belief.plug[0],
        "ignition-fuel": 1 - belief.running[0],
        "top-end": posterior.top_end(cylinder, _faults_of(states.mechanical, ("top-end",))),
        "bottom-end": mechanical(_faults_of(states.mechanical, ("bottom-end",))),
        "external-seal": seal,
        "stop": mechanical(stops),
        "cut-out": belief.plug[states.plug.active(cuts_out)].sum(),
        "repair": posterior.own_repair(cylinder),
    }
    return {name: min(max(float(chance), 0.0), 1.0) for name, chance in found.items()}
