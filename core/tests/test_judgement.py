"""What is made of the probabilities: sentence, plug, key and money; common practice, no source."""

from unittest import TestCase

from core.document import check_document
from core.telling import assess
from core.tests.documents import SOUND_PLUG, compression, document, grade_of, plugs, quantity

WORN = {"centre_electrode": "rounded", "ground_electrode": "rounded"}
EVEN = {"compression": [compression([150, 148, 151, 149])]}


def judged(*each, tests=EVEN, **parts):
    made = document(len(each) or 4, fuel_system="port", ignition="coil-on-plug")
    made["cylinders"] = plugs(*each)
    return assess(check_document({**made, "tests": tests, **parts}), explain=False, advise=False)


class DegreeTests(TestCase):
    """Degree matters: just past the threshold is watched, a gross leak is opened for."""

    def grades(self, *values, **tests):
        tests = {"compression": [compression(list(values))], **tests}
        said = judged(*[SOUND_PLUG] * 4, tests=tests)
        return [grade_of(said, number) for number in range(1, 5)]

    def test_an_eighth_under_the_others_is_watched_and_a_quarter_is_opened_for(self):
        # The schools part between a tenth and a quarter under the best.
        self.assertEqual(self.grades(150, 149, 130, 151)[2], "C")
        self.assertEqual(self.grades(150, 149, 112, 151)[2], "D")

    def test_what_a_leak_down_found_too_is_no_passing_thing(self):
        held = [{"cylinder": n, "percent": 40 if n == 3 else 6} for n in range(1, 5)]
        self.assertEqual(self.grades(150, 149, 130, 151, leakdown=[{"readings": held}])[2], "D")


class PlugTests(TestCase):
    def test_the_plugs_own_look_decides(self):
        for look, action in (
            ({}, "keep"),
            ({"deposit_colour": "black", "deposit_amount": "heavy"}, "clean"),
            ({"deposit_colour": "black", "deposit_amount": "light"}, "keep"),
            ({"wetness": "wet", "wet_with": "oil"}, "clean"),
            ({"wetness": "wet", "wet_with": "fuel"}, "clean"),
            ({"deposit_texture": "crust", "deposit_amount": "heavy"}, "replace"),
            ({"deposit_texture": "blistered", "deposit_colour": "white"}, "replace"),
            ({"deposit_texture": "speckled"}, "replace"),
            ({"insulator": "flashover"}, "replace"),
            ({"ground_electrode": "missing"}, "replace"),
            ({"gap_bridged": True}, "regap"),
            (WORN, "replace"),
            ({"threads": ["damaged"]}, "replace"),
        ):
            said = judged({**SOUND_PLUG, **look}, *[SOUND_PLUG] * 3)["cylinders"][0]
            with self.subTest(look=look):
                self.assertEqual(said["plug_action"], action, said["plug_reason"])
                self.assertTrue(said["plug_reason"])

    def test_age_the_house_and_what_nobody_knows(self):
        far = {"plug_distance": quantity(170_000, "km")}
        for parts, action in (
            ({"inspection": far}, "replace"),  # Overdue by any measure, though none was given.
            ({"inspection": far, "house_rules": {"plugs": "by-condition"}}, "keep"),
            ({"inspection": {"history": "unknown"}}, "replace"),
            ({"house_rules": {"plugs": "replace-when-out"}}, "replace"),
        ):
            said = judged(*[SOUND_PLUG] * 4, **parts)["cylinders"][0]
            with self.subTest(parts=parts):
                self.assertEqual(said["plug_action"], action)

    def test_one_rounded_edge_that_is_renewed_is_wear_and_is_said(self):
        said = judged(SOUND_PLUG, {**SOUND_PLUG, "centre_electrode": "rounded"}, *[SOUND_PLUG] * 2)
        self.assertEqual(grade_of(said, 2), "B")
        self.assertIn("wear", said["engine"]["verdict"])
        self.assertGreater(said["engine"]["work"]["expected_cost"], 0)


