from unittest import TestCase

import numpy as np

from core.document import check_document
from core.errors import OutOfRange
from core.pressure.leakdown import held_pa, leak_area_m2, percent_lost, restrictor_area_m2
from core.pressure.orifice import mass_flux
from core.quantities import PSI_PA
from core.telling import assess
from core.tests.documents import compression, document, probability, quantity

SUPPLY = 80 * PSI_PA
RESTRICTOR = restrictor_area_m2(0.040 * 0.0254)


class OrificeTests(TestCase):
    def test_what_goes_in_comes_out(self):
        leak = 0.8e-6
        held = float(held_pa(SUPPLY, RESTRICTOR, leak)[0])
        into = RESTRICTOR * mass_flux(SUPPLY + 101_325, held + 101_325, 293.15)
        out = leak * mass_flux(held + 101_325, 101_325, 293.15)
        self.assertAlmostEqual(float(into / out), 1, delta=1e-9)

    def test_area_to_reading_and_back(self):
        areas = np.geomspace(0.05, 20, 12) * 1e-6
        for area, held in zip(areas, held_pa(SUPPLY, RESTRICTOR, areas), strict=True):
            self.assertAlmostEqual(leak_area_m2(SUPPLY, RESTRICTOR, held) / area, 1, delta=1e-6)

    def test_no_leak_holds_everything(self):
        self.assertAlmostEqual(float(held_pa(SUPPLY, RESTRICTOR, 0.0)[0]) / SUPPLY, 1, delta=1e-6)

    # Published: FAA AC 43.13-1B chapter 8, a loss of 25 % of 80 psi is 60 held; from memory.
    def test_sixty_over_eighty_is_a_loss_of_a_quarter(self):
        self.assertAlmostEqual(percent_lost(SUPPLY, 60 * PSI_PA), 25)

    def test_a_larger_restrictor_reads_the_same_leak_milder(self):
        wide = restrictor_area_m2(0.060 * 0.0254)
        area = leak_area_m2(SUPPLY, RESTRICTOR, 60 * PSI_PA)
        self.assertGreater(float(held_pa(SUPPLY, wide, area)[0]), 66 * PSI_PA)

    def test_nothing_held_has_no_area(self):
        with self.assertRaises(OutOfRange):
            leak_area_m2(SUPPLY, RESTRICTOR, 0)


def leakdown(held, escapes=None, **test):
    readings = [
        {
            "cylinder": n,
            "held": quantity(psi, "psi"),
            **({"escapes": escapes[n - 1]} if escapes else {}),
        }
        for n, psi in enumerate(held, start=1)
    ]
    given = {"supply": quantity(80, "psi"), "restrictor": quantity(0.04, "in"), **test}
    return {**given, "readings": readings}


class EvidenceTests(TestCase):
    def said(self, *args, **kwargs):
        made = document()
        made["tests"] = {"leakdown": [leakdown(*args, **kwargs)]}
        return assess(check_document(made))

    def test_the_exit_names_the_leak(self):
        for exit_, fault in (
            ("exhaust", "exhaust-valve-sealing"),
            ("intake", "intake-valve-sealing"),
            ("crankcase", "ring-sealing"),
            ("coolant", "head-gasket-coolant"),
        ):
            said = self.said([74, 75, 52, 74], [["none"], ["none"], [exit_], ["none"]])
            with self.subTest(exit=exit_):
                self.assertEqual(said["cylinders"][2]["faults"][0]["fault"], fault)
                self.assertGreater(probability(said, fault, 3), 0.7)

    def test_into_each_other_is_the_gasket_between(self):
        neighbour = ["neighbour"]
        said = self.said([74, 52, 50, 75], [["none"], neighbour, neighbour, ["none"]])
        chances = {tuple(one["cylinders"]): one["probability"] for one in said["pairs"]}
        self.assertGreater(chances[(2, 3)], 0.9)

    def test_an_unknown_restrictor_says_less(self):
        known, unknown = self.said([74, 75, 45, 74]), self.said([74, 75, 45, 74], restrictor=None)
        self.assertGreater(
            known["cylinders"][2]["consequences"]["repair"],
            unknown["cylinders"][2]["consequences"]["repair"],
        )

    def test_no_testers_restrictor_explains_the_loss_of_most_of_the_air(self):
        """Common practice, no source: what all cylinders lose alike is the tester, to a point."""
        some, most = (
            self.said([held] * 4, restrictor=None)["cylinders"][1]["grade"] for held in (68, 26)
        )
        self.assertEqual((some, most), ("A", "D"))

    def test_the_others_tell_the_restrictor(self):
        """Three that hold alike make the fourth a leak, whatever the tester's own scale."""
        for healthy, leaking in ((76, 42), (66, 24)):
            said = self.said([healthy, healthy, leaking, healthy], restrictor=None)
            with self.subTest(healthy=healthy):
                repair = [one["consequences"]["repair"] for one in said["cylinders"]]
                self.assertGreater(repair[2], 0.8)
                self.assertLess(max(repair[0], repair[1], repair[3]), 0.12)

    def test_percent_and_pressure_that_disagree_are_not_used(self):
        made = document()
        test = leakdown([74, 75, 40, 74])
        test["readings"][2]["percent"] = 5
        made["tests"] = {"leakdown": [test]}
        said = assess(check_document(made))
        self.assertIn("inconsistent", [one["code"] for one in said["warnings"]])
        self.assertEqual(said["engine"]["most_suspect"], [])

    def test_compression_and_leakdown_argue_about_the_same_leak(self):
        made = document()
        made["tests"] = {"compression": [compression([150, 151, 118, 149])]}
        alone = assess(check_document(made))["cylinders"][2]["consequences"]["repair"]
        made["tests"]["leakdown"] = [leakdown([75, 74, 76, 75])]
        both = assess(check_document(made))["cylinders"][2]["consequences"]["repair"]
        self.assertLess(both, alone)
