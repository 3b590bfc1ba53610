from unittest import TestCase

import numpy as np

from core.hidden.level import PROPER, TEST, expectation, level_grid
from core.quantities import PSI_PA
from core.tests.documents import document, quantity, typed


def expected(made, **test):
    if test:
        made = {**made, "tests": {"compression": [{"kind": "dry", **test}]}}
    return expectation(typed(made))


class ExpectationTests(TestCase):
    def test_a_specification_is_sharper_than_a_ratio_and_that_than_nothing(self):
        spread = [
            expected(made).log_sd
            for made in (
                document(specification={"compression_min": quantity(150, "psi")}),
                document(compression_ratio=9.0),
                document(),
            )
        ]
        self.assertEqual(spread, sorted(spread))
        self.assertLess(spread[0], spread[2] / 3)

    def test_what_is_unknown_widens_the_answer(self):
        made = document(4, compression_ratio=9.0)
        spread = expected(made).log_sd
        known = (
            expected(made, cranking_rpm=220),
            expected(made, engine_temperature="warm"),
            expected(document(4, compression_ratio=9.0, intake_closing_deg_abdc=48)),
        )
        for one in known:
            self.assertLess(one.log_sd, spread - 0.002)

    def test_a_range_is_expected_at_its_middle(self):
        given = {"compression_min": quantity(140, "psi"), "compression_max": quantity(160, "psi")}
        said = expected(document(specification=given))
        self.assertAlmostEqual(said.pressure_pa / PSI_PA, 150, delta=0.01)

    def test_a_higher_ratio_is_expected_to_read_higher(self):
        low, high = (expected(document(compression_ratio=r)).pressure_pa for r in (8, 10))
        self.assertGreater(high / low, 1.15)

    # Common practice, no source: cold readings are lower all round; thin air lowers them too.
    def test_cold_and_thin_air_are_expected_to_read_lower(self):
        made = document(specification={"compression_min": quantity(150, "psi")})
        warm = expected(made).pressure_pa
        self.assertLess(expected(made, engine_temperature="cold").pressure_pa, warm)
        made["inspection"] = {"altitude_m": 3000}
        # Published: US Standard Atmosphere 1976, 70.121 kPa at 3,000 m; from memory.
        self.assertAlmostEqual(expected(made).pressure_pa / warm, 70.121 / 101.325, delta=1e-4)


class GridTests(TestCase):
    def setUp(self):
        made = document(specification={"compression_min": quantity(150, "psi")})
        self.expected = expected(made)

    def grid(self, psi):
        return level_grid(self.expected, (psi * PSI_PA,) * 4, 0.01, 0.08)

    def test_the_prior_is_a_distribution(self):
        grid = self.grid(150)
        self.assertAlmostEqual(float(np.exp(grid.log_prior).sum()), 1, delta=1e-9)
        np.testing.assert_allclose(grid.responsibility.sum(axis=0), 1)

    def test_what_lies_far_off_is_the_test(self):
        grid = self.grid(80)
        near = int(np.argmin(np.abs(grid.log_level)))
        far = int(np.argmin(np.abs(grid.log_level + 0.7)))
        self.assertGreater(grid.responsibility[PROPER, near], 0.9)
        self.assertGreater(grid.responsibility[TEST, far], 0.9)
