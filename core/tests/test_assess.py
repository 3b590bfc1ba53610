"""What an assessment says, at the level where a rebuilder would disagree."""

import json
from unittest import TestCase

from core.document import check_document
from core.inference.model import Model
from core.telling import assess
from core.tests.documents import (
    SOOTY_PLUG,
    SOUND_PLUG,
    compression,
    document,
    grade_of,
    plugs,
    probability,
    quantity,
    typed,
)

# Common practice, no source: a worn vee-eight cranked cold, cylinder 3 invented.
VEE_EIGHT = [70, 75, 72, 75, 65, 55, 75, 70]
FUEL_OR_IGNITION = ("ignition-weak", "fuel-rich", "plug-gap-bridged", "plug-insulator-cracked")
OIL = ("ring-sealing", "valve-stem-oil")


def assessed(made=None, **parts):
    made = made or document()
    return assess(check_document({**made, **parts}))


def read(values, made=None, **test):
    return assessed(made, tests={"compression": [compression(values, **test)]})


class MisreadTests(TestCase):
    """What was recorded and read otherwise than it was meant. Common practice, no source."""

    def test_a_melted_electrode_was_too_hot_and_is_no_sound_cylinder(self):
        made = document(4)
        melted = {"deposit_colour": "tan", "centre_electrode": "melted"}
        made["cylinders"] = plugs(SOUND_PLUG, melted, SOUND_PLUG, SOUND_PLUG)
        said = assessed(made)
        self.assertGreater(probability(said, "combustion-overheat", 2), 0.8)
        self.assertNotIn(grade_of(said, 2), "AB")

    def test_a_gap_in_the_makers_range_is_as_it_should_be_in_any_unit(self):
        specification = {"gap_min": quantity(0.7, "mm"), "gap_max": quantity(0.9, "mm")}
        for gap in (quantity(0.7, "mm"), quantity(0.7 / 25.4, "in"), quantity(0.9, "mm")):
            with self.subTest(gap=gap):
                made = document(4, specification=specification)
                made["cylinders"] = plugs({"gap": gap})
                found = Model.of(typed(made)).findings
                self.assertEqual([one.value for one in found], ["within"])

    def test_a_reading_that_was_marked_doubtful_convicts_nobody(self):
        for quality, graded in (("good", "D"), ("doubtful", "U"), ("seal-leak", "U")):
            with self.subTest(quality=quality):
                test = compression([150, 149, 95, 151])
                test["readings"][2]["quality"] = quality
                said = assessed(tests={"compression": [test]})
                self.assertEqual(grade_of(said, 3), graded)

    def test_codes_beyond_twelve_name_no_cylinder_and_unknown_ones_are_said_to_be_kept(self):
        made = document(16, "vee")
        plain = assessed(made)
        said = assessed(made, inspection={"trouble_codes": ["P0313", "P0420"]})
        self.assertEqual(said["cylinders"], plain["cylinders"])
        kept = [one["text"] for one in said["warnings"] if one["code"] == "not-weighed"]
        self.assertIn("P0313, P0420", kept[0])

    def test_a_dry_well_a_coil_or_a_part_number_makes_no_cylinder_sound(self):
        for record in (
            {"well": {"oil": "none", "water": "none"}},
            {"coil": ["sound"]},
            {"plug": {"part": "X-1"}},
            {"plug": {"type_match": "as-specified"}},
        ):
            with self.subTest(record=record):
                made = {**document(4), "cylinders": [{"number": 2, **record}]}
                self.assertEqual(grade_of(assessed(made), 2), "U")
        made = {**document(4), "cylinders": [{"number": 2, "plug": {"look": "fine"}}]}
        self.assertEqual(grade_of(assessed(made), 2), "A")

    def test_reading_time_and_again_costs_no_more_and_is_said(self):
        tests = [
            {**compression([150 + at / 100, 149, 95, 151]), "id": f"t{at}"} for at in range(40)
        ]
        said = assessed(tests={"compression": tests})
        self.assertEqual(grade_of(said, 3), "D")
        kept = [one["text"] for one in said["warnings"] if one["code"] == "not-weighed"]
        self.assertIn("136 older readings", kept[0])


