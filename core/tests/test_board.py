"""What the board shows of a record: figures, bands, lines, who is odd and in which pattern."""

from unittest import TestCase

from core.comparison.board import board, orders
from core.comparison.patterns import pattern
from core.document import check_document
from core.telling import assess
from core.tests.documents import SOUND_PLUG, compression, document, engine, plugs, quantity

VEE = {
    "layout": "vee", "ignition": "wasted-spark", "firing_order": [1, 2, 3, 4, 5, 6],
    "banks": [{"name": "port", "cylinders": [1, 3, 5]},
              {"name": "starboard", "cylinders": [2, 4, 6]}],
}  # fmt: skip


def strips(made):
    checked = check_document(made)
    said = board(checked, assess(checked, explain=False, advise=False))
    return {one.id: one for one in said}


class PatternTests(TestCase):
    def test_each_place_in_common_has_its_name(self):
        vee = engine(6, **VEE)
        for odd, named in (
            ((), ""),
            ((4,), "4 alone"),
            ((4, 6), "neighbours: 4, 6"),
            ((2, 4, 6), "the whole bank starboard"),
            ((1, 4), "all of the coil of 1 and 4"),
            ((1, 6), "the ends of the row: 1, 6"),
            ((3, 4), "3, 4, with no place in common"),
            (range(1, 7), "all of them: what they share, or the test"),
        ):
            with self.subTest(odd=tuple(odd)):
                self.assertEqual(pattern(vee, odd), named)

    def test_numbers_next_to_each_other_in_a_vee_are_no_neighbours(self):
        self.assertNotIn("neighbours", pattern(engine(6, **VEE), (1, 2)))


class BoardTests(TestCase):
    def test_an_empty_record_has_no_strips(self):
        self.assertEqual(strips(document(4)), {})

    def test_compression_shows_each_schools_line_and_names_the_odd_one(self):
        made = document(6, specification={"compression_min": quantity(120, "psi")}, **VEE)
        made["tests"] = {"compression": [compression([150, 149, 151, 92, 150, 96])]}
        strip = strips(made)["compression-0"]
        lines = {line.label: line.value for line in strip.lines}
        self.assertAlmostEqual(lines["75 % of the highest"], 0.75 * 151)
        self.assertAlmostEqual(lines["mean less 10 %"], 0.9 * (150 + 149 + 151 + 92 + 150 + 96) / 6)
        self.assertAlmostEqual(lines["maker's minimum"], 120)
        self.assertEqual(strip.pattern, "neighbours: 4, 6")
        fourth = next(mark for mark in strip.marks if mark.cylinder == 4)
        self.assertEqual(fourth.shown, "92 psi")
        self.assertIn("the others' mean is 139.2; -34 %", fourth.basis)
        self.assertTrue(any("under the middle" in text for text in fourth.odd))

    def test_a_shade_is_nothing_and_soot_among_tan_is_odd(self):
        made = document(4)
        shades = ("tan", "brown", "tan", "black")
        made["cylinders"] = plugs(*({**SOUND_PLUG, "deposit_colour": one} for one in shades))
        strip = strips(made)["deposits"]
        self.assertEqual([bool(mark.odd) for mark in strip.marks], [False, False, False, True])
        self.assertEqual(strip.pattern, "4 alone")

    def test_gaps_stand_in_the_specification_whatever_the_unit(self):
        made = document(
            2, specification={"gap_min": quantity(1.0, "mm"), "gap_max": quantity(1.1, "mm")}
        )
        made["cylinders"] = plugs({"gap": quantity(41, "thou")}, {"gap": quantity(1.3, "mm")})
        strip = strips(made)["gap"]
        self.assertEqual(strip.unit, "thou")
        self.assertAlmostEqual(strip.band[0], 39.37, places=2)
        self.assertEqual([mark.shown for mark in strip.marks], ["41 thou", "1.3 mm"])
        self.assertEqual([mark.odd for mark in strip.marks], [(), ("outside the specification",)])
        self.assertEqual(strip.pattern, "2 alone")

    def test_the_cylinders_can_stand_in_three_orders(self):
        ways = orders(engine(6, **VEE))
        self.assertEqual(ways["position"], [[1, 3, 5], [2, 4, 6]])
        self.assertEqual(ways["number"], [[1, 2, 3, 4, 5, 6]])
        self.assertNotIn("firing", orders(engine(4, "flat", firing_order=[])))
