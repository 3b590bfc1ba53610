from unittest import TestCase

import numpy as np
from scipy.integrate import solve_ivp

from core.engine.atmosphere import pressure_at_pa
from core.engine.kinematics import Geometry
from core.errors import OutOfRange
from core.pressure.cranking import (
    VALVE_AREA_M2,
    Cranking,
    gauge_strokes_pa,
    leak_free_peak_pa,
    settled_gauge_pa,
)
from core.pressure.orifice import AIR_R, mass_flux
from core.pressure.response import response_table
from core.tests.documents import engine

ORDINARY = engine(1, "single")
ENGINE = Geometry(0.086, 0.086, 0.143, 9.0, 50.0)


class ResponseTableTests(TestCase):
    def setUp(self):
        self.table = response_table(ORDINARY, Cranking(), closed_share=0.6, oil_share=0.07)

    def test_the_gauge_cannot_tell_one_path_from_another_but_by_oil(self):
        rings, valve = self.table["rings"], self.table["exhaust"]
        np.testing.assert_array_equal(rings.final, valve.final)
        np.testing.assert_array_equal(rings.first_over_final, valve.first_over_final)
        np.testing.assert_allclose(valve.wet_gain, 0.07, atol=1e-12)
        self.assertAlmostEqual(rings.wet_gain[0], 0.07, delta=1e-12)
        self.assertGreater(rings.wet_gain[10], 0.15)

    def test_a_leak_lowers_the_reading_and_lets_less_build(self):
        rings = self.table["rings"]
        self.assertTrue(np.all(np.diff(rings.final) < 1e-6))
        self.assertTrue(np.all(np.diff(rings.first_over_final[:20]) > -1e-6))

    def test_a_share_outside_its_range_is_refused(self):
        with self.assertRaises(OutOfRange):
            response_table(ORDINARY, Cranking(), closed_share=1.2, oil_share=0)


class AtmosphereTests(TestCase):
    # Published: US Standard Atmosphere 1976, table I, printed to five figures; from memory.
    TABLE = ((0, 1.01325e5), (1000, 8.9876e4), (2000, 7.9501e4), (3000, 7.0121e4), (5000, 5.4048e4))

    def test_matches_the_published_table(self):
        for altitude, pressure in self.TABLE:
            with self.subTest(altitude=altitude):
                self.assertAlmostEqual(pressure_at_pa(altitude) / pressure, 1, delta=2e-5)

    # Common practice, no source: a reading falls 3 to 4 % for every 300 m.
    def test_three_hundred_metres_cost_what_the_trade_says(self):
        self.assertTrue(0.03 < 1 - pressure_at_pa(300) / pressure_at_pa(0) < 0.04)

    def test_outside_the_troposphere_is_refused(self):
        with self.assertRaises(OutOfRange):
            pressure_at_pa(20_000)


class OrificeTests(TestCase):
    def test_matches_a_reference_library_below_choking(self):
        """fluids: isentropic nozzle expansibility, with a bore that is small against the pipe."""
        from fluids.flow_meter import nozzle_expansibility

        up, kelvin, bore = 6e5, 300.0, 1e-5
        for ratio in (0.95, 0.8, 0.6):
            down = up * ratio
            expansibility = nozzle_expansibility(D=1.0, Do=bore, P1=up, P2=down, k=1.4, beta=bore)
            density = up / (AIR_R * kelvin)
            expected = expansibility * np.sqrt(2 * density * (up - down))
            self.assertAlmostEqual(float(mass_flux(up, down, kelvin)) / expected, 1, delta=1e-6)

    def test_chokes_where_a_reference_library_says(self):
        from fluids.compressible import P_critical_flow

        critical = P_critical_flow(P=5e5, k=1.4)
        self.assertAlmostEqual(
            float(mass_flux(5e5, critical, 300)), float(mass_flux(5e5, 1e5, 300)), delta=1e-6
        )

    def test_nothing_flows_uphill(self):
        self.assertEqual(float(mass_flux(1e5, 2e5, 300)), 0.0)