class VerdictTests(TestCase):
    def test_an_even_set_of_worn_plugs_is_one_finding(self):
        worn = {**SOUND_PLUG, "centre_electrode": "eroded", "ground_electrode": "thinned"}
        made = document(4)
        made["cylinders"] = plugs(*[worn] * 4)
        verdict = assess(check_document(made))["engine"]["verdict"]
        self.assertEqual(verdict.count("plug worn"), 1)
        self.assertTrue(verdict.startswith("All cylinders: their centre electrodes are eroded"))
        made["cylinders"] = plugs(worn, SOUND_PLUG, worn, SOUND_PLUG)
        verdict = assess(check_document(made))["engine"]["verdict"]
        self.assertIn("Cylinders 1 and 3: their centre electrodes", verdict)

    def test_what_is_not_part_of_the_job_is_not_missed(self):
        made = document()
        made["cylinders"] = [{"number": n, "plug": SOUND_PLUG} for n in (1, 3)]
        for scope, tail in (
            ([1, 3], "examined. Cylinders 2, 4: not part of this job."),
            ([1, 3, 4], "examined. Cylinder 4: not examined. Cylinder 2: not part of this job."),
        ):
            made["inspection"] = {"scope": scope}
            verdict = assess(check_document(made), explain=False)["engine"]["verdict"]
            self.assertEqual(verdict, f"No fault found in what was {tail}")


