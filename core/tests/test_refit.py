"""The way back: new plugs, torque, points and the proof, by the record."""

from unittest import TestCase

from core.document import check_document
from core.document.renumbering import renumbered
from core.errors import DocumentRefused
from core.refit import refit_sheet
from core.telling import assess
from core.tests.documents import document, quantity

SPECIFICATION = {
    "gap_min": quantity(0.8, "mm"),
    "gap_max": quantity(0.9, "mm"),
    "torque_new": quantity(20, "N.m"),
    "seat": "gasket",
    "thread_mm": 14,
    "reach": quantity(19, "mm"),
    "plug_part": "K 14-19",
}
NEW = {
    "part": "k14-19",
    "seat": "gasket",
    "thread_mm": 14,
    "reach": quantity(19, "mm"),
    "ground_electrode": "sound",
    "ceramic": "sound",
    "markings": "as-expected",
    "arrived_gap": quantity(0.85, "mm"),
}


def checked(refit=None, specification=SPECIFICATION, engine=None, **parts):
    made = document(specification=specification, **(engine or {}))
    return check_document({**made, "refit": refit or {}, **parts})


def one(cylinder=None, **parts):
    """The sheet's line for cylinder 1."""
    return refit_sheet(checked({"cylinders": [{"cylinder": 1, **(cylinder or {})}]}, **parts))[
        "cylinders"
    ][0]


class ArrivalTests(TestCase):
    def remarks(self, **differs):
        return {r["code"]: r["refuse"] for r in one({"plug": {**NEW, **differs}})["remarks"]}

    def test_a_plug_as_specified_has_nothing_to_say(self):
        self.assertEqual(self.remarks(), {})
        self.assertEqual(one({"plug": NEW})["unseen"], [])

    def test_what_does_not_go_in(self):
        for differs, code in (
            ({"ceramic": "cracked"}, "ceramic"),
            ({"ground_electrode": "peened"}, "ground_electrode"),
            ({"seat": "taper"}, "seat"),
            ({"reach": quantity(12.7, "mm")}, "reach"),
        ):
            with self.subTest(code=code):
                self.assertEqual(self.remarks(**differs), {code: True})

    def test_what_is_asked_about(self):
        self.assertEqual(self.remarks(part="K 12-19"), {"part": False})
        self.assertEqual(self.remarks(markings="missing"), {"markings": False})
        # Common practice, no source: they arrive spot on or a quarter off.
        self.assertEqual(self.remarks(arrived_gap=quantity(0.63, "mm")), {"arrived-gap": False})

    def test_without_a_specification_the_old_plug_is_the_measure(self):
        old = [{"number": 1, "plug": {"reach": quantity(0.5, "in")}}]
        made = one({"plug": NEW}, specification={}, cylinders=old)
        self.assertIn("longer than on the old plug", made["remarks"][0]["text"])

    def test_not_looked_at_is_said(self):
        self.assertIn("ceramic", one({"plug": {"part": "K 14-19"}})["unseen"])


class LimitTests(TestCase):
    """The limits of the specification decide; what nobody does is asked about."""

    def test_a_new_plug_outside_the_limits_is_said_so_and_one_inside_is_not(self):
        limits = {"gap_min": quantity(0.038, "in"), "gap_max": quantity(0.043, "in")}
        for arrived, said in ((0.033, ["arrived-gap"]), (0.038, []), (0.043, [])):
            plug = {**NEW, "arrived_gap": quantity(arrived, "in")}
            made = one({"plug": plug}, specification={**SPECIFICATION, **limits})
            with self.subTest(arrived=arrived):
                self.assertEqual([remark["code"] for remark in made["remarks"]], said)

    def test_an_angle_that_strips_a_thread_is_questioned(self):
        self.assertEqual(one({"reused": True, "turn_deg": 30})["slips"], [])
        (asked,) = one({"reused": True, "turn_deg": 400})["slips"]
        self.assertIn("400 degrees after finger-tight; usual is 30:", asked["text"])

    def test_a_torque_in_newton_metres_is_not_turned_into_itself(self):
        (asked,) = one({"torque": quantity(200, "N.m")})["slips"]
        self.assertTrue(asked["text"].startswith("200 N.m; this plug wants 20 N.m"), asked)

    def test_how_the_last_plug_came_out_is_remembered(self):
        plug = {"number": 1, "plug": {"seating": "loose"}}
        hints = one({"threads": "dry"}, cylinders=[plug])["hints"]
        self.assertIn("came-loose", [hint["code"] for hint in hints])

    def test_the_mix_as_it_was_poured_is_checked(self):
        for fuel, oil, said in ((5, 0.156, []), (5, 0.1, ["mix"]), (5, 200, ["unit-slip"])):
            mixed = {"ratio": 32, "fuel": quantity(fuel, "L"), "oil": quantity(oil, "L")}
            given = checked({"premix": mixed}, engine={"cycle": "two-stroke"})
            codes = [one["code"] for one in assess(given, explain=False)["warnings"]
                     if one["path"] == "/refit/premix/oil"]  # fmt: skip
            with self.subTest(oil=oil):
                self.assertEqual(codes, said)


