"""Why: what each finding is worth, in bits, by leaving it out of the exact answer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np

from core.diagnosis.beforehand import Known, odds_of
from core.diagnosis.belief import Belief
from core.diagnosis.channels import Table
from core.diagnosis.inference import Problem, Solution, Tables
from core.diagnosis.pressures import Evidence, Grids, Reading, gauged
from core.diagnosis.states import Vector
from core.diagnosis.words import CylinderWords

LEAST_BITS = 0.1
FLOOR = 1e-12


class Reason(NamedTuple):
    """One finding and what it alone does to the odds of one fault, in thousandths of a bit.

    Negative argues against.
    """

    finding: str
    path: str
    bits: float


def reasons(
    problem: Problem,
    solution: Solution,
    at: int,
    own: list[Evidence],
    said: Callable[[Evidence], str],
    grids: Grids,
    known: list[Known],
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
    grids : Grids
        The problem's, narrowed to the points that its solution kept.
    known : list of Known
        What was known beforehand of the engine and of this cylinder.
    """
    words, belief = problem.words[at], solution.beliefs[at]
    findings = words.findings
    texts = [finding.text for finding in findings]
    paths = [finding.path for finding in findings]
    left_out = [without_words(words, belief)] if findings else []
    for thing, chances in without_known(words, belief, known):
        texts.append(thing.text)
        paths.append(thing.path)
        left_out.append(chances[None])
    groups = [[reading] for reading in own]
    if len(own) > 1:
        groups.append(own)  # Readings that say the same hide each other when left out singly.
    responses = []
    cavity = solution.cavity[at]
    possible = np.flatnonzero(cavity.any(axis=(1, 2)))
    kept = np.arange(len(solution.kept))
    for group in groups:
        rest = [one for one in own if one not in group]
        shifted = {
            context: gauged(rest, other) for context, other in problem.shifted_grids[at].items()
        }
        leak = Tables.of(problem.leaks, gauged(rest, grids), shifted, kept, possible)
        responses.append(leak.respond(cavity[possible], belief.response.shape[1]))
        texts.append(said(group[0]) if len(group) == 1 else together(group))
        paths.append(group[0].path)
    if responses:
        left_out.append(words.marginals(belief.had_been(np.array(responses))))
    if not left_out:
        return {}
    bits = log_odds(words.marginals(belief.posterior)) - log_odds(np.concatenate(left_out))
    return _ranked(words.names, texts, paths, bits)


def _ranked(
    names: tuple[str, ...], texts: list[str], paths: list[str], bits: Vector
) -> dict[str, list[Reason]]:
    """The reasons of every fault, the weightiest first."""
    alphabetical = np.argsort(np.argsort(texts))
    rounded = np.round(bits, 3)
    found = {}
    for column, name in enumerate(names):
        weights = rounded[:, column]
        order = np.lexsort((alphabetical, -np.abs(weights)))
        listed = zip(order.tolist(), weights[order].tolist(), strict=True)
        found[name] = [
            Reason(texts[one], paths[one], weight)
            for one, weight in listed
            if abs(weight) >= LEAST_BITS
        ]
    return found


def without_words(words: CylinderWords, belief: Belief) -> Vector:
    """The chance of each fault had one finding not been made, in the order of the findings.

    Returns
    -------
    ndarray, shape (findings, faults)
    """
    left = []
    whole = words.well_factor()
    oil = [Table("m", whole / words.well_factor(finding)) for finding, _ in words.well]
    divided = belief.without_tables([table for _, table in words.direct] + oil)
    left.append(divided[: len(words.direct)])
    if words.face or words.heard:
        worlds = [words.world_share(finding) for finding, _ in words.face]
        worlds += [belief.weights.world_share] * len(words.heard)
        shares = [words.miss_shares()] * len(words.face)
        shares += [words.miss_shares(finding) for finding, _ in words.heard]
        terms = np.array(shares)[:, : len(belief.weights.terms)]
        left.append(belief.reweighted(np.array(worlds), terms))
    left.append(divided[len(words.direct) :])
    posteriors = np.concatenate(left)
    chances = words.marginals(posteriors)
    first = len(chances) - len(words.well)
    for at, (finding, _) in enumerate(words.well, start=first):
        chances[at] = words.marginals(posteriors[at], finding)
    return chances


def without_known(
    words: CylinderWords, belief: Belief, known: list[Known]
) -> Iterator[tuple[Known, Vector]]:
    """Each thing known beforehand with the chance of each fault had it not been known.

    The rest of the engine is taken as it stands.
    """
    groups = words.tables.states.groups
    for one in known:
        if not one.odds.keys() & set(words.names):
            continue
        odds = odds_of([other for other in known if other is not one])
        without = tuple(sorted(odds.items()))
        ratios = [group.prior(without) / words.prior(group) for group in groups]
        yield one, words.marginals(belief.rescaled(*ratios))


def together(group: list[Evidence]) -> str:
    """All that gauges and the ear said of a cylinder, as one argument."""
    figures = ", ".join(
        f"{one.spoken} {one.kind}" if isinstance(one, Reading) else one.spoken for one in group
    )
    return f"its pressures taken together: {figures}"


def log_odds(probability: Vector) -> Vector:
    """Logarithm of the odds, to the base of two. [bit]"""
    clipped = np.clip(probability, FLOOR, 1 - FLOOR)
    return np.asarray(np.log2(clipped) - np.log2(1 - clipped))