class CompressionTests(TestCase):
    def test_the_vee_eight_ranks_six_then_five_and_accuses_nobody_else(self):
        said = read(VEE_EIGHT, document(8, "vee"))
        self.assertEqual(said["engine"]["most_suspect"], [6, 5])
        self.assertEqual(grade_of(said, 6), "D")
        for cylinder in (1, 2, 3, 4, 7, 8):
            self.assertEqual(grade_of(said, cylinder), "A")
        self.assertNotEqual(said["engine"]["grade"], "U")

    def test_halved_it_ranks_alike_and_is_to_be_retested(self):
        said = read([value / 2 for value in VEE_EIGHT], document(8, "vee"))
        self.assertEqual(said["engine"]["most_suspect"][:1], [6])
        ranked = sorted(said["cylinders"], key=lambda one: -one["consequences"]["repair"])
        self.assertEqual([one["number"] for one in ranked[:2]], [6, 5])
        self.assertEqual(said["engine"]["grade"], "U")
        self.assertIn("Retest", said["engine"]["verdict"])

    def test_even_at_half_the_specification_convicts_nobody_and_is_not_sound(self):
        made = document(8, "vee", specification={"compression_min": quantity(150, "psi")})
        said = read([75] * 8, made)
        self.assertEqual(said["engine"]["most_suspect"], [])
        self.assertEqual(said["engine"]["grade"], "U")
        for cylinder in said["cylinders"]:
            self.assertEqual(cylinder["grade"], "U")
            for fault in ("ring-sealing", "exhaust-valve-sealing"):
                self.assertLess(probability(said, fault, cylinder["number"]), 0.1)
        level = probability(said, "test-condition") + probability(said, "valve-timing")
        self.assertGreater(level, 0.9)

    def test_one_low_among_even_ones_is_convicted(self):
        said = read([150, 152, 90, 151])
        self.assertEqual(said["engine"]["most_suspect"], [3])
        self.assertEqual(grade_of(said, 3), "D")

    def test_low_neighbours_raise_the_gasket_between_them(self):
        said = read([150, 92, 95, 151])
        chances = {tuple(one["cylinders"]): one["probability"] for one in said["pairs"]}
        self.assertGreater(chances[(2, 3)], 0.5)
        apart = read([150, 92, 151, 95])
        self.assertLess(max(one["probability"] for one in apart["pairs"]), 0.1)

    def test_a_recorded_cold_closed_or_slow_test_explains_low_and_even(self):
        made = document(4, specification={"compression_min": quantity(130, "psi")})
        for field, value, code in (
            ("throttle", "closed", "closed-throttle"),
            ("engine_temperature", "cold", "cold-test"),
            ("cranking_rpm", 120, "slow-cranking"),
        ):
            with self.subTest(field=field):
                said = read([95, 96, 94, 95], made, **{field: value})
                self.assertGreater(probability(said, "test-condition"), 0.5)
                self.assertIn(code, [one["code"] for one in said["warnings"]])

    def test_thin_air_is_no_fault(self):
        made = document(4, specification={"compression_min": quantity(140, "psi")})
        made["inspection"] = {"altitude_m": 2500}
        said = read([112, 113, 111, 112], made)
        self.assertLess(probability(said, "test-condition"), 0.2)
        self.assertEqual(said["engine"]["most_suspect"], [])

    def test_oil_that_raises_one_reading_more_than_the_others_says_rings(self):
        dry = compression([150, 151, 100, 149])
        rings = assessed(tests={"compression": [dry, compression([160, 161, 138, 159], "wet")]})
        valve = assessed(tests={"compression": [dry, compression([160, 161, 106, 159], "wet")]})
        self.assertGreater(probability(rings, "ring-sealing", 3), 0.85)
        self.assertLess(probability(valve, "ring-sealing", 3), 0.15)

    def test_a_cranking_trace_compares_and_the_gauge_agrees_or_not(self):
        trace = [{"cylinder": n, "share": s} for n, s in ((1, 100), (2, 98), (3, 55), (4, 97))]
        said = assessed(tests={"relative": trace})
        self.assertEqual(said["engine"]["most_suspect"], [3])
        valve = next(f for f in said["cylinders"][2]["faults"] if f["fault"].startswith("exhaust"))
        weights = {one["finding"]: one["weight"] for one in valve["because"]}
        self.assertGreater(weights["cranking trace: its rise is 56 % of the others'"], 2)
        gauge = compression([150, 151, 149, 150])
        both = assessed(tests={"relative": trace, "compression": [gauge]})
        self.assertLess(
            both["cylinders"][2]["consequences"]["repair"],
            said["cylinders"][2]["consequences"]["repair"] / 2,
        )

    def test_ten_psi_may_be_a_slip_or_a_dead_cylinder(self):
        said = read([150, 151, 10, 149])
        self.assertIn("unit-slip", [one["code"] for one in said["warnings"]])
        self.assertTrue(0.02 < said["cylinders"][2]["consequences"]["repair"] < 0.98)
        made = document()
        made["tests"] = {
            "compression": [compression([150, 151, 10, 149])],
            "balance": [
                {"cylinder": n, "felt": "none" if n == 3 else "clear"} for n in range(1, 5)
            ],
        }
        self.assertGreater(
            assessed(made)["cylinders"][2]["consequences"]["repair"],
            said["cylinders"][2]["consequences"]["repair"],
        )

    def test_a_whole_test_in_the_wrong_unit_is_asked_about_and_not_used(self):
        said = read([12, 12, 7, 12])
        slips = [one for one in said["warnings"] if one["code"] == "unit-slip"]
        self.assertEqual(len(slips), 4)
        self.assertIn("bar", slips[0]["text"])
        self.assertEqual(said["engine"]["most_suspect"], [])


