from unittest import TestCase

import numpy as np

from core.comparison.outliers import grubbs, modified_z_scores, odd_ones
from core.errors import OutOfRange


class GrubbsTests(TestCase):
    # Published: NIST/SEMATECH e-Handbook, 1.3.5.17.1, uranium isotopes; there the highest value
    # is tested (G = 2.4687, critical 2.032), so the mirrored data are used. From memory.
    MASSES = (199.31, 199.53, 200.19, 200.82, 201.92, 201.95, 202.18, 245.57)

    def test_matches_the_worked_example(self):
        lowest, statistic, critical = grubbs([-value for value in self.MASSES])
        self.assertEqual(lowest, 7)
        self.assertAlmostEqual(statistic, 2.4687, delta=1e-4)
        self.assertAlmostEqual(critical, 2.032, delta=5e-4)

    def test_needs_three_values(self):
        with self.assertRaises(OutOfRange):
            grubbs([1, 2])


class ModifiedZTests(TestCase):
    # Published: the formula of Iglewicz and Hoaglin (1993); data as quoted in the documentation
    # of NIST Dataplot, from memory. Worked by hand: median 2.45, MAD 0.15.
    DATA = (2.1, 2.6, 2.4, 2.5, 2.3, 2.1, 2.3, 2.6, 8.2, 8.3)

    def test_matches_the_hand_calculation(self):
        scores = modified_z_scores(self.DATA)
        self.assertAlmostEqual(scores[8], 0.6745 * 5.75 / 0.15, places=6)
        self.assertEqual(list(np.flatnonzero(np.abs(scores) > 3.5)), [8, 9])

    def test_equal_readings_are_not_odd(self):
        self.assertTrue(np.all(modified_z_scores([150, 150, 150]) == 0))

    def test_one_odd_among_equal_ones_is_found(self):
        scores = modified_z_scores([150, 150, 150, 150, 150, 150, 90])
        self.assertLess(scores[6], -3.5)


class OddOnesTests(TestCase):
    def test_sound_sets_are_seldom_flagged_and_never_for_next_to_nothing(self):
        random = np.random.default_rng(5)
        for size in (3, 4, 6, 8):
            flagged = 0
            for _ in range(400):
                readings = 150 * (1 + 0.04 * random.standard_normal(size))
                named = odd_ones(dict(enumerate(readings, start=1)))
                flagged += any(named.values())
            with self.subTest(size=size):
                self.assertLess(flagged / 400, 0.1)
        self.assertFalse(any(odd_ones({1: 150, 2: 150, 3: 150, 4: 147}).values()))

    def test_a_low_one_is_named_in_plain_words(self):
        named = odd_ones({1: 150, 2: 75, 3: 151, 4: 149})
        self.assertIn("50 % under the middle", named[2][0].text)
        self.assertFalse(named[1])