class WithoutTheMakerTests(TestCase):
    def test_each_row_says_that_its_figure_is_nobodys(self):
        told = checked({"cylinders": [{"cylinder": 1}, {"cylinder": 2, "reused": True}]})
        told["engine"]["specification"]["sources"] = {"torque_new": "guess", "gap_min": "maker"}
        self.assertEqual(refit_sheet(told)["cylinders"][0]["unverified"], ["torque"])

    def test_a_turn_is_told_as_a_way_of_the_hand(self):
        """Worked by hand: a quarter turn at 15 cm is a quarter of 2 pi 15 cm, 23.6 cm."""
        row = one({}, specification={"seat": "gasket"})
        low, high = row["turn_deg"]
        ways = [f"{angle / 360 * 2 * 3.14159 * 15:.0f}" for angle in dict.fromkeys((low, high))]
        self.assertEqual(row["handle"], f"{' to '.join(ways)} cm at the end of a handle of 15 cm")


class GapTests(TestCase):
    def gap(self, **said):
        made = one({"plug": said})
        return made["gap"], made["change"]

    def test_open_or_close_and_by_how_much(self):
        self.assertEqual(self.gap(gap=quantity(0.7, "mm")), ("out", "open by 0.15 mm"))
        self.assertEqual(self.gap(gap=quantity(0.85, "mm")), ("in", "as aimed at"))
        self.assertEqual(self.gap(), ("unmeasured", ""))

    def test_a_gap_that_is_out_is_accepted_with_a_reason_and_a_cracked_plug_is_not(self):
        said = {"accepted": "the owner's tuner wants it so"}
        gap = {"gap": quantity(0.7, "mm")}
        made = [one({"plug": plug, **more}) for plug, more in (
            (gap, {}), (gap, said), ({"gap": quantity(0.85, "mm")}, said),
            ({**gap, "ceramic": "cracked"}, said),
        )]  # fmt: skip
        told = [(each["gap"], each["stage"], each["accepted"]) for each in made]
        reason = said["accepted"]
        self.assertEqual(told, [
            ("out", "gap-out", ""), ("out", "gap-in", reason), ("in", "gap-in", ""),
            ("out", "do-not-fit", reason),
        ])  # fmt: skip

    def test_a_stack_and_a_pair(self):
        stack = [quantity(0.5, "mm"), quantity(0.35, "mm")]
        self.assertEqual(self.gap(gap_blades=stack), ("in", "as aimed at"))
        pair = {"gap_passes": quantity(0.8, "mm"), "gap_refuses": quantity(0.9, "mm")}
        self.assertEqual(self.gap(**pair), ("in", ""))
        self.assertEqual(self.gap(gap_passes=quantity(0.8, "mm")), ("cannot-say", ""))

    def test_a_stack_of_two_sets_says_its_units(self):
        stack = [quantity(0.5, "mm"), quantity(10, "thou")]
        self.assertEqual(
            one({"plug": {"gap_blades": stack}})["gap_text"], "0.5 mm + 10 thou = 0.754 mm"
        )

    def test_a_house_may_aim_elsewhere(self):
        made = refit_sheet(checked({}, house_rules={"gap_aim": "minimum"}))
        self.assertEqual(made["aim"], quantity(0.8, "mm"))

    def test_the_voltage_grows_with_load_and_wear(self):
        set_, worn = refit_sheet(checked())["volts"]["rows"]
        self.assertLess(set_["light"], set_["full"])
        self.assertLess(set_["full"], worn["full"])