class PlugTests(TestCase):
    def black_and_wet(self, **wet):
        wet_plug = {"deposit_colour": "black", "wetness": "wet", **wet}
        return assessed(cylinders=plugs(SOUND_PLUG, SOUND_PLUG, wet_plug, SOUND_PLUG))

    def share(self, said, faults):
        return sum(probability(said, fault, 3) for fault in faults)

    def test_oil_in_the_well_is_the_seal_and_not_the_rings(self):
        for amount in ("trace", "pooled"):
            said = assessed(cylinders=[{"number": 2, "well": {"oil": amount}}])
            self.assertLess(probability(said, "ring-sealing", 2), 0.1)
        self.assertGreater(probability(said, "well-seal", 2), 0.5)
        self.assertEqual([one["grade"] for one in said["engine"]["claims"]], ["B"])
        self.assertEqual(grade_of(said, 2), "U")  # A look into its well is no examination.

    def test_wet_with_fuel_points_to_fuel_or_ignition(self):
        said = self.black_and_wet(wet_with="fuel")
        self.assertGreater(self.share(said, FUEL_OR_IGNITION), 0.5)
        self.assertLess(self.share(said, OIL), 0.15)

    def test_wet_with_oil_points_to_rings_or_guides(self):
        said = self.black_and_wet(wet_with="oil")
        self.assertGreater(self.share(said, OIL), 0.5)
        self.assertLess(self.share(said, FUEL_OR_IGNITION), 0.2)

    def test_wet_with_unknown_keeps_both_open_and_asks(self):
        for wet in ({"wet_with": "unknown"}, {}):
            said = self.black_and_wet(**wet)
            self.assertGreater(self.share(said, FUEL_OR_IGNITION), 0.2)
            self.assertGreater(self.share(said, OIL), 0.2)
            paths = [one["path"] for one in said["warnings"]]
            self.assertIn("/cylinders/3/plug/wet_with", paths)

    def test_all_sooty_is_the_mixture_and_no_cylinder(self):
        said = assessed(cylinders=plugs(*[SOOTY_PLUG] * 4))
        self.assertGreater(probability(said, "mixture-rich"), 0.7)
        for cylinder in range(1, 5):
            self.assertLess(probability(said, "fuel-rich", cylinder), 0.1)

    def test_one_sooty_is_that_cylinder(self):
        said = assessed(cylinders=plugs(SOUND_PLUG, SOOTY_PLUG, SOUND_PLUG, SOUND_PLUG))
        self.assertLess(probability(said, "mixture-rich"), 0.1)
        self.assertEqual(said["engine"]["most_suspect"][0], 2)

    def test_a_darker_brown_is_nothing(self):
        brown = {**SOUND_PLUG, "deposit_colour": "brown"}
        said = assessed(cylinders=plugs(SOUND_PLUG, brown, SOUND_PLUG, SOUND_PLUG))
        self.assertEqual(grade_of(said, 2), "A")
        self.assertEqual(said["engine"]["most_suspect"], [])

    def test_one_sooty_bank_is_what_the_bank_shares(self):
        banks = [{"name": "l", "cylinders": [1, 3, 5]}, {"name": "r", "cylinders": [2, 4, 6]}]
        made = document(6, "vee", banks=banks)
        said = assessed(made, cylinders=plugs(*[SOOTY_PLUG, SOUND_PLUG] * 3))
        left = next(bank for bank in said["banks"] if bank["name"] == "l")
        self.assertGreater(left["faults"][0]["probability"], 0.5)
        self.assertEqual(left["faults"][0]["fault"], "mixture-rich")
        self.assertEqual(sorted(said["engine"]["most_suspect"]), [1, 3, 5])

    def test_a_missing_strap_with_exhaust_stains_is_a_loose_plug_first(self):
        lost = {"ground_electrode": "missing", "outside": ["exhaust-stained"]}
        said = assessed(cylinders=plugs(SOUND_PLUG, {**SOUND_PLUG, **lost}))
        self.assertEqual(said["cylinders"][1]["faults"][0]["fault"], "plug-loose")
        self.assertEqual(grade_of(said, 2), "E")

    def test_what_was_seen_is_there(self):
        cracked = {**SOUND_PLUG, "insulator": "cracked-nose"}
        made = document()
        made["cylinders"] = plugs(SOUND_PLUG, cracked)
        made["cylinders"][0]["borescope"] = {"bore": "scored"}
        said = assessed(made)
        self.assertGreater(probability(said, "plug-insulator-cracked", 2), 0.8)
        self.assertGreater(
            probability(said, "ring-sealing", 1) + probability(said, "piston-damage", 1), 0.5
        )

    def test_each_thing_that_was_seen_convicts(self):
        for place, seen, fault in (
            ("borescope", {"crown": "damaged"}, "piston-damage"),
            ("borescope", {"coolant_trace": True}, "head-gasket-coolant"),
            ("borescope", {"valves": "burnt-edge"}, "exhaust-valve-sealing"),
            ("plug", {"gap_bridged": True}, "plug-gap-bridged"),
            ("plug", {"type_match": "wrong-reach"}, "plug-wrong-type"),
            ("well", {"oil": "pooled"}, "well-seal"),
        ):
            with self.subTest(seen=seen):
                said = assessed(cylinders=[{"number": 2, place: seen}])
                self.assertGreater(probability(said, fault, 2), 0.8)
        made = document(2)
        made["engine"]["cycle"] = "two-stroke"
        scuffed = assessed(made, tests={"port_look": [{"cylinder": 1, "piston": "scuffed"}]})
        self.assertGreater(probability(scuffed, "piston-damage", 1), 0.8)

    def test_a_dry_plug_on_a_coded_cylinder_is_not_acquitted(self):
        made = document(fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0302"]}
        dry = assessed(made, cylinders=plugs(*[SOUND_PLUG] * 4))
        unread = assessed(made)
        self.assertGreater(
            probability(dry, "ignition-weak", 2), 0.7 * probability(unread, "ignition-weak", 2)
        )
        self.assertEqual(dry["engine"]["most_suspect"][0], 2)

    def test_a_moved_fault_convicts_the_part_and_an_unmoved_one_acquits_it(self):
        made = document(fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"trouble_codes": ["P0302"]}

        def swapped(result):
            swap = {"part": "coil", "from": 2, "to": 3, "result": result}
            return probability(assessed(made, tests={"swap": [swap]}), "ignition-weak", 2)

        before = probability(assessed(made), "ignition-weak", 2)
        self.assertGreater(swapped("moved"), 0.9)
        self.assertLess(swapped("stayed"), before / 3)
        self.assertEqual(swapped("unclear"), before)

    def test_overdue_plugs_explain_rounded_electrodes(self):
        made = document(4, specification={"plug_interval": quantity(20000, "km")})
        made["inspection"] = {"plug_distance": quantity(31000, "km")}
        rounded = {**SOUND_PLUG, "centre_electrode": "rounded"}
        said = assessed(made, cylinders=plugs(*[rounded] * 4))
        for cylinder in said["cylinders"]:
            self.assertEqual(cylinder["faults"][0]["fault"], "plug-worn")
            self.assertEqual((cylinder["plug_action"], cylinder["grade"]), ("replace", "B"))

    def test_a_tracked_cap_is_what_all_cylinders_share(self):
        made = document(ignition="distributor")
        before = probability(assessed(made), "ignition-weak")
        tracked = probability(assessed(made, distributor={"cap": "tracked"}), "ignition-weak")
        sound = probability(assessed(made, distributor={"cap": "sound"}), "ignition-weak")
        self.assertGreater(tracked, 10 * before)
        self.assertLess(sound, before)
        stuck = assessed(made, distributor={"advance": "seized"})
        self.assertGreater(probability(stuck, "ignition-timing"), 0.2)

    def test_a_single_cylinder_cannot_tell_itself_from_the_engine(self):
        said = assessed(document(1, "single"), cylinders=plugs(SOOTY_PLUG))
        for own, shared in (("fuel-rich", "mixture-rich"), ("fuel-lean", "mixture-lean")):
            self.assertEqual(probability(said, own, 1), probability(said, shared))


class OutlookTests(TestCase):
    def test_a_missing_strap_forbids_cranking(self):
        said = assessed(cylinders=plugs(SOUND_PLUG, {**SOUND_PLUG, "ground_electrode": "missing"}))
        self.assertEqual(said["engine"]["may_run"]["answer"], "no")
        self.assertIn("Cylinder 2", said["engine"]["may_run"]["reason"])

    def test_a_sound_engine_may_run_and_costs_little(self):
        said = read([150, 151, 149, 150], {**document(), "cylinders": plugs(*[SOUND_PLUG] * 4)})
        self.assertEqual(said["engine"]["may_run"]["answer"], "yes")
        self.assertLess(said["engine"]["work"]["expected_hours"], 5)

    def test_bad_luck_costs_more_than_expected(self):
        engine = read([150, 152, 90, 151])["engine"]
        self.assertGreater(engine["work"]["expected_hours"], 10)
        self.assertGreater(engine["work"]["bad_luck_hours"], engine["work"]["expected_hours"])

    def test_a_house_has_its_own_prices(self):
        made = document()
        made["tests"] = {"compression": [compression([150, 152, 90, 151])]}
        plain = assessed(made)["engine"]["work"]
        own = {"hourly_rate": 120, "currency": "GBP", "prices": {"bottom-end": {"bad_hours": 90}}}
        house = assessed(made, house_rules=own)["engine"]["work"]
        self.assertEqual((house["currency"], house["hourly_rate"]), ("GBP", 120))
        self.assertAlmostEqual(house["expected_cost"] / plain["expected_cost"], 1.5, delta=0.1)
        self.assertGreater(house["bad_luck_hours"], plain["bad_luck_hours"] + 20)

    def test_nothing_to_do_and_something_share_the_whole(self):
        said = assessed(cylinders=plugs(*[SOUND_PLUG] * 4))["cylinders"][0]["consequences"]
        self.assertGreater(said["none"], 0.7)
        self.assertLess(said["none"] + said["repair"], 1)

    def test_rivals_are_named_until_a_test_settles_them(self):
        dry = compression([150, 151, 90, 149])
        before = assessed(tests={"compression": [dry]})["cylinders"][2]["rivals"]
        self.assertIn("rings or bore not sealing", before)
        self.assertIn("exhaust valve not sealing", before)
        after = assessed(tests={"compression": [dry, compression([160, 161, 133, 159], "wet")]})
        self.assertEqual(after["cylinders"][2]["rivals"], [])
        asked = assessed(tests={"compression": [dry]})["warnings"]
        self.assertIn("/cylinders/3", [one["path"] for one in asked if one["code"] == "incomplete"])

    def test_what_was_not_looked_at_is_listed(self):
        said = read([150, 151, 149])
        self.assertEqual(len(said["cylinders"][0]["unseen"]), 2)
        self.assertIn("no compression reading", said["cylinders"][3]["unseen"])


class ShapeTests(TestCase):
    def test_every_cylinder_is_listed_with_every_fault_most_probable_first(self):
        said = assessed(document(5))
        self.assertEqual([one["number"] for one in said["cylinders"]], [1, 2, 3, 4, 5])
        self.assertEqual({one["grade"] for one in said["cylinders"]}, {"U"})
        for cylinder in said["cylinders"]:
            chances = [fault["probability"] for fault in cylinder["faults"]]
            self.assertEqual(chances, sorted(chances, reverse=True))
            self.assertEqual(len(chances), 17)
            self.assertEqual(cylinder["plug_action"], "not-seen")

    def test_two_strokes_have_no_valves(self):
        made = document(2)
        made["engine"]["cycle"] = "two-stroke"
        said = assessed(made)
        named = {fault["fault"] for fault in said["cylinders"][0]["faults"]}
        self.assertFalse(any("valve" in name for name in named))
        self.assertIn("premix-oil-lean", {fault["fault"] for fault in said["engine"]["faults"]})

    def test_the_same_file_gives_the_same_bytes(self):
        made = document(8, "vee", firing_order=[1, 8, 4, 3, 6, 5, 7, 2], ignition="wasted-spark")
        said = [json.dumps(read(VEE_EIGHT, made)) for _ in range(2)]
        self.assertEqual(*said)

    def test_a_reason_argues_in_the_direction_of_its_finding(self):
        said = read([150, 152, 90, 151], {**document(), "cylinders": plugs(*[SOUND_PLUG] * 4)})
        rings = next(f for f in said["cylinders"][2]["faults"] if f["fault"] == "ring-sealing")
        weights = {one["finding"]: one["weight"] for one in rings["because"]}
        self.assertGreater(weights["compression 90 psi, 60 % of its peers"], 2)

    def test_a_finding_that_acquits_argues_against(self):
        made = document(fuel_system="port", ignition="coil-on-plug")
        swap = {"part": "coil", "from": 2, "to": 3, "result": "stayed"}
        said = assessed(made, inspection={"trouble_codes": ["P0302"]}, tests={"swap": [swap]})
        weak = next(f for f in said["cylinders"][1]["faults"] if f["fault"] == "ignition-weak")
        weights = {one["finding"]: one["weight"] for one in weak["because"]}
        self.assertLess(weights["the fault stayed when the coil was swapped"], -2)
        self.assertGreater(weights["misfire code P0302 names it"], 1)

    def test_a_wet_test_is_recommended_on_a_low_cylinder(self):
        said = read([150, 152, 90, 151], document(fuel_system="port"))
        first = said["next_tests"][0]
        self.assertEqual((first["test"], first["cylinders"]), ("wet-compression", [3]))
