"""Why: what each finding is worth, in bits, by leaving it out of the exact answer."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

import numpy as np

from core.assessment import Because
from core.evidence.beforehand import PLUGS_AGE, Known, odds_of
from core.evidence.channels import Table
from core.evidence.pressures import Evidence, Grids, figures_said, gauged
from core.hidden.states import Vector
from core.hidden.strands import Strand
from core.inference.belief import Belief
from core.inference.solver import Problem, Solution, Tables
from core.inference.words import CylinderWords
from core.language import say

LEAST_BITS = 0.1
FLOOR = 1e-12


class Said(NamedTuple):
    """What there is to leave out of one cylinder.

    Attributes
    ----------
    own : list of Evidence
        What its gauges and the ear said.
    known : list of Known
        What was known beforehand of the engine and of this cylinder.
    """

    own: list[Evidence]
    known: list[Known]


def reasons(
    problem: Problem,
    solution: Solution,
    said: Sequence[Said],
    spoken: Callable[[Evidence], str],
    grids: Grids,
) -> list[dict[str, list[Because]]]:
    """Every fault of every cylinder with its reasons, the weightiest first.

    Parameters
    ----------
    problem, solution
    said : sequence of Said
        One for each cylinder.
    spoken : callable
        How a reading is put into words.
    grids : Grids
        The problem's, narrowed to the points that its solution kept.
    """
    found: list[dict[str, list[Because]]] = [{} for _ in said]
    for alike in _alike(solution, said):
        first = alike[0]
        words = problem.words[first]
        belief = Belief.together([solution.beliefs[at] for at in alike])
        parts = [without_words(words, belief)] if words.findings else []
        parts += without_known(problem.strands, words, belief, said[first].known)
        now = words.marginals(belief.posterior)
        groups = [_groups(said[at].own) for at in alike]
        unread = [
            _without_gauges(problem, solution, at, said[at].own, own, grids)
            for at, own in zip(alike, groups, strict=True)
        ]
        ends = np.cumsum([len(own) for own in groups])[:-1]
        silent = np.split(words.marginals(belief.had_been(np.concatenate(unread))), ends)
        for place, (at, own) in enumerate(zip(alike, groups, strict=True)):
            findings = problem.words[at].findings
            telling = [one for one in said[at].known if _moves(one, words)]
            texts = [one.text for one in findings] + [one.text for one in telling]
            texts += [spoken(one[0]) if len(one) == 1 else together(one) for one in own]
            paths = [one.path for one in findings] + [one.path for one in telling]
            paths += [group[0].path for group in own]
            left = np.concatenate([*(part[place] for part in parts), silent[place]])
            bits = log_odds(now[place]) - log_odds(left)
            found[at] = _ranked(words.names, texts, paths, bits)
    return found


def _alike(solution: Solution, said: Sequence[Said]) -> list[list[int]]:
    """Cylinders of which the same was said and known; words then weigh alike in all of them."""
    groups: dict[tuple[object, ...], list[int]] = {}
    for at, (belief, one) in enumerate(zip(solution.beliefs, said, strict=True)):
        key = id(belief.weights), *(known.entry for known in one.known)
        groups.setdefault(key, []).append(at)
    return list(groups.values())


def _groups(own: list[Evidence]) -> list[list[Evidence]]:
    """What to leave out of a cylinder's readings: each alone, then all of them.

    Readings that say the same hide each other when left out singly.
    """
    return [[one] for one in own] + ([own] if len(own) > 1 else [])


def _without_gauges(
    problem: Problem,
    solution: Solution,
    at: int,
    own: list[Evidence],
    groups: list[list[Evidence]],
    grids: Grids,
) -> Vector:
    """What would be said to a cylinder without some of its readings, (groups, terms, c, m)."""
    cavity, weights = solution.cavity[at], solution.beliefs[at].weights
    possible = np.flatnonzero(cavity.any(axis=(1, 2)))
    pairs = solution.leak[at].pairs[possible]
    kept = np.arange(len(solution.kept))
    responses = []
    for group in groups:
        rest = [one for one in own if one not in group]
        shifted = {
            context: gauged(rest, other) for context, other in problem.shifted_grids[at].items()
        }
        leak = Tables.of(problem.leaks, gauged(rest, grids), shifted, kept, pairs)
        responses.append(leak.respond(cavity[possible], weights, problem.leaks.leaking))
    return np.array(responses).reshape(len(groups), *weights.shape)


def _ranked(
    names: tuple[str, ...], texts: list[str], paths: list[str], bits: Vector
) -> dict[str, list[Because]]:
    """The reasons of every fault, the weightiest first; equal ones by the alphabet."""
    alphabetical = sorted(range(len(texts)), key=texts.__getitem__)
    weights = np.round(bits[alphabetical].T, 3)
    size = np.abs(weights)
    fault, place = np.nonzero(size >= LEAST_BITS)
    order = np.lexsort((place, -size[fault, place], fault))
    fault, place = fault[order], place[order]
    found: dict[str, list[Because]] = {name: [] for name in names}
    for at, one, weight in zip(
        fault.tolist(), place.tolist(), weights[fault, place].tolist(), strict=True
    ):
        told = alphabetical[one]
        found[names[at]].append(Because(texts[told], weight, paths[told]))
    return found


def without_words(words: CylinderWords, belief: Belief) -> Vector:
    """The chance of each fault had one finding not been made, in the order of the findings.

    Returns
    -------
    ndarray, shape (..., findings, faults)
    """
    left = []
    whole = words.well_factor()
    oil = [Table("m", whole / words.well_factor(finding)) for finding, _ in words.well]
    divided = belief.without_tables([table for _, table in words.direct] + oil)
    left.append(divided[..., : len(words.direct), :])
    if words.face or words.heard:
        worlds = [words.world_share(finding) for finding, _ in words.face]
        worlds += [belief.weights.world_share] * len(words.heard)
        shares = [words.miss_shares()] * len(words.face)
        shares += [words.miss_shares(finding) for finding, _ in words.heard]
        terms = np.array(shares)[:, : len(belief.weights.terms)]
        left.append(belief.reweighted(np.array(worlds), terms))
    left.append(divided[..., len(words.direct) :, :])
    posteriors = np.concatenate(left, axis=-2)
    chances = words.marginals(posteriors)
    first = chances.shape[-2] - len(words.well)
    oily = posteriors[..., first:, :] @ words.tables.states.chamber_oil
    for at, (finding, _) in enumerate(words.well):
        chances[..., first + at, -1] = words.seal_probability(oily[..., at], finding)
    return chances


def without_known(
    strands: Sequence[Strand], words: CylinderWords, belief: Belief, known: list[Known]
) -> Iterator[Vector]:
    """The chance of each fault had one thing known beforehand not been, for each that moves any.

    The rest of the engine is taken as it stands.

    Yields
    ------
    ndarray, shape (..., 1, faults)
    """
    for one in known:
        if not _moves(one, words):
            continue
        rest = [other for other in known if other is not one]
        if one.family is not None or (one.entry == PLUGS_AGE and words.in_set):
            kept = [_weight_without(strand, one) for strand in strands]
            shares = np.repeat(kept, len(belief.weights.terms))[:, None, None]
            posterior = belief.had_been(belief.response * shares)
        else:
            odds = odds_of(rest)
            if words.in_set:
                odds = odds_of([other for other in rest if other.entry != PLUGS_AGE])
            posterior = belief.rescaled(words.ratios(odds))
        yield words.marginals(posterior)[..., None, :]


def _weight_without(strand: Strand, known: Known) -> float:
    """What is left of a strand, had a complaint or the age of the plugs not been told."""
    if known.family is not None:
        return 0.0 if known.family in strand.silent else 1.0
    return strand.untold


def _moves(known: Known, words: CylinderWords) -> bool:
    """Whether something known beforehand moves any fault of a cylinder."""
    return known.family is not None or not known.odds.keys().isdisjoint(words.names)


def together(group: list[Evidence]) -> str:
    """All that gauges and the ear said of a cylinder, as one argument."""
    return say("its pressures taken together: {figures}", figures=figures_said(group))


def log_odds(probability: Vector) -> Vector:
    """Logarithm of the odds, to the base of two. [bit]"""
    clipped = np.clip(probability, FLOOR, 1 - FLOOR)
    return np.asarray(np.log2(clipped) - np.log2(1 - clipped))
