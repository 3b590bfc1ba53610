"""What a rebuilder would do next, found by information alone."""

from unittest import TestCase

from core.document import check_document
from core.telling import assess
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
        self.assertEqual((listed[0]["test"], listed[0]["cylinders"]), ("piece", [2]))
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


class HereAndNowTests(TestCase):
    """Only what can be done on this engine, in this place, with what is owned; common practice."""

    def missing_on_two(self, cylinders=4, layout="inline", **given):
        made = document(cylinders, layout, fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0302"], "complaints": ["misfire"], **given}
        return made

    def offered(self, made):
        return {one["test"] for one in following(made)}

    def test_nothing_that_needs_it_running_on_one_that_does_not(self):
        running = {"balance", "swap-coil", "swap-plug", "swap-injector", "reread"}
        self.assertTrue(running & self.offered(self.missing_on_two()))
        for given in (
            {"can_run": False},
            {"engine_place": "stand"},
            {"complaints": ["misfire", "no-start"]},
        ):
            self.assertFalse(running & self.offered(self.missing_on_two(**given)), given)

    def test_no_gauge_that_nobody_owns(self):
        made = self.missing_on_two(instruments=["spark-tester", "scan-tool"])
        gauges = {"compression", "wet-compression", "leakdown", "borescope"}
        self.assertFalse(gauges & self.offered(made))
        self.assertIn("spark", self.offered(made))

    def test_both_ends_of_one_coil_are_no_two_coils(self):
        for cylinders, swapped in ((2, False), (4, True)):
            made = self.missing_on_two(cylinders)
            made["engine"]["ignition"] = "wasted-spark"
            self.assertEqual("swap-coil" in self.offered(made), swapped)

    def test_the_coded_cylinder_is_always_in_and_named_first(self):
        made = document(8, "vee", fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0307"], "complaints": ["misfire"]}
        listed = following(made)
        self.assertTrue(listed)
        self.assertEqual({one["cylinders"][0] for one in listed}, {7})

    def test_the_coded_cylinder_is_answered_though_another_will_be_opened(self):
        made = document(6, fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0306"]}
        made["tests"] = {"compression": [compression([150, 152, 45, 151, 150, 149])]}
        first = following(made)[0]
        self.assertEqual((first["test"], first["cylinders"][0]), ("plug", 6))

    def test_the_way_in_to_a_bank_is_cleared_once(self):
        made = document(6, "vee", banks=[
            {"name": "front", "cylinders": [1, 3, 5]}, {"name": "rear", "cylinders": [2, 4, 6]},
        ])  # fmt: skip
        made["inspection"] = {"complaints": ["misfire", "oil-use"]}
        plain = {one["test"]: one for one in following(made)}
        made["cylinders"] = [{"number": n, "access": "awkward"} for n in (2, 4, 6)]
        behind = {one["test"]: one for one in following(made)}["compression"]
        self.assertEqual(len(behind["cylinders"]), 6)
        self.assertGreater(behind["access_minutes"], 0)
        self.assertEqual(
            behind["minutes"] - behind["access_minutes"], plain["compression"]["minutes"]
        )
        made["cylinders"] = made["cylinders"][:1]
        self.assertEqual(
            {one["test"]: one for one in following(made)}["compression"]["access_minutes"],
            behind["access_minutes"],
        )

    def test_plugs_that_are_due_are_renewed_before_any_gauge(self):
        made = document(4, specification={"plug_interval": {"value": 30000, "unit": "km"}})
        made["inspection"] = {
            "complaints": ["misfire-under-load"], "plug_distance": {"value": 48000, "unit": "km"},
        }  # fmt: skip
        first = following(made)[0]
        self.assertEqual((first["test"], first["cylinders"]), ("renew-plugs", [1, 2, 3, 4]))
        self.assertTrue(all(one["result"] and one["means"] for one in first["tells"]))
        dead_on_three = {**made, "tests": {"compression": [compression([150, 152, 20, 151])]}}
        self.assertNotEqual(following(dead_on_three)[0]["test"], "renew-plugs")
        fine = {**made, "inspection": {"plug_distance": {"value": 48000, "unit": "km"}}}
        self.assertNotIn("renew-plugs", self.offered(fine))

    def test_nothing_runs_before_the_crown_behind_a_burnt_plug_is_seen(self):
        melted = {**SOUND_PLUG, "deposit_colour": "white", "ground_electrode": "melted"}
        made = document(4)
        made["inspection"] = {"complaints": ["misfire"]}
        made["cylinders"] = plugs(SOUND_PLUG, melted, SOUND_PLUG, SOUND_PLUG)
        running = {"balance", "reread", "renew-plugs", "swap-plug", "swap-coil"}
        self.assertFalse(running & self.offered(made))
        self.assertIn("borescope", self.offered(made))
        made["cylinders"][1]["borescope"] = {"crown": "dry-carbon"}
        self.assertTrue(running & self.offered(made))

    def test_a_clean_plug_is_not_cleaned_and_read_again(self):
        made = document(4)
        made["inspection"] = {"complaints": ["misfire"]}
        made["cylinders"] = plugs(*[SOUND_PLUG] * 4)
        self.assertNotIn("reread", self.offered(made))
