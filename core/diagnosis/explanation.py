"""Why: what each finding is worth, in bits, by leaving it out of the exact answer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from core.diagnosis.beforehand import Known, odds_of
from core.diagnosis.belief import Belief
from core.diagnosis.channels import Table
from core.diagnosis.evidence import Finding
from core.diagnosis.inference import Problem, Solution, Tables
from core.diagnosis.pressures import Evidence, Grids, Reading, gauged
from core.diagnosis.states import Vector
from core.diagnosis.words import CylinderWords

LEAST_BITS = 0.1
FLOOR = 1e-12


@dataclass(frozen=True)
class Reason:
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
    texts, paths, left_out = [], [], []
    for finding, chances in without_words(words, belief):
        texts.append(finding.text)
        paths.append(finding.path)
        left_out.append(chances)
    for thing, chances in without_known(words, belief, known):
        texts.append(thing.text)
        paths.append(thing.path)
        left_out.append(chances)
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
        left_out += list(words.marginals(belief.had_been(np.array(responses))))
    names = words.names
    found: dict[str, list[Reason]] = {name: [] for name in names}
    if left_out:
        bits = log_odds(words.marginals(belief.posterior)) - log_odds(np.array(left_out))
        rounded = np.round(bits, 3).tolist()
        for one, column in np.argwhere(np.abs(bits) >= LEAST_BITS).tolist():
            found[names[column]].append(Reason(texts[one], paths[one], rounded[one][column]))
    for listed in found.values():
        listed.sort(key=lambda reason: (-abs(reason.bits), reason.finding))
    return found


def without_words(words: CylinderWords, belief: Belief) -> Iterator[tuple[Finding, Vector]]:
    """Each finding of a cylinder with the chance of each fault had it not been made."""
    whole = words.well_factor()
    oil = [Table("m", whole / words.well_factor(finding)) for finding, _ in words.well]
    tables = [table for _, table in words.direct] + oil
    left = list(belief.without_tables(tables)) if tables else []
    chances = list(words.marginals(np.array(left[: len(words.direct)]))) if words.direct else []
    if words.face or words.heard:
        worlds = [words.world_share(finding) for finding, _ in words.face]
        worlds += [belief.weights.world_share] * len(words.heard)
        shares = [words.miss_shares()] * len(words.face)
        shares += [words.miss_shares(finding) for finding, _ in words.heard]
        terms = np.array(shares)[:, : len(belief.weights.terms)]
        chances += list(words.marginals(belief.reweighted(np.array(worlds), terms)))
    for (finding, _), posterior in zip(words.well, left[len(words.direct) :], strict=True):
        chances.append(words.marginals(posterior, finding))
    return zip(words.findings, chances, strict=True)


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
