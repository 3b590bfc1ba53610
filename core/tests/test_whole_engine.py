"""What concerns a whole engine, a bank, an engine of one cylinder; common practice, no source."""

from unittest import TestCase

from core.document import check_document
from core.planning import work_order
from core.telling import assess
from core.tests.documents import compression, document, quantity
from core.tests.panel import CHALK, INJECTED, OIL_WET, SMALL_TWO_STROKE, TAN, VEE_SIX, engine


def judged(made):
    return assess(check_document(made), explain=False)


def shared(said, fault, scope="engine", name=None):
    return sum(
        one["probability"]
        for one in said["shared"]
        if (one["fault"], one["scope"]) == (fault, scope) and name in (None, one["name"])
    )


class WrongHeatTests(TestCase):
    """A set too hot or too cold looks it on every plug, whatever the mixture."""

    SOOT = {**TAN, "deposit_colour": "black", "deposit_texture": "powder"}

    def test_a_whole_set_of_a_wrong_heat_range_is_no_mixture(self):
        for face, fault in ((CHALK, "mixture-lean"), (self.SOOT, "mixture-rich")):
            plain, wrong = (
                judged(engine(4, *[{**face, **marked}] * 4, fuel_system="carburettor"))
                for marked in ({}, {"type_match": "wrong-heat-range"})
            )
            with self.subTest(fault=fault):
                self.assertGreater(shared(plain, fault), 0.8)
                self.assertLess(shared(wrong, fault), 0.3)
                self.assertIn("wrong plug", wrong["engine"]["verdict"])
                self.assertEqual({one["plug_action"] for one in wrong["cylinders"]}, {"replace"})

    def test_one_odd_plug_excuses_nobody_else(self):
        odd = {**CHALK, "type_match": "wrong-heat-range"}
        said = judged(engine(4, odd, CHALK, CHALK, CHALK, fuel_system="carburettor"))
        self.assertGreater(shared(said, "mixture-lean"), 0.8)


class BankCodeTests(TestCase):
    """SAE J2012: bank 1 is the one with cylinder 1; from memory."""

    VEE = {**INJECTED, "layout": "vee", "banks": VEE_SIX}

    def lean(self, codes, *faces):
        made = engine(6, *(faces or [TAN] * 6), **self.VEE)
        made["inspection"] = {"trouble_codes": codes, "complaints": ["hesitation"]}
        said = judged(made)
        left, right = (shared(said, "mixture-lean", "bank", name) for name in ("left", "right"))
        return shared(said, "mixture-lean"), left, right, said

    def test_a_code_of_one_bank_is_that_banks(self):
        every, left, right, said = self.lean(["P0174"], *[TAN, CHALK] * 3)
        self.assertGreater(right, 2 * (every + left))
        self.assertIn("ank right: mixture lean", said["engine"]["question"]["text"])
        _, left, right, _ = self.lean(["P0171"])
        self.assertGreater(left, 5 * right)

    def test_the_codes_of_both_are_the_engines(self):
        every, left, right, _ = self.lean(["P0171", "P0174"])
        self.assertGreater(every, left + right)

    def test_banks_may_be_described_in_any_order(self):
        made = [
            engine(6, *[TAN, CHALK] * 3, **{**self.VEE, "banks": banks})
            for banks in (VEE_SIX, VEE_SIX[::-1])
        ]
        for one in made:
            one["inspection"] = {"trouble_codes": ["P0174"]}
        first, second = (shared(judged(one), "mixture-lean", "bank", "right") for one in made)
        self.assertAlmostEqual(first, second, places=6)

    def test_codes_alone_are_told_and_grade_nothing(self):
        made = document(4, **INJECTED)
        made["inspection"] = {"trouble_codes": ["P0171"], "complaints": ["hesitation"]}
        verdict = judged(made)["engine"]["verdict"]
        self.assertIn("could be judged yet. What was told of it speaks for: mixture lean", verdict)


