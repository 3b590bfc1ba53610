"""What quarrels: an entry that all others make rare, and the one that makes it so.

How rare an entry is given all the others follows from the answer by leaving it out of it:

    P(entry | others) = 1 / mean over the answer of 1 / P(entry | faults)

Rare alone is no quarrel: a crack is rare wherever it is seen. A quarrel is with one other entry of
the same cylinder, without which the first would have been so many times likelier.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from core.evidence.channels import Likelihoods, Table
from core.evidence.findings import Finding
from core.evidence.pressures import Evidence, figures_said
from core.inference.belief import Belief
from core.inference.solver import Problem, Solution, Tables
from core.inference.words import CylinderWords
from core.knowledge import knowledge
from core.language import say


@dataclass(frozen=True)
class Quarrel:
    """Two entries about one cylinder of which one is probably mistaken.

    Attributes
    ----------
    rare : float
        Chance of the first, given all the others. [-]
    times : float
        How much likelier it would be without the second. [-]
    """

    finding: Finding
    beside: Finding
    rare: float
    times: float


def quarrels(
    problem: Problem, solution: Solution, gauged: Sequence[Sequence[Evidence]]
) -> Iterator[Quarrel]:
    """The worst quarrel of each cylinder that has one.

    The rare one speaks directly; the other may be all that gauges and the ear said, which are held
    against each other elsewhere.

    Parameters
    ----------
    problem, solution
    gauged : sequence of sequence of Evidence
        What gauges and the ear said of each cylinder.
    """
    limits = knowledge().pressure["surprise"]
    for at, (words, belief) in enumerate(zip(problem.words, solution.beliefs, strict=True)):
        found = []
        for finding, table in words.direct:
            rare = _chance(words.tables, belief, table)
            if rare < limits["rare"]:
                found += list(_with_words(words, belief, finding, rare))
                if gauged[at]:
                    silent = _ungauged(problem, solution, at)
                    chance = _chance(words.tables, silent, table)
                    found.append(
                        Quarrel(finding, _of_gauges(finding, gauged[at]), rare, chance / rare)
                    )
        worst = max(found, key=lambda one: one.times, default=None)
        if worst is not None and worst.times >= limits["times"]:
            yield worst


def _ungauged(problem: Problem, solution: Solution, at: int) -> Belief:
    """What would be believed of a cylinder without its gauges and the ear."""
    silent = Tables(solution.leak[at].pairs, None, {})
    weights = solution.beliefs[at].weights
    return Belief(weights, silent.respond(solution.cavity[at], weights, problem.leaks.leaking))


def _of_gauges(finding: Finding, gauged: Sequence[Evidence]) -> Finding:
    text = say("its pressures: {figures}", figures=figures_said(list(gauged)))
    return Finding(finding.cylinder, "gauges", "", gauged[0].path, text)


def _with_words(
    words: CylinderWords, belief: Belief, finding: Finding, rare: float
) -> Iterator[Quarrel]:
    """How much likelier a rare one would be without each other entry in words."""
    for other in {one.channel: one for one in words.findings if one is not finding}.values():
        left = words.without(other.channel)
        weights = left.weights()
        response = belief.response
        if len(weights.terms) < len(words.weights().terms):
            step = len(belief.weights.terms)
            response = response[::step]  # The term in which nothing was heard.
        table = next(table for one, table in left.direct if one is finding)
        chance = _chance(left.tables, Belief(weights, response), table)
        yield Quarrel(finding, other, rare, chance / rare)


def _chance(tables: Likelihoods, belief: Belief, table: Table) -> float:
    """Chance of what was said, given all else of the cylinder and the rest of the engine. [-]

    Context and spark are taken as independent of the rest of its faults where a table hears both.
    """
    modes = tables.mode_of[0]
    match table.axes:
        case "m":
            mean = belief.mechanical @ (1 / table.chance)
        case "p":
            mean = belief.plug @ (1 / table.chance)
        case "cr":
            mean = belief.running @ (1 / table.chance[0])
        case "um":
            mean = belief.running @ (1 / table.chance[modes]) @ belief.mechanical
        case "up":
            mean = belief.running @ (1 / table.chance[modes]) @ belief.plug
    return float(1 / np.maximum(np.asarray(mean), 1.0))
