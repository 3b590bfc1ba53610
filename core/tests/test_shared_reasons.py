"""Why something that cylinders share is suspected."""

from unittest import TestCase

import numpy as np

from core.knowledge.complaints import complaints
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, document, plugs, quantity
from core.tests.test_assess import assessed, read


def because(place, fault):
    named = next(one for one in place["faults"] if one["fault"] == fault)
    return {one["finding"]: one["weight"] for one in named["because"]}


class SharedReasonTests(TestCase):
    def test_what_all_plugs_show_is_left_out_on_all_of_them(self):
        made = document(4, fuel_system="carburettor", ignition="distributor")
        made["inspection"] = {"complaints": ["black-smoke"]}
        said = assessed(made, cylinders=plugs(*[SOOTY_PLUG] * 4))
        weights = because(said["engine"], "mixture-rich")
        self.assertGreater(weights["nose black on 1, 2, 3, 4"], 1)
        # Less than the complaint alone is worth: a rich cylinder or nothing may explain it.
        row = complaints().named(["black-smoke"])[0]
        alone = np.log2(1 + row.brings["mixture-rich"] * (1 - row.otherwise) / row.otherwise)
        self.assertGreater(weights["complaint of black smoke"], 1)
        self.assertLess(weights["complaint of black smoke"], alone)

    def test_a_tracked_cap_speaks_for_the_spark_and_so_against_the_mixture(self):
        made = document(4, ignition="distributor")
        said = assessed(made, cylinders=plugs(*[SOOTY_PLUG] * 4), distributor={"cap": "tracked"})
        self.assertGreater(because(said["engine"], "ignition-weak")["cap: tracked"], 3)
        self.assertLess(because(said["engine"], "mixture-rich")["cap: tracked"], -2)

    def test_a_bank_has_reasons_of_its_own(self):
        banks = [{"name": "l", "cylinders": [1, 3, 5]}, {"name": "r", "cylinders": [2, 4, 6]}]
        made = document(6, "vee", banks=banks)
        said = assessed(made, cylinders=plugs(*[SOOTY_PLUG, SOUND_PLUG] * 3))
        left, right = said["banks"]
        weights = because(left, "mixture-rich")
        self.assertGreater(weights["nose black on 1, 3, 5; nose tan on 2, 4, 6"], 3)
        self.assertEqual(because(right, "mixture-rich"), {})

    def test_two_low_neighbours_each_argue_for_the_gasket(self):
        said = read([150, 92, 95, 151])
        pair = next(one for one in said["pairs"] if one["cylinders"] == [2, 3])
        weights = {one["finding"]: one["weight"] for one in pair["because"]}
        self.assertGreater(weights["cylinder 2: 92 psi dry"], 3)
        self.assertGreater(weights["cylinder 3: 95 psi dry"], 3)

    def test_a_low_level_is_put_to_the_test_with_its_figure(self):
        made = document(4, specification={"compression_min": quantity(150, "psi")})
        said = read([75] * 4, made, throttle="closed")
        weights = because(said["engine"], "test-condition")
        self.assertGreater(weights["the middle reading is 45 % of what this engine should show"], 5)
        self.assertGreater(weights["it was read with the throttle closed"], 2)

    def test_one_low_bank_is_its_own_valve_timing(self):
        banks = [{"name": "l", "cylinders": [1, 3, 5, 7]}, {"name": "r", "cylinders": [2, 4, 6, 8]}]
        made = document(8, "vee", banks=banks)
        said = read([150, 104, 152, 108, 149, 105, 151, 106], made)
        right = next(bank for bank in said["banks"] if bank["name"] == "r")
        self.assertGreater(right["faults"][0]["probability"], 0.9)
        self.assertEqual(right["faults"][0]["fault"], "valve-timing")
        self.assertEqual(said["engine"]["most_suspect"], [2, 4, 6, 8])
        weights = because(right, "valve-timing")
        self.assertGreater(weights["bank r as a whole reads 30 % below the other"], 5)
        uneven = read([150, 104, 152, 148, 149, 150, 151, 106], made)
        self.assertEqual(sorted(uneven["engine"]["most_suspect"]), [2, 8])


class KnownBeforehandTests(TestCase):
    def test_a_complaint_argues_for_the_fault_it_raises(self):
        made = document(4, fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"complaints": ["blue-smoke"]}
        said = assessed(made, cylinders=plugs({**SOUND_PLUG, "threads": ["oily"]}))
        weights = because(said["cylinders"][0], "valve-stem-oil")
        self.assertAlmostEqual(weights["complaint of blue smoke"], 2, delta=0.3)  # Fourfold odds.

    def test_overdue_plugs_say_so(self):
        made = document(4, specification={"plug_interval": quantity(20000, "km")})
        made["inspection"] = {"plug_distance": quantity(30000, "km")}
        said = assessed(made, cylinders=plugs(SOUND_PLUG))
        weights = because(said["cylinders"][0], "plug-worn")
        self.assertGreater(weights["its plug has run 1.5 times its interval"], 1)
