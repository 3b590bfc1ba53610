"""As found and as left are two verdicts; common practice, no source."""

from typing import Any
from unittest import TestCase

from core.document import check_document
from core.telling import assess
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, compression, document, plugs, quantity

WORN = {**SOUND_PLUG, "centre_electrode": "rounded", "ground_electrode": "rounded"}
WET = {**SOUND_PLUG, "wetness": "wet", "wet_with": "fuel"}
MISFIRES = {"complaints": ["misfire"], "trouble_codes": ["P0303"]}
GONE = {
    "start": "at-once", "beat": "even", "codes": "stay-clear", "drive": True,
    "complaint": "gone", "follow_up": "2026-12-20",
}  # fmt: skip
SAME = {**GONE, "complaint": "same", "codes": "came-back"}
EVEN = {"compression": [compression([150, 148, 151, 149])]}
LEAKS = {
    "compression": [compression([150, 148, 80, 149])],
    "leakdown": [{"id": "l", "readings": [{"cylinder": 3, "percent": 55, "escapes": ["exhaust"]}]}],
}


def found(*each: dict[str, Any], tests: Any = EVEN, **parts: Any) -> dict[str, Any]:
    made = document(len(each), fuel_system="port", ignition="coil-on-plug")
    made["cylinders"] = plugs(*each)
    return assess(check_document({**made, "tests": tests, **parts}), explain=False)


def third(*, plug: dict[str, Any] = SOUND_PLUG, **parts: Any) -> dict[str, Any]:
    return found(SOUND_PLUG, SOUND_PLUG, plug, SOUND_PLUG, **parts)


def repaired(part: str, *cylinders: int) -> dict[str, Any]:
    one = {"id": "r", "part": part, "action": "renewed", "cylinders": list(cylinders)}
    return {"repairs": [one if cylinders else {k: one[k] for k in one if k != "cylinders"}]}


def fitted(*cylinders: int, **more: Any) -> dict[str, Any]:
    return {
        "cylinders": [
            {"cylinder": number, "fitted": True, "torqued": True, **more} for number in cylinders
        ]
    }


def left(said: dict[str, Any], fault: str, cylinder: int = 3) -> float:
    faults = said["cylinders"][cylinder - 1]["as_left"]["faults"]
    return next(one["probability"] for one in faults if one["fault"] == fault)


def as_found(said: dict[str, Any], fault: str, cylinder: int = 3) -> float:
    faults = said["cylinders"][cylinder - 1]["faults"]
    return next(one["probability"] for one in faults if one["fault"] == fault)