class TorqueTests(TestCase):
    def test_in_the_wrenchs_unit(self):
        refit = {"wrench": {"unit": "lbf.ft", "step": 0.5}}
        self.assertEqual(
            refit_sheet(checked(refit))["cylinders"][0]["setting"], quantity(15, "lbf.ft")
        )

    def test_a_torque_in_the_wrong_unit_is_asked_about_and_kept(self):
        made = checked({"cylinders": [{"cylinder": 2, "torque": quantity(20, "lbf.ft")}]})
        slip = refit_sheet(made)["cylinders"][1]["slips"][0]["text"]
        self.assertIn("was 20 N.m meant?", slip)
        told = [w for w in assess(made)["warnings"] if w["code"] == "unit-slip"]
        self.assertEqual([w["path"] for w in told], ["/refit/cylinders/2/torque"])
        self.assertEqual(made["refit"]["cylinders"][0]["torque"], quantity(20, "lbf.ft"))
        inch = one({"torque": quantity(177, "lbf.in")})
        self.assertEqual(inch["slips"], [])  # 20 N.m, honestly in inch-pounds.

    def test_both_schools_of_lubricant(self):
        oiled = {"threads": "oil"}
        self.assertEqual(one(oiled)["setting"], quantity(14, "N.m"))
        self.assertIn("dry-school", [hint["code"] for hint in one(oiled)["hints"]])
        film = one(oiled, house_rules={"threads": "thin-film", "lubricated_cut": 20})
        self.assertEqual(film["setting"], quantity(16, "N.m"))
        self.assertIn("thin-film", [hint["code"] for hint in film["hints"]])

    def test_too_few_turns_by_hand_may_be_crossed(self):
        self.assertIn("crossed", [hint["code"] for hint in one({"turns_by_hand": 2})["hints"]])
        self.assertEqual(one({"turns_by_hand": 5})["hints"], [])

    def test_without_a_figure_the_usual_range_and_the_angle(self):
        made = one({}, specification={"seat": "taper", "thread_mm": 14})
        self.assertIsNone(made["setting"])
        self.assertIn("7 to 15 lbf.ft", made["hints"][0]["text"])
        self.assertEqual(made["turn_deg"], [15, 22.5])

    def test_the_list_cannot_be_closed_with_one_missing(self):
        done = [{"cylinder": n, "fitted": True, "torqued": n != 3} for n in (1, 2, 3, 4)]
        with self.assertRaises(DocumentRefused) as refused:
            checked({"cylinders": done, "closed": True})
        self.assertEqual(refused.exception.path, "/refit/closed")
        self.assertIn("3", refused.exception.expected)
        done[2]["torqued"] = True
        made = checked({"cylinders": done, "closed": True})
        self.assertEqual(refit_sheet(made)["missing"], [])

    def test_cautions_of_the_moment(self):
        refit = {
            "engine_temperature": "hot",
            "cylinders": [{"cylinder": 1, "fitted": True, "plug": {"electrode": "iridium"}}],
        }
        told = " ".join(refit_sheet(checked(refit))["cautions"])
        for words in ("Cylinder 1: Hand-tight", "aluminium", "levered"):
            self.assertIn(words, told)
        iron = checked(refit, specification={**SPECIFICATION, "head": "iron"})
        self.assertNotIn("aluminium", " ".join(refit_sheet(iron)["cautions"]))


