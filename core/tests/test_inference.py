"""The message passing against a sum over everything, written down without it."""

from dataclasses import replace
from functools import cache
from itertools import pairwise, product
from unittest import TestCase

import numpy as np

from core.explanation.reasons import without_words
from core.hidden.states import LEAKING
from core.inference.belief import Belief
from core.inference.model import Model
from core.inference.posterior import Posterior
from core.inference.solver import GASKET, Tables
from core.inference.words import CylinderWords
from core.knowledge import knowledge
from core.tests.documents import (
    SOOTY_PLUG,
    SOUND_PLUG,
    compression,
    document,
    plugs,
    quantity,
    typed,
)


@cache
def first_that_acts(channel, present, value, manner=frozenset()):
    """Chance of a value by the definition of a channel: causes in order, then the base."""
    chance, left = 0.0, 1.0
    at = channel.values.index(value)
    for cause in channel.causes:
        if any(fault in present for fault in cause.faults):
            strength = cause.strength_in(manner)
            chance += left * strength * cause.values[at]
            left *= 1 - strength
    return chance + left * channel.base[at]


def acting(context):
    """What acts from outside; what is marked unseen acts, and leaves the nose as it was."""
    return frozenset(one.partition("@")[0] for one in context)


def raised(own, causes):
    """By how much some faults raise others, by the definition of the tables."""
    factor = 1.0
    for when, modifier in knowledge().modifiers.items():
        if when.startswith("fault/") and when.removeprefix("fault/") in causes:
            factor *= np.prod([one for fault, one in modifier.odds.items() if fault in own])
    return factor


def prior_of(words, context, chosen, lay=None):
    """Chance of one fault set given what acts from outside: what leads to it says no more of itself
    by that, so each group is normalised, spark and fuel first, the others given them. A strand
    raises some odds, and leaves what brings a complaint only the chance that it stays silent."""
    mechanical, running, plug = words.tables.states.groups
    lay = lay or words.lays[0]
    odds = dict(words.odds)
    for fault, factor in lay.odds:
        odds[fault] = odds.get(fault, 1.0) * factor
    beforehand = tuple(sorted(odds.items()))
    chance = float(np.prod([dict(lay.silence).get(one, 1.0) for own in chosen for one in own]))
    for group, own in zip((mechanical, running, plug), chosen, strict=True):
        causes = [
            acting(context) | (one if group is running else chosen[1]) for one in group.combinations
        ]
        weights = [
            prior * raised(one, acting)
            for prior, one, acting in zip(
                group.prior(beforehand), group.combinations, causes, strict=True
            )
        ]
        chance *= weights[group.combinations.index(own)] / sum(weights)
    return chance


def set_weight(words, context, own, prior):
    """Prior times likelihood of one fault set, finding by finding, straight from the tables."""
    known = knowledge()
    shown, present = own | context, own | acting(context)
    weight = prior
    for finding, _ in words.direct:
        weight *= first_that_acts(known.channels[finding.channel], present, finding.value)
    if words.face:
        faces = known.faces
        total = 0.0
        for at, face in enumerate(faces.values):
            said = [
                known.face_words[f.channel.removeprefix("plug/")][f.value][at]
                for f, _ in words.face
            ]
            total += first_that_acts(faces, shown, face, words.manner) * np.prod(said)
        weight *= total
    if words.heard:
        fires = 1 - known.misfire_leak
        for cause in known.misfire_causes:
            if any(fault in present for fault in cause.faults):
                fires *= 1 - cause.strength_in(words.manner)
        said = [known.heard[f.channel][f.value] for f, _ in words.heard]
        fired, missed = (np.prod([one[at] for one in said]) for at in (0, 1))
        weight *= fired * fires + missed * (1 - fires)
    if words.well:
        sealed = 0.0
        for seal in (False, True):
            chance = words.seal_prior if seal else 1 - words.seal_prior
            for finding, _ in words.well:
                with_seal = present | ({"well-seal"} if seal else set())
                chance *= first_that_acts(known.channels[finding.channel], with_seal, finding.value)
            sealed += chance
        weight *= sealed
    return weight