class AsLeftTests(TestCase):
    def test_a_cylinder_that_nobody_touched_keeps_its_grade(self):
        tests = {"compression": [compression([150, 149, 130, 151])]}
        repairs = [{"id": "r", "part": "points", "action": "set"}]
        said = found(*[SOUND_PLUG] * 4, tests=tests, refit={"repairs": repairs})
        one = said["cylinders"][2]
        self.assertEqual((one["grade"], one["as_left"]["grade"]), ("C", "C"))

    def test_only_where_something_was_done_or_proved(self):
        self.assertNotIn("as_left", third()["engine"])
        self.assertNotIn("as_left", third()["cylinders"][0])

    def test_a_repair_fitted_driven_and_proved_is_no_longer_a_repair(self):
        tight = {**GONE, "cylinders": [{"cylinder": 3, "pressure": quantity(147, "psi")}]}
        for plug, tests, refit, proof in (
            (SOUND_PLUG, LEAKS, repaired("exhaust-valve", 3), tight),
            (WET, EVEN, repaired("coil", 3), GONE),
            (WORN, EVEN, fitted(3), GONE),
        ):
            said = third(plug=plug, tests=tests, inspection=MISFIRES, refit=refit, proof=proof)
            with self.subTest(refit=refit):
                self.assertIn(said["engine"]["grade"], "BCD")  # As it was found it stays.
                now = said["engine"]["as_left"]
                self.assertEqual(now["grade"], "A", now["verdict"])
                self.assertEqual(now["may_run"]["answer"], "yes")
                self.assertEqual(now["work"]["expected_cost"], 0)
                self.assertNotIn("compression", [one["test"] for one in said["next_tests"]])

    def test_what_was_not_touched_stays_as_it_was_found(self):
        said = third(tests=LEAKS, inspection=MISFIRES, refit=fitted(3))
        now = said["engine"]["as_left"]
        self.assertEqual(now["grade"], "D")
        self.assertGreater(left(said, "exhaust-valve-sealing"), 0.9)
        self.assertTrue(any("exhaust valve" in one for one in now["open"]), now["open"])

    def test_carrying_changes_nothing_where_nothing_is_heard(self):
        """The answer as found is the prior as left: no fault may move by being carried."""
        vee = document(6, layout="vee", fuel_system="carburettor", ignition="distributor")
        vee["engine"]["banks"] = [
            {"name": "left", "cylinders": [1, 3, 5]}, {"name": "right", "cylinders": [2, 4, 6]},
        ]  # fmt: skip
        vee["cylinders"] = plugs(SOOTY_PLUG, WET, SOOTY_PLUG, WORN, SOOTY_PLUG, WET)
        vee["tests"] = {"compression": [compression([140, 142, 80, 139, 85, 141])]}
        vee["proof"] = {"start": "at-once"}
        said = assess(check_document(vee), explain=False, advise=False)
        for one in said["cylinders"]:
            for fault in one["faults"]:
                with self.subTest(cylinder=one["number"], fault=fault["fault"]):
                    now = left(said, fault["fault"], one["number"])
                    self.assertAlmostEqual(now, fault["probability"], delta=0.002)

    def test_what_was_read_again_is_heard(self):
        again = [
            {"cylinder": number, "pressure": quantity(psi, "psi")}
            for number, psi in ((1, 150), (2, 147), (3, 82), (4, 150))
        ]
        low = {**GONE, "cylinders": again}
        said = third(tests=LEAKS, refit=repaired("exhaust-valve", 3), proof=low)
        leaks = sum(left(said, f"{valve}-valve-sealing") for valve in ("intake", "exhaust"))
        self.assertGreater(leaks + left(said, "ring-sealing"), 0.7)  # Something still leaks.
        self.assertEqual(said["engine"]["as_left"]["grade"], "D")
        tight = {"cylinder": 3, "pressure": quantity(148, "psi"), "percent": 6}
        said = third(tests=LEAKS, refit=fitted(3), proof={**GONE, "cylinders": [tight]})
        self.assertLess(left(said, "exhaust-valve-sealing"), 0.25)

    def test_a_complaint_that_went_speaks_for_what_alone_was_renewed(self):
        plain = third(plug=WET, inspection=MISFIRES)
        cured = third(plug=WET, inspection=MISFIRES, refit=repaired("coil", 3), proof=GONE)
        self.assertGreater(as_found(cured, "ignition-weak"), as_found(plain, "ignition-weak") + 0.2)
        both = {**repaired("coil", 3), **fitted(3)}
        said = third(plug=WET, inspection=MISFIRES, refit=both, proof=GONE)
        self.assertAlmostEqual(
            as_found(said, "ignition-weak"), as_found(plain, "ignition-weak"), delta=0.01
        )
        self.assertIn("nobody will know", said["engine"]["as_left"]["done"])

    def test_a_complaint_that_stays_looks_elsewhere(self):
        said = third(plug=WET, inspection=MISFIRES, refit=repaired("coil", 3), proof=SAME)
        self.assertLess(left(said, "ignition-weak"), as_found(said, "ignition-weak"))
        now = said["engine"]["as_left"]
        self.assertIn(now["grade"], "CD")
        self.assertIn("the complaint is as before", now["open"])

    def test_a_missing_piece_stays_missing_until_it_is_accounted_for(self):
        lost = {**SOUND_PLUG, "ground_electrode": "missing"}
        said = third(plug=lost, refit=fitted(3), proof=GONE)["engine"]["as_left"]
        self.assertEqual(said["may_run"]["answer"], "no")
        self.assertIn("a piece of the plug of 3 is missing", said["open"])
        piece = {"id": "p", "cylinder": 3, "what": "ground-electrode", "state": "found"}
        said = third(plug=lost, refit=fitted(3), proof=GONE, work={"pieces": [piece]})
        self.assertEqual(said["engine"]["as_left"]["may_run"]["answer"], "yes")

    def test_a_gap_that_was_set_needs_no_new_plug(self):
        wide = {**SOUND_PLUG, "gap": quantity(1.5, "mm")}
        limits = {"gap_min": quantity(0.8, "mm"), "gap_max": quantity(0.9, "mm")}
        made = document(4, specification=limits)
        made["cylinders"] = plugs(SOUND_PLUG, SOUND_PLUG, wide, SOUND_PLUG)
        made["refit"] = fitted(3, reused=True, plug={"gap": quantity(0.85, "mm")})
        said = assess(check_document({**made, "inspection": MISFIRES, "proof": GONE}))
        self.assertEqual(said["engine"]["as_left"]["grade"], "A", said["engine"]["as_left"])

    def test_what_all_share_is_put_right_for_all(self):
        sooty = [{**SOOTY_PLUG, "deposit_amount": "heavy"}] * 4
        rich = {"complaints": ["black-smoke"]}
        said = found(*sooty, inspection=rich, refit=repaired("mixture"), proof=GONE)
        self.assertIn("ixture", said["engine"]["verdict"])
        self.assertNotIn("ixture", said["engine"]["as_left"]["verdict"])

    def test_a_repair_that_nobody_proved_is_said_to_be_open(self):
        said = third(plug=WET, inspection=MISFIRES, refit=repaired("coil", 3))["engine"]["as_left"]
        self.assertEqual(said["grade"], "C")
        self.assertTrue(any(one.startswith("not yet started") for one in said["open"]))
