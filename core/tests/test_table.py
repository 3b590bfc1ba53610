"""Tables as people keep them: heads in many words, cylinders down or across, units or none."""

from unittest import TestCase

from core.document import check_document
from core.errors import CoreError
from core.narration.past import histories
from core.narration.table import understand
from core.tests.documents import compression, document


def read(text, holds=(), units=(), stands=(), **parts):
    cells = [line.split("|") for line in text.strip().splitlines()]
    return understand(
        cells, check_document({**document(4), "cylinders": list(stands), **parts}), holds, units
    )


def values(table, ending):
    return [one.value for one in table.entries if one.path.endswith(ending)]


class TableTests(TestCase):
    def test_heads_units_and_words_are_understood(self):
        table = read(
            "Cyl|Compression (psi)|Wet|Gap mm|Plug\n"
            "1|150|158|0,9|black, wet with fuel\n"
            "2|148 psi|10.6 bar|0.95|looks fine\n"
        )
        self.assertEqual(
            [one.holds for one in table.columns], ["cylinder", "dry", "wet", "gap", "words"]
        )
        self.assertEqual(table.refused, ())
        self.assertEqual([one.path for one in table.entries[:2]],
            ["/tests/compression/dry-1/kind", "/tests/compression/wet-1/kind"])  # fmt: skip
        self.assertEqual(
            values(table, "/wet-1/readings/2/pressure"), [{"value": 10.6, "unit": "bar"}]
        )
        self.assertEqual(values(table, "1/plug/gap"), [{"value": 0.9, "unit": "mm"}])
        self.assertEqual(values(table, "1/plug/wet_with"), ["fuel"])

    def test_cylinders_may_stand_side_by_side(self):
        table = read("|Cyl 1|Cyl 2|Cyl 3\nDry|10.2|10.1|6.4\nGap|0.8|0.8|0.9")
        self.assertTrue(table.turned)
        self.assertEqual(values(table, "readings/3/pressure"), [{"value": 6.4, "unit": "bar"}])
        self.assertEqual(values(table, "3/plug/gap"), [{"value": 0.9, "unit": "mm"}])

    def test_without_heads_the_first_column_counts_and_the_rest_is_asked(self):
        text = "1|150\n3|148"
        self.assertEqual([one.holds for one in read(text).columns], ["cylinder", ""])
        table = read(text, holds=("cylinder", "dry"))
        self.assertEqual([one.cylinder for one in table.entries if one.cylinder], [1, 3])

    def test_readings_go_to_the_test_that_is_there(self):
        began = {"compression": [{**compression([150]), "id": "cold"}]}
        table = read("Cyl|Dry psi\n2|148", tests=began)
        self.assertEqual(
            [one.path for one in table.entries], ["/tests/compression/cold/readings/2/pressure"]
        )

    def test_what_stands_already_is_not_said_again_and_what_contradicts_it_is_asked(self):
        stands = [{"number": n, "plug": {"deposit_colour": "tan"}} for n in (1, 2)]
        table = read("Cyl|Plug\n1|tan\n2|black", stands=stands)
        self.assertEqual(table.entries, ())
        self.assertEqual([(one.row, "which?" in one.why) for one in table.refused], [(3, True)])

    def test_what_cannot_be_read_is_told_by_its_place_and_the_rest_is_read(self):
        table = read("Cyl|Dry (psi)|Plug\n1|n/a|black\n9|150|black\n2|148|quite purplish")
        self.assertEqual([(one.row, one.column) for one in table.refused], [(2, 2), (3, 1), (4, 3)])
        self.assertEqual(values(table, "readings/2/pressure"), [{"value": 148.0, "unit": "psi"}])

    def test_a_figure_without_a_unit_that_it_could_have_is_not_guessed(self):
        table = read("Cyl|Torque\n1|900")
        self.assertIn("no unit", table.refused[0].why)
        table = read("Cyl|Torque\n1|900", units=("", "N.m"))
        self.assertEqual(values(table, "torque"), [{"value": 900.0, "unit": "N.m"}])

    def test_what_no_column_holds_and_what_no_figure_is_are_refused(self):
        with self.assertRaises(CoreError):
            read("Cyl|A\n1|150", holds=("cylinder", "nonsense"))
        table = read(f"Cyl|Dry psi\n1|{'9' * 399}")
        self.assertEqual((table.entries, table.refused[0].why), ((), "no figure"))

    def test_nothing_is_nothing(self):
        for text in ("", "\n", "|||"):
            self.assertEqual(read(text).entries, ())


