"""How all cylinders were tested alike: the oil of a wet test, the restrictor of a leak-down tester.

Both are one hidden quantity that every cylinder shares, as the level is. Taken as known, they make
claims that are too sure; taken as each cylinder's own, they cannot be learnt from the others, and
an engine that lost half its air everywhere would be sound.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from core.hidden.states import Vector
from core.knowledge import knowledge

# Apart, as natural logarithms; readings scatter wider.
RESTRICTOR_STEP = 0.3


@dataclass(frozen=True, eq=False)
class Handling:
    """A grid of which every point is one dose of oil with one restrictor.

    Attributes
    ----------
    gains : ndarray, shape (points,)
        What the oil adds to a reading, as a share of it.
    closed : ndarray, shape (points,)
        What it closes of a leak past the rings, as a share of its area.
    restrictor : ndarray, shape (points,)
        Natural logarithm of what the tester lets through over what the usual one does.
    log_prior : ndarray, shape (points,)
        Normalised.
    """

    gains: Vector
    closed: Vector
    restrictor: Vector
    log_prior: Vector


@cache
def handling(*, wet: bool, unmeasured: bool) -> Handling:
    """What to reckon with.

    Parameters
    ----------
    wet : bool
        Whether there was a wet test.
    unmeasured : bool
        Whether there was a leak-down through a restrictor that nobody measured.
    """
    nothing = np.zeros(1)
    gains, closed, log_dose = _doses() if wet else (nothing, nothing, nothing)
    restrictor, log_restrictor = _restrictors() if unmeasured else (nothing, nothing)
    return Handling(
        np.repeat(gains, len(restrictor)),
        np.repeat(closed, len(restrictor)),
        np.tile(restrictor, len(gains)),
        (log_dose[:, None] + log_restrictor[None, :]).ravel(),
    )


def _doses() -> tuple[Vector, Vector, Vector]:
    known = knowledge().pressure["wet"]
    weights = np.array(known["weights"])
    return np.array(known["gains"]), np.array(known["closed"]), np.log(weights / weights.sum())


def _restrictors() -> tuple[Vector, Vector]:
    """Those that testers have, the usual one likeliest."""
    known = knowledge().pressure["leakdown"]
    least, most = (
        2 * np.log(known[name] / known["restrictor_in"])
        for name in ("least_restrictor_in", "most_restrictor_in")
    )
    shifts = np.linspace(least, most, int(np.ceil((most - least) / RESTRICTOR_STEP)) + 1)
    log_weight = -0.5 * (shifts / known["unknown_spread"]) ** 2
    return shifts, log_weight - np.logaddexp.reduce(log_weight)
