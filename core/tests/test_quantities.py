from unittest import TestCase

from core.errors import CoreError
from core.quantities import Dimension, Quantity


class QuantityTests(TestCase):
    # Published: NIST SP 811 (2008), appendix B.8, factors printed to seven figures; from memory.
    FACTORS = (
        (Dimension.PRESSURE, "psi", 6.894757e3),
        (Dimension.PRESSURE, "kgf/cm2", 9.80665e4),
        (Dimension.PRESSURE, "bar", 1.0e5),
        (Dimension.LENGTH, "in", 2.54e-2),
        (Dimension.LENGTH, "thou", 2.54e-5),
        (Dimension.TORQUE, "lbf.ft", 1.355818),
        (Dimension.TORQUE, "lbf.in", 1.129848e-1),
        (Dimension.TORQUE, "kgf.m", 9.80665),
        (Dimension.DISTANCE, "mi", 1.609344),
        (Dimension.VOLUME, "fl-oz", 2.957353e-5),
    )

    def test_matches_the_published_factors(self):
        for dimension, unit, factor in self.FACTORS:
            with self.subTest(unit=unit):
                self.assertAlmostEqual(Quantity(1.0, unit, dimension).si / factor, 1.0, delta=5e-7)

    # Common practice, no source: pairs that the trade knows by heart.
    def test_agrees_with_the_trade(self):
        pairs = (
            (18, "N.m", Dimension.TORQUE, "lbf.ft", 13.3, 0.05),
            (20, "N.m", Dimension.TORQUE, "lbf.ft", 14.75, 0.005),
            (23, "thou", Dimension.LENGTH, "mm", 0.584, 0.0005),
            (0.6, "mm", Dimension.LENGTH, "in", 0.0236, 0.00005),
            (212, "degF", Dimension.TEMPERATURE, "degC", 100, 1e-9),
        )
        for value, unit, dimension, other, expected, tolerance in pairs:
            with self.subTest(value=value, unit=unit):
                converted = Quantity(value, unit, dimension).to(other).value
                self.assertAlmostEqual(converted, expected, delta=tolerance)

    def test_running_hours_are_no_distance(self):
        with self.assertRaises(CoreError):
            Quantity(100, "h", Dimension.DISTANCE).to("km")

    def test_a_unit_of_another_dimension_is_refused(self):
        with self.assertRaises(CoreError):
            Quantity(1, "psi", Dimension.LENGTH)