class PointsTests(TestCase):
    PAIR = {
        "points_gap_min": quantity(0.4, "mm"),
        "points_gap_max": quantity(0.4, "mm"),
        "dwell_min_deg": 52,
        "dwell_max_deg": 56,
    }

    def points(self, **said):
        made = checked({"points": said}, self.PAIR, {"trigger": "points"})
        return refit_sheet(made)["points"]

    def test_one_from_the_other(self):
        self.assertAlmostEqual(self.points(gap=quantity(0.4, "mm"))["dwell_deg"], 54)
        self.assertAlmostEqual(self.points(dwell_deg=54)["gap_mm"], 0.4)
        self.assertIs(self.points(dwell_deg=54)["within"], True)
        self.assertIs(self.points(gap=quantity(0.55, "mm"))["within"], False)

    def test_gap_first_then_timing(self):
        self.assertIn("Gap first", self.points()["text"])
        timed = {"timing_deg_btdc": 8, "timing_gap": quantity(0.4, "mm")}
        self.assertFalse(self.points(gap=quantity(0.4, "mm"), **timed)["timing_undone"])
        # Common practice, no source: 3 degrees less dwell is a spark 3 degrees earlier.
        undone = self.points(dwell_deg=51, timing_deg_btdc=8, timing_dwell_deg=54)
        self.assertEqual((undone["timing_undone"], undone["undone_deg"]), (True, 3))
        self.assertIn("earlier", undone["text"])

    def test_like_is_compared_with_like(self):
        timed = {"timing_deg_btdc": 8, "timing_gap": quantity(0.4, "mm")}
        metered = self.points(gap=quantity(0.4, "mm"), dwell_deg=51, **timed)
        self.assertFalse(metered["timing_undone"])  # The meter's first word is no change.
        self.assertTrue(self.points(gap=quantity(0.4, "mm"), timing_deg_btdc=8)["timing_undone"])

    def test_care_by_the_distance_on_the_points(self):
        run = {"points_distance": quantity(1500, "km"), "points": "flat"}
        care = refit_sheet(checked({}, {}, distributor=run))["points"]["care"]
        self.assertIn("due since 500 km", care[0])
        self.assertIn("in 8,500 km", care[1])

    def test_no_points_no_card(self):
        self.assertIsNone(refit_sheet(checked())["points"])


class ProofTests(TestCase):
    def test_before_and_after_side_by_side(self):
        made = checked(
            {"cylinders": [{"cylinder": 1, "plug": {"gap": quantity(0.8, "mm")}}]},
            cylinders=[{"number": 1, "plug": {"gap": quantity(1.2, "mm")}}],
            tests={
                "compression": [
                    {"kind": "dry", "readings": [{"cylinder": 1, "pressure": quantity(90, "psi")}]}
                ],
                "misfires": [{"cylinder": 1, "count": 41}],
            },
            proof={"cylinders": [{"cylinder": 1, "pressure": quantity(160, "psi"), "misfires": 0}]},
        )
        rows = [(r["what"], r["before"], r["after"]) for r in refit_sheet(made)["before_after"]]
        self.assertEqual(
            rows,
            [
                ("gap", "1.2 mm", "0.8 mm"),
                ("compression", "90 psi", "160 psi"),
                ("misfires", "41", "0"),
            ],
        )

    def test_a_pressure_read_again_in_another_unit_is_asked_about(self):
        dry = {"kind": "dry", "readings": [{"cylinder": 1, "pressure": quantity(9.4, "bar")}]}
        for value, unit, slips in ((9.7, "psi", 1), (9.7, "bar", 0), (141, "psi", 0)):
            proof = {"cylinders": [{"cylinder": 1, "pressure": quantity(value, unit)}]}
            made = checked({}, tests={"compression": [dry]}, proof=proof)
            told = [w for w in assess(made)["warnings"] if w["path"].startswith("/proof")]
            self.assertEqual(len(told), slips)

    def test_what_is_still_open(self):
        given = {"inspection": {"complaints": ["misfire"], "trouble_codes": ["P0301"]}}
        told = refit_sheet(checked({"tools_out": 9, "tools_back": 8}, **given))["open"]
        self.assertEqual(told[0], "tools: 9 went out, 8 back")
        self.assertIn("driven under the conditions of the complaint", told)
        proof = {"start": "at-once", "beat": "even", "follow_up": "2026-12-24"}
        self.assertEqual(refit_sheet(checked({}, proof=proof))["open"], [])

    def test_a_follow_up_on_no_day_is_refused(self):
        with self.assertRaises(DocumentRefused) as refused:
            checked({}, proof={"follow_up": "2026-02-30"})
        self.assertEqual(refused.exception.path, "/proof/follow_up")

    def test_renumbering_takes_the_refit_along(self):
        made = checked(
            {
                "cylinders": [{"cylinder": 1, "fitted": True}],
                "refused": [{"id": "r1", "cylinder": 1, "reason": "cracked"}],
            }
        )
        moved = renumbered(made, {1: 2, 2: 1, 3: 3, 4: 4})["refit"]
        self.assertEqual(moved["cylinders"][0]["cylinder"], 2)
        self.assertEqual(moved["refused"][0]["cylinder"], 2)
