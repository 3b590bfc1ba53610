"""Ten jobs as a rebuilder would tell them, and what one list of claims owes to each view of it.

Common practice, no source. Each expectation was written before the rules that meet it.
"""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from core.assessment import Assessment
from core.document import check_document
from core.document.records import Document
from core.planning import work_order
from core.telling import assess, client_answer
from core.tests.documents import SOUND_PLUG, compression, document, plugs, quantity
from core.tests.panel import CARBURETTED, FUEL_WET, INJECTED, SMALL_TWO_STROKE, TAN, engine

EVEN = [150, 148, 151, 149]
ROUNDED = {**TAN, "centre_electrode": "rounded", "ground_electrode": "rounded"}
DRIVEN = {
    "start": "at-once", "beat": "even", "codes": "stay-clear", "drive": True,
    "complaint": "gone", "follow_up": "2026-12-20",
}  # fmt: skip


class Told:
    """Everything that is said of a record."""

    def __init__(self, made: dict[str, Any]) -> None:
        self.checked = check_document(made)
        self.said = assess(self.checked, explain=False)
        self.engine = self.said["engine"]
        self.verdict = self.engine["verdict"]
        self.claims = self.engine["claims"]
        self.page = client_answer(Document.of(self.checked), Assessment.of(self.said))
        self.plan = work_order(self.checked, assessed=self.said)
        self.tests = [one["test"] for one in self.said["next_tests"]]

    def of(self, cylinder: int) -> dict[str, Any]:
        return self.said["cylinders"][cylinder - 1]

    def claim(self, cylinder: int, fault: str = "") -> dict[str, Any]:
        return next(
            one
            for one in self.claims
            if cylinder in one["cylinders"] and (not fault or fault in one["faults"])
        )

    @property
    def left(self) -> dict[str, Any]:
        return self.engine["as_left"]


def told(*each: dict[str, Any], psi: Any = None, **parts: Any) -> Told:
    made = engine(len(each), *each, **{**INJECTED, **parts.pop("described", {})})
    tests = parts.pop("tests", {})
    if psi is not None:
        tests = {"compression": [compression(list(psi))], **tests}
    return Told({**made, **({"tests": tests} if tests else {}), **parts})


