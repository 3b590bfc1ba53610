from django.test import SimpleTestCase

from core.comparison.schools import DEFAULT, SCHOOLS, verdicts
from core.quantities import PSI_PA
from core.tests.documents import quantity


def judged(psi, specification=None):
    readings = {number: value * PSI_PA for number, value in enumerate(psi, start=1)}
    return {one.rule: one for one in verdicts(readings, specification or {})}


class SchoolTests(SimpleTestCase):
    # Published in many factory manuals, from memory: lowest at least 75 % of highest.
    def test_three_quarters_of_the_highest_is_the_limit(self):
        self.assertEqual(judged([160, 120, 150])["lowest-75"].verdict, "pass")
        failed = judged([160, 119, 150])["lowest-75"]
        self.assertEqual((failed.verdict, failed.failing), ("fail", (2,)))

    def test_the_milder_share_has_a_floor(self):
        self.assertEqual(judged([150, 106])["lowest-70-floor-100"].verdict, "pass")
        self.assertEqual(judged([120, 99])["lowest-70-floor-100"].failing, (2,))

    # Common practice, no source: each within a tenth, or 15 %, of the mean.
    def test_the_peer_schools_are_not_equally_strict(self):
        said = judged([150, 150, 150, 128])
        self.assertEqual(said["peers-10"].failing, (4,))
        self.assertEqual(said["peers-15"].verdict, "pass")

    def test_the_maker_decides_by_minimum_and_spread(self):
        given = {
            "compression_min": quantity(130, "psi"),
            "compression_max_spread": quantity(1, "bar"),
        }
        self.assertEqual(judged([150, 140], given)["specification"].verdict, "pass")
        self.assertEqual(judged([150, 131, 128], given)["specification"].failing, (2, 3))

    def test_a_spread_may_be_a_share_of_the_highest(self):
        given = {"compression_max_spread": quantity(15, "%")}
        self.assertEqual(judged([100, 84, 86], given)["specification"].failing, (2,))

    def test_nothing_is_said_without_readings_or_figures(self):
        self.assertEqual({one.verdict for one in judged([]).values()}, {"cannot-say"})
        self.assertEqual(judged([150, 150])["specification"].verdict, "cannot-say")

    def test_the_default_is_one_of_them(self):
        self.assertIn(DEFAULT, SCHOOLS)
