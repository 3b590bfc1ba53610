"""The message passing against a sum over everything, written down without it."""

from itertools import pairwise, product

import numpy as np
from django.test import SimpleTestCase

from core.diagnosis.inference import pressure_table
from core.diagnosis.model import Model
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, compression, document, plugs


def brute_force(model):
    """Fault-set posteriors, situations, levels and gaskets by summing every joint state."""
    problem = model.problem
    cylinders = len(problem.words)
    gaskets = problem.leaks.shape[1]
    grid = (problem.level.log_prior[:, None] + problem.dose.log_prior[None, :]).ravel()
    weights = [words.weights() for words in problem.words]
    m, shape = problem.leaks.shape[0], (len(grid) * gaskets**2, problem.leaks.shape[0])
    leak = [np.broadcast_to(pressure_table(problem, one), shape) for one in problem.pressures]
    leak = [one.reshape(len(grid), gaskets, gaskets, m) for one in leak]
    per = problem.words[0].tables.states.per_mechanical
    links = [(a, b) for row in problem.rows for a, b in pairwise(row)]
    priors = [prior for row in problem.gaskets for prior in row]
    sets = [np.zeros(weights[0].shape[1]) for _ in range(cylinders)]
    situation = np.zeros(len(problem.situations.log_prior))
    level = np.zeros(len(grid))
    pair = {link: np.zeros(gaskets) for link in links}
    for at, log_prior in enumerate(problem.situations.log_prior):
        contexts = problem.situations.context_of[at]
        for opened in product(range(gaskets), repeat=len(links)):
            left = dict.fromkeys(range(cylinders), 0)
            right = dict.fromkeys(range(cylinders), 0)
            chance = np.exp(log_prior + grid)
            for (a, b), state, prior in zip(links, opened, priors, strict=True):
                right[a], left[b] = state, state
                chance = chance * prior[state]
            own = []
            for i in range(cylinders):
                table = leak[i][:, left[i], right[i], :]
                own.append(np.repeat(table, per, axis=1) * weights[i][contexts[i]][None, :])
            sums = [one.sum(axis=1) for one in own]
            joint = chance * np.prod(sums, axis=0)
            situation[at] += joint.sum()
            level += joint
            for link, state in zip(links, opened, strict=True):
                pair[link][state] += joint.sum()
            for i in range(cylinders):
                others = chance * np.prod([s for j, s in enumerate(sums) if j != i], axis=0)
                sets[i] += (others[:, None] * own[i]).sum(axis=0)
    total = situation.sum()
    return (
        [one / total for one in sets],
        situation / total,
        level / total,
        {link: one / total for link, one in pair.items()},
    )


class ExactnessTests(SimpleTestCase):
    def assert_same(self, made):
        model = Model.of(made)
        sets, situation, level, pair = brute_force(model)
        solved = model.solution
        np.testing.assert_allclose(solved.situation, situation, atol=1e-9)
        np.testing.assert_allclose(
            solved.level, level.reshape(len(solved.level), -1).sum(axis=1), atol=1e-9
        )
        for ours, expected in zip(solved.sets, sets, strict=True):
            np.testing.assert_allclose(ours, expected, atol=1e-9)
        for link, expected in pair.items():
            np.testing.assert_allclose(solved.pair[link], expected, atol=1e-9)

    def test_one_cylinder(self):
        made = document(1, "single", cycle="two-stroke")
        made["cylinders"] = plugs(SOOTY_PLUG)
        made["tests"] = {"compression": [compression([90])]}
        self.assert_same(made)

    def test_two_neighbours_dry(self):
        made = document(2, ignition="wasted-spark", firing_order=[1, 2])
        made["cylinders"] = plugs(SOOTY_PLUG, SOUND_PLUG)
        made["tests"] = {"compression": [compression([150, 95])]}
        self.assert_same(made)

    def test_two_banks_with_words_only(self):
        banks = [{"name": "l", "cylinders": [1]}, {"name": "r", "cylinders": [2, 3]}]
        made = document(3, "vee", banks=banks)
        made["cylinders"] = plugs(SOUND_PLUG, SOOTY_PLUG, SOOTY_PLUG)
        self.assert_same(made)
