"""Why: what each finding is worth, in bits, by leaving it out of the exact answer."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from core.diagnosis.inference import (
    Problem,
    Solution,
    pressure_table,
    respond,
)
from core.diagnosis.pressures import Evidence, Gauged, Reading
from core.diagnosis.states import Vector

LEAST_BITS = 0.1
FLOOR = 1e-12


@dataclass(frozen=True)
class Reason:
    """One finding and what it alone does to the odds of one fault. Negative argues against."""

    finding: str
    path: str
    bits: float


def reasons(
    problem: Problem,
    solution: Solution,
    at: int,
    own: list[Evidence],
    said: Callable[[Evidence], str],
    gauged_without: Callable[[list[Evidence]], Gauged],
) -> dict[str, list[Reason]]:
    """Every fault of one cylinder with its reasons, the weightiest first.

    Parameters
    ----------
    problem, solution
    at : int
        Index of the cylinder.
    own : list of Reading
        Its pressure readings.
    said : callable
        How a reading is put into words.
    gauged_without : callable
        What is left of the cylinder's gauges with some left out.
    """
    words = problem.words[at]
    names = words.names
    with_all = _log_odds(words.marginals(solution.posteriors[at]))
    found: dict[str, list[Reason]] = {name: [] for name in names}
    for finding in words.findings:
        posterior = words.weights_without(finding, solution.weights[at]).posterior(
            solution.response[at]
        )
        left = _log_odds(words.marginals(posterior, finding))
        _note(found, names, finding.text, finding.path, with_all - left)
    groups = [[reading] for reading in own]
    if len(own) > 1:
        groups.append(own)  # Readings that say the same hide each other when left out singly.
    for group in groups:
        leak = pressure_table(problem, gauged_without(group))
        response = respond(solution.cavity[at], leak)
        posterior = solution.weights[at].posterior(response)
        left = _log_odds(words.marginals(posterior))
        text = said(group[0]) if len(group) == 1 else together(group)
        _note(found, names, text, group[0].path, with_all - left)
    for listed in found.values():
        listed.sort(key=lambda reason: (-abs(reason.bits), reason.finding))
    return found


def together(group: list[Evidence]) -> str:
    """All that gauges and the ear said of a cylinder, as one argument."""
    figures = ", ".join(
        f"{one.spoken} {one.kind}" if isinstance(one, Reading) else one.spoken for one in group
    )
    return f"its pressures taken together: {figures}"


def _log_odds(probability: Vector) -> Vector:
    clipped = np.clip(probability, FLOOR, 1 - FLOOR)
    return np.asarray(np.log2(clipped) - np.log2(1 - clipped))


def _note(
    found: dict[str, list[Reason]], names: tuple[str, ...], text: str, path: str, bits: Vector
) -> None:
    for name, weight in zip(names, bits, strict=True):
        if abs(weight) >= LEAST_BITS:
            found[name].append(Reason(text, path, float(weight)))