class RunningTests(TestCase):
    def test_each_hazard_is_named_for_what_it_is(self):
        for look, hazard, answer in (
            ({"ground_electrode": "missing"}, "loose-piece", "no"),
            ({"seating": "loose", "outside": ["exhaust-stained"]}, "plug-ejection", "no"),
            (WORN, "wear", "yes"),
            ({"centre_electrode": "melted"}, "seizure", "with-care"),
        ):
            said = judged({**SOUND_PLUG, **look}, *[SOUND_PLUG] * 3)
            runs = said["engine"]["may_run"]
            with self.subTest(hazard=hazard):
                self.assertEqual((runs["answer"], runs["hazards"][0]["hazard"]), (answer, hazard))
                self.assertEqual(runs["hazards"][0]["cylinders"], [1])
                if answer == "no":
                    self.assertNotIn(grade_of(said, 1), "AB")
                    self.assertNotIn(said["engine"]["grade"], "AB")

    def test_a_piece_that_is_accounted_for_no_longer_forbids(self):
        made = {**SOUND_PLUG, "ground_electrode": "missing"}
        piece = {"id": "p1", "cylinder": 1, "what": "ground-electrode", "state": "found"}
        said = judged(made, *[SOUND_PLUG] * 3, work={"pieces": [piece]})
        named = [one["hazard"] for one in said["engine"]["may_run"]["hazards"]]
        self.assertNotIn("loose-piece", named)

    def test_soot_is_no_burning_leak_and_a_leak_is(self):
        sooty = {**SOUND_PLUG, "deposit_colour": "black", "deposit_amount": "heavy"}
        self.assertNotIn("burns itself", str(judged(*[sooty] * 4)["engine"]["may_run"]))
        heard = {"readings": [{"cylinder": n, "percent": 50 if n == 2 else 5,
                               "escapes": ["exhaust" if n == 2 else "none"]}
                              for n in (1, 2, 3, 4)]}  # fmt: skip
        said = judged(*[SOUND_PLUG] * 4, tests={**EVEN, "leakdown": [heard]})
        if "contradiction" not in {one["code"] for one in said["warnings"]}:
            self.assertIn("burns itself", said["engine"]["may_run"]["reason"])


class VerdictTests(TestCase):
    def test_a_worn_plug_hides_no_leak(self):
        low = {"compression": [compression([150, 90, 151, 149])]}
        said = judged(SOUND_PLUG, {**SOUND_PLUG, **WORN}, SOUND_PLUG, SOUND_PLUG, tests=low)
        verdict = said["engine"]["verdict"]
        self.assertIn("loses pressure", verdict)
        self.assertLess(verdict.index("loses pressure"), verdict.index("wear on its electrodes"))
        runs = said["engine"]["may_run"]
        self.assertEqual(runs["answer"], "with-care")
        self.assertIn("wear", [one["hazard"] for one in runs["hazards"]])

    def test_no_repair_beside_no_fault_found_and_what_is_seen_is_said(self):
        for look in ({"insulator": "cracked-nose"}, {"centre_electrode": "melted"}):
            said = judged({**SOUND_PLUG, **look}, *[SOUND_PLUG] * 3)
            self.assertNotIn("No fault found", said["engine"]["verdict"])
            self.assertIn("Cylinder 1: its", said["engine"]["verdict"])

    def test_a_gasket_is_said_once(self):
        low = {"compression": [compression([150, 80, 78, 149])]}
        verdict = judged(*[SOUND_PLUG] * 4, tests=low)["engine"]["verdict"]
        self.assertEqual(verdict.count("gasket"), 1)

    def test_a_carburettor_is_named(self):
        sooty = {**SOUND_PLUG, "deposit_colour": "black", "deposit_amount": "heavy"}
        made = document(
            4, fuel_system="carburettor",
            feeds=[{"name": "front", "cylinders": [1, 2]}, {"name": "rear", "cylinders": [3, 4]}],
        )  # fmt: skip
        made["cylinders"] = plugs(sooty, sooty, SOUND_PLUG, SOUND_PLUG)
        said = assess(check_document({**made, "tests": EVEN}), advise=False)
        self.assertIn("fed by front", said["engine"]["verdict"])
        first = said["shared"][0]
        self.assertEqual((first["scope"], first["cylinders"]), ("feed", [1, 2]))
        self.assertTrue(first["because"])