class CamTests(TestCase):
    def all_low(self, *values, complaints=("no-start", "stopped-running")):
        made = document(4, compression_ratio=10, **INJECTED)
        made["inspection"] = {"complaints": list(complaints)}
        made["tests"] = {"compression": [compression(list(values))]}
        return judged(made)

    def test_next_to_nothing_on_all_of_an_engine_that_stopped_is_its_cam_drive(self):
        said = self.all_low(30, 35, 28, 30)
        self.assertGreater(shared(said, "valve-timing"), shared(said, "test-condition"))
        self.assertIn("valve timing off", said["engine"]["verdict"])
        # That it ran until today would speak against it.
        self.assertLess(shared(self.all_low(30, 35, 28, 30, complaints=()), "valve-timing"), 0.3)

    def test_a_unit_that_fits_some_readings_of_a_test_was_meant_for_none(self):
        codes = [one["code"] for one in self.all_low(20, 25, 15, 20)["warnings"]]
        self.assertNotIn("unit-slip", codes)
        codes = [one["code"] for one in self.all_low(10.2, 10.4, 9.9, 10.1)["warnings"]]
        self.assertIn("unit-slip", codes)


class RadialTests(TestCase):
    def test_oil_in_the_cylinders_that_hang_is_no_fault_and_in_the_others_it_is(self):
        air = {"layout": "radial", "cooling": "air", "ignition": "magneto"}
        for oily, grades in (((4, 5), "AB"), ((1,), "CD")):
            faces = [OIL_WET if n in oily else TAN for n in range(1, 8)]
            made = engine(7, *faces, tests={"compression": [compression([110] * 7)]}, **air)
            said = judged(made)
            for number in oily:
                with self.subTest(cylinder=number):
                    self.assertIn(said["cylinders"][number - 1]["grade"], grades)
            self.assertEqual(said["cylinders"][oily[0] - 1]["plug_action"], "clean")
        cautions = " ".join(work_order(check_document(made))["cautions"])
        self.assertIn("by hand", cautions)


class SmallTwoStrokeTests(TestCase):
    def single(self, psi, *complaints):
        made = document(1, layout="single", **SMALL_TWO_STROKE)
        made["inspection"] = {"complaints": list(complaints)}
        made["tests"] = {"compression": [compression([psi])]}
        return judged(made)

    def test_weak_and_hot_it_is_worn_or_scuffed_as_much_as_wrongly_read(self):
        said = self.single(45, "power-loss", "overheating")
        own = {f["fault"]: f["probability"] for f in said["cylinders"][0]["faults"]}
        worn = own["ring-sealing"] + own["piston-damage"]
        self.assertGreater(worn, 0.4)
        self.assertEqual(said["cylinders"][0]["grade"], "D")

    def test_its_port_is_looked_through_before_the_gauge_is_taken_up_again(self):
        said = self.single(60, "power-loss")
        self.assertEqual(said["next_tests"][0]["test"], "port-look")
        self.assertNotEqual(self.single(60)["next_tests"][0]["test"], "port-look")


class MissingStrapTests(TestCase):
    def test_it_ran_loose_or_hot_and_where_is_the_piece(self):
        made = engine(4, TAN, {**TAN, "ground_electrode": "missing"}, TAN, TAN)
        made["engine"]["specification"] = {"gap_max": quantity(1, "mm")}
        said = judged(made)
        own = {f["fault"]: f["probability"] for f in said["cylinders"][1]["faults"]}
        self.assertGreater(own["plug-loose"], own["combustion-overheat"])
        self.assertGreater(own["combustion-overheat"], 0.08)
        self.assertLess(own["plug-loose"], 0.65)  # It may have broken off.
        self.assertEqual(said["engine"]["may_run"]["answer"], "no")
        self.assertTrue(said["engine"]["verdict"].startswith("Cylinder 2: its strap is missing"))
