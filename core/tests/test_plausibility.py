from unittest import TestCase

from core.document import check_document
from core.engine.layout import PRESETS
from core.telling import assess
from core.tests.documents import SOUND_PLUG, compression, document, plugs, quantity


def warned(made, code):
    said = assess(check_document(made), explain=False)
    return [one for one in said["warnings"] if one["code"] == code]


def gapped(value, unit, **specification):
    made = document(specification=specification)
    made["cylinders"] = plugs({**SOUND_PLUG, "gap": quantity(value, unit)})
    return made


class GapTests(TestCase):
    # Common practice, no source: inch for millimetre is the classic mistake.
    def test_the_likely_unit_is_named(self):
        for value, unit, meant, specification in (
            (0.6, "in", "0.6 mm", {}),
            (40, "mm", "40 thou", {}),
            (0.9, "thou", "0.9 mm", {}),
            (0.028, "mm", "0.028 in", {"gap_max": quantity(0.7, "mm")}),
        ):
            with self.subTest(value=value, unit=unit):
                slips = warned(gapped(value, unit, **specification), "unit-slip")
                self.assertEqual([one["path"] for one in slips], ["/cylinders/1/plug/gap"])
                self.assertIn(meant, slips[0]["text"])

    def test_a_plausible_gap_is_not_questioned(self):
        for value, unit in ((0.7, "mm"), (0.028, "in"), (28, "thou"), (1.1, "mm")):
            with self.subTest(value=value, unit=unit):
                self.assertEqual(warned(gapped(value, unit), "unit-slip"), [])

    def test_a_gap_far_off_in_another_unit_than_the_specification_is_asked_about(self):
        slips = warned(gapped(0.03, "in", gap_max=quantity(0.6, "mm")), "unit-slip")
        self.assertIn("0.76 mm beside 0.6 mm", slips[0]["text"])
        self.assertEqual(warned(gapped(0.024, "in", gap_max=quantity(0.6, "mm")), "unit-slip"), [])

    def test_a_slip_is_no_evidence(self):
        made = gapped(0.7, "in", gap_max=quantity(0.7, "mm"))
        without = gapped(0.7, "mm", gap_max=quantity(0.7, "mm"))
        del without["cylinders"][0]["plug"]["gap"]
        worn = [
            next(f["probability"] for f in assess(check_document(one))["cylinders"][0]["faults"]
                 if f["fault"] == "plug-worn")
            for one in (made, without)
        ]  # fmt: skip
        self.assertEqual(*worn)


class ReadingTests(TestCase):
    def tested(self, *tests):
        made = document()
        made["tests"] = {"compression": list(tests)}
        return made

    def test_bar_written_as_psi_is_asked_about(self):
        slips = warned(self.tested(compression([10.5, 10.2, 10.4, 10.6])), "unit-slip")
        self.assertEqual(len(slips), 4)
        self.assertIn("10.5 bar", slips[0]["text"])

    def test_unequal_strokes_are_noticed_and_a_lone_first_puff_is_not(self):
        test = compression([150, 151, 149, 150])
        for item, count in zip(test["readings"], (6, 6, 4, 1), strict=True):
            final = item["pressure"]["value"]
            item["strokes"] = [quantity(final * (n + 1) / count, "psi") for n in range(count)]
        noticed = warned(self.tested(test), "uneven-strokes")
        self.assertEqual(len(noticed), 1)
        self.assertIn("3 had 4", noticed[0]["text"])
        self.assertNotIn("1 had", noticed[0]["text"])

    def test_one_reading_too_high_for_any_engine_is_no_evidence(self):
        made = self.tested(compression([150, 1500, 149, 151]))
        self.assertEqual(len(warned(made, "unit-slip")), 1)
        said = assess(check_document(made), explain=False)
        self.assertEqual({one["grade"] for one in said["cylinders"]}, {"A", "U"})

    def test_wet_below_dry_cannot_be(self):
        made = self.tested(compression([150] * 4), compression([155, 120, 155, 155], "wet"))
        found = warned(made, "inconsistent")
        self.assertEqual(len(found), 1)
        self.assertIn("Cylinder 2", found[0]["text"])

    def test_a_first_puff_above_the_final_reading_cannot_be(self):
        test = compression([150] * 4)
        test["readings"][2]["strokes"] = [quantity(170, "psi"), quantity(150, "psi")]
        self.assertEqual(len(warned(self.tested(test), "inconsistent")), 1)
        self.assertEqual(len(warned(self.tested(test), "first-puff")), 1)

    def test_cylinders_left_out_are_named(self):
        found = warned(self.tested(compression([150, 151])), "incomplete")
        self.assertIn("3, 4", found[0]["text"])


