"""Why: what each finding is worth, in bits, by leaving it out of the exact answer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from core.diagnosis.belief import Belief
from core.diagnosis.channels import Table
from core.diagnosis.evidence import Finding
from core.diagnosis.inference import Problem, Solution, pressure_table, respond
from core.diagnosis.pressures import Evidence, Gauged, Reading
from core.diagnosis.states import Vector
from core.diagnosis.words import CylinderWords

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
    own : list of Evidence
        What its gauges and the ear said.
    said : callable
        How a reading is put into words.
    gauged_without : callable
        What is left of the cylinder's gauges with some left out.
    """
    words, belief = problem.words[at], solution.beliefs[at]
    texts, paths, left_out = [], [], []
    for finding, chances in without_words(words, belief):
        texts.append(finding.text)
        paths.append(finding.path)
        left_out.append(chances)
    groups = [[reading] for reading in own]
    if len(own) > 1:
        groups.append(own)  # Readings that say the same hide each other when left out singly.
    for group in groups:
        leak = pressure_table(problem.leaks, gauged_without(group), solution.kept)
        response = respond(solution.cavity[at], leak, belief.response.shape[1])
        texts.append(said(group[0]) if len(group) == 1 else together(group))
        paths.append(group[0].path)
        left_out.append(words.marginals(Belief(belief.weights, response).posterior))
    found: dict[str, list[Reason]] = {name: [] for name in words.names}
    if left_out:
        bits = _log_odds(words.marginals(belief.posterior)) - _log_odds(np.array(left_out))
        for one, column in np.argwhere(np.abs(bits) >= LEAST_BITS):
            reason = Reason(texts[one], paths[one], float(bits[one, column]))
            found[words.names[column]].append(reason)
    for listed in found.values():
        listed.sort(key=lambda reason: (-abs(reason.bits), reason.finding))
    return found


def without_words(words: CylinderWords, belief: Belief) -> Iterator[tuple[Finding, Vector]]:
    """Each finding of a cylinder with the chance of each fault had it not been made."""
    chances = []
    if words.direct:
        left = belief.without_tables([table for _, table in words.direct])
        chances += list(words.marginals(left))
    terms = [term.share for term in belief.weights.terms]
    for finding, _ in words.face:
        chances.append(words.marginals(belief.reweighted(words.world_share(finding), terms)))
    for finding, _ in words.heard:
        shares = words.miss_shares(finding)
        chances.append(words.marginals(belief.reweighted(belief.weights.world_share, shares)))
    for finding, _ in words.well:
        said = Table("m", words.well_factor() / words.well_factor(finding))
        chances.append(words.marginals(belief.without_tables([said])[0], finding))
    return zip(words.findings, chances, strict=True)


def together(group: list[Evidence]) -> str:
    """All that gauges and the ear said of a cylinder, as one argument."""
    figures = ", ".join(
        f"{one.spoken} {one.kind}" if isinstance(one, Reading) else one.spoken for one in group
    )
    return f"its pressures taken together: {figures}"


def _log_odds(probability: Vector) -> Vector:
    clipped = np.clip(probability, FLOOR, 1 - FLOOR)
    return np.asarray(np.log2(clipped) - np.log2(1 - clipped))
