"""What a rebuilder would do next, found by information alone."""

from unittest import TestCase

from core.diagnosis import assess
from core.document import check_document
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, compression, document, plugs

LOOKED = {"oil": "none"}


def following(made):
    return assess(check_document(made), explain=False)["next_tests"]


def low_on_three(**parts):
    made = document(4, fuel_system="carburettor", ignition="distributor")
    made["cylinders"] = [
        {**record, "well": LOOKED} for record in plugs(*[{**SOUND_PLUG, "seating": "tight"}] * 4)
    ]
    made["tests"] = {"compression": [compression([150, 152, 90, 151])], **parts}
    return made


class SpentPlugTests(TestCase):
    def test_a_plug_that_is_replaced_is_not_cleaned_and_read_again(self):
        worn = {**SOOTY_PLUG, "centre_electrode": "eroded", "ground_electrode": "thinned"}
        for plug, offered in ((SOOTY_PLUG, True), (worn, False)):
            made = document(4)
            made["cylinders"] = plugs(plug, SOUND_PLUG, SOUND_PLUG, SOUND_PLUG)
            tests = [one for one in following(made) if one["test"] == "reread"]
            self.assertEqual(any(1 in one["cylinders"] for one in tests), offered)


class NextTestTests(TestCase):
    def test_a_low_cylinder_wants_a_wet_test(self):
        first = following(low_on_three())[0]
        self.assertEqual((first["test"], first["cylinders"]), ("wet-compression", [3]))
        self.assertIn("rings", first["reason"])

    def test_an_ambiguous_wet_test_wants_a_leakdown_or_a_look(self):
        made = low_on_three()
        made["tests"]["compression"].append(compression([162, 164, 103, 163], "wet"))
        listed = [one["test"] for one in following(made)]
        self.assertNotIn("wet-compression", listed)
        self.assertTrue({"leakdown", "borescope"} & set(listed[:2]))

    def test_the_coil_is_swapped_before_the_injector(self):
        made = document(4, fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0302"], "complaints": ["misfire"]}
        made["cylinders"] = [
            {**record, "well": LOOKED}
            for record in plugs(*[{**SOUND_PLUG, "seating": "tight"}] * 4)
        ]
        made["tests"] = {
            "compression": [compression([150, 152, 149, 151])],
            "spark": [{"cylinder": 2, "result": "strong", "condition": "open-air"}],
        }
        listed = [one["test"] for one in following(made) if one["cylinders"] == [2]]
        self.assertIn("swap-coil", listed)
        if "swap-injector" in listed:
            self.assertLess(listed.index("swap-coil"), listed.index("swap-injector"))

    def test_the_well_is_looked_into_before_rings_are_condemned(self):
        made = document(4)
        made["cylinders"] = plugs(*[{**SOUND_PLUG, "threads": ["oily"]}] * 4)
        listed = [one["test"] for one in following(made)]
        self.assertEqual(listed[0], "well")

    def test_nothing_is_wanted_when_nothing_would_change_much(self):
        made = low_on_three()
        made["cylinders"][2]["borescope"] = {"valves": "burnt-edge", "bore": "cross-hatched"}
        made["tests"]["compression"][0]["readings"][2]["pressure"]["value"] = 70
        made["tests"]["compression"].append(compression([162, 164, 73, 163], "wet"))
        made["tests"]["balance"] = [{"cylinder": n, "felt": "clear"} for n in (1, 2, 4)]
        made["tests"]["spark"] = [{"cylinder": n, "result": "strong"} for n in range(1, 5)]
        self.assertLess(sum(one["bits"] for one in following(made)), 0.5)

    def test_two_dead_cylinders_after_new_leads_want_the_firing_order_checked(self):
        made = document(4, fuel_system="carburettor", ignition="distributor")
        made["inspection"] = {"recent_work": ["leads"], "complaints": ["backfire", "misfire"]}
        made["tests"] = {
            "balance": [
                {"cylinder": n, "felt": "none" if n in (2, 3) else "clear"} for n in range(1, 5)
            ]
        }
        orders = [one for one in following(made) if one["test"] == "firing-order"]
        self.assertEqual([sorted(one["cylinders"]) for one in orders], [[2, 3]])
        self.assertNotIn("firing-order", [one["test"] for one in following(low_on_three())])

    def test_a_spoilt_test_is_done_again(self):
        made = document(4, specification={"compression_min": {"value": 150, "unit": "psi"}})
        made["tests"] = {"compression": [compression([75, 76, 74, 75], throttle="closed")]}
        again = next(one for one in following(made) if one["test"] == "compression")
        self.assertEqual(again["cylinders"], [1, 2, 3, 4])
        self.assertIn("throttle open", again["reason"])

    def test_nothing_turns_before_a_missing_piece_is_found(self):
        made = document(4)
        made["cylinders"] = plugs(SOUND_PLUG, {**SOUND_PLUG, "ground_electrode": "missing"})
        listed = following(made)
        self.assertEqual((listed[0]["test"], listed[0]["cylinders"]), ("borescope", [2]))
        turning = {"compression", "leakdown", "balance", "reread", "spark"}
        self.assertFalse(turning & {one["test"] for one in listed})

    def test_what_was_done_is_not_proposed_again(self):
        made = low_on_three(spark=[{"cylinder": n, "result": "strong"} for n in range(1, 5)])
        self.assertNotIn("spark", [one["test"] for one in following(made)])
        self.assertNotIn("compression", [one["test"] for one in following(made)])

    def test_the_house_knows_its_own_minutes(self):
        made = low_on_three()
        made["house_rules"] = {"minutes": {"wet-compression": 200}}
        listed = following(made)
        self.assertNotEqual(listed[0]["test"], "wet-compression")

    def test_a_single_cylinder_has_nobody_to_swap_with(self):
        made = document(1, "single", ignition="coil-on-plug")
        made["inspection"] = {"complaints": ["misfire", "misfire-under-load"]}
        self.assertFalse(any(one["test"].startswith("swap") for one in following(made)))