class MoneyTests(TestCase):
    def test_only_what_was_found_costs_and_the_rest_stands_apart(self):
        empty = assess(check_document(document(8, "vee")), explain=False)["engine"]["work"]
        self.assertEqual((empty["expected_cost"], empty["bad_luck_cost"]), (0, 0))
        self.assertGreater(empty["unexamined"]["bad_luck_cost"], 0)
        sound = judged(*[SOUND_PLUG] * 4)["engine"]["work"]
        self.assertEqual((sound["expected_cost"], sound["bad_luck_cost"]), (0, 0))

    def test_a_plug_costs_a_plug_and_a_thread_more_than_the_job(self):
        plugs_only = judged(*[WORN] * 4)["engine"]["work"]
        self.assertLess(plugs_only["bad_luck_cost"], 400)
        self.assertGreater(plugs_only["expected_cost"], 0)
        thread = judged({**SOUND_PLUG, "threads": ["damaged"]}, *[SOUND_PLUG] * 3)["engine"]["work"]
        self.assertGreater(thread["expected_cost"], 2 * plugs_only["expected_cost"])

    def test_one_head_off_serves_all_its_valves(self):
        def leaking(*low):
            psi = [80 if number in low else 150 for number in range(1, 5)]
            told = [{"cylinder": number, "percent": 55, "escapes": ["exhaust"]} for number in low]
            tests = {"compression": [compression(psi)], "leakdown": [{"id": "l", "readings": told}]}
            return judged(*[SOUND_PLUG] * 4, tests=tests)["engine"]["work"]["expected_hours"]

        self.assertGreater(leaking(1), 8)
        self.assertLess(leaking(1, 3), 1.5 * leaking(1))

    def test_a_house_prices_an_act_or_a_whole_class(self):
        plain = judged(*[WORN] * 4)["engine"]["work"]["expected_hours"]
        for prices in ({"plug": {"hours": 2}}, {"plug-service": {"hours": 8}}):
            own = judged(*[WORN] * 4, house_rules={"prices": prices})["engine"]["work"]
            with self.subTest(prices=prices):
                self.assertAlmostEqual(own["expected_hours"], 8, delta=0.5)
                self.assertGreater(own["expected_hours"], plain)


class SeenTests(TestCase):
    """What is read on a part that all share is named, and what was seen is said once."""

    def test_timing_read_far_early_is_the_fault_and_forbids_load(self):
        made = document(
            4, fuel_system="carburettor", ignition="distributor", trigger="points",
            specification={"timing_deg_btdc": 8},
        )  # fmt: skip
        made["distributor"] = {"timing_deg_btdc": 20}
        said = assess(check_document(made), explain=False, advise=False)["engine"]
        self.assertIn("gnition timing", said["verdict"])
        self.assertEqual((said["grade"], said["may_run"]["answer"]), ("D", "with-care"))
        self.assertIn("not under load", said["may_run"]["reason"])

    def test_a_bridged_gap_stops_its_cylinder_and_is_said_once(self):
        said = judged({**SOUND_PLUG, "gap_bridged": True}, *[SOUND_PLUG] * 3)
        self.assertEqual(said["cylinders"][0]["grade"], "D")
        self.assertEqual(said["engine"]["verdict"].count("bridged"), 1, said["engine"]["verdict"])

    def test_a_complaint_of_heat_is_no_proof_of_a_lean_mixture(self):
        made = document(4, fuel_system="carburettor")
        made["inspection"] = {"complaints": ["knock", "overheating"]}
        said = assess(check_document(made), explain=False, advise=False)
        lean = next(one for one in said["shared"] if one["fault"] == "mixture-lean")
        self.assertLess(lean["probability"], 0.15)