class CodeTests(TestCase):
    """A code on one cylinder: it is answered first, and nobody unread stands before it."""

    def test_the_first_sentence_answers_the_code(self):
        said = told(
            TAN, TAN, FUEL_WET, TAN, psi=EVEN,
            inspection={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests={"swap": [{"part": "coil", "from": 3, "to": 1, "result": "moved"}]},
        )  # fmt: skip
        question = said.engine["question"]
        self.assertEqual((question["state"], question["cylinders"]), ("answered", [3]))
        self.assertTrue(said.verdict.startswith(question["text"]), said.verdict)
        for word in ("isfire", "P0303", "3", "spark"):
            self.assertIn(word, question["text"])
        self.assertIn("isfire", said.page.answer.split(". ")[0])
        self.assertEqual(said.engine["most_suspect"][0], 3)

    def test_a_coded_cylinder_that_nobody_read_is_named_and_read_next(self):
        made = engine(6, TAN, TAN, None, TAN, TAN, TAN, **INJECTED)
        made["inspection"] = {"trouble_codes": ["P0303"]}
        said = Told(made)
        self.assertEqual(said.engine["question"]["state"], "open")
        self.assertIn("P0303", said.verdict.split(". ")[0])
        self.assertEqual(said.said["next_tests"][0]["cylinders"][0], 3)
        self.assertFalse(said.of(3)["examined"])

    def test_one_high_level_code_is_not_answered_by_a_worn_plug_elsewhere(self):
        said = told(ROUNDED, TAN, TAN, TAN, psi=EVEN, inspection={"trouble_codes": ["P0304"]})
        self.assertEqual(said.engine["question"]["state"], "open")

    def test_two_things_at_once_are_warned_of_and_the_swap_that_parts_them_is_named(self):
        said = told(
            TAN, TAN, {**FUEL_WET, "insulator": "cracked-nose"}, TAN, psi=EVEN,
            inspection={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests={"spark": [{"cylinder": 3, "result": "weak", "condition": "tester"}]},
        )  # fmt: skip
        text = " ".join(one["reason"] for one in said.said["next_tests"])
        self.assertIn("nobody will know", text)
        self.assertIn("swap", text)


class ComplaintTests(TestCase):
    def test_a_complaint_that_was_not_there_today_is_open_and_nothing_is_called_sound(self):
        said = told(
            TAN, TAN, TAN, TAN, psi=EVEN,
            inspection={"complaints": ["misfire"], "fine_today": True},
        )  # fmt: skip
        question = said.engine["question"]
        self.assertEqual((question["today"], question["state"]), ("not-shown", "open"))
        self.assertNotIn(said.engine["grade"], "AB")

    def test_an_engine_on_its_stand_is_not_tried_and_not_told_to_run(self):
        said = told(
            TAN, TAN, TAN, {**TAN, "centre_electrode": "rounded"}, psi=EVEN,
            inspection={"complaints": ["misfire"], "engine_place": "stand"},
        )  # fmt: skip
        self.assertEqual(said.engine["question"]["today"], "not-tried")
        self.assertNotIn("may run", said.engine["may_run"]["reason"])
        self.assertFalse({"balance", "renew-plugs", "swap-plug"} & set(said.tests))

    def test_what_shut_the_gap_is_the_cheapest_cause_and_is_taken_out_first(self):
        said = told(
            {**FUEL_WET, "gap_bridged": True}, psi=[120], described=SMALL_TWO_STROKE,
            inspection={"complaints": ["stopped-running"]},
        )  # fmt: skip
        self.assertEqual(said.engine["question"]["state"], "answered")
        self.assertEqual(said.tests[0], "set-gap")
        self.assertNotIn("sump", said.engine["may_run"]["reason"])
        self.assertNotIn("catalyst", said.engine["may_run"]["reason"])

    def test_pitted_points_are_seen_to_before_anything_else(self):
        made = engine(
            4, *[TAN] * 4, trigger="points", tests={"compression": [compression(EVEN)]},
            job={"complaints": ["misfire"]}, points={"points": "pitted"}, **CARBURETTED,
        )  # fmt: skip
        said = Told(made)
        self.assertIn("points", said.verdict)
        self.assertEqual(said.tests[0], "points")


class SaleTests(TestCase):
    """Before a sale: equal cylinders are one sentence, what nobody looked at is nobody's praise."""

    def test_a_sound_engine_is_one_sentence(self):
        said = told(TAN, TAN, TAN, TAN, psi=EVEN, inspection={"purpose": "pre-purchase"})
        self.assertEqual((said.engine["grade"], said.claims), ("A", []))
        self.assertEqual(said.engine["question"]["state"], "none")
        self.assertEqual(said.verdict.count("."), 1)

    def test_nothing_is_praised_that_is_named(self):
        said = told(TAN, {**TAN, "centre_electrode": "rounded"}, TAN, TAN, psi=EVEN)
        self.assertEqual(said.of(2)["grade"], "B")
        self.assertNotIn("All four", said.page.others)

    def test_two_low_neighbours_cost_at_least_what_one_does(self):
        one = told(TAN, TAN, TAN, TAN, psi=[150, 82, 151, 149])
        two = told(TAN, TAN, TAN, TAN, psi=[150, 82, 80, 149])
        for figure in ("expected_cost", "bad_luck_cost"):
            self.assertGreaterEqual(two.engine["work"][figure], 0.97 * one.engine["work"][figure])

    def test_degree_is_in_the_sentence(self):
        lost = [{"cylinder": n, "percent": 34 if n == 2 else 5} for n in range(1, 5)]
        said = told(TAN, TAN, TAN, TAN, tests={"leakdown": [{"readings": lost}]})
        self.assertIn("34 %", said.verdict)
        self.assertIn("34 %", said.claim(2)["figure"])

    def test_one_good_reading_does_not_clear_three_bad_ones(self):
        said = told(TAN, TAN, TAN, TAN, psi=[180, 100, 95, 98])
        for number in (2, 3, 4):
            self.assertIn(said.of(number)["grade"], "CD")
        self.assertNotIn("No fault found", said.verdict)

    def test_air_past_the_printed_limit_is_watched_whatever_the_model_says(self):
        lost = [{"cylinder": n, "percent": 28 if n == 3 else 22} for n in range(1, 5)]
        said = told(
            TAN, TAN, TAN, TAN, psi=EVEN, tests={"leakdown": [{"readings": lost}]},
        )  # fmt: skip
        self.assertNotIn(said.of(3)["grade"], "AB")
        self.assertIn("rule", {one["basis"] for one in said.claims if 3 in one["cylinders"]})

    def test_six_cylinders_of_a_sound_vee_are_no_repair_by_a_share_of_nothing(self):
        banks = [
            {"name": "left", "cylinders": [1, 3, 5]},
            {"name": "right", "cylinders": [2, 4, 6]},
        ]
        soot = {**TAN, "deposit_colour": "black", "deposit_texture": "powder",
                "deposit_amount": "light"}  # fmt: skip
        said = told(
            *[soot] * 6, psi=[180, 178, 182, 179, 181, 180],
            described={"layout": "vee", "banks": banks, "fuel_system": "direct"},
        )  # fmt: skip
        for number in range(1, 7):
            self.assertIn(said.of(number)["grade"], "AB")


class SeenTests(TestCase):
    """What was seen holds whatever the numbers say, until it was looked at again or put right."""

    LOOKS = (
        ({"plug": {**TAN, "wet_with": "coolant", "wetness": "damp"}}, "coolant", "E", "no"),
        ({"borescope": {"coolant_trace": True}}, "coolant", "E", "no"),
        ({"plug": {**TAN, "deposit_texture": "speckled"}}, "metal", "CD", "with-care"),
        ({"plug": {**TAN, "centre_electrode": "eroded"}}, "electrode", "CD", "with-care"),
        ({"plug": {**TAN, "ground_electrode": "melted"}}, "melted", "CD", "with-care"),
        ({"borescope": {"crown": "damaged"}}, "crown", "E", "no"),
        ({"borescope": {"bore": "scored"}}, "scored", "D", "with-care"),
        ({"borescope": {"valves": "burnt-edge"}}, "burnt", "D", "with-care"),
        ({"plug": {**TAN, "seating": "loose"}}, "loose", "DE", "no"),
        ({"plug": {**TAN, "seating": "seized"}}, "seized", "BC", ""),
        ({"plug": {**TAN, "insulator": "cracked-body"}}, "cracked", "CD", ""),
        ({"plug": {**TAN, "ground_electrode": "missing"}}, "strap", "E", "no"),
        ({"plug": {**TAN, "ground_electrode": "bent"}}, "strap", "BCD", ""),
        ({"boot": ["cracked"]}, "boot", "BC", ""),
        ({"boot": ["tracked"]}, "boot", "BC", ""),
        ({"boot": ["seal-torn", "oily"]}, "seal", "B", ""),
        ({"well": {"debris": "heavy"}}, "well", "BCU", ""),
        ({"coil": ["cracked"]}, "coil", "BC", ""),
    )

    def test_whatever_is_handsome_beside_it(self):
        for record, word, grades, runs in self.LOOKS:
            made = engine(
                4, *[TAN] * 4, records=[{"number": 2, "plug": TAN, **record}],
                tests={"compression": [compression(EVEN)]}, **INJECTED,
            )  # fmt: skip
            said = Told(made)
            with self.subTest(record=record):
                self.assertIn(word, said.verdict)
                self.assertIn(said.of(2)["grade"], grades)
                self.assertIn(2, said.engine["most_suspect"])
                if runs:
                    self.assertEqual(said.engine["may_run"]["answer"], runs)

    def test_a_piece_that_is_found_and_a_clean_crown_lift_it(self):
        strap = {**TAN, "ground_electrode": "missing"}
        piece = {"id": "p", "cylinder": 2, "what": "ground-electrode", "state": "found"}
        held = told(TAN, strap, TAN, TAN, psi=EVEN)
        lifted = told(TAN, strap, TAN, TAN, psi=EVEN, work={"pieces": [piece]})
        self.assertEqual((held.of(2)["grade"], held.engine["may_run"]["answer"]), ("E", "no"))
        self.assertNotEqual(lifted.of(2)["grade"], "E")
        hazards = {one["hazard"] for one in lifted.engine["may_run"]["hazards"]}
        self.assertNotIn("loose-piece", hazards)
        metal = {**TAN, "deposit_texture": "speckled"}
        made = engine(4, TAN, metal, TAN, TAN, tests={"compression": [compression(EVEN)]})
        first = Told(made)
        made["cylinders"][1]["borescope"] = {"crown": "dry-carbon"}
        clean = Told(made)
        self.assertIn(first.tests[0], ("borescope",))
        self.assertLess(clean.of(2)["grade"], first.of(2)["grade"])

    def test_coolant_is_called_coolant_on_the_plug_too(self):
        said = told(TAN, {**TAN, "wet_with": "coolant", "wetness": "wet"}, TAN, TAN)
        self.assertIn("coolant", said.of(2)["plug_reason"])
        self.assertNotIn("crust", said.of(2)["plug_reason"])

    def test_a_reading_that_was_disqualified_is_asked_for_first_and_clears_nobody(self):
        test = compression([90, 148, 151, 149])
        test["readings"][0]["quality"] = "seal-leak"
        made = engine(4, tests={"compression": [test]}, **INJECTED)
        said = Told(made)
        again = [one["path"] for one in said.engine["read_again"]]
        self.assertTrue(any("/readings/1" in one for one in again))
        self.assertEqual(said.of(1)["grade"], "U")
        self.assertEqual((said.tests[0], said.said["next_tests"][0]["cylinders"]),
                         ("compression", [1]))  # fmt: skip
        self.assertEqual(said.engine["coverage"]["pressures"], 3)
        school = next(one for one in said.said["compression"]["rules"] if one["decides"])
        self.assertEqual(school["verdict"], "pass")
        self.assertNotIn("1:", said.page.pressures)


class ProofTests(TestCase):
    """A repair is proved by what it came with."""

    TESTER = {"id": "l", "supply": quantity(80, "psi"), "restrictor": quantity(0.04, "in")}
    HEARD = {"cylinder": 3, "percent": 55, "escapes": ["exhaust"]}
    TIGHT = [{"cylinder": n, "percent": 5, "escapes": ["none"]} for n in (1, 2, 4)]
    LEAK = [{**TESTER, "readings": [HEARD, *TIGHT]}]

    def valve(self, proof, **more):
        repair = {"id": "r", "part": "exhaust-valve", "action": "renewed", "cylinders": [3]}
        return told(
            TAN, TAN, TAN, TAN, psi=[150, 148, 80, 149], tests={"leakdown": self.LEAK},
            inspection={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            refit={"repairs": [repair]}, proof=proof, **more,
        )  # fmt: skip

    def test_passed_it_closes_the_case(self):
        tight = [{"cylinder": 3, "pressure": quantity(147, "psi"), "percent": 6}]
        said = self.valve({**DRIVEN, "cylinders": tight})
        self.assertEqual((said.left["proof"]["state"], said.left["grade"]), ("passed", "A"))
        self.assertEqual(said.tests, [])
        self.assertTrue(all("2026-12-20" in one for one in said.left["open"]), said.left["open"])

    def test_opened_and_not_read_again_is_not_proved(self):
        said = self.valve({"start": "at-once", "beat": "even"})
        self.assertEqual(said.left["proof"]["state"], "not-yet")
        self.assertNotIn(said.left["grade"], "AB")
        self.assertNotIn("No fault found", said.left["verdict"])

    def test_what_went_wrong_fails_it(self):
        for wrong in (
            {"start": "no"}, {"beat": "uneven"}, {"codes": "came-back"}, {"complaint": "same"},
            {"complaint": "worse"},
        ):  # fmt: skip
            said = self.valve({**DRIVEN, **wrong})
            with self.subTest(wrong=wrong):
                self.assertEqual(said.left["proof"]["state"], "failed")
                self.assertIn(said.left["grade"], "CDE")

    def test_half_done_is_no_proof(self):
        tight = [{"cylinder": 3, "pressure": quantity(147, "psi"), "percent": 6}]
        removed = {"removed": [{"id": "x", "what": "hose", "back": False}]}
        said = self.valve({**DRIVEN, "cylinders": tight}, work=removed)
        self.assertNotEqual(said.left["proof"]["state"], "passed")
        self.assertNotEqual(said.left["grade"], "A")

    def test_every_cylinder_of_a_repair_counts(self):
        repair = {"id": "r", "part": "rings", "action": "renewed", "cylinders": [2, 3]}
        read = [{"cylinder": 2, "pressure": quantity(149, "psi")}]
        said = told(
            TAN, TAN, TAN, TAN, psi=[150, 80, 82, 149], refit={"repairs": [repair]},
            proof={**DRIVEN, "cylinders": read},
        )  # fmt: skip
        self.assertNotEqual(said.left["proof"]["state"], "passed")
        self.assertTrue(any("3" in one for one in said.left["open"]))

    def test_the_proof_inherits_how_the_first_test_was_made(self):
        tight = [{"cylinder": 3, "percent": 8, "pressure": quantity(147, "psi")}]
        said = self.valve({**DRIVEN, "cylinders": tight})
        own = next(f for f in said.of(3)["as_left"]["faults"]
                   if f["fault"] == "exhaust-valve-sealing")  # fmt: skip
        self.assertLess(own["probability"], 0.05)

    def test_a_slip_left_standing_keeps_it_from_the_best_grade(self):
        torques = {1: 18, 2: 180, 3: 18, 4: 18}
        done = {"fitted": True, "torqued": True}
        fitted = [
            {"cylinder": n, **done, "torque": quantity(nm, "N.m")} for n, nm in torques.items()
        ]
        said = told(
            ROUNDED, ROUNDED, ROUNDED, ROUNDED, psi=EVEN,
            described={"specification": {"torque_new": quantity(18, "N.m")}},
            refit={"cylinders": fitted}, proof={"start": "at-once", "beat": "even"},
        )  # fmt: skip
        self.assertNotEqual(said.left["grade"], "A")
        self.assertNotEqual(said.left["proof"]["state"], "passed")


class TwiceTests(TestCase):
    def test_what_was_typed_three_times_was_read_once(self):
        swap = {"id": "s", "part": "coil", "from": 2, "to": 3, "result": "moved"}
        read = {**compression([150, 128, 151, 149]), "id": "a"}
        tests = {"compression": [read], "swap": [swap]}
        again = {
            name: [{**one, "id": f"{one['id']}{at}"} for at in range(3) for one in items]
            for name, items in tests.items()
        }
        once, thrice = (told(TAN, TAN, TAN, TAN, tests=one) for one in (tests, again))
        self.assertEqual(
            [one["faults"] for one in once.said["cylinders"]],
            [one["faults"] for one in thrice.said["cylinders"]],
        )


class OverdueTests(TestCase):
    SPECIFIED = {"specification": {"plug_interval": quantity(60_000, "km"),
                                   "plug_interval_years": 4}}  # fmt: skip

    def test_a_set_past_its_interval_is_one_group_said_first(self):
        for job in (
            {"plug_distance": quantity(90_000, "km")},
            {"first_set": True, "odometer": quantity(90_000, "km")},
            {"plug_years": 9},
        ):
            said = told(TAN, TAN, TAN, TAN, psi=EVEN, described=self.SPECIFIED, inspection=job)
            with self.subTest(job=job):
                claim = said.claims[0]
                self.assertEqual(claim["cylinders"], [1, 2, 3, 4])
                self.assertIn("interval", said.verdict.split(". ")[0])
                self.assertEqual(
                    {one["plug_action"] for one in said.said["cylinders"]}, {"replace"}
                )
                self.assertIn("interval", " ".join((said.page.answer, *said.page.behind)))

    def test_the_odometer_alone_asks_whether_they_are_the_first(self):
        said = told(
            TAN, TAN, TAN, TAN, described=self.SPECIFIED,
            inspection={"odometer": quantity(90_000, "km")},
        )  # fmt: skip
        text = " ".join(one["text"] for one in said.said["warnings"])
        self.assertIn("first set", text)


class SingleTests(TestCase):
    def test_a_single_is_spoken_of_as_one(self):
        said = told(
            {**TAN, "deposit_colour": "black", "deposit_texture": "powder",
             "deposit_amount": "heavy"}, psi=[120],
            described={"cooling": "air", **CARBURETTED}, inspection={"complaints": ["black-smoke"]},
        )  # fmt: skip
        text = " ".join([said.verdict, said.page.others, *said.page.behind,
                         *(one["reason"] for one in said.said["next_tests"])])  # fmt: skip
        for peers in ("peers", "all of them", "All cylinders", "the others", "whole engine"):
            self.assertNotIn(peers, text)

    def test_what_says_nothing_is_not_said(self):
        made = {**document(4, aspiration="natural"), "cylinders": plugs(*[SOUND_PLUG] * 4)}
        self.assertNotIn("breathes", str(Told(made).said["warnings"]))


class GapTests(TestCase):
    def test_a_gap_too_wide_on_square_electrodes_is_a_gap(self):
        square = {**TAN, "centre_electrode": "square", "ground_electrode": "square"}
        wide = {**square, "gap": quantity(1.5, "mm")}
        said = told(
            square, wide, square, square, psi=EVEN,
            described={"specification": {"gap_min": quantity(0.9, "mm"),
                                         "gap_max": quantity(1.0, "mm")}},
        )  # fmt: skip
        self.assertEqual(said.of(2)["plug_action"], "regap")
        self.assertIn("gap", said.verdict)
        self.assertNotIn("worn", said.verdict)


class TeardownTests(TestCase):
    def test_of_an_engine_that_is_to_be_opened_nothing_is_said_about_running(self):
        said = told(TAN, TAN, TAN, TAN, psi=[150, 148, 70, 149], inspection={"purpose": "rebuild"})
        self.assertNotIn("may run", said.engine["may_run"]["reason"])
        self.assertNotIn("watched", said.engine["may_run"]["reason"])
        self.assertIn(3, said.engine["most_suspect"])


class PlanTests(TestCase):
    def test_the_plan_holds_the_acts_with_their_minutes_and_nothing_that_is_forbidden(self):
        said = told(TAN, {**TAN, "ground_electrode": "missing"}, TAN, TAN)
        acts = [one["test"] for one in said.plan["acts"]]
        self.assertEqual(acts, said.tests)
        self.assertTrue(all(one["minutes"] > 0 for one in said.plan["acts"]))
        barred = {one["id"] for one in said.plan["steps"] if one["state"] == "barred"}
        self.assertIn("compression", " ".join(barred))
