"""The density of a cylinder's readings, held to a general-purpose library."""

from unittest import TestCase

import numpy as np
from scipy.stats import multivariate_normal, norm

from core.inference.model import Model, forget
from core.inference.solver import Solver
from core.inference.words import weights_of
from core.knowledge import knowledge
from core.quantities import PSI_PA
from core.tests.documents import compression, document, quantity, typed


def model_of(*tests, cylinders=4, **engine):
    made = document(cylinders, **engine)
    made["tests"] = {"compression": list(tests)}
    return Model.of(typed(made))


class DensityTests(TestCase):
    def setUp(self):
        self.model = model_of(
            compression([150, 151, 112, 149]), compression([160, 161, 131, 159], "wet")
        )
        self.grids = self.model.problem.grids
        self.own = tuple(one for one in self.model.readings if one.cylinder == 3)

    def expected(self, readings, x, area):
        """Mean and covariance of some readings at a point of the grid, in shares of the mean."""
        doses = len(self.grids.handling.gains)
        scatter = knowledge().pressure["scatter"]
        level, dose = divmod(x, doses)
        means, covariance = [], np.full((len(readings), len(readings)), 0.0)
        covariance += 1 / self.grids.shared_precision[area]
        for at, reading in enumerate(readings):
            gauge = self.grids.gauge(reading)
            d = dose if gauge.inverse_mean.shape[1] > 1 else 0
            mean = 1 / gauge.inverse_mean[level, d, area]
            absolute = scatter["absolute_psi"] * PSI_PA / mean
            covariance[at, at] += scatter["gauge"] ** 2 + absolute**2
            means.append(mean)
        return np.array(means), covariance

    def test_readings_share_the_cylinders_own_scatter(self):
        ours = self.grids._normal(self.own)
        unit = self.grids.expected.pressure_pa
        random = np.random.default_rng(5)
        levels, doses, areas = ours.shape
        for _ in range(60):
            level, dose, area = (int(random.integers(n)) for n in (levels, doses, areas))
            means, covariance = self.expected(self.own, level * doses + dose, area)
            off = np.array([one.pressure_pa for one in self.own]) / means - 1
            theirs = multivariate_normal.pdf(off, np.zeros(2), covariance) / np.prod(means / unit)
            if theirs > 1e-90:
                self.assertAlmostEqual(ours[level, dose, area] / theirs, 1, delta=1e-9)

    def test_one_reading_alone(self):
        dry = self.own[:1]
        ours = self.grids._normal(dry)[:, 0]
        for level, area in ((0, 0), (5, 12), (9, 30)):
            means, covariance = self.expected(dry, level * len(self.grids.handling.gains), area)
            off = dry[0].pressure_pa / means[0] - 1
            theirs = norm.pdf(off, 0, np.sqrt(covariance[0, 0]))
            theirs = theirs / (means[0] / self.grids.expected.pressure_pa)
            self.assertAlmostEqual(ours[level, area] / theirs, 1, delta=1e-9)

    def test_a_blunder_is_never_impossible(self):
        wild = model_of(compression([150, 151, 3, 149]), compression([160, 161, 290, 159], "wet"))
        density = wild.problem.pressures[2].density
        self.assertGreater(density.min(), 0)
        self.assertTrue(np.isfinite(wild.solution.beliefs[2].posterior).all())


class ThinningTests(TestCase):
    def test_what_is_dropped_would_not_have_mattered(self):
        for values in ([150, 151, 112, 149], [150, 92, 95, 151], [150, 60, 20, 10]):
            model = model_of(
                compression(values), compression([v * 1.06 for v in values], "wet"),
                specification={"compression_min": quantity(140, "psi")},
            )  # fmt: skip
            whole = _Unthinned(model.problem, weights_of(model.problem.words))
            solved = whole.solution()
            with self.subTest(values=values):
                self.assertLessEqual(len(model.solution.kept), len(whole.grid))
                for ours, theirs in zip(model.solution.beliefs, solved.beliefs, strict=True):
                    np.testing.assert_allclose(ours.posterior, theirs.posterior, atol=1e-10)
                for link, chances in solved.pair.items():
                    np.testing.assert_allclose(model.solution.pair[link], chances, atol=1e-10)

    def test_more_cylinders_leave_less_to_reckon_with(self):
        few, many = (
            len(model.solution.kept) / len(model.solution.level)
            for model in (
                model_of(
                    compression([150] * count), compression([160] * count, "wet"), cylinders=count
                )
                for count in (6, 12)
            )
        )
        self.assertLess(many, few)


class _Unthinned(Solver):
    """The solver with nothing left aside."""

    def _thinned(self):
        return np.arange(len(self.grid)), self.gaskets


class GridTests(TestCase):
    def test_a_finer_grid_hardly_changes_the_answer(self):
        from unittest import mock

        from core.hidden import level

        def rings(values):
            model = model_of(compression(values))
            names = model.problem.words[0].names
            chances = model.problem.words[2].marginals(model.solution.beliefs[2].posterior)
            return chances[names.index("ring-sealing")]

        for values in ([150, 151, 112, 149], [150, 148, 138, 151], [120, 151, 95, 100]):
            ours = rings(values)
            with mock.patch.multiple(level, FINE_SHARE=0.15, COARSE_STEP=0.02, MOST_FINE=400):
                forget()
                finer = rings(values)
            forget()
            with self.subTest(values=values):
                self.assertAlmostEqual(ours, finer, delta=0.012)