class HistoryTests(TestCase):
    HEAD = ["Boat", "Date", "Hours", "Cyl", "Compression (bar)", "Plug"]
    ROWS = (
        ["TB-7", "31/05/2025", "410", "1", "10,2", "tan, dry"],
        ["TB-7", "31/05/2025", "", "2", "9.9", "black and wet with oil"],
        ["TB-7", "02/06/2026", "1,480", "1", "9.8", ""],
        ["new one", "02/06/2026", "12 km", "2", "11", ""],
        ["", "02/06/2026", "", "1", "10", ""],
        ["TB-7", "soon", "", "1", "10", ""],
        ["TB-7", "02/06/2026", "", "9", "10", "purple"],
    )

    def read(self, *rows, **given):
        known = {"tb-7": document(2)["engine"]}
        return histories([self.HEAD, *(rows or self.ROWS)], known, **given)

    def test_rows_of_one_engine_and_day_are_one_inspection(self):
        told = self.read()
        self.assertEqual(
            [(one.engine, one.date, one.known) for one in told.inspections],
            [
                ("TB-7", "2025-05-31", True),
                ("TB-7", "2026-06-02", True),
                ("new one", "2026-06-02", False),
            ],
        )
        first, second, new = (one.document for one in told.inspections)
        self.assertEqual(first["inspection"]["odometer"], {"value": 410.0, "unit": "h"})
        self.assertEqual(first["cylinders"][1]["plug"]["wet_with"], "oil")
        pressures = first["tests"]["compression"][0]["readings"]
        self.assertEqual([one["pressure"]["value"] for one in pressures], [10.2, 9.9])
        self.assertEqual(second["inspection"]["odometer"]["value"], 1480.0)
        self.assertEqual((new["engine"]["cylinders"], new["engine"]["identifier"]), (2, "new one"))
        self.assertEqual(new["inspection"]["odometer"], {"value": 12.0, "unit": "km"})

    def test_what_is_refused_is_named_by_its_place_and_the_rest_is_read(self):
        refused = [(one.row, one.column) for one in self.read().refused]
        self.assertEqual(refused, [(6, 1), (7, 2), (8, 4)])

    def test_a_day_that_can_be_read_two_ways_is_asked_about(self):
        told = self.read(["TB-7", "3/4/2026", "", "1", "10", ""])
        self.assertEqual((told.inspections, len(told.refused)), ((), 1))
        german = self.read(["TB-7", "3.4.2026", "", "1", "10", ""]).inspections
        self.assertEqual(german[0].date, "2026-04-03")
        told = self.read(
            ["TB-7", "3/4/2026", "", "1", "10", ""], ["TB-7", "12/31/2025", "", "1", "10", ""]
        )
        self.assertEqual([one.date for one in told.inspections], ["2026-03-04", "2025-12-31"])

    def test_a_column_is_taken_for_what_somebody_says(self):
        holds = ["engine", "date", "", "cylinder", "wet", ""]
        told = self.read(self.ROWS[0], holds=holds)
        (test,) = told.inspections[0].document["tests"]["compression"]
        self.assertEqual(test["kind"], "wet")
        with self.assertRaises(CoreError):
            self.read(holds=["nonsense"])
        with self.assertRaises(CoreError):
            histories([self.HEAD], {})
