from unittest import TestCase

from core.document import check_document
from core.document.records import Swap
from core.evidence.findings import coded_cylinders, findings, swap_result
from core.telling import assess
from core.tests.documents import document, plugs, quantity, typed


def found(made, channel):
    return {one.cylinder: one.value for one in findings(typed(made)) if one.channel == channel}


class GapTests(TestCase):
    def gaps(self, *millimetres, **specification):
        made = document(len(millimetres), specification=specification)
        made["cylinders"] = plugs(*[{"gap": quantity(one, "mm")} for one in millimetres])
        return found(made, "gap_ratio")

    def test_against_the_widest_gap_specified(self):
        said = self.gaps(
            0.5, 0.7, 0.77, 0.9, gap_min=quantity(0.6, "mm"), gap_max=quantity(0.7, "mm")
        )
        self.assertEqual(said, {1: "narrow", 2: "within", 3: "over", 4: "wide"})

    def test_against_the_others_where_nothing_is_specified(self):
        self.assertEqual(self.gaps(0.7, 0.7, 0.71, 0.95)[4], "wide")

    # Common practice, no source: 0.032 in passes and 0.035 in does not: 0.0335 in, 0.851 mm.
    def test_a_pair_of_blades_brackets_the_gap(self):
        made = document(1, "single", specification={"gap_max": quantity(0.7, "mm")})
        blades = {"gap_passes": quantity(0.032, "in"), "gap_refuses": quantity(0.035, "in")}
        made["cylinders"] = plugs(blades)
        self.assertEqual(found(made, "gap_ratio"), {1: "wide"})
        blades = {"gap_passes": quantity(0.035, "in"), "gap_refuses": quantity(0.032, "in")}
        made["cylinders"] = plugs(blades)
        self.assertEqual(found(made, "gap_ratio"), {})

    def test_two_plugs_alone_say_nothing_of_each_other(self):
        self.assertEqual(self.gaps(0.7, 0.95), {})


class CircumstanceTests(TestCase):
    """When it comes, how it last ran; common practice, no source."""

    def chance(self, fault, **inspection):
        made = document(4, fuel_system="port", ignition="coil-on-plug")
        made["inspection"] = {"complaints": ["misfire"], **inspection}
        sooty = {"deposit_colour": "black", "deposit_amount": "light", "wetness": "dry"}
        made["cylinders"] = plugs(*[sooty] * 4)
        said = assess(check_document(made), explain=False)
        of_engine = {one["fault"]: one["probability"] for one in said["engine"]["faults"]}
        of_first = {one["fault"]: one["probability"] for one in said["cylinders"][0]["faults"]}
        return of_engine.get(fault) or of_first[fault]

    def test_when_it_comes_tells_what_it_is(self):
        self.assertGreater(
            self.chance("ignition-weak", complaint_when=["wet-weather"]),
            2 * self.chance("ignition-weak"),
        )
        self.assertGreater(
            self.chance("plug-worn", complaint_when=["load"]),
            self.chance("plug-worn", complaint_when=["idle"]),
        )
        self.assertLess(
            self.chance("exhaust-valve-sealing", complaint_how_often="seldom"),
            self.chance("exhaust-valve-sealing", complaint_how_often="always"),
        )

    def test_what_only_idled_is_sooted_a_little(self):
        self.assertLess(self.chance("mixture-rich", last_run="idle"), self.chance("mixture-rich"))

    def test_a_puff_that_goes_with_heat_is_the_manifold(self):
        made = document(4)
        made["tests"] = {"noise": [{"cylinder": 2, "kind": "puff", "fades_when_warm": True}]}
        self.assertEqual(found(made, "noise"), {})


class CodeTests(TestCase):
    # Published: SAE J2012, P0301 names cylinder 1, P0312 cylinder 12; from memory.
    def test_codes_name_cylinders(self):
        made = document(12, "vee")
        made["inspection"] = {"trouble_codes": ["P0301", "P0312", "P0300", "P0171", "P0313"]}
        self.assertEqual(coded_cylinders(typed(made)), {1: "P0301", 12: "P0312"})

    def test_codes_that_name_one_are_silent_about_the_others(self):
        made = document(3)
        made["inspection"] = {"trouble_codes": ["P0302"]}
        self.assertEqual(found(made, "trouble_code"), {1: "silent", 2: "coded", 3: "silent"})

    def test_what_was_cleared_lately_acquits_nobody(self):
        made = document(3)
        made["inspection"] = {"trouble_codes": ["P0302"], "codes_cleared_recently": True}
        self.assertEqual(found(made, "trouble_code"), {2: "coded"})
        said = assess(check_document(made), explain=False)["warnings"]
        self.assertIn("codes-cleared", [one["code"] for one in said])

    def test_no_misfire_code_says_nothing(self):
        made = document(3)
        made["inspection"] = {"trouble_codes": ["P0171"]}
        self.assertEqual(found(made, "trouble_code"), {})