def spread_out(weights):
    """The factored weights of every fault set in every context, shape (layers c, m, r, p)."""
    worlds, mode_of = weights.worlds, weights.tables.mode_of
    written = worlds.mode * weights.world_share
    face = np.einsum("uk,mk,pk->ump", written, worlds.mechanical, worlds.plug)
    layers = [0.0] * len(weights.layers)
    for at, (share, mechanical, plug, running) in enumerate(weights.factors):
        mixed = share * face * mechanical[:, :, None] * plug[:, None, :]
        layers[at // len(weights.terms)] += running[:, :, None, None] * mixed[mode_of]
    return np.concatenate(layers).transpose(0, 2, 1, 3)


def by_gaskets(weights):
    """The same with the gaskets beside tight, and with one leaking: then it fires less often."""
    plain = spread_out(replace(weights, terms=weights.terms[:1]))
    whole = spread_out(weights)
    beside = np.repeat([layer.beside for layer in weights.layers], len(weights.layers[0].running))
    robbed = plain + (1 - knowledge().misfire_beside) * (whole - plain)
    return whole, beside[:, None, None, None] * robbed


def clear_of(states, faults):
    """One where a fault set holds none of some faults, shape (m, r, p)."""
    clear = [[not one & set(faults) for one in group.combinations] for group in states.groups]
    m, r, p = (np.array(one, dtype=float) for one in clear)
    return m[:, None, None] * r[None, :, None] * p[None, None, :]


def brute_force(model, without=((), ())):
    """Fault-set posteriors, situations, levels and gaskets by summing every joint state.

    `without` are cylinders by index and faults that they do not have; the sum comes last.
    """
    problem = model.problem
    cylinders = len(problem.words)
    gaskets, beside = problem.leaks.gaskets, problem.leaks.beside
    mechanical = problem.leaks.weights.shape[2]
    grid = (problem.level.log_prior[:, None] + problem.handling.log_prior[None, :]).ravel()
    weights = [by_gaskets(words.weights()) for words in problem.words]
    spared, faults = without
    for at in spared:
        clear = clear_of(problem.words[at].tables.states, faults)
        weights[at] = tuple(one * clear for one in weights[at])
    everything = np.arange(len(grid))
    pairs = np.arange(problem.leaks.besides)
    leak = [Tables.of(problem.leaks, one, {}, everything, pairs).plain for one in problem.pressures]
    flat = np.ones((problem.leaks.besides, len(grid), mechanical))
    leak = [(flat if one is None else one)[beside] for one in leak]
    links = [pair for row in problem.rows for pair in pairwise(row)]
    priors = [prior for row in problem.gaskets for prior in row]
    sets = [np.zeros(weights[0][0].shape[1:]) for _ in range(cylinders)]
    situation = np.zeros(len(problem.situations.log_prior))
    every = list(product(enumerate(problem.strands), enumerate(problem.situations.log_prior)))
    level = np.zeros(len(grid))
    pair = {link: np.zeros(gaskets) for link in links}
    for (step, strand), (at, log_prior) in every:
        contexts = step * len(problem.situations.contexts) + problem.situations.context_of[at]
        silence = dict(strand.lay.silence)
        still = np.prod([silence.get(one.fault, 1.0) for one in problem.situations.members[at]])
        for opened in product(range(gaskets), repeat=len(links)):
            shut = [set(link) <= set(spared) and GASKET in faults for link in links]
            if any(state and tight for state, tight in zip(opened, shut, strict=True)):
                continue
            left, right = [0] * cylinders, [0] * cylinders
            chance = strand.weight * still * np.exp(log_prior + grid)
            for (a, b), state, prior in zip(links, opened, priors, strict=True):
                right[a], left[b] = state, state
                chance = chance * prior[state]
            tables = [leak[i][left[i], right[i]] for i in range(cylinders)]
            robbed = [int(left[i] + right[i] > 0) for i in range(cylinders)]
            own = [weights[i][robbed[i]][contexts[i]] for i in range(cylinders)]
            sums = [t @ w.sum(axis=(1, 2)) for t, w in zip(tables, own, strict=True)]
            joint = chance * np.prod(sums, axis=0)
            situation[at] += joint.sum()
            level += joint
            for link, state in zip(links, opened, strict=True):
                pair[link][state] += joint.sum()
            for i in range(cylinders):
                others = chance * np.prod([s for j, s in enumerate(sums) if j != i], axis=0)
                sets[i] += (others @ tables[i])[:, None, None] * own[i]
    total = situation.sum()
    return (
        [one / total for one in sets],
        situation / total,
        level / total,
        {link: one / total for link, one in pair.items()},
        total,
    )


class AskedTests(TestCase):
    """What is asked of several cylinders at once, against the sum over every joint state."""

    def model(self):
        made = document(2, firing_order=[1, 2], fuel_system="port", ignition="coil-on-plug")
        worn = {"centre_electrode": "rounded", "ground_electrode": "square"}
        made["cylinders"] = plugs({**SOOTY_PLUG, "threads": ["oily"], **worn}, SOUND_PLUG)
        made["inspection"] = {"complaints": ["blue-smoke", "rough-idle"]}
        made["tests"] = {"compression": [compression([128, 126])]}
        made["engine"]["specification"] = {"compression_min": quantity(140, "psi")}
        return Model.of(typed(made))

    def test_any_of_some_is_exact(self):
        model = self.model()
        asked, whole = Posterior(model), brute_force(model)[-1]
        for cylinders, faults in (
            ((1,), ("ring-sealing",)),
            ((1, 2), LEAKING),
            ((1, 2), (*LEAKING, GASKET)),
            ((1, 2), ("ignition-weak", "plug-fouled", "valve-stem-oil")),
        ):
            spared = [number - 1 for number in cylinders]
            none = brute_force(model, (spared, faults))[-1] / whole
            with self.subTest(cylinders=cylinders, faults=faults):
                self.assertAlmostEqual(asked.any_of(cylinders, faults), 1 - none, delta=1e-9)

    def test_losing_pressure_counts_the_gasket_beside(self):
        model = self.model()
        asked, whole = Posterior(model), brute_force(model)[-1]
        shut = brute_force(model, ((0, 1), (GASKET,)))[-1] / whole
        tight = brute_force(model, ((0,), LEAKING))[-1] / whole
        valves = [one for one in LEAKING if one != "ring-sealing"]  # Rings may pass oil and hold.
        sealed = brute_force(model, ((0,), valves))[-1] / whole
        self.assertGreater(asked.loses(1), 1 - sealed)
        self.assertLess(asked.loses(1), (1 - tight) + (1 - shut))

    def test_draws_are_of_the_joint_answer(self):
        """Two that may share a gasket leak together more often than by themselves."""
        model = self.model()
        asked = Posterior(model)
        draws, group = asked.draws, model.problem.words[0].tables.states.mechanical
        leaks = group.active(LEAKING)[draws.mechanical]
        single = [asked.any_of([n], LEAKING) for n in (1, 2)]
        for drawn, chance in zip(leaks, single, strict=True):
            self.assertAlmostEqual(drawn.mean(), chance, delta=0.06)
        both = sum(single) - asked.any_of([1, 2], LEAKING)
        self.assertAlmostEqual((leaks[0] & leaks[1]).mean(), both, delta=0.06)
        self.assertAlmostEqual(draws.gaskets[0, 1].mean(), asked.between(1, 2), delta=0.06)


class WeightTests(TestCase):
    SAMPLES = 400

    def test_the_factored_weights_are_those_of_the_tables(self):
        made = document(2, ignition="wasted-spark", firing_order=[1, 2], fuel_system="port")
        made["inspection"] = {"trouble_codes": ["P0301"], "complaints": ["misfire"]}
        worn = {"ground_electrode": "rounded", "insulator": "flashover", "threads": ["oily"]}
        made["cylinders"] = plugs({**SOOTY_PLUG, **worn}, SOUND_PLUG)
        made["cylinders"][0]["boot"] = ["tracked", "oily"]
        made["cylinders"][0]["well"] = {"oil": "trace", "water": "pooled"}
        made["cylinders"][0]["borescope"] = {"bore": "polished", "crown": "oily"}
        random = np.random.default_rng(7)
        for words in Model.of(typed(made)).problem.words:
            dense = spread_out(words.weights())
            groups, contexts = words.tables.states.groups, words.tables.contexts
            for w, m, r, p in random.integers(0, dense.shape, (self.SAMPLES, 4)):
                strand, c = divmod(w, len(contexts))
                chosen = [g.combinations[at] for g, at in zip(groups, (m, r, p), strict=True)]
                prior = prior_of(words, contexts[c], chosen, words.lays[strand])
                own = frozenset().union(*chosen)
                expected = set_weight(words, contexts[c], own, prior)
                self.assertAlmostEqual(dense[w, m, r, p] / expected, 1, delta=1e-9)

    def test_taking_a_finding_out_is_never_having_had_it(self):
        made = document(1, "single", fuel_system="port")
        made["cylinders"] = plugs({**SOOTY_PLUG, "threads": ["oily"], "insulator": "flashover"})
        made["cylinders"][0]["borescope"] = {"bore": "polished"}
        made["tests"] = {
            "balance": [{"cylinder": 1, "felt": "none"}],
            "spark": [{"cylinder": 1, "result": "weak"}],
        }
        model = Model.of(typed(made))
        words, belief = model.problem.words[0], model.solution.beliefs[0]
        for finding, chances in zip(words.findings, without_words(words, belief), strict=True):
            left = [other for other in words.findings if other is not finding]
            fresh = CylinderWords.read(words.tables, left, words.odds, manner=frozenset())
            weights = fresh.weights()
            response = belief.response[: len(weights.terms)]  # No gasket: all terms hear alike.
            wanted = fresh.marginals(Belief(weights, response).posterior)
            with self.subTest(finding=finding.text):
                np.testing.assert_allclose(chances, wanted, rtol=1e-9)


class ExactnessTests(TestCase):
    def assert_same(self, made):
        model = Model.of(typed(made))
        sets, situation, level, pair, _ = brute_force(model)
        solved = model.solution
        np.testing.assert_allclose(solved.situation, situation, atol=1e-9)
        np.testing.assert_allclose(
            solved.level, level.reshape(len(solved.level), -1).sum(axis=1), atol=1e-9
        )
        for at, expected in enumerate(sets):
            posterior = solved.beliefs[at]
            np.testing.assert_allclose(posterior.sets, expected, atol=1e-9)
            np.testing.assert_allclose(posterior.mechanical, expected.sum((1, 2)), atol=1e-9)
            np.testing.assert_allclose(posterior.running, expected.sum((0, 2)), atol=1e-9)
            np.testing.assert_allclose(posterior.plug, expected.sum((0, 1)), atol=1e-9)
        for link, expected in pair.items():
            np.testing.assert_allclose(solved.pair[link], expected, atol=1e-9)

    def test_a_general_purpose_library_gives_the_same_answer(self):
        """pyAgrum, lazy propagation, on the network as its tables define it."""
        from bench.exactness import compare, example

        for cylinders in (1, 2):
            self.assertLess(compare(example(cylinders)).worst, 1e-9)

    def test_one_cylinder(self):
        made = document(1, "single")
        made["engine"]["cycle"] = "two-stroke"
        made["cylinders"] = plugs({**SOOTY_PLUG, "threads": ["oily"], "insulator": "blistered"})
        made["tests"] = {"compression": [compression([90])]}
        self.assert_same(made)

    def test_two_neighbours_dry(self):
        made = document(2, ignition="wasted-spark", firing_order=[1, 2], fuel_system="port")
        made["inspection"] = {"trouble_codes": ["P0301"], "complaints": ["misfire"]}
        made["cylinders"] = plugs({**SOOTY_PLUG, "ground_electrode": "rounded"}, SOUND_PLUG)
        made["cylinders"][1]["borescope"] = {"bore": "polished", "crown": "oily"}
        made["tests"] = {"compression": [compression([150, 95])]}
        self.assert_same(made)

    def test_every_gauge_on_neighbours(self):
        made = document(2, firing_order=[1, 2], fuel_system="port", ignition="wasted-spark")
        made["cylinders"] = plugs({**SOOTY_PLUG, "threads": ["oily"]}, SOUND_PLUG)
        made["tests"] = {
            "compression": [compression([150, 95]), compression([161, 108], "wet")],
            "leakdown": [
                {
                    "supply": quantity(80, "psi"),
                    "restrictor": quantity(0.04, "in"),
                    "readings": [
                        {"cylinder": 1, "held": quantity(74, "psi"), "escapes": ["none"]},
                        {"cylinder": 2, "held": quantity(41, "psi"), "escapes": ["exhaust"]},
                    ],
                }
            ],
        }
        self.assert_same(made)
        del made["tests"]["leakdown"][0]["restrictor"]  # Then it is one hidden thing of both.
        self.assert_same(made)

    def test_complaints_and_a_set_of_one_age(self):
        made = document(2, fuel_system="carburettor", ignition="distributor")
        made["inspection"] = {
            "complaints": ["misfire", "blue-smoke", "power-loss"],
            "complaint_when": ["load"],
            "plug_distance": quantity(70_000, "km"),
        }
        made["engine"]["specification"] = {"plug_interval": quantity(60_000, "km")}
        rounded = {"centre_electrode": "rounded", "ground_electrode": "square"}
        made["cylinders"] = plugs({**SOOTY_PLUG, **rounded}, {**SOUND_PLUG, **rounded})
        made["tests"] = {"compression": [compression([150, 118])]}
        self.assert_same(made)

    def test_two_banks_with_words_only(self):
        banks = [{"name": "l", "cylinders": [1]}, {"name": "r", "cylinders": [2, 3]}]
        made = document(3, "vee", banks=banks)
        made["cylinders"] = plugs(SOUND_PLUG, SOOTY_PLUG, SOOTY_PLUG)
        self.assert_same(made)