class CrankingTests(TestCase):
    def test_without_leaks_the_gauge_reaches_the_closed_form(self):
        cranking = Cranking(strokes=20)
        final = gauge_strokes_pa(ENGINE, cranking, [0.0])[-1, 0]
        closed = leak_free_peak_pa(ENGINE, cranking) - cranking.ambient_pa
        self.assertAlmostEqual(final / closed, 1, delta=2e-3)

    def test_isentropic_limit_matches_reference_air(self):
        """CoolProp, real air compressed at constant entropy to half its volume from 300 K."""
        from CoolProp.CoolProp import PropsSI

        start = PropsSI("Smass", "T", 300, "P", 1e5, "Air")
        density = PropsSI("Dmass", "T", 300, "P", 1e5, "Air")
        real = PropsSI("P", "Smass", start, "Dmass", 2 * density, "Air")
        halves = Geometry(0.08, 0.08, 0.14, 2.0, -89.999)
        halved = Cranking(intake_pa=1e5, exponent=1.4)
        ideal = leak_free_peak_pa(halves, halved)
        self.assertAlmostEqual(
            ideal / 1e5 / (real / 1e5) / (halves.effective_ratio / 2) ** 1.4, 1, delta=5e-3
        )

    def test_one_stroke_matches_an_adaptive_solver(self):
        """SciPy's DOP853 on the same equations, written down again here."""
        cranking = Cranking(strokes=1)
        area = 1.5e-6
        volume_0 = ENGINE.volume_m3(-180 + ENGINE.closing_deg_abdc)
        charge = cranking.intake_pa * volume_0 / (AIR_R * cranking.intake_k)
        speed = 6 * cranking.rpm

        def rates(time, state):
            mass, gauge = state
            volume = ENGINE.volume_m3(-180 + ENGINE.closing_deg_abdc + speed * time)
            pressure = cranking.intake_pa * (mass / charge * volume_0 / volume) ** cranking.exponent
            kelvin = pressure * volume / (mass * AIR_R)
            leak = area * mass_flux(pressure, cranking.ambient_pa, kelvin)
            caught = VALVE_AREA_M2 * mass_flux(pressure, gauge, kelvin) * (pressure > gauge)
            stiff = AIR_R * cranking.intake_k / cranking.gauge_volume_m3
            return [-float(leak) - float(caught), float(caught) * stiff]

        end = (180 - ENGINE.closing_deg_abdc + 40) / speed
        solved = solve_ivp(
            rates, (0, end), [charge, cranking.ambient_pa], method="DOP853", rtol=1e-9, atol=1e-12,
            max_step=end / 400,
        )  # fmt: skip
        expected = solved.y[1, -1] - cranking.ambient_pa
        ours = gauge_strokes_pa(ENGINE, cranking, [area])[0, 0]
        self.assertAlmostEqual(ours / expected, 1, delta=1e-3)

    def test_the_needle_settles_where_many_strokes_end(self):
        areas = np.array([0.0, 0.5, 2.0, 8.0]) * 1e-6
        many = gauge_strokes_pa(ENGINE, Cranking(strokes=25), areas)[-1]
        settled = settled_gauge_pa(ENGINE, Cranking(), areas)
        np.testing.assert_allclose(many, settled, rtol=5e-3)

    def test_more_leak_reads_less_and_strokes_only_climb(self):
        strokes = gauge_strokes_pa(ENGINE, Cranking(), np.array([0.0, 0.5, 1, 2, 4, 8]) * 1e-6)
        self.assertTrue(np.all(np.diff(strokes[-1]) < 0))
        self.assertTrue(np.all(np.diff(strokes, axis=0) >= 0))

    # Common practice, no source: slow cranking gives every leak more time.
    def test_slow_cranking_costs_more_where_it_leaks_more(self):
        areas = np.array([0.3, 3.0]) * 1e-6
        fast = gauge_strokes_pa(ENGINE, Cranking(rpm=300), areas)[-1]
        slow = gauge_strokes_pa(ENGINE, Cranking(rpm=120), areas)[-1]
        self.assertLess(slow[1] / fast[1], slow[0] / fast[0])

    def test_a_negative_leak_is_refused(self):
        with self.assertRaises(OutOfRange):
            gauge_strokes_pa(ENGINE, Cranking(), [-1e-6])