class RunningTests(TestCase):
    def test_counts_stand_out_against_the_others(self):
        made = document(4)
        counts = (2, 3, 40, 2)
        made["tests"] = {
            "misfires": [{"cylinder": n, "count": c} for n, c in enumerate(counts, start=1)]
        }
        self.assertEqual(found(made, "misfires"), {1: "few", 2: "few", 3: "many", 4: "few"})

    def test_a_speed_drop_is_felt_against_the_others(self):
        made = document(4)
        drops = (90, 95, 10, 35)
        made["tests"] = {
            "balance": [{"cylinder": n, "rpm_drop": d} for n, d in enumerate(drops, start=1)]
        }
        self.assertEqual(found(made, "balance"), {1: "clear", 2: "clear", 3: "none", 4: "slight"})

    def test_a_swap_may_be_written_either_way(self):
        for swap, result in (
            ({"fault_moved": True}, "moved"),
            ({"fault_moved": False}, "stayed"),
            ({"result": "vanished"}, "vanished"),
            ({"result": "unclear"}, None),
            ({}, None),
        ):
            said = Swap(part="coil", source=1, target=2, **swap)
            self.assertEqual(swap_result(said), result)


class FirstPuffTests(TestCase):
    def puffs(self, *firsts):
        made = document(len(firsts))
        readings = [
            {"cylinder": n, "strokes": [quantity(first, "psi"), quantity(150, "psi")]}
            for n, first in enumerate(firsts, start=1)
        ]
        made["tests"] = {"compression": [{"kind": "dry", "readings": readings}]}
        return made

    def test_against_the_same_gauge_on_the_other_cylinders(self):
        said = found(self.puffs(90, 91, 70, 110), "first_puff")
        self.assertEqual(said, {1: "alike", 2: "alike", 3: "builds", 4: "stays"})
        self.assertEqual(found(self.puffs(90, 60), "first_puff"), {})

    def test_a_first_puff_beside_a_final_reading_is_enough_and_alone_is_no_reading(self):
        made = self.puffs(90, 91, 70, 92)
        for reading in made["tests"]["compression"][0]["readings"]:
            first, final = reading["strokes"]
            reading["strokes"], reading["pressure"] = [first], final
        self.assertEqual(found(made, "first_puff")[3], "builds")
        for reading in made["tests"]["compression"][0]["readings"]:
            del reading["pressure"]
        self.assertEqual(found(made, "first_puff"), {})
        self.assertEqual({c["grade"] for c in assess(check_document(made))["cylinders"]}, {"U"})

    def test_they_get_little_weight_and_the_user_is_told(self):
        said = assess(check_document(self.puffs(90, 91, 60, 92)))
        rings = next(f for f in said["cylinders"][2]["faults"] if f["fault"] == "ring-sealing")
        weights = [one["weight"] for one in rings["because"] if "first puff" in one["finding"]]
        self.assertTrue(0 < weights[0] < 1)
        self.assertIn("first-puff", [one["code"] for one in said["warnings"]])


class ListTests(TestCase):
    def test_a_list_speaks_of_what_it_names_and_of_what_its_clean_excludes(self):
        made = document(1, "single")
        made["cylinders"] = [{"number": 1, "boot": ["cracked"]}]
        self.assertEqual(found(made, "boot:cracked"), {1: "yes"})
        self.assertEqual(found(made, "boot:tracked"), {})
        made["cylinders"] = [{"number": 1, "boot": ["clean"]}]
        self.assertEqual(found(made, "boot:tracked"), {1: "no"})
        self.assertEqual(found(made, "boot:brittle"), {})  # That is felt, not seen.

    def test_a_list_that_was_left_empty_says_nothing(self):
        made = document(1, "single")
        made["cylinders"] = [{"number": 1, "boot": []}]
        self.assertEqual(found(made, "boot:tracked"), {})