class RecordTests(TestCase):
    # Common practice, no source: inch-pounds for foot-pounds; 18 lbf.ft is a usual 14 mm figure.
    def test_a_torque_in_the_wrong_unit_is_asked_about(self):
        for value, unit, meant in ((180, "lbf.ft", "180 lbf.in"), (18, "lbf.in", "18 lbf.ft")):
            made = document(specification={"torque_new": quantity(value, unit)})
            slips = warned(made, "unit-slip")
            self.assertEqual([one["path"] for one in slips], ["/engine/specification/torque_new"])
            self.assertIn(f"was {meant}", slips[0]["text"])
        usual = document(specification={"torque_new": quantity(18, "lbf.ft")})
        self.assertEqual(warned(usual, "unit-slip"), [])

    def test_a_code_for_a_cylinder_that_is_not_there_is_asked_about(self):
        made = document(4)
        made["inspection"] = {"trouble_codes": ["P0306", "P0302"]}
        self.assertEqual(len(warned(made, "numbering")), 1)

    def test_banks_that_do_not_fit_the_firing_order_are_asked_about(self):
        order = [1, 8, 4, 3, 6, 5, 7, 2]
        for left, right, asked in (
            ([1, 3, 5, 7], [2, 4, 6, 8], 0),  # Common practice, no source: this order's own banks.
            ([1, 8, 4, 3], [6, 5, 7, 2], 1),
        ):
            banks = [{"name": "l", "cylinders": left}, {"name": "r", "cylinders": right}]
            made = document(8, "vee", banks=banks, firing_order=order)
            self.assertEqual(len(warned(made, "numbering")), asked)

    # Common practice, no source: 1-4-3-2 and 1-3-2-4 are the usual orders of flat fours.
    def test_no_preset_is_warned_about_by_its_own_firing_order(self):
        known = [(preset.id, preset.engine) for preset in PRESETS]
        self.assertIn([1, 4, 3, 2], [engine["firing_order"] for _, engine in known])
        for name, engine in known:
            with self.subTest(preset=name):
                made = document(**engine)
                self.assertEqual(warned(made, "numbering"), [])

    def test_dry_and_wet_with_something_cannot_be(self):
        made = document()
        made["cylinders"] = plugs({"wetness": "dry", "wet_with": "oil"})
        self.assertEqual(len(warned(made, "contradiction")), 1)

    def test_overdue_plugs_are_said_first(self):
        made = document(3, specification={"plug_interval": quantity(20000, "km")})
        made["inspection"] = {"plug_distance": quantity(26000, "km")}
        first = assess(check_document(made), explain=False)["warnings"][0]
        self.assertEqual(first["code"], "overdue")
        self.assertIn("All plugs are past their interval, by up to 30 %", first["text"])
        made["cylinders"] = plugs({"distance": quantity(5000, "km")})
        self.assertIn("Overdue on 2, 3", warned(made, "overdue")[0]["text"])

    def test_an_unknown_history_is_said_until_a_distance_tells_it(self):
        made = document(3, specification={"plug_interval": quantity(20000, "km")})
        made["inspection"] = {"history": "unknown"}
        self.assertEqual(len(warned(made, "history-unknown")), 1)
        self.assertEqual(warned(made, "not-weighed"), [])
        made["inspection"]["plug_distance"] = quantity(8000, "km")
        self.assertEqual(warned(made, "history-unknown"), [])

    def test_a_sharp_tap_is_outside_what_is_weighed(self):
        made = document()
        made["tests"] = {"noise": [{"cylinder": 2, "kind": "sharp-tap"}]}
        self.assertEqual(len(warned(made, "outside-scope")), 1)

    def test_unknown_banks_are_asked_for(self):
        self.assertEqual(len(warned(document(6, "vee"), "incomplete")), 1)
        self.assertEqual(warned(document(6), "incomplete"), [])
