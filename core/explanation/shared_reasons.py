"""Why something that cylinders share is suspected: each kind of finding left out on all of them.

One sooty plug among four says little of the mixture that the other three do not say as well. So a
kind of finding is left out everywhere at once, and the whole engine is solved again. That is done
only for what is suspected at all.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby

import numpy as np

from core.assessment import Because
from core.evidence.findings import Finding
from core.evidence.pressures import figures_said
from core.evidence.shared_findings import found_on_all, with_found
from core.explanation.reasons import LEAST_BITS, log_odds
from core.hidden.situations import Which, is_fault
from core.hidden.states import Vector
from core.inference.model import Model
from core.inference.solver import Solver
from core.inference.words import weights_of
from core.knowledge.limits import limits
from core.language import say
from core.quantities import percent

SUSPECTED = limits().said.shared
RAISED = limits().said.shared_raised

Pair = tuple[int, int]


class SharedReasons:
    """Leaves findings out of one model, and remembers what became of what cylinders share."""

    def __init__(self, model: Model) -> None:
        self.model = model
        self._situations: list[tuple[str, str, Vector]] | None = None

    def of_shared(self, which: Which) -> list[Because]:
        """What speaks for and against a shared fault, the weightiest first."""
        held = self.model.situations.which(which)
        now = float(self.model.solution.situation[held].sum())
        before = float(np.exp(self.model.plain_situations.log_prior)[held].sum())
        if now < SUSPECTED or now < RAISED * before:
            return []
        if self._situations is None:
            self._situations = list(self._left_out())
        found = [(text, path, now, float(one[held].sum())) for text, path, one in self._situations]
        return _weighed(found)

    def of_level(self, fault: str) -> list[Because]:
        """What speaks for and against a fault that moves every reading alike."""
        model = self.model
        now = model.level_faults[fault]
        if now < SUSPECTED or not model.readings:
            return []
        found = []
        for one in model.known:
            if fault in one.odds:
                left = model.known_without(one)
                found.append((one.text, one.path, now, model.level_faults_given(left)[fault]))
        prior = model.level_faults_beforehand[fault]
        figures = [one.pressure_pa for one in model.readings if one.kind == "dry"]
        figures = figures or [one.pressure_pa for one in model.readings]
        share = float(np.median(figures)) / model.expected.pressure_pa
        text = say(
            "the middle reading is {share} of what this engine should show", share=percent(share)
        )
        found.append((text, model.readings[0].path, now, prior))
        return _weighed(found)

    def of_bank_timing(self, bank: str) -> list[Because]:
        """What speaks for a slipped timing of one bank: how far it reads below the others."""
        model = self.model
        which = is_fault("valve-timing", ("bank",), bank)
        now = model.shared("valve-timing", ("bank",), bank)
        if now < SUSPECTED:
            return []
        before = float(
            np.exp(model.plain_situations.log_prior)[model.situations.which(which)].sum()
        )
        middle = next(one.shifts.mean() for one in model.shifts if one.name == bank)
        text = say(
            "bank {bank} as a whole reads {share} below the other",
            bank=bank,
            share=percent(1 - np.exp(middle)),
        )
        path = next(one.path for one in model.readings if one.kind == "dry")
        return _weighed([(text, path, now, before)])

    def of_pair(self, pair: Pair) -> list[Because]:
        """What speaks for and against a gasket between two neighbours, by cylinder."""
        model = self.model
        now = 1 - float(model.solution.pair[pair][0])
        if now < SUSPECTED:
            return []
        found = []
        for at in pair:
            cylinder = model.arranged.cylinders[at]
            own = model.gauged_of(cylinder)
            if not own:
                continue
            left = 1 - model.solution.solver.gasket_unread(pair, at)
            figures = figures_said(own)
            found.append(
                (
                    say("cylinder {cylinder}: {figures}", cylinder=cylinder, figures=figures),
                    own[0].path,
                    now,
                    left,
                )
            )
        return _weighed(found)

    def _left_out(self) -> Iterator[tuple[str, str, Vector]]:
        """Every kind of finding, and the situations had it not been made."""
        model = self.model
        problem, document = model.problem, model.document
        by_channel = sorted(model.findings, key=lambda one: one.channel)
        for channel, group in groupby(by_channel, key=lambda one: one.channel):
            text, path = _everywhere(list(group))
            words = [one.without(channel) for one in problem.words]
            joint = Solver(problem, weights_of(words)).joint
            yield text, path, problem.woven.by_situation(joint).sum(axis=1)
        likelihood = np.log(np.maximum(model.solution.situation, 1e-300))
        likelihood = likelihood - model.situations.log_prior
        on_all = found_on_all(document)
        for finding in on_all:
            rest = [other for other in on_all if other is not finding]
            left = with_found(model.plain_situations, rest)
            yield finding.text, finding.path, _normalised(likelihood + left.log_prior)
        for one in model.known:
            if one.family is not None:
                yield one.text, one.path, model.situations_without(one.family)
            elif any(shared.fault in one.odds for shared in model.situations.alone):
                plain = model.situations_given(model.known_without(one))
                left = with_found(plain, on_all)
                yield one.text, one.path, _normalised(likelihood + left.log_prior)


def _normalised(log_weight: Vector) -> Vector:
    return np.asarray(np.exp(log_weight - np.logaddexp.reduce(log_weight)))


def _everywhere(found: list[Finding]) -> tuple[str, str]:
    """One kind of finding on all cylinders, in words."""
    by_text: dict[str, list[int]] = {}
    for one in found:
        by_text.setdefault(one.text, []).append(one.cylinder)
    listed = sorted(by_text.items(), key=lambda item: (-len(item[1]), item[0]))
    said = [
        say("{text} on {numbers}", text=text, numbers=", ".join(map(str, numbers)))
        for text, numbers in listed[:3]
    ]
    more = len(listed) - len(said)
    return "; ".join(said) + (say("; and {more} more", more=more) if more else ""), found[0].path


def _weighed(found: list[tuple[str, str, float, float]]) -> list[Because]:
    reasons: list[Because] = []
    for text, path, now, left in found:
        bits = log_odds(np.array([now])) - log_odds(np.array([left]))
        weight = round(float(bits[0]), 3)
        if abs(weight) >= LEAST_BITS:
            reasons.append(Because(text, weight, path))
    return sorted(reasons, key=lambda one: (-abs(one.weight), one.finding))
